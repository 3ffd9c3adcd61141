package instrument

import (
	"context"
	"errors"
	"maps"
	"slices"
	"sync"
	"time"
)

// Hub listens to instruments. It is safe for several goroutines; nobody waits for an
// instrument.
type Hub struct {
	now   func() time.Time
	local bool

	mu       sync.Mutex
	serial   int64
	changes  int64
	all      []*listener
	free     map[int64]time.Time // readings that nobody took, by serial, and when they were read
	watchers map[chan struct{}]bool
	closed   chan struct{}
	once     sync.Once
}

// listener is one instrument that is listened to.
type listener struct {
	Config
	hub   *Hub
	now   func() time.Time
	stop  context.CancelFunc
	track track // of its own goroutine alone

	state State     // under the hub's mutex
	heard time.Time // when its last line came; under the hub's mutex
}

// NewHub makes a hub that listens to nothing. local allows instruments on this machine and its link.
func NewHub(local bool) *Hub {
	return &Hub{now: time.Now, local: local, free: map[int64]time.Time{}, watchers: map[chan struct{}]bool{}, closed: make(chan struct{})}
}

// Listen has the hub listen to these instruments, and to no others. Those that it listens to
// already go on.
func (h *Hub) Listen(configs []Config) {
	h.mu.Lock()
	defer h.mu.Unlock()
	var kept []*listener
	for _, c := range configs {
		if i := slices.IndexFunc(h.all, func(l *listener) bool { return l.Config == c }); i >= 0 {
			kept = append(kept, h.all[i])
			continue
		}
		ctx, stop := context.WithCancel(context.Background())
		l := &listener{Config: c, hub: h, now: h.now, stop: stop,
			state: State{Config: c, Health: Connecting, Says: "It is being called.", Since: h.now()}}
		kept = append(kept, l)
		if c.Kind == Weather {
			go l.listenStation(ctx)
		} else {
			go l.listenLines(ctx)
		}
	}
	for _, l := range h.all {
		if !slices.Contains(kept, l) {
			l.stop()
		}
	}
	h.all = kept
	h.changed()
}

// Close stops listening.
func (h *Hub) Close() {
	h.Listen(nil)
	h.once.Do(func() { close(h.closed) })
}

// Closed is closed once the hub is.
func (h *Hub) Closed() <-chan struct{} { return h.closed }

// offered is how long a reading is offered, by the clock of who heard it.
const offered = 90 * time.Second

// States gives how all instruments do, in the order they were named, and a number that
// grows with each change.
func (h *Hub) States() ([]State, int64) {
	h.mu.Lock()
	defer h.mu.Unlock()
	out := make([]State, len(h.all))
	for i, l := range h.all {
		out[i] = l.state
		if r := l.state.Last; r != nil && h.now().Sub(r.At) > offered {
			out[i].Last = nil
		}
	}
	return out, h.changes
}

// Take takes a reading: from now on it is offered to nobody. It says whether nobody had taken it. The instrument may have read
// again since.
func (h *Hub) Take(serial int64) bool {
	h.mu.Lock()
	defer h.mu.Unlock()
	read, free := h.free[serial]
	delete(h.free, serial)
	for _, l := range h.all {
		if r := l.state.Last; r != nil && r.Serial == serial && r.Kind != "position" { // where one is, is so for all
			l.state.Last = nil
			h.changed()
		}
	}
	return free && h.now().Sub(read) <= offered
}

// mostWatch is how many may watch at once.
const mostWatch = 100

// ErrCrowd is given where too many watch already.
var ErrCrowd = errors.New("too many windows watch the instruments; close some")

// Watch gives a channel that is written to after changes, several at once as one; done ends it.
func (h *Hub) Watch() (changed <-chan struct{}, done func(), err error) {
	c := make(chan struct{}, 1)
	h.mu.Lock()
	defer h.mu.Unlock()
	if len(h.watchers) >= mostWatch {
		return nil, nil, ErrCrowd
	}
	h.watchers[c] = true
	return c, func() {
		h.mu.Lock()
		defer h.mu.Unlock()
		delete(h.watchers, c)
	}, nil
}

// tell changes how an instrument does, and tells who watches.
func (h *Hub) tell(l *listener, change func(*State)) {
	h.mu.Lock()
	defer h.mu.Unlock()
	before := l.state.Last
	l.heard = h.now()
	change(&l.state)
	if r := l.state.Last; r != nil && r != before {
		h.serial++
		r.Serial = h.serial
		h.free[r.Serial] = l.heard
		maps.DeleteFunc(h.free, func(_ int64, read time.Time) bool { return l.heard.Sub(read) > offered })
	}
	h.changed()
}

// look says so where a receiver has said nothing for long.
func (h *Hub) look(l *listener) {
	h.mu.Lock()
	defer h.mu.Unlock()
	if now := h.now(); now.Sub(l.heard) > quiet && l.state.Health != Silent {
		l.state.Last = nil
		l.state.fare(Silent, "It says nothing: is it on?", now)
		h.changed()
	}
}

// changed tells who watches, under the mutex.
func (h *Hub) changed() {
	h.changes++
	for c := range h.watchers {
		select {
		case c <- struct{}{}:
		default: // it was told, and has not looked yet
		}
	}
}
