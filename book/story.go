package book

import (
	"context"
	"errors"
	"slices"
	"time"

	"palethicket/core/stand/worklist"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
	"palethicket/core/weigh/ranking"
	"palethicket/store"
)

// Story is a tree's log, each entry with how the tree stood after it.
type Story struct {
	Tree     Tree          `json:"tree"`
	Facts    Facts         `json:"facts"`
	Readings []ReadingView `json:"readings" doc:"What was measured, with its readings"`
	Fault    string        `json:"fault" doc:"Why the tree cannot be read with this flora, or empty"`
	Steps    []Step        `json:"steps" doc:"Oldest first"`
	Visits   []Visit       `json:"visits" doc:"Visits on which it was looked at, oldest first"`
	Step     string        `json:"step,omitempty" enum:"named,probably,not-yet" doc:"How sure the last name given is; absent: none is"`
	Doubt    string        `json:"doubt" doc:"Why the evidence does not carry the last name given, or empty"`
	Taxa     []Ranked      `json:"taxa" doc:"Those that led at some time, with what they hold now; each step's posteriors are ordered alike"`
}

// Step is one entry, in words, and how the tree stood after it.
type Step struct {
	Entry      string    `json:"entry"`
	Kind       string    `json:"kind"`
	At         time.Time `json:"at"`
	Said       string    `json:"said,omitempty" doc:"When the device's clock said it was, where that was ahead"`
	By         string    `json:"by"`
	Visit      string    `json:"visit,omitempty" doc:"look: id of its visit"`
	Words      string    `json:"words"`
	Stands     bool      `json:"stands" doc:"Not taken back or scored again since"`
	Gone       bool      `json:"gone" doc:"A look, score or name that does not stand any more"`
	Undo       bool      `json:"undo" doc:"A further entry can undo it"`
	Named      Name      `json:"named"`
	Leads      string    `json:"leads" doc:"How the tree stood after it, in words; empty: as before"`
	Posteriors []float64 `json:"posteriors" doc:"Of each of the story's taxa"`
	Name       *Naming   `json:"name,omitempty" doc:"name: what was given"`
	Then       string    `json:"then,omitempty" doc:"name: what the evidence gave it then, in words"`
	NameStep   string    `json:"step,omitempty" enum:"named,probably,not-yet" doc:"name that stands: how sure it is now"`
	Flag       string    `json:"flag,omitempty" doc:"name: how the evidence now falls short of it"`
}

// Story tells how a tree came to be called what it is. Tree, log and visits are read
// as they are at one moment.
func (b *Book) Story(ctx context.Context, id string) (story *Story, err error) {
	snap, err := b.store.LongSnapshot(ctx)
	if err != nil {
		return nil, err
	}
	defer func() { err = errors.Join(err, snap.Close()) }()
	s, err := b.read(ctx, snap.Reader, id)
	if err != nil {
		return nil, err
	}
	defer s.close()
	visits, err := snap.VisitsOf(ctx, id)
	if err != nil {
		return nil, err
	}
	out := &Story{Tree: treeOf(&s.tree), Facts: s.facts(), Readings: s.readings(), Steps: []Step{}, Visits: []Visit{}, Taxa: []Ranked{}}
	if s.fault != nil {
		out.Fault = s.fault.Error()
	}
	return out, s.tell(ctx, out, visits)
}

// tell goes through the log, weighing the tree after each entry that can change how
// it stands.
func (s *sheet) tell(ctx context.Context, out *Story, visits map[string]store.Visit) error {
	stands := s.log.Stand()
	var last *answer.Result
	rankings := make([][]answer.Ranked, 0, len(s.log.Entries))
	so := soFar{sheet: s, log: logbook.NewLog(nil), following: s.engine.Follow()}
	defer so.following.Close()
	for i := range s.log.Entries {
		if err := ctx.Err(); err != nil {
			return err
		}
		e := &s.log.Entries[i]
		if res := so.add(e); res != nil {
			last = res
		}
		step := s.step(e, stands)
		if v, ok := visits[e.ID]; ok {
			step.Visit = v.ID
			if !slices.ContainsFunc(out.Visits, func(o Visit) bool { return o.ID == v.ID }) {
				out.Visits = append(out.Visits, visitOf(v))
			}
		}
		var ranking []answer.Ranked
		if last != nil {
			ranking = last.Ranking
			step.Named, step.Leads = named(&last.Named), s.leads(e.Kind, last)
			if e.Kind == logbook.KindScore && !slices.ContainsFunc(out.Taxa, func(r Ranked) bool { return r.Taxon == ranking[0].Taxon }) {
				out.Taxa = append(out.Taxa, ranked(ranking[0]))
			}
		}
		rankings = append(rankings, ranking)
		out.Steps = append(out.Steps, step)
	}
	out.fill(rankings)
	s.flag(out)
	return nil
}

