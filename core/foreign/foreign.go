// Package foreign reads bytes that came from elsewhere, with libraries that may not
// have met such bytes before.
package foreign

import (
	"fmt"
	"runtime/debug"
)

// Damaged says that a reader broke on what it was given. It is told as that of a file
// that cannot be read; the stack is for whoever mends the reader.
type Damaged struct {
	What  string // what was read
	Panic any
	Stack []byte
}

func (d *Damaged) Error() string {
	return fmt.Sprintf("%s is damaged in a way that cannot be read: save it anew with the program it came from", d.What)
}

// Read runs a reader, and gives its panic as a [*Damaged].
func Read[T any](what string, read func() (T, error)) (out T, err error) {
	defer func() {
		if p := recover(); p != nil {
			var none T
			out, err = none, &Damaged{what, p, debug.Stack()}
		}
	}()
	return read()
}
