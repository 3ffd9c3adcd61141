package book

import (
	"context"
	"errors"
	"net/url"
	"strings"

	"github.com/oklog/ulid/v2"

	"palethicket/core/flora/handbook"
	"palethicket/core/label"
	"palethicket/core/tallysheet"
	"palethicket/store"
)

// TallySheet is a scoring sheet.
type TallySheet = tallysheet.Sheet

// TallySheet lays out a scoring sheet for the trees of a region or list.
func (b *Book) TallySheet(among Among, route string, trees int) (*TallySheet, error) {
	f := b.Flora()
	of, err := f.Among(among.Region, among.List)
	if err != nil {
		return nil, amongError(err)
	}
	s, err := tallysheet.New(f, of, route, trees)
	switch {
	case errors.Is(err, tallysheet.ErrRoute):
		return nil, &FieldError{"route", err.Error()}
	case errors.Is(err, tallysheet.ErrRoom):
		return nil, &FieldError{"trees", err.Error()}
	case errors.Is(err, tallysheet.ErrEmpty):
		return nil, &FieldError{"list", err.Error()}
	}
	return s, err
}

// Labelled is a tree, or a tag that no tree has yet, to be printed on a label.
type Labelled struct {
	Tag, Tract, Stand string
	Path              string // in the book
}

// labelsMost is how many are printed at a time.
const labelsMost = 2000

// Labels gives the trees that a query finds, and tags to be given out in a tract.
func (b *Book) Labels(ctx context.Context, q Query, tags []string) ([]Labelled, error) {
	if len(tags) > 0 {
		return newLabels(q, tags)
	}
	lines, total, err := b.store.Trees(ctx, b.query(q), labelsMost, 0)
	if err != nil {
		return nil, err
	}
	if total > labelsMost {
		return nil, &FieldError{"tract", "more than 2000 trees: choose a stand"}
	}
	return each(lines, func(l store.Line) Labelled { return Labelled{l.Tag, l.Tract, l.Stand, "/t/" + l.ID} }), nil
}

func newLabels(q Query, tags []string) ([]Labelled, error) {
	var out []Labelled
	for _, t := range tags {
		clean, err := label.Clean(t, label.TagMost)
		if err != nil {
			return nil, &FieldError{"tags", t + ": " + err.Error()}
		}
		path := "/t/?" + url.Values{"tag": {clean}, "tract": {q.Tract}}.Encode()
		out = append(out, Labelled{clean, q.Tract, q.Stand, path})
	}
	return out, nil
}

// CodeFound is what a code or a tag leads to.
type CodeFound struct {
	Trees []TreeLine `json:"trees" doc:"One: it is that; several: the tag is given in several tracts; none: it is not here"`
	Tag   string     `json:"tag" doc:"That the code has; empty: it names a tree by its id"`
	Tract string     `json:"tract"`
}

// Find follows a code that was scanned or typed: a label's address, an id, or a tag.
func (b *Book) Find(ctx context.Context, code string) (*CodeFound, error) {
	out := &CodeFound{Trees: []TreeLine{}}
	code = strings.TrimSpace(code)
	if u, err := url.Parse(code); err == nil && (strings.Contains(u.Path, "/t/") || u.Query().Has("tag")) {
		out.Tag, out.Tract = u.Query().Get("tag"), u.Query().Get("tract")
		_, code, _ = strings.Cut(u.Path, "/t/")
	} else if _, err := ulid.ParseStrict(strings.ToUpper(code)); err != nil {
		out.Tag = code
	}
	if id, err := ulid.ParseStrict(strings.ToUpper(code)); out.Tag == "" && err == nil {
		lines, err := b.store.Lines(ctx, []string{id.String()})
		out.Trees = each(lines, b.shelf.Load().line)
		return out, err
	}
	tag, err := label.Clean(out.Tag, label.TagMost)
	if err != nil {
		return nil, &FieldError{"code", "scan or write a label's code, or a tag: " + err.Error()}
	}
	out.Tag = tag
	lines, _, err := b.store.Trees(ctx, store.Query{Tract: out.Tract, Text: tag, Sort: "tag"}, 200, 0)
	if err != nil {
		return nil, err
	}
	for _, l := range lines {
		if strings.EqualFold(l.Tag, tag) {
			out.Trees = append(out.Trees, b.shelf.Load().line(l))
		}
	}
	return out, nil
}

// AlikeCard is two to four trees that are taken for one another.
type AlikeCard = handbook.Card

// AlikeCards makes a card of some taxa, or (of none) a deck for a whole list.
func (b *Book) AlikeCards(ctx context.Context, among Among, taxa []string) ([]AlikeCard, error) {
	sh := b.shelf.Load()
	of, err := sh.flora.Among(among.Region, among.List)
	if err != nil {
		return nil, amongError(err)
	}
	cards, err := sh.handbook.Cards(ctx, of, taxa)
	if err != nil && ctx.Err() == nil {
		return nil, &FieldError{"taxon", err.Error()}
	}
	return cards, err
}
