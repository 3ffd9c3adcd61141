package demo

import (
	"context"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"slices"
	"time"

	"palethicket/book"
	"palethicket/core/flora"
	"palethicket/core/flora/lookalike"
	"palethicket/core/tree/logbook"
	"palethicket/core/weigh/ranking"
)

// proof puts the crew's names to the proof: trees seen in leaf in the spring between the two
// winters, and two check cruises in the second.
type proof struct {
	*crowd
	rng   *rand.Rand // of its own, so that the forest is drawn as it was
	trees map[string]*book.TreeLog
	order []string // ids, as they were drawn
	pool  *flora.Pool
	alike *lookalike.Table
}

func newProof(c *crowd, trees []book.TreeLog) (*proof, error) {
	p := &proof{crowd: c, rng: rand.New(rand.NewPCG(2026, 5)), trees: map[string]*book.TreeLog{}}
	for i := range trees {
		p.trees[trees[i].Tree.ID] = &trees[i]
		p.order = append(p.order, trees[i].Tree.ID)
	}
	var err error
	if p.pool, err = c.flora.Pool(flora.PoolKey{Among: c.among, Age: flora.At(flora.Mature)}); err != nil {
		return nil, err
	}
	p.alike = lookalike.NewTable(p.pool)
	return p, nil
}

// confirmed is how many trees were seen in leaf, flower or fruit.
const confirmed = 60

// between is a day between the winters.
var between = time.Date(2026, 5, 1, 0, 0, 0, 0, time.Local)

// spring confirms trees that had a name in the first winter. Nobody named them again by their twigs.
func (p *proof) spring() {
	var named []*book.TreeLog
	for _, id := range p.order {
		if t := p.trees[id]; p.truth[id] != "" && slices.ContainsFunc(t.Log, winters) {
			named = append(named, t)
		}
	}
	p.rng.Shuffle(len(named), func(a, b int) { named[a], named[b] = named[b], named[a] })
	for k, t := range named[:min(confirmed, len(named))] {
		day := time.Date(2026, 5, 14+7*(k%3), 8, 0, 0, 0, time.Local)
		w := writer{clock: day.Add(time.Duration(p.rng.IntN(8*3600)) * time.Second), rng: p.ids}
		seen := []string{"leaf", "leaf", "leaf", "flower", "fruit"}[p.rng.IntN(5)]
		who := []string{"Marit Sandoval", "Wren Halloran", "Tobias Okafor"}[k%3]
		t.Log = slices.DeleteFunc(t.Log, func(e logbook.Entry) bool { return e.Kind == logbook.KindName && e.Stamp.Time().After(between) })
		t.Log = append(t.Log, w.entry(who, logbook.Entry{Kind: logbook.KindName,
			Name: &logbook.Naming{Rank: "species", Name: p.truth[t.Tree.ID], Seen: seen, Why: "Seen in " + seen + "."}}))
	}
}

// winters says whether an entry names a tree before the spring between the winters.
func winters(e logbook.Entry) bool {
	return e.Kind == logbook.KindName && e.Name.Rank != logbook.Undetermined && e.Stamp.Time().Before(between)
}

// held are the check cruises: the first by somebody new, the second by one of the crew.
var held = []struct {
	plan  book.NewCheck
	day   time.Time
	wrong float64 // how often the checker takes a tree for another
}{
	{book.NewCheck{Name: "November check", Checker: "Ilse Brandvold", By: "stand", Expected: 0.9, Half: 0.1, Trees: 40, Seed: 11},
		time.Date(2026, 11, 23, 8, 0, 0, 0, time.Local), 0.1},
	{book.NewCheck{Name: "By the names given", Checker: "Marit Sandoval", By: "name", Expected: 0.9, Half: 0.1, Trees: 30, Seed: 12},
		time.Date(2026, 11, 25, 8, 0, 0, 0, time.Local), 0.1},
}

