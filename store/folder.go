//go:build !js

package store

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"time"

	"github.com/jmoiron/sqlx"
)

// photoDir is the folder beside a book that its photographs lie in.
func photoDir(book string) string { return book + ".photos" }

// Beside is the path of a file in a folder beside the book.
func (s *Store) Beside(folder, name string) string { return filepath.Join(s.path+"."+folder, name) }

// MakeBeside is Beside, and makes the folder where there is none.
func (s *Store) MakeBeside(folder, name string) (string, error) {
	path := s.Beside(folder, name)
	return path, os.MkdirAll(filepath.Dir(path), 0o700)
}

// keepFile writes a file whole and sees it to the disk, or not at all.
func (s *Store) keepFile(ctx context.Context, name string, body []byte) error {
	if s.away != nil {
		return s.keepInBook(ctx, name, body)
	}
	dir := photoDir(s.path)
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return err
	}
	return writeWhole(filepath.Join(dir, name), bytes.NewReader(body))
}

// Receive takes a photograph's file in without holding it in memory.
func (s *Store) Receive(r io.Reader) (*Received, error) {
	if s.away != nil {
		return receiveInMemory(r)
	}
	dir := photoDir(s.path)
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return nil, err
	}
	part, err := os.CreateTemp(dir, "part-")
	if err != nil {
		return nil, err
	}
	if _, err := io.Copy(part, r); err != nil {
		return nil, errors.Join(err, part.Close(), discard(part.Name()))
	}
	return received(part)
}

// received says what a file holds.
func received(part *os.File) (*Received, error) {
	drop := func() error { return errors.Join(part.Close(), discard(part.Name())) }
	digest, size, err := digestOf(part)
	if err != nil {
		return nil, errors.Join(err, drop())
	}
	return &Received{ReadSeeker: part, Digest: digest, Bytes: size, part: part.Name(), drop: drop}, nil
}

// digestOf reads a file once, and leaves it at its start.
func digestOf(file io.ReadSeeker) (digest string, size int64, err error) {
	sum := sha256.New()
	_, err = file.Seek(0, io.SeekStart)
	if err == nil {
		size, err = io.Copy(sum, file)
	}
	if err == nil {
		_, err = file.Seek(0, io.SeekStart)
	}
	return hex.EncodeToString(sum.Sum(nil)), size, err
}

// keepReceived gives a file its place; a damaged one that is there is replaced.
func (s *Store) keepReceived(ctx context.Context, file *Received) error {
	if file.part == "" {
		return s.keepReceivedInBook(ctx, file)
	}
	at := filepath.Join(photoDir(s.path), file.Digest)
	if there, err := digestAt(at); err == nil && there == file.Digest {
		return nil
	}
	part, err := os.Open(file.part)
	if err != nil {
		return err
	}
	return errors.Join(part.Sync(), part.Close(), os.Rename(file.part, at))
}

func digestAt(path string) (string, error) {
	file, err := os.Open(path)
	if err != nil {
		return "", err
	}
	digest, _, err := digestOf(file)
	return digest, errors.Join(err, file.Close())
}

// openFile opens a file that lies beside the book.
func (r Reader) openFile(ctx context.Context, name string) (io.ReadSeekCloser, error) {
	if file, err := r.fileInBook(ctx, name); err == nil {
		return file, nil
	}
	file, err := os.Open(filepath.Join(photoDir(r.path), name))
	if errors.Is(err, fs.ErrNotExist) {
		return nil, errors.Join(ErrNoPhoto, err) // its line came before its file, or the file was lost
	}
	if err != nil {
		return nil, err
	}
	return file, nil
}

// partAge is how old what was cut short is before it goes: another program may still write it.
const partAge = time.Hour

// tidy has the book readable by its owner alone, and removes what was cut short beside it.
func (s *Store) tidy(path string) (err error) {
	for _, end := range []string{"", "-wal", "-shm"} {
		if info, err := os.Stat(path + end); err == nil && info.Mode().Perm()&0o077 != 0 {
			_ = os.Chmod(path+end, 0o600) // another owner's stays as it is
		}
	}
	cut, _ := filepath.Glob(filepath.Join(photoDir(path), "part-*")) // the pattern is right
	for _, part := range cut {
		if info, errStat := os.Stat(part); errStat == nil && time.Since(info.ModTime()) > partAge {
			err = errors.Join(err, discard(part))
		}
	}
	return err
}

// hasFile says whether a photograph's file lies beside the book.
func (r Reader) hasFile(digest string) bool {
	_, err := os.Stat(filepath.Join(photoDir(r.path), digest))
	return err == nil
}

