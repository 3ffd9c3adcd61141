package store

import (
	"context"
	"fmt"
)

// NameInFile is what a name written in a file stands for.
type NameInFile struct {
	Written string `db:"written"`
	Rank    string `db:"rank"`
	Name    string `db:"name"`
}

// NamesInFiles lists what names in files were said to stand for.
func (r Reader) NamesInFiles(ctx context.Context) (names []NameInFile, err error) {
	err = r.all(ctx, &names, "SELECT written, rank, name FROM name_in_file ORDER BY written")
	return names, err
}

// NameInFiles keeps what a name stands for, in place of what was said before.
func (t *Tx) NameInFiles(ctx context.Context, n NameInFile) error {
	err := t.exec(ctx, `INSERT INTO name_in_file (written, rank, name) VALUES (?, ?, ?)
		ON CONFLICT (written) DO UPDATE SET rank = excluded.rank, name = excluded.name`, n.Written, n.Rank, n.Name)
	if err != nil {
		return fmt.Errorf("keeping what %q stands for: %w", n.Written, err)
	}
	return nil
}
