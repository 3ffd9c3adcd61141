package answer

import (
	"fmt"
	"slices"

	"palethicket/core/tree/record"
	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/ranking"
)

// Following answers one tree's record over and over as it grows, and weighs no more than what
// changed. It is for one goroutine, which closes it.
type Following struct {
	engine *Engine
	kit    *kit
	ranker *ranking.Ranker
	looks  []evidence.Look // that were ranked last
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

// Step answers a record. The result says who leads and what the tree can be named. A record that
// cannot be read gives an error.
func (f *Following) Step(rec *record.Record) (*Result, error) {
	reading, err := record.Resolve(f.engine.Flora, rec)
	if err != nil {
		return nil, fmt.Errorf("reading the record of %q: %w", rec.ID, err)
	}
	changed := f.changed(reading.Looks)
	if kit := f.engine.kit(reading.Pool); kit != f.kit || f.ranker == nil {
		f.Close()
		f.kit, f.ranker, changed = kit, kit.rankers.Get().(*ranking.Ranker), -1
	}
	f.looks = reading.Looks
	a := answer{Reading: reading, verdict: f.ranker.RankChanged(f.looks, changed), kit: f.kit, engine: f.engine}
	return &Result{ID: rec.ID, Ranking: a.ranking(), Named: a.named(), Probably: a.probably(), Says: a.says()}, nil
}

// changed is the one look that is other than when it was ranked last; below 0, there may be several.
func (f *Following) changed(looks []evidence.Look) int {
	if len(looks) != len(f.looks) {
		return -1
	}
	changed := -1
	for i := range looks {
		if looks[i].Belongs == f.looks[i].Belongs && slices.Equal(looks[i].Scores, f.looks[i].Scores) {
			continue
		}
		if changed >= 0 {
			return -1
		}
		changed = i
	}
	return max(changed, 0)
}
