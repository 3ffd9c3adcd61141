package book

import (
	"cmp"
	"fmt"
	"slices"
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
	basis, _ := s.basis.of(flora.Among(among)) // without one it counts as stale, and who weighs those says what is wrong
	st := &store.Standing{Region: among.Region, List: among.List, Basis: basis, Looks: len(s.log.Looks),
		Age: f.Age, Vigour: f.Vigour, Remarks: f.Remarks, Height: f.Height, Aside: f.Aside}
	if !s.log.Last.IsZero() {
		st.Last = s.log.Last.Format(time.RFC3339Nano)
	}
	if p := f.Position; p != nil {
		st.Lon, st.Lat = &p.Lon, &p.Lat
	}
	res := s.foreseen()
	if res == nil {
		st.Status, st.Doubt = worklist.Unreadable, s.fault.Error()
		return st
	}
	st.NamedRank, st.Named, st.NamedWords, st.NamedPosterior = string(res.Named.Rank), res.Named.Name, res.Named.Words, res.Named.Posterior
	st.ProbableRank, st.Probable, st.ProbablePosterior = string(res.Probably.Rank), res.Probably.Name, res.Probably.Posterior
	st.Leader, st.LeaderPosterior, st.Second = res.Ranking[0].Taxon, res.Ranking[0].Posterior, res.Ranking[1].Taxon
	st.Posteriors, st.Common, st.Alike = res.posteriors, res.common, res.alike
	st.Candidates = worklist.Candidates(res.Ranking)
	s.standLooks(st, res.Result)
	s.standName(st)
	st.Status = worklist.Case{
		Given:     rankOf(st.GivenRank),
		Step:      ranking.Step(st.GivenStep),
		Strangers: st.Doubts,
		Scores:    st.Scores,
		Carried:   res.Named.Rank,
		Probable:  res.Probably.Rank,
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
		st.GivenRank, st.Given, st.GivenBy, st.GivenPosterior = g.Rank, g.Name, g.By, s.reckoned(s.log.Find(g.Entry)).Posterior
		st.GivenAt = g.At.Format(time.RFC3339Nano)
		step, doubt := s.carried()
		st.GivenStep, st.Doubt, st.GivenSeen = string(step), doubt, g.Seen
		if st.Scores > 0 && s.fault == nil {
			st.GivenNow, _ = s.weighed.Posterior(rankOf(g.Rank), g.Name) // of none of the trees listed: nothing
		}
	}
}

// reckoned is a name with how the tree stood when it was given. Of one that another book told
// that is worked out from what was entered before it.
func (s *sheet) reckoned(e *logbook.Entry) logbook.Naming {
	n := *e.Name
	if n.Leader != "" {
		return n
	}
	before, _ := slices.BinarySearchFunc(s.log.Entries, *e, logbook.Order)
	then := &sheet{shelf: s.shelf, tree: s.tree, log: logbook.NewLog(s.log.Entries[:before])}
	defer then.close()
	if then.weigh(); then.fault == nil {
		_ = then.stood(&n) // of a name that is none of the trees listed the evidence says nothing
	}
	return n
}

// apart is another name than the last, given where neither could be seen by whoever gave
// the other; nil: there is none.
func (s *sheet) apart() *logbook.Given {
	last := s.log.Name()
	for _, g := range s.log.Unknown() {
		if !s.flora.SameTree(last.Rank, last.Name, g.Rank, g.Name) {
			return g
		}
	}
	return nil
}

func (s *sheet) apartWords(other *logbook.Given) string {
	last := s.log.Name()
	return fmt.Sprintf("%s called it %s while %s called it %s, neither knowing of the other. Look again, and name it anew.",
		cmp.Or(last.By, "Somebody"), s.nameWords(last.Rank, last.Name), cmp.Or(other.By, "somebody"), s.nameWords(other.Rank, other.Name))
}

// carried says how sure the last name given is, and why it is in doubt, or "".
func (s *sheet) carried() (step ranking.Step, doubt string) {
	n := &s.log.Name().Naming
	if other := s.apart(); other != nil && n.Seen == "" {
		return ranking.NotYet, s.apartWords(other)
	}
	if s.weigh(); s.fault != nil { // what many trees have in common is not weighed for each
		return ranking.NotYet, ""
	}
	return worklist.Carried(&s.log.State, s.weighed, n)
}
