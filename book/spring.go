package book

import (
	"context"
	"errors"
	"fmt"

	"palethicket/core/flora"
	"palethicket/core/stand/cruise"
	"palethicket/core/stand/spring"
	"palethicket/core/tree/logbook"
	"palethicket/store"
)

// FieldAccuracy is how often winter's names were right, by trees seen in leaf, flower or fruit.
type FieldAccuracy struct {
	Confirmed  int             `json:"confirmed" doc:"Trees that were confirmed"`
	Unnamed    int             `json:"unnamed" doc:"Of them without a winter's name"`
	All        ShareIn         `json:"all"`
	Told       int             `json:"told" doc:"Names whose chance was known when they were given"`
	Expected   float64         `json:"expected" doc:"How many of those should be right, by the chances"`
	Brier      float64         `json:"brier" doc:"0 best; of those"`
	Bins       []AccuracyBin   `json:"bins" doc:"How often names given at about one chance were right"`
	ByRank     []AccuracyGroup `json:"by_rank"`
	ByObserver []AccuracyGroup `json:"by_observer"`
	ByTaxon    []AccuracyGroup `json:"by_taxon" doc:"The worst first"`
	Says       []string        `json:"says" doc:"The same, in words"`
}

// AccuracyBin is how often names given at about one chance were right.
type AccuracyBin struct {
	From  float64 `json:"from"`
	To    float64 `json:"to"`
	Mean  float64 `json:"mean" doc:"Of the chances said"`
	Right ShareIn `json:"right"`
}

// AccuracyGroup is how often the names of one rank, person or species were right.
type AccuracyGroup struct {
	Name  string  `json:"name"`
	Words string  `json:"words"`
	Right ShareIn `json:"right"`
}

// FieldAccuracy gives that of a tract, of a stand in it, or of the whole book.
func (b *Book) FieldAccuracy(ctx context.Context, tract, stand string) (*FieldAccuracy, error) {
	return b.fieldAccuracy(ctx, b.store.Reader, tract, stand)
}

func (b *Book) fieldAccuracy(ctx context.Context, from store.Reader, tract, stand string) (*FieldAccuracy, error) {
	ids, err := from.Confirmed(ctx, tract, stand)
	if err != nil {
		return nil, err
	}
	sh := b.shelf.Load()
	out := &FieldAccuracy{}
	var names []spring.Name
	for _, id := range ids {
		s, err := b.open(ctx, from, id)
		var unreadable *Unreadable
		if errors.As(err, &unreadable) {
			continue
		}
		if err != nil {
			return nil, err
		}
		is, winter := confirmedOf(s.log)
		s.close()
		if is == nil { // taken back
			continue
		}
		if out.Confirmed++; winter == nil {
			out.Unnamed++
			continue
		}
		truth := sh.labels(cruise.Named{Rank: is.Rank, Name: is.Name}, winter.Rank)
		if truth == "" { // confirmed to the genus, named to the species: it does not tell
			out.Unnamed++
			continue
		}
		names = append(names, spring.Name{Taxon: is.Name, By: winter.By, Rank: winter.Rank, P: winter.Posterior, Right: truth == winter.Name})
	}
	out.fill(sh, spring.Of(names))
	return out, nil
}

// confirmedOf is what a tree was last seen to be, and the last name it had been given before; nil
// where there is none.
func confirmedOf(log *logbook.Log) (is, winter *logbook.Given) {
	for i := range log.Names {
		switch n := &log.Names[i]; {
		case n.Back:
		case n.Seen != "":
			is = n
		case is == nil && n.Rank != logbook.Undetermined:
			winter = n
		}
	}
	return is, winter
}

func (f *FieldAccuracy) fill(sh *shelf, a *spring.Accuracy) {
	f.All, f.Told, f.Expected, f.Brier = shareIn(a.All), a.Told, a.Expected, a.Brier
	f.Bins = each(a.Bins, func(b spring.Bin) AccuracyBin { return AccuracyBin{b.From, b.To, b.Mean, shareIn(b.Right)} })
	group := func(words func(string) string) func(spring.Group) AccuracyGroup {
		return func(g spring.Group) AccuracyGroup { return AccuracyGroup{g.Name, words(g.Name), shareIn(g.Right)} }
	}
	f.ByRank = each(a.ByRank, group(flora.UpperFirst))
	f.ByObserver = each(a.ByObserver, group(func(name string) string { return name }))
	f.ByTaxon = each(a.ByTaxon, group(func(name string) string { return flora.UpperFirst(sh.nameWords(sh.rankOf(name), name)) }))
	f.Says = []string{}
	if f.All.Of == 0 {
		return
	}
	f.Says = append(
		f.Says,
		fmt.Sprintf(
			"Of %d trees named in winter and seen in leaf, flower or fruit since, %d had the right name: %.0f %% (%.0f to %.0f %%, at 95 %%).",
			f.All.Of,
			f.All.N,
			100*f.All.P,
			100*f.All.From,
			100*f.All.To,
		),
	)
	if f.Told > 0 {
		f.Says = append(f.Says, fmt.Sprintf("By the chances said when they were named, %.1f of %d should be.", f.Expected, f.Told))
	}
}

// rankOf is the rank that a confirmed name is of.
func (s *shelf) rankOf(name string) string {
	if s.flora.Taxon(name) != nil {
		return "species"
	}
	return "genus"
}
