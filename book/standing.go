package book

import (
	"context"
	"errors"
	"fmt"
	"runtime"
	"sync"
	"time"

	"palethicket/core/flora"
	"palethicket/core/stand/composition"
	"palethicket/core/stand/worklist"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
	"palethicket/core/weigh/ranking"
	"palethicket/store"
)

const dbh = "form.dbh"

func rankOf(word string) ranking.Rank { return ranking.Rank(word) }

// standing is where the tree stands in lists. One that cannot be weighed is listed
// as unreadable, with why.
func (s *sheet) standing() *store.Standing {
	among := s.among()
	f := &s.log.Facts
	st := &store.Standing{Region: among.Region, List: among.List, Basis: s.basis[flora.Among(among)], Looks: len(s.log.Looks),
		Age: f.Age, Vigour: f.Vigour, Remarks: f.Remarks, Height: f.Height, Aside: f.Aside}
	if !s.log.Last.IsZero() {
		st.Last = s.log.Last.Format(time.RFC3339Nano)
	}
	if p := f.Position; p != nil {
		st.Lon, st.Lat = &p.Lon, &p.Lat
	}
	if s.fault != nil {
		st.Status, st.Doubt = worklist.Unreadable, s.fault.Error()
		return st
	}
	res := s.weighed.Result(answer.Options{Next: answer.Foreseen})
	st.NamedRank, st.Named, st.NamedWords, st.NamedPosterior = string(res.Named.Rank), res.Named.Name, res.Named.Words, res.Named.Posterior
	st.Leader, st.LeaderPosterior, st.Second = res.Ranking[0].Taxon, res.Ranking[0].Posterior, res.Ranking[1].Taxon
	for _, r := range res.Ranking {
		if r.Posterior >= worklist.Counts {
			st.Posteriors = append(st.Posteriors, store.TaxonPosterior{Taxon: r.Taxon, P: r.Posterior})
		}
	}
	st.Candidates = worklist.Candidates(res.Ranking)
	s.standLooks(st, res)
	s.standName(st)
	st.Status = worklist.Case{
		Given:     rankOf(st.GivenRank),
		Doubt:     st.Doubt,
		Strangers: st.Doubts,
		Scores:    st.Scores,
		Carried:   res.Named.Rank,
	}.Status()
	return st
}

func (s *sheet) standLooks(st *store.Standing, res *answer.Result) {
	for i, l := range s.log.Looks {
		st.Scores += len(l.Scores)
		if res.Looks[i].Stranger {
			st.Doubts++
		}
	}
	if stem, ok := s.log.Measured(dbh); ok {
		st.DBH = record.Centimetres(&stem)
		st.Area = composition.BasalArea(st.DBH)
	}
	if len(res.Next) > 0 {
		n := res.Next[0]
		st.NextCharacter, st.NextFrom, st.NextBits, st.NextSeconds = n.Character, n.From, n.Bits, n.Seconds
		st.NextReach = s.flora.Character(n.Character).Reach
	}
}

func (s *sheet) standName(st *store.Standing) {
	if g := s.log.Name(); g != nil {
		st.GivenRank, st.Given, st.GivenBy, st.GivenPosterior = g.Rank, g.Name, g.By, g.Posterior
		st.GivenAt = g.At.Format(time.RFC3339Nano)
		st.Doubt = s.doubt(&g.Naming)
	}
}

// doubt says why the evidence does not carry a name, or "".
func (s *sheet) doubt(n *logbook.Naming) string {
	if s.weighed == nil {
		return ""
	}
	return worklist.Doubt(&s.log.State, s.weighed, n)
}

// stalePage is how many standings are written in one transaction.
const stalePage = 200

// WeighStale works out every standing that is missing or of another flora, a page of
// trees at a time, and says how it goes on. Nothing is weighed while others wait to
// write; a tree that was changed meanwhile has its standing from that.
func (b *Book) WeighStale(ctx context.Context, progress func(done, left int)) error {
	sh := b.shelf.Load()
	var basis []store.Basis
	for among, digest := range sh.basis {
		basis = append(basis, store.Basis{Region: among.Region, List: among.List, Digest: digest})
	}
	after := ""
	for done := 0; ; {
		ids, left, err := b.store.Stale(ctx, basis, after, stalePage)
		if err != nil || len(ids) == 0 {
			return err
		}
		if err := b.weighPage(ctx, ids); err != nil {
			return err
		}
		after, done = ids[len(ids)-1], done+len(ids)
		progress(done, left-len(ids))
	}
}

func (b *Book) weighPage(ctx context.Context, ids []string) error {
	sheets := make([]*sheet, len(ids))
	snap, err := b.store.Snapshot(ctx)
	if err != nil {
		return err
	}
	for i, id := range ids {
		if sheets[i], err = b.open(ctx, snap.Reader, id); err != nil {
			return errors.Join(err, snap.Close())
		}
	}
	if err := snap.Close(); err != nil {
		return err
	}
	standings := standAll(sheets)
	return b.store.Write(ctx, func(tx *store.Tx) error {
		for i, s := range sheets {
			if err := tx.KeepStanding(ctx, &s.tree, standings[i]); err != nil && !errors.Is(err, store.ErrChanged) {
				return err
			}
		}
		return nil
	})
}

// standAll works out where trees stand, by as many goroutines as there are
// processors.
func standAll(sheets []*sheet) []*store.Standing {
	out := make([]*store.Standing, len(sheets))
	var wg sync.WaitGroup
	workers := min(len(sheets), runtime.GOMAXPROCS(0))
	for w := range workers {
		wg.Go(func() {
			for i := w; i < len(sheets); i += workers {
				sheets[i].weigh()
				out[i] = sheets[i].standing()
				sheets[i].close()
			}
		})
	}
	wg.Wait()
	return out
}

// FindUnreadable looks which trees of the book at path cannot be read with a flora.
// Nothing is changed. A book from an older program gives [store.ErrOlder].
func FindUnreadable(ctx context.Context, path string, f *flora.Flora) (found []*store.Unreadable, err error) {
	err = store.ReadAlone(ctx, path, func(r store.Reader) error {
		lists, err := r.Lists(ctx)
		if err != nil {
			return err
		}
		own, err := f.With(lists...)
		if err != nil {
			return fmt.Errorf("reading the book's lists: %w", err)
		}
		ids, err := r.TreeIDs(ctx)
		if err != nil {
			return err
		}
		for _, id := range ids {
			t, log, err := r.Log(ctx, id)
			var unreadable *store.Unreadable
			if errors.As(err, &unreadable) {
				found = append(found, unreadable)
				continue
			}
			if err != nil {
				return err
			}
			if _, err := record.Resolve(own, logbook.Replay(log).Record(t.Tag, t.Started())); err != nil {
				found = append(found, &store.Unreadable{Tag: t.Tag, Err: err})
			}
		}
		return nil
	})
	return found, err
}