// Expected gives the ids of photographs whose files a device still has to send, in the book at
// path. One that was taken back is not waited for.
func Expected(ctx context.Context, path string) (ids []string, err error) {
	err = ReadAlone(ctx, path, func(r Reader) error {
		known, err := hasArrived(ctx, r.q)
		if err != nil || !known {
			return err
		}
		return r.all(ctx, &ids, "SELECT id FROM photo WHERE arrived = 0 AND gone = 0 ORDER BY id")
	})
	if errors.Is(err, ErrOlder) {
		return nil, nil
	}
	return ids, err
}

// partPath is where a file lies while it arrives.
func (s *Store) partPath(id string) string {
	return filepath.Join(photoDir(s.path), "arriving-"+id)
}

// Arrived says how much is here of the file of a photograph that arrives in pieces; all of it,
// where a file of its digest is whole. Pieces lie under the photograph's id: whoever claims
// another's digest is not in its way.
func (s *Store) Arrived(digest, id string) (bytes int64, whole bool, err error) {
	for _, path := range []string{filepath.Join(photoDir(s.path), digest), s.partPath(id)} {
		info, err := os.Stat(path)
		if err == nil {
			return info.Size(), path != s.partPath(id), nil
		}
		if !errors.Is(err, fs.ErrNotExist) {
			return 0, false, err
		}
	}
	return 0, false, nil
}

// Arrive adds a piece to a file that arrives, at the place where it ended.
func (s *Store) Arrive(id string, piece []byte) error {
	if err := os.MkdirAll(photoDir(s.path), 0o700); err != nil {
		return err
	}
	file, err := os.OpenFile(s.partPath(id), os.O_WRONLY|os.O_APPEND|os.O_CREATE, 0o600)
	if err != nil {
		return err
	}
	_, err = file.Write(piece)
	return errors.Join(err, file.Sync(), file.Close())
}

// TakeArrived gives what arrived; closing it leaves nothing of it.
func (s *Store) TakeArrived(id string) (*Received, error) {
	part, err := os.Open(s.partPath(id))
	if err != nil {
		return nil, err
	}
	return received(part)
}

// writeWhole writes a file, or leaves what was there.
func writeWhole(path string, body io.Reader) error {
	part, err := os.CreateTemp(filepath.Dir(path), "part-")
	if err != nil {
		return err
	}
	_, err = io.Copy(part, body)
	if err := errors.Join(err, part.Sync(), part.Close()); err != nil {
		return errors.Join(err, discard(part.Name()))
	}
	if err := os.Rename(part.Name(), path); err != nil {
		return errors.Join(err, discard(part.Name()))
	}
	return nil
}

// copyPhotos copies the photographs beside one book beside another.
func copyPhotos(from, to string) error {
	files, err := os.ReadDir(photoDir(from))
	if errors.Is(err, fs.ErrNotExist) {
		return nil // it has none
	}
	if err != nil {
		return err
	}
	if err := os.MkdirAll(photoDir(to), 0o700); err != nil {
		return err
	}
	for _, f := range files {
		if f.IsDir() || len(f.Name()) < 64 { // what was cut short
			continue
		}
		if err := copyWhole(filepath.Join(photoDir(from), f.Name()), filepath.Join(photoDir(to), f.Name())); err != nil {
			return err
		}
	}
	return nil
}

// copyWhole copies a file, or leaves what was there.
func copyWhole(from, to string) error {
	file, err := os.Open(from)
	if err != nil {
		return err
	}
	return errors.Join(writeWhole(to, file), file.Close())
}

// lostPhotos counts the files that are not there, and those that do not hold what
// they are named after.
func lostPhotos(ctx context.Context, db *sqlx.DB, book string) (lost, damaged int, err error) {
	var digests []string
	query := "SELECT DISTINCT digest FROM photo"
	known, err := hasArrived(ctx, db)
	if err != nil {
		return 0, 0, err
	}
	if known { // others are expected
		query += " WHERE arrived = 1"
	}
	if err := db.SelectContext(ctx, &digests, query); err != nil {
		return 0, 0, err
	}
	for _, d := range digests {
		path := filepath.Join(photoDir(book), d)
		there, err := digestAt(path)
		if err != nil {
			lost++
			continue
		}
		if there != d {
			damaged++
		}
		if _, err := os.Stat(path + thumbSuffix); err != nil {
			lost++
		}
	}
	return lost, damaged, nil
}

// hasArrived says whether a book, which may be from an older program, tells expected photographs
// from lost ones.
func hasArrived(ctx context.Context, db sqlx.QueryerContext) (bool, error) {
	var columns int
	err := sqlx.GetContext(ctx, db, &columns, "SELECT count(*) FROM pragma_table_info('photo') WHERE name = 'arrived'")
	return columns > 0, err
}

// DropBeside removes a book in a folder beside this one, with its photographs.
func (s *Store) DropBeside(folder, name string) error {
	path := s.Beside(folder, name)
	return errors.Join(discard(path), discard(path+"-wal"), discard(path+"-shm"), os.RemoveAll(photoDir(path)))
}
