//go:build !js

package bark

import (
	"runtime"
	"sync"
)

// inBands does something with bands of rows at the same time.
func inBands(rows int, do func(from, to int)) {
	n := runtime.GOMAXPROCS(0)
	var all sync.WaitGroup
	for i := range n {
		all.Go(func() { do(rows*i/n, rows*(i+1)/n) })
	}
	all.Wait()
}
