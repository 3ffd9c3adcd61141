package store

import (
	"context"

	"github.com/jmoiron/sqlx"
)

// A device's book lies where only the browser can get at it: its file -wal is not taken away.

func walThere(string) bool                                  { return true }
func walGone(context.Context, *sqlx.DB, string, bool) error { return nil }
func (s *Store) mark(context.Context) error                 { return nil }
func (s *Store) unmark() (closed func() error)              { return func() error { return nil } }
