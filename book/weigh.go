package book

import (
	"fmt"
	"slices"
	"time"

	"palethicket/core/flora"
	"palethicket/core/stand/composition"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
	"palethicket/core/weigh/ranking"
	"palethicket/store"
)

// The statuses of a tree; see [store.Standing].
const (
	StatusNamed    = "named"
	StatusDoubtful = "doubtful"
	StatusReady    = "ready"
	StatusOpen     = "open"
	StatusUnscored = "unscored"
)

// Statuses lists them.
var Statuses = []string{StatusNamed, StatusDoubtful, StatusReady, StatusOpen, StatusUnscored}

const (
	// counts is the posterior from which a taxon is kept in a standing.
	counts = 0.002
	// candidate is the posterior from which a taxon is still in it.
	candidate = 0.05
	// unlistedTaxon is the hypothesis outside the pool.
	unlistedTaxon = "unlisted"
	dbh           = "form.dbh"
)

// weigh works out where a tree stands after its log.
func (b *Book) weigh(t store.Tree, log []logbook.Entry) (*store.Standing, error) {
	shelf := b.Shelf()
	state := logbook.Replay(log)
	rec := state.Record(t.Tag, t.Region)
	res, err := shelf.Engine.Identify(rec, answer.Options{Next: 1})
	if err != nil {
		return nil, fmt.Errorf("weighing tree %s: %w", t.Tag, err)
	}
	st := &store.Standing{Basis: shelf.basis[rec.Region], Pool: rec.Region, NamedRank: string(res.Named.Rank), Named: res.Named.Name,
		NamedWords: res.Named.Words, NamedPosterior: res.Named.Posterior, Looks: len(state.Looks),
		Leader: res.Ranking[0].Taxon, LeaderShare: res.Ranking[0].Posterior, Second: res.Ranking[1].Taxon,
		Age: state.Facts.Age, Vigour: state.Facts.Vigour, Remarks: state.Facts.Remarks, Height: state.Facts.Height, Aside: state.Facts.Aside}
	if !state.Last.IsZero() {
		st.Last = state.Last.Format(time.RFC3339Nano)
	}
	if p := state.Facts.Position; p != nil {
		st.Lon, st.Lat = &p.Lon, &p.Lat
	}
	b.weighShares(st, res)
	b.weighLooks(st, state, res)
	b.weighNext(st, shelf.Flora, res)
	if g := state.Name(); g != nil {
		st.GivenRank, st.Given, st.GivenBy, st.GivenPosterior = g.Rank, g.Name, g.By, g.Posterior
		st.GivenAt = g.At.Format(time.RFC3339Nano)
		st.Doubt = shelf.doubt(state, res, rec.Region, &g.Naming)
	}
	st.Status = status(st)
	return st, nil
}

func (b *Book) weighShares(st *store.Standing, res *answer.Result) {
	for _, r := range res.Ranking {
		if r.Posterior >= counts {
			st.Shares = append(st.Shares, store.TaxonShare{Taxon: r.Taxon, P: r.Posterior})
		}
		if r.Posterior >= candidate && r.Taxon != unlistedTaxon {
			st.Candidates = append(st.Candidates, r.Taxon)
		}
	}
}

func (b *Book) weighLooks(st *store.Standing, state *logbook.State, res *answer.Result) {
	for i, l := range state.Looks {
		st.Scores += len(l.Scores)
		if res.Looks[i].Stranger {
			st.Doubts++
		}
	}
	if s, ok := state.Measured(dbh); ok {
		st.DBH = record.Centimetres(&s)
		st.Area = composition.BasalArea(st.DBH)
	}
}

func (b *Book) weighNext(st *store.Standing, f *flora.Flora, res *answer.Result) {
	if len(res.Next) == 0 {
		return
	}
	n := res.Next[0]
	st.NextCharacter, st.NextFrom, st.NextBits, st.NextSeconds = n.Character, n.From, n.Bits, n.Seconds
	st.NextReach = f.Character(n.Character).Reach
}

// doubt says why the evidence does not carry a name. A tree that nobody scored but
// for its size, as one from an older inventory, stands on its namer's word:
// nothing speaks against it.
func (s *Shelf) doubt(state *logbook.State, res *answer.Result, region string, n *logbook.Naming) string {
	for _, l := range state.Looks {
		for _, sc := range l.Scores {
			if sc.Character != dbh {
				return s.Engine.NameDoubt(res, region, n.Rank, n.Name)
			}
		}
	}
	return ""
}

// status sums a standing up in one word.
func status(st *store.Standing) string {
	settled := slices.Contains([]string{string(ranking.Species), string(ranking.Group), string(ranking.Genus), string(ranking.Family)}, st.GivenRank)
	switch {
	case settled && st.Doubt == "" && st.Doubts == 0:
		return StatusNamed
	case settled, st.Doubts > 0:
		return StatusDoubtful
	case st.Scores == 0:
		return StatusUnscored
	case st.NamedRank == string(ranking.Species):
		return StatusReady
	}
	return StatusOpen
}
