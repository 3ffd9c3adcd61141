package opfs

import (
	"errors"
	"fmt"
	"io"
	"strings"
	"sync"
	"syscall"
	"syscall/js"
	"time"

	"github.com/ncruces/go-sqlite3"
	"github.com/ncruces/go-sqlite3/util/vfsutil"
	"github.com/ncruces/go-sqlite3/vfs"
)

func init() { vfs.Register(Name, storage{}) }

// storage is the folder of the origin-private file system that books lie in.
type storage struct{}

// open are the files that have a handle, by name. A handle once taken is kept: taking
// one waits for the browser, and nobody else may have it.
var (
	open   = map[string]*shared{}
	openMu sync.Mutex
)

// How often a file that another worker has is tried again, and how long between.
const (
	handleTries = 50
	handlePause = 100 * time.Millisecond
)

// Take opens the handle of a file of that folder, making the file where there is none.
// It fails where another worker has it.
func Take(name string) error {
	_, err := take(name)
	return err
}

func take(name string) (*shared, error) {
	openMu.Lock()
	defer openMu.Unlock()
	if f := open[name]; f != nil {
		return f, nil
	}
	dir, err := Await(js.Global().Get("navigator").Get("storage").Call("getDirectory"))
	if err != nil {
		return nil, fmt.Errorf("opening the device's storage: %w", err)
	}
	entry, err := Await(dir.Call("getFileHandle", name, map[string]any{"create": true}))
	if err != nil {
		return nil, fmt.Errorf("opening %s in the device's storage: %w", name, err)
	}
	handle, err := Await(entry.Call("createSyncAccessHandle"))
	for n := 0; err != nil && n < handleTries; n++ { // a window that is just being closed still has it
		time.Sleep(handlePause)
		handle, err = Await(entry.Call("createSyncAccessHandle"))
	}
	if err != nil {
		return nil, fmt.Errorf("opening %s in the device's storage: %w", name, err)
	}
	f := &shared{handle: handle, at: js.ValueOf(map[string]any{"at": 0}), buffer: js.Global().Get("Uint8Array").New(bufferSize)}
	open[name] = f
	return f, nil
}

// Free gives back every handle, so that files can be replaced. No connection is open.
func Free() {
	openMu.Lock()
	defer openMu.Unlock()
	for name, f := range open {
		_ = f.handOn() // SQLite closed it before, and was told then
		f.handle.Call("close")
		delete(open, name)
	}
}

// Await waits for what JavaScript promised. It must not be called from a function that
// JavaScript called, as that would wait for itself.
func Await(promise js.Value) (value js.Value, err error) {
	done := make(chan struct{})
	kept := js.FuncOf(func(_ js.Value, args []js.Value) any {
		if len(args) > 0 {
			value = args[0]
		}
		close(done)
		return nil
	})
	broken := js.FuncOf(func(_ js.Value, args []js.Value) any {
		err = &Thrown{args[0].Get("name").String(), args[0].Get("message").String()}
		close(done)
		return nil
	})
	defer kept.Release()
	defer broken.Release()
	promise.Call("then", kept, broken)
	<-done
	return value, err
}

// Thrown is an error of JavaScript.
type Thrown struct{ Name, Message string }

func (t *Thrown) Error() string { return t.Name + ": " + t.Message }

// Unwrap tells a full device from other errors.
func (t *Thrown) Unwrap() error {
	if t.Name == "QuotaExceededError" {
		return syscall.ENOSPC
	}
	return nil
}

// file names what SQLite calls by a path.
func file(path string) string { return strings.TrimPrefix(path, "/") }

func (storage) Open(path string, flags vfs.OpenFlag) (vfs.File, vfs.OpenFlag, error) {
	if path == "" || flags&(vfs.OPEN_TEMP_JOURNAL|vfs.OPEN_TEMP_DB|vfs.OPEN_TRANSIENT_DB|vfs.OPEN_SUBJOURNAL) != 0 {
		return &vfsutil.SliceFile{}, flags | vfs.OPEN_MEMORY, nil
	}
	f, err := take(file(path))
	if err != nil {
		return nil, flags, fmt.Errorf("%w: %w", sqlite3.CANTOPEN, err)
	}
	c := &conn{shared: f}
	if flags&vfs.OPEN_MAIN_DB != 0 {
		c.shm = vfs.NewSharedMemory(path+"-shm", flags)
	}
	return c, flags, nil
}

// Delete empties a file: one without a byte counts as not there.
func (storage) Delete(path string, _ bool) error {
	f, err := take(file(path))
	if err != nil {
		return err
	}
	return errors.Join(f.truncate(0), f.sync())
}

