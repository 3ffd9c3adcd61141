package store

import (
	"context"
	"database/sql"
	"sync"

	"github.com/jmoiron/sqlx"
)

// statements keeps what was asked of connections ready to be asked again, as SQLite
// takes longer to read a statement than to run it. One of a change or a snapshot is made
// ready after it, when its connection is free.
type statements struct {
	db    *sqlx.DB
	mu    sync.Mutex
	ready map[string]*sqlx.Stmt
}

// mostStatements is more than the book has, but for those with lists of any length.
const mostStatements = 200

// learn makes queries ready. One that cannot be is run as it is, as before. It waits
// for the connection like any change, so no lock is held meanwhile; the change that
// ran a statement first waits for it, later ones do not.
func (s *statements) learn(ctx context.Context, queries []string) {
	for _, query := range queries {
		if s.full() || s.of(query) != nil {
			continue
		}
		if stmt, err := s.db.PreparexContext(ctx, query); err == nil {
			s.keep(query, stmt)
		}
	}
}

func (s *statements) full() bool {
	s.mu.Lock()
	defer s.mu.Unlock()
	return len(s.ready) >= mostStatements
}

// keep keeps a statement, unless another change was faster.
func (s *statements) keep(query string, stmt *sqlx.Stmt) {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.ready[query] != nil {
		stmt.Close() // it was never run
		return
	}
	s.ready[query] = stmt
}

// of gives a query that is ready, or nil.
func (s *statements) of(query string) *sqlx.Stmt {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.ready[query]
}

// pooled asks whichever connection is free.
type pooled struct {
	db   *sqlx.DB
	kept *statements
}

func (p *pooled) stmt(ctx context.Context, query string) *sqlx.Stmt {
	if stmt := p.kept.of(query); stmt != nil {
		return stmt
	}
	p.kept.learn(ctx, []string{query})
	return p.kept.of(query)
}

func (p *pooled) QueryContext(ctx context.Context, query string, args ...any) (*sql.Rows, error) {
	if stmt := p.stmt(ctx, query); stmt != nil {
		return stmt.QueryContext(ctx, args...)
	}
	return p.db.QueryContext(ctx, query, args...)
}

func (p *pooled) QueryxContext(ctx context.Context, query string, args ...any) (*sqlx.Rows, error) {
	if stmt := p.stmt(ctx, query); stmt != nil {
		return stmt.QueryxContext(ctx, args...)
	}
	return p.db.QueryxContext(ctx, query, args...)
}

func (p *pooled) QueryRowxContext(ctx context.Context, query string, args ...any) *sqlx.Row {
	if stmt := p.stmt(ctx, query); stmt != nil {
		return stmt.QueryRowxContext(ctx, args...)
	}
	return p.db.QueryRowxContext(ctx, query, args...)
}

// prepared runs the statements of one change or snapshot.
type prepared struct {
	tx   *sqlx.Tx
	kept *statements
	seen []string // not ready yet
}

func (p *prepared) stmt(ctx context.Context, query string) *sqlx.Stmt {
	stmt := p.kept.of(query)
	if stmt == nil {
		p.seen = append(p.seen, query)
		return nil
	}
	return p.tx.StmtxContext(ctx, stmt)
}

func (p *prepared) QueryContext(ctx context.Context, query string, args ...any) (*sql.Rows, error) {
	if stmt := p.stmt(ctx, query); stmt != nil {
		return stmt.QueryContext(ctx, args...)
	}
	return p.tx.QueryContext(ctx, query, args...)
}

func (p *prepared) QueryxContext(ctx context.Context, query string, args ...any) (*sqlx.Rows, error) {
	if stmt := p.stmt(ctx, query); stmt != nil {
		return stmt.QueryxContext(ctx, args...)
	}
	return p.tx.QueryxContext(ctx, query, args...)
}

func (p *prepared) QueryRowxContext(ctx context.Context, query string, args ...any) *sqlx.Row {
	if stmt := p.stmt(ctx, query); stmt != nil {
		return stmt.QueryRowxContext(ctx, args...)
	}
	return p.tx.QueryRowxContext(ctx, query, args...)
}

func (p *prepared) ExecContext(ctx context.Context, query string, args ...any) (sql.Result, error) {
	if stmt := p.stmt(ctx, query); stmt != nil {
		return stmt.ExecContext(ctx, args...)
	}
	return p.tx.ExecContext(ctx, query, args...)
}
