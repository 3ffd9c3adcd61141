package book

import (
	"context"
	"errors"
	"fmt"

	"palethicket/core/stand/sugaring"
	"palethicket/store"
)

// Sugarbush is which trees of a stand could be tapped.
type Sugarbush struct {
	Maples []TappedMaple `json:"maples" doc:"The surest and thickest first"`
	Taps   float64       `json:"taps" doc:"To be expected of sugar and black maples"`
	Says   []string      `json:"says"`
}

// TappedMaple is a tree that could be a maple.
type TappedMaple struct {
	ID    string  `json:"id"`
	Tag   string  `json:"tag"`
	Stand string  `json:"stand"`
	Sugar float64 `json:"sugar" doc:"Chance that it is a sugar or black maple"`
	Maple float64 `json:"maple" doc:"Chance that it is any maple"`
	DBH   float64 `json:"dbh_cm" doc:"0: not measured"`
	Taps  int     `json:"taps" doc:"That its diameter bears"`
	Why   string  `json:"why,omitempty" doc:"Why there is none"`
}

// Sugarbush lists the maples of a stand or tract, with the taps that they bear.
func (b *Book) Sugarbush(ctx context.Context, tract, stand string) (out *Sugarbush, err error) {
	snap, err := b.store.Snapshot(ctx)
	if err != nil {
		return nil, err
	}
	defer func() { err = errors.Join(err, snap.Close()) }()
	var ids []string
	stands := map[string]string{}
	var trees []sugaring.Tree
	err = snap.EachTree(ctx, b.query(Query{Tract: tract, Stand: stand}), func(l *store.Line) error {
		ids = append(ids, l.ID)
		stands[l.ID] = l.Stand
		failing := l.Vigour == "failing" || l.Vigour == "dead"
		trees = append(trees, sugaring.Tree{ID: l.ID, Tag: l.Tag, Diameter: l.DBH, Failing: failing})
		return nil
	})
	if err != nil {
		return nil, err
	}
	names, _, err := snap.Likely(ctx, ids, b.shelf.Load().bearers())
	if err != nil {
		return nil, err
	}
	for i := range trees {
		trees[i].Names = names[trees[i].ID]
	}
	sh := b.shelf.Load()
	maples, taps := sugaring.Of(trees, func(taxon string) bool {
		t := sh.flora.Taxon(taxon)
		return t != nil && t.Genus == "Acer"
	})
	out = &Sugarbush{Taps: taps, Maples: each(maples, func(m sugaring.Maple) TappedMaple {
		return TappedMaple{m.ID, m.Tag, stands[m.ID], m.Sugar, m.Maple, m.Diameter, m.Taps, m.Why}
	})}
	out.Says = []string{
		fmt.Sprintf(
			"%d trees could be maples; %.1f taps are to be expected of sugar and black maples that are thick enough.",
			len(maples),
			taps,
		),
		"One tap from 25.4 cm (10 in), two from 45.7 cm (18 in), none in a tree that fails (common practice). Red and silver maples are sweet " +
			"too, but less. This names trees; it does not say that anything is safe to eat.",
	}
	return out, nil
}
