package store

import (
	"errors"

	"github.com/ncruces/go-sqlite3"
	_ "github.com/ncruces/go-sqlite3/driver" // the driver

	"palethicket/store/opfs"
)

// The driver of the program in a browser, where the book lies in the device's own
// storage.
const driverName = "sqlite3"

const vfs = opfs.Name

// code is SQLite's extended result code of an error, or 0.
func code(err error) int {
	var e *sqlite3.Error
	if errors.As(err, &e) {
		return int(e.ExtendedCode())
	}
	var bare sqlite3.ErrorCode
	if errors.As(err, &bare) {
		return int(bare)
	}
	return 0
}
