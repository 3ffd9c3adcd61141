//go:build !js

package store

import (
	"errors"

	"modernc.org/sqlite"
)

// The driver of servers and commands. In a browser it is another: driver_js.go.
const driverName = "sqlite"

// vfs names where SQLite keeps its files; empty: in the file system.
const vfs = ""

// code is SQLite's extended result code of an error, or 0.
func code(err error) int {
	var e *sqlite.Error
	if errors.As(err, &e) {
		return e.Code()
	}
	return 0
}
