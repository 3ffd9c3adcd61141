package book

import (
	"context"
	"fmt"
	"strconv"

	"palethicket/core/weigh/ranking"
	"palethicket/store"
)

// Bars are the chances that names must reach.
type Bars struct {
	Named    []Bar   `json:"named" doc:"What names a tree, by rank, the finest first"`
	Probably float64 `json:"probably" doc:"From when a name is probable"`
	Least    float64 `json:"least" doc:"The least that this can be"`
	Most     float64 `json:"most"`
	Usual    float64 `json:"usual" doc:"What it is unless somebody says otherwise"`
}

// Bar is what a name of one rank must reach.
type Bar struct {
	Rank  string  `json:"rank"`
	Words string  `json:"words"`
	P     float64 `json:"p"`
}

// probableSetting is where it is kept from when a name is probable.
const probableSetting = "probably from"

// Bars gives those of the book.
func (b *Book) Bars() Bars {
	bars := b.shelf.Load().engine.Bars
	out := Bars{Probably: bars.Probable, Least: ranking.LeastProbable, Most: ranking.MostProbable, Usual: ranking.DefaultBars.Probable}
	for _, rank := range []ranking.Rank{ranking.Species, ranking.Group, ranking.Genus, ranking.Family} {
		out.Named = append(out.Named, Bar{string(rank), "to " + string(rank), bars.Of(rank)})
	}
	return out
}

// bars reads them as they are kept.
func (b *Book) bars(ctx context.Context) (ranking.Bars, error) {
	bars := ranking.DefaultBars
	text, err := b.store.Setting(ctx, probableSetting)
	if err != nil || text == "" {
		return bars, err
	}
	if bars.Probable, err = strconv.ParseFloat(text, 64); err != nil {
		return bars, fmt.Errorf("reading from when a name is probable: %w", err)
	}
	return bars, nil
}

// ErrAwayBars is given where a device would change what is agreed at home.
var ErrAwayBars = &FieldError{"probably", "what names must reach is set at home, for everybody; change it there"}

// PutProbably says from when a name is probable, for everybody who works in the book. How
// its trees then stand is worked out meanwhile: see [Book.Weighing].
func (b *Book) PutProbably(ctx context.Context, from float64) error {
	switch {
	case b.away:
		return ErrAwayBars
	case !canBeProbable(from):
		return &FieldError{"probably", fmt.Sprintf("want a chance from %.2f to %.2f: with less two names could be "+
			"probable at once, with more nothing would lie short of a name", ranking.LeastProbable, ranking.MostProbable)}
	}
	return b.putProbably(ctx, from)
}

// HearProbably takes over on a device from when a name is probable at home.
func (b *Book) HearProbably(ctx context.Context, from float64) error {
	if from == b.Bars().Probably || !canBeProbable(from) { // an older home says nothing of it
		return nil
	}
	return b.putProbably(ctx, from)
}

// canBeProbable says whether names can be probable from there.
func canBeProbable(from float64) bool {
	return from >= ranking.LeastProbable && from <= ranking.MostProbable
}

func (b *Book) putProbably(ctx context.Context, from float64) error {
	b.lists.Lock()
	defer b.lists.Unlock()
	err := b.store.Write(ctx, func(tx *store.Tx) error {
		return tx.PutSetting(ctx, probableSetting, strconv.FormatFloat(from, 'f', 2, 64))
	})
	if err != nil {
		return err
	}
	return b.reread(ctx)
}
