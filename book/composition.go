package book

import (
	"context"
	"errors"

	"palethicket/core/stand/composition"
	"palethicket/store"
)

// Composition is what grows in a stand or a tract.
type Composition struct {
	Trees      int     `json:"trees"`
	Determined int     `json:"determined" doc:"Trees that carry a name nothing speaks against"`
	Measured   float64 `json:"area_m2" doc:"Basal area of the trees whose diameter was measured"`
	Shares     []Share `json:"shares" doc:"By taxon, the most common first; the last may be 'unlisted'"`
	Note       string  `json:"note" doc:"What the intervals do and do not say"`

	Heights *Heights `json:"heights,omitempty" doc:"Of the trees whose height was measured; absent: of none"`

	Plots *PlotTally `json:"plots,omitempty" doc:"What its sample points add up to; absent: there are none"`
}

// Heights are those of a stand's trees.
type Heights struct {
	Trees int      `json:"trees" doc:"How many were measured"`
	Mean  float64  `json:"mean_m"`
	Most  float64  `json:"most_m"`
	Lorey *float64 `json:"lorey_m,omitempty" doc:"Mean weighed by basal area, of those whose diameter was measured too; absent: of none"`
}

// Share is one taxon's part of a stand.
type Share struct {
	Taxon      string  `json:"taxon"`
	English    string  `json:"english"`
	Stems      float64 `json:"stems" doc:"Expected number of stems"`
	StemsFrom  float64 `json:"stems_from" doc:"Lower end of the 95 % interval"`
	StemsTo    float64 `json:"stems_to"`
	Area       float64 `json:"area_m2" doc:"Expected basal area, of the trees whose diameter was measured"`
	AreaFrom   float64 `json:"area_from_m2"`
	AreaTo     float64 `json:"area_to_m2"`
	Determined int     `json:"determined" doc:"Trees that carry this name undoubted"`
}

const compositionNote = "A tree with a saved name that nothing speaks against counts as that name. " +
	"Every other counts for each species by what the evidence gives it. The ranges hold the doubt about names only: " +
	"trees that nobody tagged are not counted, and a tree scored wrongly counts wrongly. Taxa under 0.2 % of a tree are left out."

// Composition adds up the trees of a stand, a tract or the whole book.
func (b *Book) Composition(ctx context.Context, tract, stand string) (c *Composition, err error) {
	snap, err := b.store.Snapshot(ctx)
	if err != nil {
		return nil, err
	}
	defer func() { err = errors.Join(err, snap.Close()) }()
	return b.composition(ctx, snap.Reader, tract, stand)
}

func (b *Book) composition(ctx context.Context, from store.Reader, tract, stand string) (*Composition, error) {
	places, err := from.Places(ctx, tract, stand)
	if err != nil {
		return nil, err
	}
	var all sums
	for _, p := range places {
		s, err := b.sums(ctx, from, p)
		if err != nil {
			return nil, err
		}
		all.add(s)
	}
	sh := b.shelf.Load()
	out := &Composition{Trees: all.n, Measured: composition.Settled(all.area), Note: compositionNote}
	out.Shares = each(composition.Shares(all.n, all.area, all.byTaxon), func(s composition.Share) Share {
		out.Determined += s.Determined
		return Share{s.Taxon, sh.english(s.Taxon, ""), s.Stems, s.StemsFrom, s.StemsTo, s.Area, s.AreaFrom, s.AreaTo, s.Determined}
	})
	h, err := from.Heights(ctx, tract, stand)
	if err != nil {
		return nil, err
	}
	if h.Trees > 0 {
		out.Heights = &Heights{h.Trees, composition.Settled(h.Mean), h.Most, nil}
		if h.Lorey != nil {
			out.Heights.Lorey = figured(*h.Lorey)
		}
	}
	tally, err := b.plots(ctx, from, tract, stand)
	if err == nil && len(tally.Points) > 0 {
		out.Plots = tally
	}
	return out, err
}

// sums are what the trees of some stands add up to.
type sums struct {
	changes int // of the stand, when they were added up
	n       int
	area    float64
	byTaxon []composition.Sums
	at      map[string]int // of each taxon in byTaxon
}

func (s *sums) add(o *sums) {
	if s.at == nil {
		s.at = map[string]int{}
	}
	s.n, s.area = s.n+o.n, s.area+o.area
	for _, t := range o.byTaxon {
		i, ok := s.at[t.Taxon]
		if !ok {
			s.at[t.Taxon] = len(s.byTaxon)
			s.byTaxon = append(s.byTaxon, t)
			continue
		}
		s.byTaxon[i].Join(t)
	}
}

// sums adds up a stand, or gives what it came to while nothing of it changed.
func (b *Book) sums(ctx context.Context, from store.Reader, p store.Place) (*sums, error) {
	key := [2]string{p.Tract, p.Stand}
	if kept, ok := b.added.Load(key); ok && kept.(*sums).changes == p.Changes {
		return kept.(*sums), nil
	}
	s := &sums{changes: p.Changes}
	var err error
	if s.n, s.area, s.byTaxon, err = from.Sums(ctx, p.Tract, p.Stand, b.shelf.Load().bearers()); err != nil {
		return nil, err
	}
	b.added.Store(key, s)
	return s, nil
}

// bearers finds the taxa that bear a name, each name once.
func (sh *shelf) bearers() store.Bearers {
	found := map[[2]string][]string{}
	return func(rank, name string) []string {
		key := [2]string{rank, name}
		if of, ok := found[key]; ok {
			return of
		}
		for i := range sh.flora.Taxa {
			if t := &sh.flora.Taxa[i]; name != "" && t.NameAt(rank) == name {
				found[key] = append(found[key], t.Name)
			}
		}
		return found[key]
	}
}
