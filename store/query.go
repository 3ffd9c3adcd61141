package store

import (
	"context"
	"fmt"
	"strings"
)

// Query says which trees are asked for; what is empty does not matter.
type Query struct {
	Tract  string
	Stand  string
	Status []string
	Text   string   // part of the tag or the remarks
	Taxa   []string // scientific names; trees that are led by, named or called one of them
	Placed bool     // only trees with a position
	Sort   string   // stand (the default), worth, last or tag
}

// Line is a tree in a list.
type Line struct {
	ID    string `db:"id"`
	Tag   string `db:"tag"`
	Tract string `db:"tract"`
	Stand string `db:"stand"`
	Standing
}

// orders are the ways to sort, each that of an index.
var orders = map[string]string{
	"":      "tract, stand, tag",
	"stand": "tract, stand, tag",
	"tag":   "tag",
	"worth": "next_bits DESC",
	"last":  "last DESC",
}

// where gives the condition that the trees meet, and its arguments.
func (q *Query) where() (string, []any) {
	wants, args := []string{"aside = 0"}, []any{}
	want := func(clause string, values ...any) {
		wants, args = append(wants, clause), append(args, values...)
	}
	if q.Tract != "" {
		want("tract = ?", q.Tract)
	}
	if q.Stand != "" {
		want("stand = ?", q.Stand)
	}
	if len(q.Status) > 0 {
		want("status IN ("+marks(len(q.Status))+")", anys(q.Status)...)
	}
	if found, values := q.found(); found != "" {
		want("+tree_id IN ("+found+")", values...) // the plus keeps SQLite to the index that sorts
	}
	if q.Placed {
		want("lon IS NOT NULL")
	}
	return strings.Join(wants, " AND "), args
}

// found finds trees by text and taxa: each way of finding one is a query that an
// index answers, and any of them will do.
func (q *Query) found() (string, []any) {
	const from = "SELECT tree_id FROM standing WHERE aside = 0 AND "
	var ways []string
	var args []any
	if q.Text != "" {
		text := "%" + strings.NewReplacer(`\`, `\\`, "%", `\%`, "_", `\_`).Replace(q.Text) + "%"
		ways = append(ways, from+`tag LIKE ? ESCAPE '\'`, from+`remarks <> '' AND remarks LIKE ? ESCAPE '\'`)
		args = append(args, text, text)
	}
	if len(q.Taxa) > 0 {
		in := " IN (" + marks(len(q.Taxa)) + ")"
		ways = append(ways, from+"leader"+in, from+"given"+in)
		args = append(append(args, anys(q.Taxa)...), anys(q.Taxa)...)
	}
	return strings.Join(ways, " UNION "), args
}

func marks(n int) string { return strings.TrimSuffix(strings.Repeat("?,", n), ",") }

func anys(texts []string) []any {
	out := make([]any, len(texts))
	for i, t := range texts {
		out[i] = t
	}
	return out
}

// lineColumns are the columns of a [Line].
const lineColumns = "tree_id AS id, tag, tract, stand, " + standingColumns

// Trees gives a page of the trees that match, and how many match in all. The
// page's ids come from an index; only its own rows are read.
func (r Reader) Trees(ctx context.Context, q Query, limit, offset int) (page []Line, total int, err error) {
	order, ok := orders[q.Sort]
	if !ok {
		return nil, 0, fmt.Errorf("trees cannot be sorted by %q", q.Sort)
	}
	var ids []string
	if q.Text != "" || len(q.Taxa) > 0 {
		ids, total, err = r.search(ctx, &q, order, limit, offset)
	} else {
		ids, total, err = r.pageOf(ctx, &q, order, limit, offset)
	}
	page = []Line{}
	if err != nil || len(ids) == 0 {
		return page, total, err
	}
	err = r.all(ctx, &page, "SELECT "+lineColumns+" FROM standing WHERE tree_id IN ("+marks(len(ids))+
		") ORDER BY "+order+", tree_id", anys(ids)...)
	if err != nil {
		return nil, 0, fmt.Errorf("listing trees: %w", err)
	}
	return page, total, nil
}

// pageOf gives a page of ids, and counts apart, as an index counts without
// sorting.
func (r Reader) pageOf(ctx context.Context, q *Query, order string, limit, offset int) (ids []string, total int, err error) {
	where, args := q.where()
	if err := r.get(ctx, &total, "SELECT count(*) FROM standing WHERE "+where, args...); err != nil {
		return nil, 0, fmt.Errorf("counting trees: %w", err)
	}
	if q.Sort == "worth" || q.Sort == "last" { // the plus keeps SQLite to the index that sorts
		where = strings.Replace(where, "status IN", "+status IN", 1)
	}
	err = r.all(ctx, &ids, "SELECT tree_id FROM standing WHERE "+where+" ORDER BY "+order+", tree_id LIMIT ? OFFSET ?",
		append(args, limit, offset)...)
	if err != nil {
		return nil, 0, fmt.Errorf("listing trees: %w", err)
	}
	return ids, total, nil
}

// search finds every id once, and counts what it found.
func (r Reader) search(ctx context.Context, q *Query, order string, limit, offset int) (ids []string, total int, err error) {
	where, args := q.where()
	if err := r.all(ctx, &ids, "SELECT tree_id FROM standing WHERE "+where+" ORDER BY "+order+", tree_id", args...); err != nil {
		return nil, 0, fmt.Errorf("searching trees: %w", err)
	}
	total = len(ids)
	from := min(offset, total)
	return ids[from:min(from+limit, total)], total, nil
}

// EachTree hands on every tree that matches, in order, until use fails. Through a
// [Snapshot] use may ask it for more meanwhile.
func (r Reader) EachTree(ctx context.Context, q Query, use func(*Line) error) error {
	where, args := q.where()
	rows, err := r.q.QueryxContext(ctx, "SELECT "+lineColumns+" FROM standing WHERE "+where+" ORDER BY "+orders[q.Sort], args...)
	if err != nil {
		return fmt.Errorf("reading trees: %w", explain(err))
	}
	defer rows.Close()
	for rows.Next() {
		var l Line
		if err := rows.StructScan(&l); err != nil {
			return fmt.Errorf("reading trees: %w", err)
		}
		if err := use(&l); err != nil {
			return err
		}
	}
	return rows.Err()
}
