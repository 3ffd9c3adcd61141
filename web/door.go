package web

import (
	"context"
	"math/rand/v2"
	"net"
	"net/http"
	"net/netip"
	"strings"
	"sync"
	"time"
)

// This is the door: where requests come from, whether they may come at all, and how
// often somebody may try to sign in.

// fromKey is the key of where a request came from.
type fromKey struct{}

// source is where a request came from.
type source struct {
	address string
	secure  bool // by TLS, here or at a trusted proxy
}

func sourceOf(ctx context.Context) source {
	s, _ := ctx.Value(fromKey{}).(source)
	return s
}

// locate finds where a request came from, by what a trusted proxy says of it where it
// came through one.
func (s *Server) locate(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		from := source{address: hostOf(r.RemoteAddr), secure: r.TLS != nil}
		if s.trusts(from.address) {
			hops := strings.Split(strings.Join(r.Header.Values("X-Forwarded-For"), ","), ",")
			for i := len(hops) - 1; i >= 0 && s.trusts(from.address); i-- { // the last that no proxy of ours wrote of itself
				hop, err := netip.ParseAddr(strings.TrimSpace(hops[i]))
				if err != nil {
					break // what is before it may be anybody's words
				}
				from.address = hop.Unmap().WithZone("").String()
			}
			from.secure = from.secure || r.Header.Get("X-Forwarded-Proto") == "https"
		}
		if from.secure {
			w.Header().Set("Strict-Transport-Security", "max-age=31536000")
		}
		next.ServeHTTP(w, r.WithContext(context.WithValue(r.Context(), fromKey{}, from)))
	})
}

func hostOf(address string) string {
	if host, _, err := net.SplitHostPort(address); err == nil {
		return host
	}
	return address
}

func (s *Server) trusts(address string) bool {
	ip, err := netip.ParseAddr(address)
	if err != nil {
		return false
	}
	for _, p := range s.proxies {
		if p.Contains(ip.Unmap()) {
			return true
		}
	}
	return false
}

// onlyHere refuses names of this machine that are not its own: a page from elsewhere
// whose name was turned to this machine (DNS rebinding) would read and write the book.
func onlyHere(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		host := strings.Trim(hostOf(r.Host), "[]")
		ip, err := netip.ParseAddr(host)
		if host != "localhost" && (err != nil || !ip.IsLoopback()) {
			refuse(w, http.StatusMisdirectedRequest, "the book is served to this machine only: open it as http://127.0.0.1 or http://localhost")
			return
		}
		next.ServeHTTP(w, r)
	})
}

// How tries to sign in are slowed: nobody is ever shut out. After a few wrong tries from a network,
// those that follow wait for their turn, in no order: somebody with the right password gets theirs
// however many guess beside them.
const (
	freeTries    = 3                      // of a network that wait for nothing
	turnEvery    = 250 * time.Millisecond // between turns of a network, unless it is set
	turnWait     = 30 * time.Second       // at most, for one's turn
	turnsMost    = 256                    // that wait, of one network
	firstDelay   = 250 * time.Millisecond // of an account's answers after free tries; it doubles
	accountDelay = 2 * time.Second        // at most
	triesKept    = time.Hour              // since the last
	triesMost    = 10_000                 // networks and accounts kept in mind
)

// tries counts wrong tries to sign in, by network and by account.
type tries struct {
	every time.Duration // between turns of a network
	mu    sync.Mutex
	by    map[string]*failing
}

type failing struct {
	wrong   int // since the last right one
	last    time.Time
	next    time.Time // the next turn
	waiting int
}

// networkOf is what an address is counted by: itself, of IPv6 its /64, which one person has whole.
func networkOf(address string) string {
	ip, err := netip.ParseAddr(address)
	if err != nil {
		return address
	}
	if ip = ip.Unmap(); ip.Is6() {
		return netip.PrefixFrom(ip.WithZone(""), 64).Masked().String()
	}
	return ip.String()
}

// delay is what so many wrong tries for an account cost.
func delay(wrong int) time.Duration {
	if wrong < freeTries {
		return 0
	}
	return min(accountDelay, firstDelay<<min(wrong-freeTries, 20))
}

// begin waits until a try may be looked at. It is counted as wrong until [tries.right]; ok is
// false where too many wait from the same network.
func (t *tries) begin(ctx context.Context, address, account string) (ok bool, err error) {
	t.mu.Lock()
	t.forget(time.Now())
	from, of := t.of("network "+networkOf(address)), t.of("account "+account)
	wait := delay(of.wrong)
	for _, f := range []*failing{from, of} {
		f.wrong, f.last = f.wrong+1, time.Now()
	}
	waits := from.wrong > freeTries
	if waits && from.waiting >= turnsMost {
		t.mu.Unlock()
		return false, nil
	}
	from.waiting++
	t.mu.Unlock()
	defer func() {
		t.mu.Lock()
		defer t.mu.Unlock()
		from.waiting--
	}()
	if waits {
		if ok, err := t.turn(ctx, from); !ok {
			return false, err
		}
	}
	return true, sleep(ctx, wait)
}

// turn waits for a turn of a network. Who wakes first has it.
func (t *tries) turn(ctx context.Context, from *failing) (ok bool, err error) {
	until := time.Now().Add(turnWait)
	for time.Now().Before(until) {
		t.mu.Lock()
		now := time.Now()
		wait := from.next.Sub(now)
		if wait <= 0 {
			from.next = now.Add(t.every)
			t.mu.Unlock()
			return true, nil
		}
		t.mu.Unlock()
		if err := sleep(ctx, wait+rand.N(t.every/4+1)); err != nil {
			return false, err
		}
	}
	return false, nil
}

func sleep(ctx context.Context, d time.Duration) error {
	select {
	case <-time.After(d):
		return nil
	case <-ctx.Done():
		return ctx.Err()
	}
}

// right forgets the wrong tries before a right one.
func (t *tries) right(address, account string) {
	t.mu.Lock()
	defer t.mu.Unlock()
	t.of("network "+networkOf(address)).wrong, t.of("account "+account).wrong = 0, 0
}

func (t *tries) of(key string) *failing {
	if t.by == nil {
		t.by = map[string]*failing{}
	}
	if t.by[key] == nil {
		t.by[key] = &failing{}
	}
	return t.by[key]
}

// forget drops what is old and, where there are too many, those least to be feared.
func (t *tries) forget(now time.Time) {
	if len(t.by) < triesMost {
		return
	}
	for key, f := range t.by {
		if f.waiting == 0 && (now.Sub(f.last) > triesKept || f.wrong < freeTries) {
			delete(t.by, key)
		}
	}
	for key, f := range t.by { // in no order
		if len(t.by) < triesMost {
			return
		}
		if f.waiting == 0 {
			delete(t.by, key)
		}
	}
}
