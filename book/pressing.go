package book

import (
	"sync/atomic"
	"time"
)

// pressing counts the presses that go on.
type pressing struct{ going atomic.Int64 }

func (p *pressing) begin() { p.going.Add(1) }
func (p *pressing) end()   { p.going.Add(-1) }

// patience is how long a step of what takes long waits for presses, in milliseconds. It is
// bounded, as among many people somebody presses all the time.
const patience = 5

// giveWay is called before each step of what takes long, as of each tree of an export: who
// presses stands at a tree and waits.
func (p *pressing) giveWay() {
	for range patience {
		if p.going.Load() == 0 {
			return
		}
		time.Sleep(time.Millisecond)
	}
}
