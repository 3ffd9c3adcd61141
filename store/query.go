package store

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"
)

// Query says which trees are asked for; what is empty does not matter.
type Query struct {
	Tract  string
	Stand  string
	Status []string
	Text   string   // part of the tag or the remarks; case, spaces and hyphens do not count
	Taxa   []string // scientific names; trees that are led by, named or called one of them
	Placed bool     // only trees with a position
	Aside  bool     // those that were set aside, and only those
	Home   bool     // only trees whose best look needs a twig in hand
	Sort   string   // stand (the default), worth, last or tag
	Only   string   // of [Reader.EachTree]: the columns of standing that are read; empty: all
}

// Line is a tree in a list.
type Line struct {
	ID    string `db:"id"`
	Tag   string `db:"tag"`
	Tract string `db:"tract"`
	Stand string `db:"stand"`
	Standing
}

// term is something that a list is sorted by.
type term struct {
	by   string
	down bool // the largest first
}

// orders are the ways to sort, each that of an index.
var orders = map[string][]term{
	"":      {{by: "tract"}, {by: "stand"}, {by: "tag"}},
	"stand": {{by: "tract"}, {by: "stand"}, {by: "tag"}},
	"tag":   {{by: "tag"}},
	"worth": {{by: "next_bits", down: true}},
	"last":  {{by: "last", down: true}},
	"buds":  {{by: "next_bits", down: true}}, // worklists sort these by the day they have: see the book
}

// order gives the terms that the trees are sorted by. What was found by a name comes
// first where something was scored: of other trees the leader is only the most common.
func (q *Query) order() ([]term, error) {
	terms, ok := orders[q.Sort]
	if !ok {
		return nil, fmt.Errorf("trees cannot be sorted by %q", q.Sort)
	}
	if len(q.Taxa) > 0 && !q.Aside && q.Sort != "worth" && q.Sort != "last" {
		terms = append([]term{{by: "unscored"}}, terms...)
	}
	return append(slices.Clip(terms), term{by: "tree_id"}), nil
}

// orderBy writes terms as SQL has them, or from the end.
func orderBy(terms []term, fromEnd bool) string {
	out := make([]string, len(terms))
	for i, t := range terms {
		out[i] = t.by
		if t.down != fromEnd {
			out[i] += " DESC"
		}
	}
	return " ORDER BY " + strings.Join(out, ", ")
}

// where gives the condition that the trees meet, but for what is searched, and its
// arguments.
func (q *Query) where() (string, []any) {
	wants, args := []string{"aside = 0"}, []any{}
	if q.Aside {
		wants[0] = "aside = 1"
	}
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
		clause := "status IN (" + marks(len(q.Status)) + ")"
		if q.Sort == "worth" || q.Sort == "last" || q.searches() {
			clause = "+" + clause // the plus keeps SQLite to the index that sorts or finds
		}
		want(clause, anys(q.Status)...)
	}
	if q.Placed {
		want("lon IS NOT NULL")
	}
	if q.Home {
		want("next_reach = 'hand' AND status <> 'ready'")
	}
	return strings.Join(wants, " AND "), args
}

func (q *Query) searches() bool { return q.Text != "" || len(q.Taxa) > 0 }

// plain is a text as it is searched: people write LC-825 as "lc 825".
func plain(text string) string {
	return strings.NewReplacer(" ", "", "-", "").Replace(strings.ToLower(text))
}

// found is the condition that a tree's text holds what is searched, once both are plain.
const found = "instr(replace(replace(find, ' ', ''), '-', ''), ?) > 0"

// mostWays is how many taxa are looked for one by one.
const mostWays = 40

// way is one way of finding trees: the rest of a query that an index answers alone.
type way struct {
	sql  string
	args []any
}