func (storage) Access(path string, _ vfs.AccessFlag) (bool, error) {
	f, err := take(file(path))
	if err != nil {
		return false, err
	}
	size, err := f.size()
	return size > 0, err
}

func (storage) FullPathname(path string) (string, error) { return path, nil }

// shared is a file with its handle, for all connections.
type shared struct {
	handle js.Value
	at     js.Value // {at: …}, made once
	buffer js.Value // Uint8Array, what is read and written passes through it
	held   []byte   // written one after another, and not yet handed on
	heldAt int64
	locks
}

// bufferSize is how much is read or written at once: a page of the largest size.
const bufferSize = 64 << 10

// attempt does what may throw.
func attempt(code error, do func()) (err error) {
	defer func() {
		if thrown, ok := recover().(js.Error); ok {
			err = code
			if thrown.Get("name").String() == "QuotaExceededError" {
				err = sqlite3.FULL
			}
		}
	}()
	do()
	return nil
}

func (f *shared) read(b []byte, off int64) (n int, err error) {
	if err := f.handOn(); err != nil {
		return 0, err
	}
	for n < len(b) && err == nil {
		part := min(len(b)-n, bufferSize)
		var got int
		err = attempt(sqlite3.IOERR_READ, func() {
			f.at.Set("at", off+int64(n))
			view := f.buffer.Call("subarray", 0, part)
			got = f.handle.Call("read", view, f.at).Int()
			js.CopyBytesToGo(b[n:n+part], view)
		})
		if n += got; err == nil && got < part {
			return n, io.EOF
		}
	}
	return n, err
}

// write holds what follows on what was written before: SQLite writes its log in pieces of a
// few bytes and of a page, and each call of the browser's takes as long as much of that. It
// is handed on before anything is read, and when SQLite says that it must last.
func (f *shared) write(b []byte, off int64) (int, error) {
	if len(f.held) > 0 && (off != f.heldAt+int64(len(f.held)) || len(f.held)+len(b) > bufferSize) {
		if err := f.handOn(); err != nil {
			return 0, err
		}
	}
	if len(f.held) == 0 {
		f.heldAt = off
	}
	f.held = append(f.held, b...)
	return len(b), nil
}

// handOn writes what is held.
func (f *shared) handOn() error {
	if len(f.held) == 0 {
		return nil
	}
	_, err := f.put(f.held, f.heldAt)
	f.held = f.held[:0]
	return err
}

func (f *shared) put(b []byte, off int64) (n int, err error) {
	for n < len(b) && err == nil {
		part := min(len(b)-n, bufferSize)
		var put int
		err = attempt(sqlite3.IOERR_WRITE, func() {
			f.at.Set("at", off+int64(n))
			view := f.buffer.Call("subarray", 0, part)
			js.CopyBytesToJS(view, b[n:n+part])
			put = f.handle.Call("write", view, f.at).Int()
		})
		if n += put; err == nil && put < part {
			return n, sqlite3.FULL
		}
	}
	return n, err
}

func (f *shared) truncate(size int64) error {
	if err := f.handOn(); err != nil {
		return err
	}
	return attempt(sqlite3.IOERR_TRUNCATE, func() { f.handle.Call("truncate", size) })
}

func (f *shared) sync() error {
	if err := f.handOn(); err != nil {
		return err
	}
	return attempt(sqlite3.IOERR_FSYNC, func() { f.handle.Call("flush") })
}

func (f *shared) size() (size int64, err error) {
	if err := f.handOn(); err != nil {
		return 0, err
	}
	err = attempt(sqlite3.IOERR_FSTAT, func() { size = int64(f.handle.Call("getSize").Float()) })
	return size, err
}

// conn is a file as one connection has it open.
type conn struct {
	*shared
	lock vfs.LockLevel
	shm  vfs.SharedMemory
}

func (c *conn) Close() error {
	err := errors.Join(c.handOn(), c.Unlock(vfs.LOCK_NONE))
	if c.shm != nil {
		err = errors.Join(err, c.shm.Close())
	}
	return err
}

func (c *conn) ReadAt(b []byte, off int64) (int, error)  { return c.read(b, off) }
func (c *conn) WriteAt(b []byte, off int64) (int, error) { return c.write(b, off) }
func (c *conn) Truncate(size int64) error                { return c.truncate(size) }
func (c *conn) Sync(vfs.SyncFlag) error                  { return c.sync() }
func (c *conn) Size() (int64, error)                     { return c.size() }
func (c *conn) SharedMemory() vfs.SharedMemory           { return c.shm }
func (c *conn) SectorSize() int                          { return 0 }

func (c *conn) DeviceCharacteristics() vfs.DeviceCharacteristic {
	return vfs.IOCAP_UNDELETABLE_WHEN_OPEN
}
