package book

import (
	"context"
	"slices"

	"palethicket/core/exchange"
	"palethicket/core/tree/logbook"
	"palethicket/store"
)

// again has a line of a file say anew what a tree that was set aside is: what came of
// files before, and is another now, counts as never made. What people entered stays.
func (b *Book) again(ctx context.Context, from store.Reader, line *exchange.Tree, log []logbook.Entry) (*TreeLog, error) {
	t, err := from.TreeByTag(ctx, line.Tract, line.Tag)
	if err != nil {
		return nil, err
	}
	s, err := b.open(ctx, from, t.ID)
	if err != nil {
		return nil, err
	}
	defer s.close()
	brought, err := from.Brought(ctx, t.ID)
	if err != nil {
		return nil, err
	}
	says := map[string]bool{}
	for i := range log {
		says[log[i].ID] = true
	}
	out := &TreeLog{Tree: treeOf(&t)}
	for _, id := range slices.Backward(brought) {
		e := s.log.Find(id)
		if e != nil && !says[id] && !s.log.Undone(id) && e.Kind != logbook.KindUndo && e.Kind != logbook.KindStart && !sets(e) {
			out.Log = append(out.Log, logbook.Entry{ID: newID(), Kind: logbook.KindUndo, By: line.Observer, Entry: id})
		}
	}
	out.Log = append(out.Log, anew(s.log, log)...)
	if t.Stand != line.Stand {
		at := logbook.Place{Tag: t.Tag, Tract: t.Tract, Stand: line.Stand}
		out.Log = append(out.Log, logbook.Entry{ID: newID(), Kind: logbook.KindMove, By: line.Observer, Move: &at})
	}
	out.Log = append(out.Log, setAside("", false))
	return out, nil
}

// sets says whether an entry sets a tree aside or takes it back, and nothing else.
func sets(e *logbook.Entry) bool { return e.Kind == logbook.KindFacts && e.Facts.Aside != nil }

// anew gives those entries that do not stand in a log: what was undone there comes
// under an id of its own.
func anew(old *logbook.Log, log []logbook.Entry) (out []logbook.Entry) {
	fresh := map[string]string{}
	for _, e := range log {
		switch found := old.Find(e.ID); {
		case found == nil && fresh[e.Look] == "":
		case found != nil && !old.Undone(e.ID) && fresh[e.Look] == "":
			continue
		default:
			fresh[e.ID] = newID()
			e.ID = fresh[e.ID]
		}
		if look := fresh[e.Look]; look != "" {
			e.Look = look
		}
		out = append(out, e)
	}
	return out
}
