package book

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"
	"sync"

	"palethicket/core/flora"
	"palethicket/core/flora/handbook"
	"palethicket/core/plate"
	drawings "palethicket/core/plate/sheet"
	"palethicket/core/plate/tile"
	"palethicket/core/tree/answer"
)

// Picture is a drawing as it is sent.
type Picture struct {
	Kind string // image/svg+xml or image/png
	Body []byte
}

// PlateAsked says which drawing of a taxon is asked for.
type PlateAsked struct {
	What   string // twig, bark, outline, fruit or leaf
	Taxon  string
	Region string
	Age    string
	Zone   string
	Odd    uint64 // 0: the usual one; else which specimen
	Theme  string
	Marked []string // characters that differ from another beside it
}

// ErrNoPlate is given for a drawing that there is none of.
var ErrNoPlate = errors.New("there is no such drawing")

// PlatesDigest is another where drawings would come out otherwise.
func (b *Book) PlatesDigest() string { return plate.Version + "-" + b.shelf.Load().flora.Digest }

// DrawPlate draws a taxon. It gives [ErrNoTaxon] where there is none.
func (b *Book) DrawPlate(a *PlateAsked) (*Picture, error) {
	sh := b.shelf.Load()
	age, zone := flora.Age(slices.Index(flora.AgeWords, a.Age)), flora.Zone(slices.Index(flora.ZoneWords, a.Zone))
	return b.pictures.keep(fmt.Sprint(sh.flora.Digest, *a), func() (*Picture, error) {
		t, err := sh.handbook.Tree(a.Taxon, a.Region, age, zone, a.Odd)
		if err != nil {
			return nil, err
		}
		if t == nil {
			return nil, ErrNoTaxon
		}
		t.Marked = a.Marked
		return drawPlate(t, a.What, a.Zone, a.Theme)
	})
}

func drawPlate(t *plate.Tree, what, zone, theme string) (*Picture, error) {
	picture, kind, err := drawings.Draw(t, what, zone, theme)
	return &Picture{kind, picture}, err
}

// DrawScored draws a tree of the book as it was scored: what was not scored is faint.
func (b *Book) DrawScored(ctx context.Context, tree, what, theme string, marked []string) (*Picture, error) {
	s, err := b.readable(ctx, b.store.Reader, tree)
	if err != nil {
		return nil, err
	}
	defer s.close()
	t := scoredTree(tree, s, s.drawn(s.weighed.Result(answer.Options{})))
	t.Marked = marked
	return drawPlate(t, what, flora.ZoneWords[flora.Breast], theme)
}

// scoredTree is a tree of the book, to be drawn from what was scored.
func scoredTree(id string, s *sheet, own []DrawnFrom) *plate.Tree {
	values := each(own, func(d DrawnFrom) handbook.PlateValue { return handbook.PlateValue(d) })
	return &plate.Tree{Name: id, English: s.tree.Tag, Shows: handbook.ShowsOf(values), Build: plate.OrdinaryBuild, Height: 15,
		Age: cmp.Or(s.log.Facts.Age, flora.AgeWords[flora.Mature])}
}

// DrawState draws a state of a character, small.
func (b *Book) DrawState(character, state, theme string) (*Picture, error) {
	return b.pictures.keep(fmt.Sprint("state ", character, " ", state, " ", theme), func() (*Picture, error) {
		t, err := tile.Draw(character, state, theme)
		if err != nil {
			return nil, err
		}
		if t == nil {
			return nil, ErrNoPlate
		}
		return &Picture{t.Kind, t.Body}, nil
	})
}

// pictures keeps drawings that were made: as many as a page of the whole flora shows.
type pictures struct {
	mu    sync.Mutex
	kept  map[string]*Picture
	bytes int
}

// mostPictures is how much of them is kept, in bytes.
const mostPictures = 48 << 20

// keep gives a drawing that is kept, or draws it.
func (p *pictures) keep(key string, draw func() (*Picture, error)) (*Picture, error) {
	p.mu.Lock()
	kept := p.kept[key]
	p.mu.Unlock()
	if kept != nil {
		return kept, nil
	}
	made, err := draw()
	if err != nil {
		return nil, err
	}
	p.mu.Lock()
	defer p.mu.Unlock()
	for other, old := range p.kept { // any will do: what is asked for again is drawn again
		if p.bytes+len(made.Body) <= mostPictures {
			break
		}
		delete(p.kept, other)
		p.bytes -= len(old.Body)
	}
	if p.kept == nil {
		p.kept = map[string]*Picture{}
	}
	p.kept[key] = made
	p.bytes += len(made.Body)
	return made, nil
}
