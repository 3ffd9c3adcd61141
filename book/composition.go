package book

import (
	"context"
	"fmt"

	"palethicket/core/flora"
	"palethicket/core/stand/composition"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/logbook"
)

// Composition is what grows in a stand or a tract.
type Composition struct {
	Trees      int                 `json:"trees"`
	Determined int                 `json:"determined" doc:"Trees that carry a name nothing speaks against"`
	Measured   float64             `json:"area_m2" doc:"Basal area of the trees whose diameter was measured"`
	Shares     []composition.Share `json:"shares" doc:"By taxon, the most common first; the last may be 'unlisted'"`
	Note       string              `json:"note" doc:"What the intervals do and do not say"`
}

const compositionNote = "Each tree counts for every species by what the evidence gives it. The ranges hold the doubt about names only: " +
	"trees that nobody tagged are not counted, and a tree scored wrongly counts wrongly. Taxa under 0.2 % of a tree are left out."

// Composition adds up the trees of a stand, a tract or the whole book.
func (b *Book) Composition(ctx context.Context, tract, stand string) (*Composition, error) {
	n, area, sums, err := b.Store.Sums(ctx, tract, stand)
	if err != nil {
		return nil, err
	}
	out := &Composition{Trees: n, Measured: area, Note: compositionNote, Shares: composition.Shares(n, area, sums)}
	for i := range out.Shares {
		s := &out.Shares[i]
		out.Determined += s.Determined
		if t := b.Shelf().Flora.Taxon(s.Taxon); t != nil {
			s.English = t.English[0]
		} else {
			s.English = "something not listed"
		}
	}
	return out, nil
}

// Here is a tree ranked with its stand's own record as the prior.
type Here struct {
	Trees   int             `json:"trees" doc:"Other trees of the stand that the record counts"`
	Ranking []answer.Ranked `json:"ranking"`
	Note    string          `json:"note"`
}

const hereNote = "This ranking takes the other trees of the stand as what to expect, beside the flora's own abundances, which count for %d trees. " +
	"It helps where a stand is much of a kind, and it can make you see what you expect: a first tree of its kind needs more evidence to be believed. " +
	"Names and lists never use it."

// Here ranks a tree with its stand's own record, without itself, as the prior.
func (b *Book) Here(ctx context.Context, id string) (*Here, error) {
	t, log, err := b.tree(ctx, id)
	if err != nil {
		return nil, err
	}
	rec := logbook.Replay(log).Record(t.Tag, t.Region)
	res, err := b.engine().Identify(rec, answer.Options{})
	if err != nil {
		return nil, err
	}
	pool, err := b.Shelf().Flora.Pool(flora.PoolKey{Among: flora.Among{Region: rec.Region}, Age: flora.AnyAge, Flat: rec.Flat})
	if err != nil {
		return nil, err
	}
	n, own, err := b.Store.StandCounts(ctx, t)
	if err != nil {
		return nil, err
	}
	shares := map[string]float64{}
	for i, s := range pool.Model.Share() {
		shares[pool.Taxa[i].Name] = s
	}
	return &Here{Trees: n, Note: fmt.Sprintf(hereNote, composition.Concentration),
		Ranking: answer.Reweigh(res.Ranking, shares, composition.Here(shares, own))}, nil
}