// ways gives what the trees are selected from: all of them, or what a search finds, each
// way finding none that another finds. Those by a name are one for each taxon, so that
// an index has each in order.
func (r Reader) ways(ctx context.Context, q *Query) (out []way, err error) {
	where, args := q.where()
	if !q.searches() {
		return []way{{"standing WHERE " + where, args}}, nil
	}
	if q.Aside { // few, and in none of the indexes that searches use
		return []way{{"standing WHERE " + where + " AND " + found, append(args, plain(q.Text))}}, nil
	}
	add := func(index, wanted string, values ...any) {
		out = append(out, way{"standing" + index + " WHERE " + wanted + " AND " + where, append(slices.Clip(values), args...)})
	}
	none, taxa := " NOT IN ("+marks(len(q.Taxa))+")", anys(q.Taxa)
	each := 1 // taxa of a way
	if len(taxa) > mostWays {
		each = len(taxa)
	}
	for some := range slices.Chunk(taxa, each) {
		in := " IN (" + marks(len(some)) + ")"
		add(" INDEXED BY standing_by_leader", "leader"+in, some...)
		add(" INDEXED BY standing_by_given", "given <> '' AND given"+in+" AND leader"+none, append(slices.Clip(some), taxa...)...)
	}
	if q.Text == "" {
		return out, nil
	}
	others, values := "", []any{}
	if len(taxa) > 0 {
		others, values = " AND leader"+none+" AND given"+none, append(slices.Clip(taxa), taxa...)
	}
	switch ids, many, err := r.withText(ctx, q); {
	case err != nil:
		return nil, err
	case many:
		add(" INDEXED BY standing_by_text", found+others, append([]any{plain(q.Text)}, values...)...)
	case len(ids) > 0:
		add("", "tree_id IN ("+marks(len(ids))+")"+others, append(anys(ids), values...)...)
	}
	return out, nil
}

// from joins ways into what is selected from, each no further than is asked for, in
// its order; without an order each whole.
func from(ways []way, order string, most int) (sql string, args []any) {
	if len(ways) == 1 {
		return ways[0].sql, ways[0].args
	}
	const columns = "SELECT tree_id, tract, stand, tag, unscored, next_bits, last FROM "
	parts := make([]string, len(ways))
	for i, w := range ways {
		parts[i], args = columns+w.sql, append(args, w.args...)
		if order != "" {
			parts[i], args = "SELECT * FROM ("+parts[i]+order+" LIMIT ?)", append(args, most)
		}
	}
	return "(" + strings.Join(parts, " UNION ALL ") + ")", args
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
// page's ids come from an index; only its own rows are read. A page of the second half
// is counted from the end.
func (r Reader) Trees(ctx context.Context, q Query, limit, offset int) (page []Line, total int, err error) {
	terms, err := q.order()
	if err != nil {
		return nil, 0, err
	}
	ways, err := r.ways(ctx, &q)
	if err != nil {
		return nil, 0, err
	}
	var found []way // that find anything
	for _, w := range ways {
		n := 0
		if err := r.get(ctx, &n, "SELECT count(*) FROM "+w.sql, w.args...); err != nil {
			return nil, 0, fmt.Errorf("counting trees: %w", err)
		}
		if total += n; n > 0 {
			found = append(found, w)
		}
	}
	if limit = min(limit, total-offset); limit <= 0 {
		return []Line{}, total, nil
	}
	fromEnd := offset > total/2
	if fromEnd {
		offset = total - offset - limit
	}
	order := orderBy(terms, fromEnd)
	rows, args := from(found, order, offset+limit)
	var ids []string
	err = r.all(ctx, &ids, "SELECT tree_id FROM "+rows+order+" LIMIT ? OFFSET ?", append(args, limit, offset)...)
	if err != nil {
		return nil, 0, fmt.Errorf("listing trees: %w", err)
	}
	err = r.all(ctx, &page, "SELECT "+lineColumns+" FROM standing WHERE tree_id IN ("+marks(len(ids))+")"+orderBy(terms, false), anys(ids)...)
	if err != nil {
		return nil, 0, fmt.Errorf("listing trees: %w", err)
	}
	return page, total, nil
}

// Lines gives the lines of trees by their ids, those there are.
func (r Reader) Lines(ctx context.Context, ids []string) (lines []Line, err error) {
	err = r.all(ctx, &lines, "SELECT "+lineColumns+" FROM standing WHERE tree_id IN ("+marks(len(ids))+") ORDER BY tree_id", anys(ids)...)
	if err != nil {
		return nil, fmt.Errorf("reading trees: %w", err)
	}
	return lines, nil
}

// EachTree hands on every tree that matches, in order, until use fails. Through a
// [Snapshot] use may ask it for more meanwhile.
func (r Reader) EachTree(ctx context.Context, q Query, use func(*Line) error) error {
	terms, err := q.order()
	if err != nil {
		return err
	}
	ways, err := r.ways(ctx, &q)
	if err != nil {
		return err
	}
	if len(ways) == 0 {
		return nil // nothing was found
	}
	source, args := from(ways, "", 0)
	if q.searches() {
		source = "standing WHERE tree_id IN (SELECT tree_id FROM " + source + ")"
	}
	rows, err := r.q.QueryxContext(ctx, "SELECT "+cmp.Or(q.Only, lineColumns)+" FROM "+source+orderBy(terms, false), args...)
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
