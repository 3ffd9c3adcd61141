package book

import (
	"context"
	"errors"
	"io"
	"slices"
	"strings"
	"time"

	"github.com/paulmach/orb/geojson"

	"palethicket/core/exchange"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/logbook"
	"palethicket/core/weigh/ranking"
	"palethicket/store"
)

// Format is a file format.
type Format struct {
	ID        string `json:"id"`
	Name      string `json:"name"`
	Extension string `json:"extension"`
	Type      string `json:"type" doc:"Media type"`
	Lost      string `json:"lost" doc:"What a tree has that the format cannot carry"`
}

// Field is something of a tree that a column can hold.
type Field struct {
	ID    string `json:"id"`
	Words string `json:"words"`
}

// Formats are those that are written; all of them are read as well.
func Formats() []Format {
	return each(exchange.Formats, func(f exchange.Format) Format { return Format{f.ID, f.Name, f.Extension, f.Type, f.Lost()} })
}

// FileFields are what the columns of a file that is read in can hold.
func FileFields() []Field {
	out := []Field{}
	for i := range exchange.Fields {
		if f := &exchange.Fields[i]; f.Settable() {
			out = append(out, Field{f.ID, f.Words})
		}
	}
	return out
}

// ErrNoFormat is given by [Book.Export] for a format that nobody writes.
var ErrNoFormat = errors.New("there is no such format")

// About says what a file is of.
type About struct {
	Title, Publisher string
	License          string // address of the terms of use, for an archive
	Country          string // where the trees stand, for an archive
	UTM              bool   // tables have positions on the UTM grid
}

// Export writes the trees of a query in a format, as they all are at one moment.
func (b *Book) Export(ctx context.Context, w io.Writer, q Query, format string, about About) (err error) {
	f, err := exchange.FormatByID(format)
	if err != nil {
		return errors.Join(ErrNoFormat, err)
	}
	snap, err := b.store.LongSnapshot(ctx)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, snap.Close()) }()
	if err := there(ctx, snap.Reader, &q.Tract, &q.Stand); err != nil {
		return err
	}
	counted, err := countedFrom(ctx, snap.Reader, q)
	if err != nil {
		return err
	}
	trees := func(use func(*exchange.Tree) error) error {
		return snap.EachTree(ctx, b.query(q), func(l *store.Line) error {
			b.pressing.giveWay()
			t, err := b.exchange(ctx, snap.Reader, l)
			if err != nil {
				return err
			}
			t.Counted = counted[l.ID]
			return use(t)
		})
	}
	to := exchange.About{Title: about.Title, Publisher: about.Publisher, License: about.License, Country: about.Country, UTM: about.UTM,
		Made: b.now()}
	if to.Boundaries, err = boundaries(ctx, snap.Reader, q); err != nil {
		return err
	}
	if err = f.Write(w, trees, to); errors.Is(err, exchange.ErrAtHome) {
		return &FileError{exchange.ErrAtHome}
	}
	return err
}

// Boundaries writes the boundaries of tracts and stands, as GeoJSON that the stands read.
func (b *Book) Boundaries(ctx context.Context, w io.Writer, q Query) error {
	all, err := boundaries(ctx, b.store.Reader, q)
	if err != nil {
		return err
	}
	return exchange.WriteBoundaries(w, all)
}

// boundaries are those of the tracts and stands of a query.
func boundaries(ctx context.Context, from store.Reader, q Query) (out []exchange.Boundary, err error) {
	add := func(tract, stand, remarks string, text *string) {
		if text == nil || q.Tract != "" && q.Tract != tract || q.Stand != "" && q.Stand != stand {
			return
		}
		if g, err := geojson.UnmarshalGeometry([]byte(*text)); err == nil { // it was checked when it was put in
			out = append(out, exchange.Boundary{Tract: tract, Stand: stand, Remarks: remarks, Area: g.Geometry()})
		}
	}
	tracts, err := from.Tracts(ctx)
	if err != nil {
		return nil, err
	}
	for _, t := range tracts {
		add(t.Tract, "", t.Remarks, t.Boundary)
	}
	stands, err := from.Stands(ctx)
	for _, s := range stands {
		add(s.Tract, s.Stand, s.Remarks, s.Boundary)
	}
	return out, err
}

