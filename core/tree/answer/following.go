package answer

import (
	"fmt"
	"slices"

	"palethicket/core/flora"
	"palethicket/core/tree/record"
	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/ranking"
)

// Following answers one tree's record over and over as it grows, and goes through no
// more than what changed. It is for one goroutine, which closes it.
type Following struct {
	engine *Engine
	kit    *kit
	ranker *ranking.Ranker
	looks  []followed
	weigh  []evidence.Look // those of the looks, and the tool's own
	own    bool            // whether there is one of those
	stale  bool            // what was ranked last is not what was read last
}

// followed is a look as it was read last.
type followed struct {
	look     evidence.Look
	foliage  bool // the foliage was scored in it
	readable error
}

// Follow begins to follow a record.
func (e *Engine) Follow() *Following { return &Following{engine: e} }

// Close gives back what following took.
func (f *Following) Close() {
	if f.ranker != nil {
		f.kit.rankers.Put(f.ranker)
		f.ranker = nil
	}
}

// Step answers a record of which only one look changed since the last step, or, where
// changed is below 0, anything may have. The result says who leads and what the tree
// can be named. A record that cannot be read gives an error.
func (f *Following) Step(rec *record.Record, changed int) (*Result, error) {
	from, to := 0, len(rec.Looks)
	if changed >= 0 && f.ranker != nil && len(rec.Looks) == len(f.looks) {
		from, to = changed, changed+1
	} else {
		changed = -1
		f.looks = make([]followed, len(rec.Looks))
	}
	f.stale = f.stale || changed < 0
	pool, tools, err := f.read(rec, from, to)
	if err != nil {
		return nil, err
	}
	own := !slices.ContainsFunc(f.looks, func(l followed) bool { return l.foliage })
	if kit := f.engine.kit(pool); kit != f.kit || f.ranker == nil {
		f.Close()
		f.kit, f.ranker, f.stale = kit, kit.rankers.Get().(*ranking.Ranker), true
	}
	for i := range f.looks {
		if err := f.looks[i].readable; err != nil {
			f.stale = true
			return nil, err
		}
	}
	if own != f.own || f.stale {
		changed = -1
	}
	f.stale, f.own, f.weigh = false, own, f.weigh[:0]
	for i := range f.looks {
		f.weigh = append(f.weigh, f.looks[i].look)
	}
	if own {
		f.weigh = append(f.weigh, tools)
	}
	verdict := f.ranker.RankChanged(f.weigh, changed)
	a := answer{Reading: &record.Reading{Record: rec, Pool: pool, Looks: f.weigh}, verdict: verdict, kit: f.kit, engine: f.engine}
	return &Result{ID: rec.ID, Ranking: a.ranking(), Named: a.named(), Probably: a.probably(), Says: a.says()}, nil
}

// read reads some of the record's looks, and gives the pool and the tool's own look at
// the foliage.
func (f *Following) read(rec *record.Record, from, to int) (pool *flora.Pool, tools evidence.Look, err error) {
	one := *rec
	one.Looks = nil
	bare, err := record.Resolve(f.engine.Flora, &one)
	if err != nil {
		return nil, tools, fmt.Errorf("reading the record of %q: %w", rec.ID, err)
	}
	for i := from; i < to; i++ {
		one.Looks = rec.Looks[i : i+1]
		reading, err := record.Resolve(f.engine.Flora, &one)
		f.looks[i] = followed{readable: err}
		if err == nil {
			f.looks[i] = followed{look: reading.Looks[0], foliage: len(reading.Looks) == 1}
		}
	}
	return bare.Pool, bare.Looks[0], nil
}