// checks holds them.
func (p *proof) checks(ctx context.Context, b *book.Book) error {
	for _, h := range held {
		w := &writer{clock: h.day, rng: p.ids}
		_, err := b.HoldCheck(
			ctx,
			h.plan,
			"Wren Halloran",
			h.day.AddDate(0, 0, -2),
			h.day.Add(9*time.Hour),
			func(work *book.Book, trees []book.CheckTree) error {
				var told []book.Sent
				for _, t := range trees {
					log, err := p.again(w, h.plan.Checker, t.ID, h.wrong)
					if err != nil {
						return fmt.Errorf("tree %s: %w", t.Tag, err)
					}
					for _, e := range log {
						text, err := json.Marshal(e)
						if err != nil {
							return err
						}
						told = append(told, book.Sent{Tree: t.ID, Entry: text})
					}
				}
				_, err := work.Meet(ctx, &book.Meeting{Version: book.LogVersion, Entries: told}, "")
				return err
			},
		)
		if err != nil {
			return fmt.Errorf("%s: %w", h.plan.Name, err)
		}
	}
	return nil
}

// again looks at a tree anew and names it: the tree that it is, mostly, and now and then its
// nearest look-alike, or no farther than the genus.
func (p *proof) again(w *writer, who, id string, wrong float64) ([]logbook.Entry, error) {
	taxon, age := p.truth[id], "mature"
	if taxon == "" || p.rng.Float64() < 0.04 { // written by hand, or not got round to
		return nil, nil
	}
	t := &book.TreeLog{Tree: p.trees[id].Tree}
	if f := p.trees[id].Log[0].Facts; f != nil && f.Age != nil {
		age = *f.Age
	}
	if err := p.looks(t, w, who, taxon, age, []plan{atBark, atTwig}); err != nil {
		return nil, err
	}
	p.sameTree(t, p.trees[id])
	name := &logbook.Naming{Rank: "species", Name: taxon}
	at, _ := p.pool.Find(taxon)
	switch u := p.rng.Float64(); {
	case u < wrong:
		nearest := p.alike.Nearest(at)
		name.Name = p.pool.Model.Taxa()[other(nearest[p.rng.IntN(min(3, len(nearest)))], at)].Name
	case u < wrong+0.15:
		name.Rank, name.Name = "genus", p.flora.Taxon(taxon).Genus
	}
	var err error
	if name.Posterior, err = p.chance(t, name); err != nil {
		return nil, err
	}
	return append(t.Log, w.entry(who, logbook.Entry{Kind: logbook.KindName, Name: name})), nil
}

// sameTree has what two people scored of one tree mostly be the same: it is one tree.
func (p *proof) sameTree(again, first *book.TreeLog) {
	for i := range again.Log {
		s := again.Log[i].Score
		if s == nil {
			continue
		}
		for j := range first.Log {
			old := first.Log[j].Score
			if old == nil || old.Character != s.Character || s.Character != "form.dbh" && p.rng.Float64() < 0.2 {
				continue
			}
			s.States, s.Seen, s.Pairs, s.Nodes = old.States, old.Seen, old.Pairs, old.Nodes
			if old.Value != nil {
				v := significant(*old.Value * (1 + 0.03*p.rng.NormFloat64()))
				s.Value, s.Readings, s.Unit, s.How = &v, old.Readings, old.Unit, old.How
			}
			break
		}
	}
}

// chance is what the looks at a tree give a name.
func (p *proof) chance(t *book.TreeLog, name *logbook.Naming) (float64, error) {
	weighed, err := p.engine.Weigh(logbook.Replay(t.Log).Record(t.Tree.Tag, logbook.Among(p.among)))
	if err != nil {
		return 0, err
	}
	defer weighed.Close()
	return weighed.Posterior(ranking.Rank(name.Rank), name.Name)
}

// other is the one of a pair that is not this.
func other(p lookalike.Pair, this int) int {
	if p.A == this {
		return p.B
	}
	return p.A
}
