package store

import (
	"context"
	"errors"
)

// keepFile keeps a file in the book, as there is no folder beside it. What was put up
// here waits to be sent; its thumbnail need not be.
func (s *Store) keepFile(ctx context.Context, name string, body []byte) error {
	return s.Write(ctx, func(t *Tx) error {
		return t.PutFile(ctx, name, body, len(name) == digestLen)
	})
}

// readFile reads a file that was kept or taken along.
func (r Reader) readFile(ctx context.Context, name string) ([]byte, error) {
	return r.File(ctx, name)
}

// Arrived, Arrive and TakeArrived are a server's: nobody sends photographs to a device.
func (s *Store) Arrived(string) (bytes int64, whole bool, err error) {
	return 0, false, errors.ErrUnsupported
}
func (s *Store) Arrive(string, []byte) error        { return errors.ErrUnsupported }
func (s *Store) TakeArrived(string) ([]byte, error) { return nil, errors.ErrUnsupported }
