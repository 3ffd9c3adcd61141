package book

import (
	"cmp"
	"context"
	"errors"
	"fmt"

	"palethicket/core/flora"
	"palethicket/core/key"
	"palethicket/core/tree/answer"
)

// Key is a printed key.
type Key = key.Key

// DrawState draws a state of a character small: its media type and the drawing; nil: it has none.
type DrawState = func(character, state string) (kind string, body []byte)

// KeyTaste is one that keys come in.
type KeyTaste struct {
	ID    string `json:"id"`
	Words string `json:"words"`
}

// KeyTastes lists them.
func KeyTastes() []KeyTaste {
	return each(key.Tastes, func(t key.Taste) KeyTaste { return KeyTaste{t.ID, t.Words} })
}

// KeyAsked is what a key is asked for: the trees of a list or region, or of a stand or tract as they are
// likely to grow there, or what one tree could still be.
type KeyAsked struct {
	Region, List string
	Tract, Stand string // of the book; the list is then what the home region has
	Tree         string // id
	Taste, Genus string
	Age          string // young, mature, old or any; empty: of a tree its own, else mature
}

// The least that something must be likely to be in a key of a stand (of a stem) or of a tree.
const (
	keyStems = 0.1
	keyLeast = 0.005
)

// Key makes one.
func (b *Book) Key(ctx context.Context, a KeyAsked) (*Key, error) {
	sh := b.shelf.Load()
	asked := key.Asked{Taste: a.Taste, Genus: a.Genus, Age: a.Age}
	among, err := sh.flora.Among(a.Region, a.List)
	if err != nil {
		return nil, amongError(err)
	}
	asked.Among = among
	switch {
	case a.Tree != "":
		err = b.keyOfTree(ctx, a.Tree, &asked)
	case a.Tract != "":
		err = b.keyOfStand(ctx, a.Tract, a.Stand, &asked)
	}
	if err != nil {
		return nil, err
	}
	if a.Taste == "genus" && a.Genus == "" {
		return nil, &FieldError{"genus", "say which genus, as Quercus"}
	}
	k, err := key.New(ctx, sh.flora, asked)
	switch {
	case errors.Is(err, key.ErrAge):
		return nil, &FieldError{"age", err.Error()}
	case errors.Is(err, key.ErrTaste):
		return nil, &FieldError{"taste", err.Error()}
	case errors.Is(err, key.ErrNobody):
		return nil, &FieldError{"list", err.Error()}
	}
	return k, err
}

// keyOfTree asks for a key of what a tree could still be.
func (b *Book) keyOfTree(ctx context.Context, id string, asked *key.Asked) error {
	s, err := b.readable(ctx, b.store.Reader, id)
	if err != nil {
		return err
	}
	defer s.close()
	among := s.among()
	asked.Among = flora.Among{Region: among.Region, List: among.List}
	asked.Title = fmt.Sprintf("Key to what %s could still be", s.tree.Tag)
	asked.Age = cmp.Or(asked.Age, s.log.Facts.Age)
	for _, l := range s.log.Looks {
		for i := range l.Scores {
			asked.But = append(asked.But, l.Scores[i].Character)
		}
	}
	asked.Weights = map[string]float64{}
	for _, r := range s.weighed.Result(answer.Options{}).Ranking {
		if r.Posterior >= keyLeast && r.Taxon != answer.Unlisted {
			asked.Names = append(asked.Names, r.Taxon)
			asked.Weights[r.Taxon] = r.Posterior
		}
	}
	return nil
}

// keyOfStand asks for a key of what grows in a stand or tract, by the evidence.
func (b *Book) keyOfStand(ctx context.Context, tract, stand string, asked *key.Asked) error {
	c, err := b.Composition(ctx, tract, stand)
	if err != nil {
		return err
	}
	where := tract
	if stand != "" {
		where = stand + ", " + tract
	}
	asked.Title = "Key to the leafless trees of " + where
	asked.Weights = map[string]float64{}
	sh := b.shelf.Load()
	p, err := sh.flora.Pool(flora.PoolKey{Among: asked.Among, Age: flora.At(flora.AnyAge)})
	if err != nil {
		return err
	}
	asked.Names = []string{}
	for _, s := range c.Shares {
		if _, listed := p.Find(s.Taxon); listed && s.Stems >= keyStems {
			asked.Names = append(asked.Names, s.Taxon)
			asked.Weights[s.Taxon] = s.Stems
		}
	}
	return nil
}