// countedFrom says of trees from which sample points they were counted.
func countedFrom(ctx context.Context, from store.Reader, q Query) (map[string][]exchange.Counted, error) {
	points, err := from.Plots(ctx, q.Tract, q.Stand)
	if err != nil {
		return nil, err
	}
	out := map[string][]exchange.Counted{}
	for _, p := range points {
		how := "angle count, " + p.Factor
		if p.Radius != "" {
			how = "fixed plot, radius " + p.Radius
		}
		for _, s := range p.Stems {
			if s.Tree != "" {
				out[s.Tree] = append(out[s.Tree], exchange.Counted{Point: p.Stand + " " + p.Name, How: how})
			}
		}
	}
	return out, nil
}

// turns bounds how many files are being worked on at once, tree by tree, so that pages
// are answered meanwhile. Nobody holds a turn while what they wrote is being sent.
var turns = make(chan struct{}, 1)

// exchange reads a tree as files carry it.
func (b *Book) exchange(ctx context.Context, from store.Reader, l *store.Line) (*exchange.Tree, error) {
	select {
	case turns <- struct{}{}:
		defer func() { <-turns }()
	case <-ctx.Done():
		return nil, ctx.Err()
	}
	s, err := b.open(ctx, from, l.ID)
	if err != nil {
		return nil, err
	}
	return s.exchanged(l), nil
}

// exchanged is a tree as files carry it.
func (s *sheet) exchanged(l *store.Line) *exchange.Tree {
	among := s.among()
	t := &exchange.Tree{
		ID:        l.ID,
		Tag:       l.Tag,
		Tract:     l.Tract,
		Stand:     l.Stand,
		Region:    among.Region,
		List:      among.List,
		Position:  s.log.Facts.Position,
		DBH:       l.DBH,
		Height:    l.Height,
		Age:       l.Age,
		Vigour:    l.Vigour,
		Remarks:   l.Remarks,
		Leader:    l.Leader,
		Posterior: l.LeaderPosterior,
		Status:    l.Status,
		Record:    s.log.Record(l.Tag, s.tree.Started()),
	}
	for what, e := range s.log.Readings() {
		switch what {
		case "height":
			t.HeightHow = e.Measured.Words()
		case "diameter":
			t.DBHHow = e.Measured.Words()
		}
	}
	t.Date, t.Observer = s.observed()
	if t.Leader == answer.Unlisted {
		t.Leader = ""
	}
	s.nameOf(t, s.log.Name(), ranking.Step(l.GivenStep))
	return t
}

// observed is when a tree was last looked at, and by whom; of one that nobody looked at, when
// something was last said of it.
func (s *sheet) observed() (at time.Time, by string) {
	for _, kinds := range [][]logbook.Kind{{logbook.KindScore, logbook.KindLook}, {logbook.KindFacts}, {logbook.KindStart}} {
		for i := range s.log.Entries {
			e := &s.log.Entries[i]
			if now := s.log.At(e); slices.Contains(kinds, e.Kind) && !now.Before(at) {
				at, by = now, e.By
			}
		}
		if !at.IsZero() {
			return at, by
		}
	}
	return s.log.Last, ""
}

// nameOf fills in the name given and what it belongs to.
func (s *sheet) nameOf(t *exchange.Tree, g *logbook.Given, step ranking.Step) {
	if g == nil {
		return
	}
	t.Rank, t.Name, t.NamedBy, t.Named, t.Why, t.Seen = g.Rank, g.Name, g.By, g.At, g.Why, g.Seen
	for i := range s.flora.Taxa {
		taxon := &s.flora.Taxa[i]
		switch {
		case g.Rank == "species" && taxon.Name == g.Name,
			g.Rank == "group" && taxon.Group == g.Name,
			g.Rank == "genus" && taxon.Genus == g.Name:
			t.Genus, t.Family = taxon.Genus, taxon.Family
		case g.Rank == "family" && taxon.Family == g.Name:
			t.Family = taxon.Family
		}
	}
	t.Qualifier = qualifier(g, step)
}

// qualifier is what a careful reader adds to a name that was given: that it is probable
// and no more, or in doubt, as is common practice in collections; and of which group.
func qualifier(g *logbook.Given, step ranking.Step) string {
	hedge := ""
	switch {
	case undetermined(g.Rank):
	case step == ranking.Probably:
		hedge = logbook.Cf
	case step == ranking.NotYet:
		hedge = logbook.InDoubt
	}
	if g.Rank == string(ranking.Group) && hedge != logbook.InDoubt {
		return strings.TrimSpace(hedge + " " + g.Name)
	}
	return hedge
}
