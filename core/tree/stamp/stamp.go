// Package stamp orders what several people and machines say, whatever their clocks
// say: a hybrid logical clock (Kulkarni, Demirbas, Madappa, Avva and Leone, "Logical
// physical clocks", 2014). A stamp holds milliseconds, a counter and the node that
// gave it. A node stamps what is said later than all that it has seen, so that who
// corrects what they see comes after it.
package stamp

import (
	"cmp"
	"errors"
	"fmt"
	"strconv"
	"strings"
	"sync"
	"time"
)

// Stamp says when in the log's order something was said. As text, stamps sort as
// they are ordered; the empty one comes before all others.
type Stamp string

const (
	// digits are those of a ULID's time, so that both read alike.
	digits     = "0123456789ABCDEFGHJKMNPQRSTVWXYZ"
	timeLen    = 10
	counterLen = 4
	mostCount  = 1<<(4*counterLen) - 1
	mostMillis = 1<<48 - 1
	nodeMost   = 26
)

// New makes a stamp of milliseconds since 1970, a counter and a node.
func New(millis int64, counter int, node string) Stamp {
	text := make([]byte, timeLen)
	for i := timeLen - 1; i >= 0; i-- {
		text[i] = digits[millis&31]
		millis >>= 5
	}
	return Stamp(fmt.Sprintf("%s%04X.%s", text, counter, node))
}

// ErrNoStamp is given by [Parse] for what no node gives.
var ErrNoStamp = errors.New("it is no stamp: want 10 digits of time, 4 of a counter, a point and a node")

// Parse checks a stamp that was sent.
func Parse(text string) (Stamp, error) {
	node, ok := strings.CutPrefix(text[min(len(text), timeLen+counterLen):], ".")
	if !ok || node == "" || len(node) > nodeMost || strings.Trim(node, digits) != "" {
		return "", ErrNoStamp
	}
	s := Stamp(text)
	if millis, counter := s.split(); millis > mostMillis || s != New(millis, counter, node) {
		return "", ErrNoStamp
	}
	return s, nil
}

// split gives the milliseconds and the counter, or zeros for what is no stamp.
func (s Stamp) split() (millis int64, counter int) {
	if len(s) < timeLen+counterLen {
		return 0, 0
	}
	for i := range timeLen {
		millis = millis<<5 | int64(max(strings.IndexByte(digits, s[i]), 0))
	}
	count, err := strconv.ParseUint(string(s[timeLen:timeLen+counterLen]), 16, 32)
	if err != nil {
		return 0, 0
	}
	return millis, int(count)
}

// Time is when it was said by the clock of the node, to the millisecond; the zero
// time for the empty stamp.
func (s Stamp) Time() time.Time {
	if len(s) < timeLen+counterLen {
		return time.Time{}
	}
	millis, _ := s.split()
	return time.UnixMilli(millis).UTC()
}

// After is the first stamp of a node that comes after s at a time or later.
func (s Stamp) After(at time.Time, node string) Stamp {
	millis, counter := s.split()
	switch now := at.UnixMilli(); {
	case s == "" || now > millis:
		return New(max(now, 0), 0, node)
	case counter < mostCount:
		return New(millis, counter+1, node)
	default: // a clock that stands still
		return New(millis+1, 0, node)
	}
}

// Clock gives the stamps of one node. It is safe for use by several goroutines.
type Clock struct {
	Node string
	now  func() time.Time
	mu   sync.Mutex
	last Stamp
}

// NewClock makes the clock of a node that goes by now.
func NewClock(node string, now func() time.Time) *Clock { return &Clock{Node: node, now: now} }

// Now is what the clock goes by.
func (c *Clock) Now() time.Time { return c.now() }

// After gives a stamp later than all that the clock gave, and than those seen.
func (c *Clock) After(seen ...Stamp) Stamp {
	c.mu.Lock()
	defer c.mu.Unlock()
	for _, s := range seen {
		c.last = max(c.last, s)
	}
	c.last = c.last.After(c.now(), c.Node)
	return c.last
}

// OfID is the stamp of what has none but a ULID: its time, before whatever a node
// stamped in that millisecond. It is empty for what is no ULID.
func OfID(id string) Stamp {
	if len(id) != 26 || strings.Trim(id, digits) != "" {
		return ""
	}
	return Stamp(id[:timeLen] + "0000.0")
}

// Compare orders stamps, and what is of one stamp by id.
func Compare(a, b Stamp, idA, idB string) int {
	return cmp.Or(cmp.Compare(a, b), cmp.Compare(idA, idB))
}
