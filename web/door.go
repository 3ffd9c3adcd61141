package web

import (
	"context"
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
			for i := len(hops) - 1; i >= 0; i-- { // the last that no proxy of ours wrote of itself
				if hop := strings.TrimSpace(hops[i]); hop != "" {
					from.address = hop
					if !s.trusts(hop) {
						break
					}
				}
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

// How tries to sign in are slowed: nobody is ever shut out.
const (
	freeTries    = 3                      // that cost nothing
	firstDelay   = 250 * time.Millisecond // of the next; it doubles
	addressDelay = 30 * time.Second       // at most, between tries from one address
	accountDelay = 2 * time.Second        // at most, before a try for one account is answered
	triesKept    = time.Hour              // since the last
	triesMost    = 10_000                 // addresses and accounts kept in mind
)

// tries counts wrong tries to sign in, by address and by account.
type tries struct {
	mu sync.Mutex
	by map[string]*failing
}

type failing struct {
	wrong int
	last  time.Time
	busy  bool // a try from this address is being looked at
}

// delay is what so many wrong tries cost, at most so long.
func delay(wrong int, most time.Duration) time.Duration {
	if wrong < freeTries {
		return 0
	}
	return min(most, firstDelay<<min(wrong-freeTries, 20))
}

// begin says how long a try has to wait before it is looked at; ok is false for one
// that comes too soon after others from its address, and may be made after that long.
func (t *tries) begin(address, account string, now time.Time) (wait time.Duration, ok bool) {
	t.mu.Lock()
	defer t.mu.Unlock()
	t.forget(now)
	from := t.of("address " + address)
	if next := from.last.Add(delay(from.wrong, addressDelay)); from.busy || next.After(now) {
		return max(next.Sub(now), firstDelay), false
	}
	from.busy = true
	return delay(t.of("account "+account).wrong, accountDelay), true
}

// end counts a try that was looked at.
func (t *tries) end(address, account string, wrong bool, now time.Time) {
	t.mu.Lock()
	defer t.mu.Unlock()
	from, of := t.of("address "+address), t.of("account "+account)
	from.busy = false
	if !wrong {
		from.wrong, of.wrong = 0, 0
		return
	}
	for _, f := range []*failing{from, of} {
		f.wrong, f.last = f.wrong+1, now
	}
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
		if !f.busy && (now.Sub(f.last) > triesKept || f.wrong < freeTries) {
			delete(t.by, key)
		}
	}
	for key, f := range t.by { // in no order
		if len(t.by) < triesMost {
			return
		}
		if !f.busy {
			delete(t.by, key)
		}
	}
}
