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
	Sort   string   // place (the default), worth, last or tag
}

// Line is a tree in a list.
type Line struct {
	Tree
	Standing
}

// orders are the ways to sort; the first is the order of the indexes.
var orders = map[string]string{
	"":      "tract.name, stand.name, tree.tag",
	"place": "tract.name, stand.name, tree.tag",
	"tag":   "tree.tag, tree.id",
	"worth": "standing.next_bits DESC, tree.id",
	"last":  "standing.last DESC, tree.id",
}

// Sorts lists the ways to sort.
var Sorts = []string{"place", "tag", "worth", "last"}

// where gives the FROM and WHERE clauses of the trees, and their arguments. The
// cross joins keep SQLite to this order, in which the indexes sort by place.
func (q *Query) where() (string, []any) {
	from := ` FROM tract CROSS JOIN stand ON stand.tract_id = tract.id CROSS JOIN tree ON tree.stand_id = stand.id
		CROSS JOIN standing ON standing.tree_id = tree.id`
	if q.Sort == "worth" || q.Sort == "last" { // start from what decides the order
		from = ` FROM standing CROSS JOIN tree ON tree.id = standing.tree_id CROSS JOIN stand ON stand.id = tree.stand_id
			CROSS JOIN tract ON tract.id = tree.tract_id`
	}
	wants, args := []string{"standing.aside = 0"}, []any{}
	want := func(clause string, values ...any) {
		wants, args = append(wants, clause), append(args, values...)
	}
	if q.Tract != "" {
		want("tract.name = ?", q.Tract)
	}
	if q.Stand != "" {
		want("stand.name = ?", q.Stand)
	}
	if len(q.Status) > 0 {
		want("standing.status IN ("+marks(len(q.Status))+")", anys(q.Status)...)
	}
	text := "%" + strings.NewReplacer(`\`, `\\`, "%", `\%`, "_", `\_`).Replace(q.Text) + "%"
	switch {
	case q.Text != "" && len(q.Taxa) > 0: // the text is part of a tag or means one of the taxa
		in := "(" + marks(len(q.Taxa)) + ")"
		want(`(tree.tag LIKE ? ESCAPE '\' OR standing.remarks LIKE ? ESCAPE '\' OR standing.leader IN `+in+" OR standing.given IN "+in+")",
			append(append([]any{text, text}, anys(q.Taxa)...), anys(q.Taxa)...)...)
	case q.Text != "":
		want(`(tree.tag LIKE ? ESCAPE '\' OR standing.remarks LIKE ? ESCAPE '\')`, text, text)
	case len(q.Taxa) > 0:
		in := "(" + marks(len(q.Taxa)) + ")"
		want("(standing.leader IN "+in+" OR standing.given IN "+in+")", append(anys(q.Taxa), anys(q.Taxa)...)...)
	}
	if q.Placed {
		want("standing.lon IS NOT NULL")
	}
	return from + " WHERE " + strings.Join(wants, " AND "), args
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
var lineColumns = "tree.id, tree.tag, tree.region, tract.name AS tract, stand.name AS stand, " +
	"standing." + strings.Join(strings.Fields(strings.ReplaceAll(standingColumns, ",", " ")), ", standing.")

// Trees gives a page of the trees that match, and how many match in all.
func (s *Store) Trees(ctx context.Context, q Query, limit, offset int) (page []Line, total int, err error) {
	from, args := q.where()
	if err := s.read.GetContext(ctx, &total, "SELECT count(*)"+from, args...); err != nil {
		return nil, 0, fmt.Errorf("counting trees: %w", err)
	}
	order, ok := orders[q.Sort]
	if !ok {
		return nil, 0, fmt.Errorf("trees cannot be sorted by %q", q.Sort)
	}
	page = []Line{}
	err = s.read.SelectContext(ctx, &page, "SELECT "+lineColumns+from+" ORDER BY "+order+" LIMIT ? OFFSET ?", append(args, limit, offset)...)
	if err != nil {
		return nil, 0, fmt.Errorf("listing trees: %w", err)
	}
	return page, total, nil
}

// EachTree hands on every tree that matches, in order, until use fails.
func (s *Store) EachTree(ctx context.Context, q Query, use func(*Line) error) error {
	from, args := q.where()
	rows, err := s.read.QueryxContext(ctx, "SELECT "+lineColumns+from+" ORDER BY "+orders[q.Sort], args...)
	if err != nil {
		return fmt.Errorf("reading trees: %w", err)
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
