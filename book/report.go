package book

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"palethicket/core/tree/answer"
	"palethicket/core/weigh/ranking"
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
	Visits       []Visit
	Names        []NameBasis
	Open         []Unsettled
	OpenTotal    int
	Cautions     []string
	Sources      []string
	Map          *Map
	Dots         []Dot
	Spring       *FieldAccuracy
}

// NameBasis is a name given, and what it rests on.
type NameBasis struct {
	Tag, Stand, Name, English, By, Day, Rests string
	Probable                                  bool   // and no more
	Flag                                      string // how the evidence falls short of it
}

const (
	reportNames = 2000
	reportOpen  = 100
)

// Report gathers a report on the trees of a tract or stand, as they all are at one
// moment.
func (b *Book) Report(ctx context.Context, tract, stand string) (r *Report, err error) {
	snap, err := b.store.LongSnapshot(ctx)
	if err != nil {
		return nil, err
	}
	defer func() { err = errors.Join(err, snap.Close()) }()
	if err := there(ctx, snap.Reader, &tract, &stand); err != nil {
		return nil, err
	}
	q := Query{Tract: tract, Stand: stand}
	r = &Report{Tract: tract, Stand: stand, Made: b.now(), Statuses: map[string]int{}}
	if r.Composition, err = b.composition(ctx, snap.Reader, tract, stand); err != nil {
		return nil, err
	}
	visits, err := snap.Visits(ctx, tract)
	if err != nil {
		return nil, err
	}
	r.Visits = each(visits, visitOf)
	if r.Map, err = b.mapped(ctx, snap.Reader); err != nil {
		return nil, err
	}
	if r.Dots, err = b.dots(ctx, snap.Reader, q); err != nil {
		return nil, err
	}
	open, err := b.worklist(ctx, snap.Reader, q, reportOpen, 0)
	if err != nil {
		return nil, err
	}
	r.Open, r.OpenTotal = open.Trees, open.Total
	if err := b.nameBases(ctx, snap.Reader, r, b.query(q)); err != nil {
		return nil, err
	}
	if r.Spring, err = b.fieldAccuracy(ctx, snap.Reader, tract, stand); err != nil {
		return nil, err
	}
	b.locate(r)
	b.takeCare(r)
	return r, nil
}

// locate finds what is known of where the report is on.
func (b *Book) locate(r *Report) {
	for _, s := range r.Map.Stands {
		if s.Tract == r.Tract && s.Name == r.Stand {
			r.Hectares, r.Remarks = s.Hectares, s.Remarks
		}
	}
	for _, t := range r.Map.Tracts {
		if r.Stand == "" && t.Tract == r.Tract {
			r.Hectares, r.Remarks = t.Hectares, t.Remarks
		}
	}
}

// nameBases lists the names given, with what they rest on.
func (b *Book) nameBases(ctx context.Context, from store.Reader, r *Report, q store.Query) error {
	sh := b.shelf.Load()
	confirmed, err := from.Confirmed(ctx, q.Tract, q.Stand)
	if err != nil {
		return err
	}
	return from.EachTree(ctx, q, func(l *store.Line) error {
		r.Statuses[l.Status]++
		if undetermined(l.GivenRank) || len(r.Names) >= reportNames {
			return nil
		}
		n := NameBasis{Tag: l.Tag, Stand: l.Stand, Name: l.Given, By: l.GivenBy, Day: l.GivenAt[:min(len(l.GivenAt), 10)], Flag: l.Doubt,
			Probable: l.GivenStep == string(ranking.Probably), Rests: restsOn(l)}
		if _, seen := slices.BinarySearch(confirmed, l.ID); seen {
			n.Rests = "seen in leaf, flower or fruit; " + n.Rests
		}
		if l.GivenRank == "species" {
			n.English = sh.english(l.Given, l.Region)
		}
		if n.Probable {
			n.English = strings.TrimSpace("probably " + n.English)
		}
		r.Names = append(r.Names, n)
		return nil
	})
}

// restsOn says what a name that was given rests on: what the evidence gives it now,
// and gave it then where that is another thing.
func restsOn(l *store.Line) string {
	if l.Scores == 0 {
		return "whoever gave it; nothing is scored"
	}
	on := fmt.Sprintf("%s in %s", counted(l.Scores, "score"), counted(l.Looks, "look"))
	then := answer.Percent(l.GivenPosterior)
	if l.GivenPosterior == 0 {
		return on // nobody worked out what the evidence gave it
	}
	now := ""
	switch {
	case l.NamedRank == l.GivenRank && l.Named == l.Given:
		now = answer.Percent(l.NamedPosterior)
	case l.GivenRank == string(ranking.Species) && l.Leader == l.Given:
		now = answer.Percent(l.LeaderPosterior)
	}
	switch now {
	case "":
		if l.GivenStep != string(ranking.NotYet) { // the evidence says more than the name, or nothing else
			return on + "; the evidence gave it " + then + " then, and nothing speaks against it now"
		}
		return on + "; the evidence gave it " + then + " then, and favours another now"
	case then:
		return on + "; the evidence gives it " + now
	}
	return fmt.Sprintf("%s; the evidence gives it %s (%s when it was written)", on, now, then)
}

func counted(n int, one string) string {
	if n != 1 {
		one += "s"
	}
	return fmt.Sprintf("%d %s", n, one)
}

// takeCare gathers the cautions and sources of the taxa that probably stand
// there.
func (b *Book) takeCare(r *Report) {
	f := b.Flora()
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
