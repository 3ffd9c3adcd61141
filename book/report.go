package book

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"time"

	"palethicket/store"
)

// Report is what a report on a tract or a stand says.
type Report struct {
	Tract, Stand string // empty: all
	Remarks      string
	Made         time.Time
	Hectares     float64
	Statuses     map[string]int
	Composition  *Composition
	Visits       []store.Visit
	Names        []Ground
	Open         []Unsettled
	OpenTotal    int
	Cautions     []string
	Sources      []string
	Map          *Map
	Dots         []Dot
}

// Ground is a name given, and what it rests on.
type Ground struct {
	Tag, Stand, Name, English, By, Day, Grounds string
	Flag                                        string // what speaks against it
}

const (
	reportNames = 2000
	reportOpen  = 100
)

// Report gathers a report on the trees of a tract or stand.
func (b *Book) Report(ctx context.Context, tract, stand string) (*Report, error) {
	q := store.Query{Tract: tract, Stand: stand}
	r := &Report{Tract: tract, Stand: stand, Made: b.now(), Statuses: map[string]int{}}
	var err error
	if r.Composition, err = b.Composition(ctx, tract, stand); err != nil {
		return nil, err
	}
	if r.Visits, err = b.Store.Visits(ctx, tract); err != nil {
		return nil, err
	}
	if r.Map, err = b.Map(ctx); err != nil {
		return nil, err
	}
	if r.Dots, err = b.Dots(ctx, q); err != nil {
		return nil, err
	}
	open, err := b.Worklist(ctx, q, reportOpen, 0)
	if err != nil {
		return nil, err
	}
	r.Open, r.OpenTotal = open.Trees, open.Total
	if err := b.grounds(ctx, r, q); err != nil {
		return nil, err
	}
	b.place(r)
	b.takeCare(r)
	return r, nil
}

// place finds what is known of the ground the report is on.
func (b *Book) place(r *Report) {
	for _, s := range r.Map.Stands {
		if s.Tract == r.Tract && s.Stand == r.Stand {
			r.Hectares, r.Remarks = s.Hectares, s.Remarks
		}
	}
	for _, t := range r.Map.Tracts {
		if r.Stand == "" && t.Tract == r.Tract {
			r.Hectares, r.Remarks = t.Hectares, t.Remarks
		}
	}
}

// grounds lists the names given, with what they rest on.
func (b *Book) grounds(ctx context.Context, r *Report, q store.Query) error {
	return b.Store.EachTree(ctx, q, func(l *store.Line) error {
		r.Statuses[l.Status]++
		if l.GivenRank == "" || l.GivenRank == "undetermined" || len(r.Names) >= reportNames {
			return nil
		}
		g := Ground{Tag: l.Tag, Stand: l.Stand, Name: l.Given, By: l.GivenBy, Day: l.GivenAt[:min(len(l.GivenAt), 10)], Flag: l.Doubt,
			Grounds: fmt.Sprintf("%d scores in %d looks; the evidence gave it %.0f %% then", l.Scores, l.Looks, 100*l.GivenPosterior)}
		if l.GivenRank == "species" {
			g.English = b.English(l.Given, l.Region)
		}
		r.Names = append(r.Names, g)
		return nil
	})
}

// takeCare gathers the cautions and sources of the taxa that probably stand
// there.
func (b *Book) takeCare(r *Report) {
	f := b.Shelf().Flora
	var cited []string
	for _, s := range r.Composition.Shares {
		t := f.Taxon(s.Taxon)
		if t == nil || s.Stems < 0.5 {
			continue
		}
		for _, w := range t.Warnings() {
			r.Cautions = append(r.Cautions, s.English+" "+w)
		}
		cited = append(cited, t.Sources...)
	}
	slices.Sort(cited)
	for _, key := range slices.Compact(cited) {
		src := f.Sources[key]
		title := cmp.Or(src.Title, key)
		if src.Note != "" {
			title += " (" + src.Note + ")"
		}
		r.Sources = append(r.Sources, title)
	}
}