// soFar is the log as far as it is told, and the tree as it then stood.
type soFar struct {
	*sheet
	log       *logbook.Log
	following *answer.Following
	rec       *record.Record
}

// add adds an entry, and gives how the tree stands after one that can change it, or
// nil.
func (so *soFar) add(e *logbook.Entry) *answer.Result {
	so.log.Add(*e)
	if so.rec != nil && !weighs(e.Kind) {
		return nil
	}
	changed := -1
	if e.Kind == logbook.KindScore && so.rec != nil {
		changed = slices.IndexFunc(so.log.Looks, func(l logbook.Look) bool { return l.ID == e.Look })
	}
	if changed >= 0 {
		so.rec.Looks[changed] = so.log.Looks[changed].Record()
	} else {
		so.rec = so.log.Record(so.tree.Tag, so.tree.Started())
	}
	res, err := so.following.Step(so.rec)
	if err != nil {
		return nil // it stays as it stood before
	}
	return res
}

func (s *sheet) step(e *logbook.Entry, stands map[string]bool) Step {
	st := Step{
		Entry:  e.ID,
		Kind:   string(e.Kind),
		At:     s.log.At(e),
		Said:   e.Said,
		By:     e.By,
		Words:  s.log.Words(s.flora, e),
		Stands: stands[e.ID],
	}
	switch e.Kind {
	case logbook.KindStart:
	case logbook.KindScore: // one that was scored over stands again once that is undone
		st.Undo, st.Gone = st.Stands, !st.Stands
	default:
		st.Undo, st.Gone = st.Stands, !st.Stands
	}
	if e.Name != nil {
		st.Name = (*Naming)(e.Name)
		if !undetermined(e.Name.Rank) {
			p := s.reckoned(e).Posterior
			st.Then = "The evidence then gave it " + answer.Percent(p) + "."
			if s.engine.Bars.Step(rankOf(e.Name.Rank), p) == ranking.Probably {
				st.Then = "Probably: the evidence then gave it " + answer.Percent(p) + "."
			}
		}
	}
	return st
}

// leads says how the tree stood after an entry that can change it.
func (s *sheet) leads(kind logbook.Kind, res *answer.Result) string {
	if kind == logbook.KindLook || kind == logbook.KindNote {
		return ""
	}
	return res.Says
}

// fill fills in what each of the story's taxa held after each step, and now.
func (s *Story) fill(rankings [][]answer.Ranked) {
	at := make(map[string]int, len(s.Taxa))
	for i, t := range s.Taxa {
		at[t.Taxon] = i
	}
	for i, ranking := range rankings {
		held := make([]float64, len(s.Taxa))
		for _, r := range ranking {
			if t, ok := at[r.Taxon]; ok {
				held[t] = r.Posterior
			}
		}
		s.Steps[i].Posteriors = held
		for t := range s.Taxa {
			s.Taxa[t].Posterior = held[t]
		}
	}
}

// flag says of each name that stands what the evidence now says against it.
func (s *sheet) flag(out *Story) {
	if s.weighed == nil {
		return
	}
	for i := range out.Steps {
		if st := &out.Steps[i]; st.Name != nil && st.Stands {
			step, flag := worklist.Carried(&s.log.State, s.weighed, (*logbook.Naming)(st.Name))
			st.NameStep, st.Flag = string(step), flag
			out.Step, out.Doubt = st.NameStep, flag
		}
	}
}
