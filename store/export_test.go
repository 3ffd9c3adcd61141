package store

import (
	"context"
	"strconv"
)

// LimitPages has the book grow no further, as on a full disk.
func (s *Store) LimitPages(ctx context.Context, pages int) error {
	_, err := s.write.ExecContext(ctx, "PRAGMA max_page_count = "+strconv.Itoa(pages))
	return err
}

// Pages is how large the book is.
func (s *Store) Pages(ctx context.Context) (n int, err error) {
	return n, s.write.GetContext(ctx, &n, "PRAGMA page_count")
}

// ForbidWriting has the book read-only, as on a disk that is.
func (s *Store) ForbidWriting(ctx context.Context) error {
	_, err := s.write.ExecContext(ctx, "PRAGMA query_only = ON")
	return err
}

// WriteByReader runs a statement where only reading is meant.
func (s *Store) WriteByReader(ctx context.Context, statement string) error {
	_, err := s.read.ExecContext(ctx, statement)
	return err
}

// Ready is how many statements of the writing connection are kept ready.
func (s *Store) Ready() int {
	s.kept.mu.Lock()
	defer s.kept.mu.Unlock()
	return len(s.kept.ready)
}

// MayNotWrite has every folder count as one that nothing can be written to, until back.
func MayNotWrite() (back func()) {
	was := mayWrite
	mayWrite = func(string) bool { return false }
	return func() { mayWrite = was }
}
