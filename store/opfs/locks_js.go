package opfs

import (
	"sync"

	"github.com/ncruces/go-sqlite3"
	"github.com/ncruces/go-sqlite3/vfs"
)

// locks are those of SQLite's five levels that connections hold on one file
// (sqlite.org/lockingv3.html). Nobody outside of this program can have the file.
type locks struct {
	mu       sync.Mutex
	readers  int
	reserved bool
	pending  bool
}

func (c *conn) Lock(want vfs.LockLevel) error {
	if c.lock >= want {
		return nil
	}
	c.mu.Lock()
	defer c.mu.Unlock()
	switch want {
	case vfs.LOCK_SHARED:
		if c.pending {
			return sqlite3.BUSY
		}
		c.readers++
	case vfs.LOCK_RESERVED:
		if c.reserved {
			return sqlite3.BUSY
		}
		c.reserved = true
	case vfs.LOCK_EXCLUSIVE:
		if c.pending && c.lock != vfs.LOCK_PENDING {
			return sqlite3.BUSY
		}
		c.pending, c.lock = true, vfs.LOCK_PENDING
		if c.readers > 1 {
			return sqlite3.BUSY
		}
	}
	c.lock = want
	return nil
}

func (c *conn) Unlock(to vfs.LockLevel) error {
	if c.lock <= to {
		return nil
	}
	c.mu.Lock()
	defer c.mu.Unlock()
	if c.lock >= vfs.LOCK_RESERVED {
		c.reserved = false
	}
	if c.lock >= vfs.LOCK_PENDING {
		c.pending = false
	}
	if to == vfs.LOCK_NONE {
		c.readers--
	}
	c.lock = to
	return nil
}

func (c *conn) CheckReservedLock() (bool, error) {
	c.mu.Lock()
	defer c.mu.Unlock()
	return c.reserved, nil
}

func (c *conn) LockState() vfs.LockLevel { return c.lock }
