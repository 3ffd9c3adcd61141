package book

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"time"

	"palethicket/core/flora"
	"palethicket/core/label"
	"palethicket/core/practice"
	"palethicket/store"
)

// Errors of decks; who gives them.
var (
	ErrNoDeck       = store.ErrNoDeck          // whatever is asked of one
	ErrTooFew       = practice.ErrTooFew       // AskCard, PutDeck
	ErrNothingDrawn = practice.ErrNothingDrawn // AskCard, PutDeck
	// ErrNothingGrows is given for a deck of a stand in which nothing is known to grow.
	ErrNothingGrows = errors.New("by the book nothing grows in that stand yet: take a list, or score some of its trees")
	// ErrCrewsDeck is given to who is no lead, for a deck that is the crew's.
	ErrCrewsDeck = errors.New("a deck of the crew is set by a lead")
)

// KeptDeck is what somebody, or the crew, wants to be able to name by a day.
type KeptDeck struct {
	ID   string `json:"id" minLength:"26" maxLength:"26" doc:"ULID, made by who sets it"`
	Name string `json:"name" minLength:"1" maxLength:"80"`
	Among
	Tract string   `json:"tract,omitempty" doc:"With a stand: what grows there"`
	Stand string   `json:"stand,omitempty" doc:"What grows in it by the book"`
	Taxa  []string `json:"taxa,omitempty" maxItems:"400" doc:"These, by scientific name; absent: all"`
	Until string   `json:"until,omitempty" doc:"Day by which they are to be known, as 2026-12-31"`
	Crew  bool     `json:"crew" doc:"Set by a lead for the whole crew"`
	By    string   `json:"by,omitempty" maxLength:"80"`
}

// Decks lists somebody's own decks and the crew's.
func (b *Book) Decks(ctx context.Context, by string) ([]KeptDeck, error) {
	kept, err := b.store.Decks(ctx)
	if err != nil {
		return nil, err
	}
	out := []KeptDeck{}
	for i := range kept {
		d, err := deckOf(&kept[i])
		if err != nil {
			return nil, err
		}
		if d.Crew || d.By == by {
			out = append(out, *d)
		}
	}
	return out, nil
}

func deckOf(kept *store.Deck) (*KeptDeck, error) {
	d := &KeptDeck{}
	if err := json.Unmarshal([]byte(kept.Body), d); err != nil {
		return nil, fmt.Errorf("reading deck %s: %w", kept.ID, err)
	}
	d.ID, d.By = kept.ID, kept.By
	return d, nil
}

// PutDeck keeps a deck once it has cards.
func (b *Book) PutDeck(ctx context.Context, d KeptDeck, by string, lead bool) error {
	if err := checkID(d.ID); err != nil {
		return err
	}
	if err := cleanNames(nameField{"name", &d.Name, label.NameMost}); err != nil {
		return err
	}
	if d.Until != "" {
		if err := checkDay("until", d.Until); err != nil {
			return err
		}
	}
	if d.Crew && !lead {
		return ErrCrewsDeck
	}
	if was, err := b.store.Deck(ctx, d.ID); err == nil && was.By != by && !lead {
		return ErrNoDeck
	}
	for _, name := range d.Taxa {
		if b.Flora().Taxon(name) == nil {
			return &FieldError{"taxa", fmt.Sprintf("the flora has no %q", name)}
		}
	}
	tried := &Deck{Among: d.Among, Kinds: []string{"twig", "bark"}, Tract: d.Tract, Stand: d.Stand, Taxa: d.Taxa}
	if _, _, err := b.cards(ctx, tried); err != nil {
		return err
	}
	d.By = by
	text, err := json.Marshal(d)
	if err != nil {
		return err
	}
	return b.store.Write(ctx, func(tx *store.Tx) error { return tx.PutDeck(ctx, &store.Deck{ID: d.ID, By: by, Body: string(text)}) })
}

// DropDeck removes a deck: one's own, or, for a lead, the crew's. What was practised stays.
func (b *Book) DropDeck(ctx context.Context, id, by string, lead bool) error {
	kept, err := b.store.Deck(ctx, id)
	if err != nil {
		return err
	}
	d, err := deckOf(&kept)
	if err != nil {
		return err
	}
	if d.By != by && !(d.Crew && lead) {
		return ErrNoDeck
	}
	return b.store.Write(ctx, func(tx *store.Tx) error { return tx.DropDeck(ctx, id) })
}

// cards are those of a deck.
func (b *Book) cards(ctx context.Context, d *Deck) (flora.Among, []practice.Card, error) {
	sh, teacher := b.teacher()
	among, err := sh.flora.Among(d.Region, d.List)
	if err != nil {
		return among, nil, amongError(err)
	}
	only := d.Taxa
	if d.Stand != "" {
		grows, err := b.Composition(ctx, d.Tract, d.Stand)
		if err != nil {
			return among, nil, err
		}
		for _, s := range grows.Shares {
			if s.Stems >= growsThere && sh.flora.Taxon(s.Taxon) != nil {
				only = append(slices.Clip(only), s.Taxon)
			}
		}
		if len(only) == 0 {
			return among, nil, ErrNothingGrows
		}
	}
	cards, err := teacher.Deck(among, d.Kinds, only)
	return among, cards, err
}

// growsThere is how many stems must be expected for a tree to be one that grows in a stand.
const growsThere = 0.5

// PracticeOf is what somebody who shares it shows of their practice.
type PracticeOf struct {
	Name string    `json:"name"`
	Last time.Time `json:"last" doc:"When they last practised"`
	Practised
}

// SharePractice has somebody's figures shown to the leads, or no longer.
func (b *Book) SharePractice(ctx context.Context, by string, shared bool) error {
	return b.store.Write(ctx, func(tx *store.Tx) error { return tx.SharePractice(ctx, by, shared) })
}

// SharedPractice gives the figures of those who share them.
func (b *Book) SharedPractice(ctx context.Context) ([]PracticeOf, error) {
	names, err := b.store.SharedPractice(ctx)
	if err != nil {
		return nil, err
	}
	out := []PracticeOf{}
	for _, name := range names {
		f, err := b.Practised(ctx, name, 0)
		if err != nil {
			return nil, err
		}
		out = append(out, PracticeOf{Name: name, Last: f.last, Practised: *f})
	}
	return out, nil
}
