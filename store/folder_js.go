package store

import (
	"context"
	"errors"
	"io"
)

// There is no folder beside a book in a browser: its files are in it.

func (s *Store) keepFile(ctx context.Context, name string, body []byte) error {
	return s.keepInBook(ctx, name, body)
}

func (s *Store) tidy(string) error { return nil }

// hasFile is not asked on a device: nothing there says what is expected.
func (r Reader) hasFile(string) bool { return true }

func (s *Store) Receive(r io.Reader) (*Received, error) { return receiveInMemory(r) }

func (s *Store) keepReceived(ctx context.Context, file *Received) error {
	return s.keepReceivedInBook(ctx, file)
}

func (r Reader) openFile(ctx context.Context, name string) (io.ReadSeekCloser, error) {
	return r.fileInBook(ctx, name)
}

// Arrived, Arrive and TakeArrived are a server's: nobody sends photographs to a device.
func (s *Store) Arrived(_, _ string) (bytes int64, whole bool, err error) {
	return 0, false, errors.ErrUnsupported
}
func (s *Store) Arrive(string, []byte) error           { return errors.ErrUnsupported }
func (s *Store) TakeArrived(string) (*Received, error) { return nil, errors.ErrUnsupported }

// Beside, MakeBeside and DropBeside are a server's too: what works beside a book is kept at home.
func (s *Store) Beside(folder, name string) string      { return s.path + "." + folder + "/" + name }
func (s *Store) MakeBeside(_, _ string) (string, error) { return "", errors.ErrUnsupported }
func (s *Store) DropBeside(_, _ string) error           { return errors.ErrUnsupported }
