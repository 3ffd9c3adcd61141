package book

import (
	"context"
	"time"

	"palethicket/core/flora"
	"palethicket/core/practice"
	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
	"palethicket/core/weigh/ranking"
)

// EndWalk ends a walk: its account may be read.
func (b *Book) EndWalk(ctx context.Context, id, by string) error {
	kept, w, err := b.walkGoing(ctx, id, by, 1)
	if err != nil {
		return err
	}
	at := b.now().UTC().Format(time.RFC3339)
	return b.keepWalk(ctx, kept.ID, by, w, &at)
}

// WalkAccount is how a walk went.
type WalkAccount struct {
	ID      string       `json:"id"`
	Made    string       `json:"made"`
	Right   int          `json:"right"`
	Seconds int          `json:"seconds"`
	Best    int          `json:"best_seconds" doc:"That the core's own order would have taken"`
	Trees   []WalkedTree `json:"trees"`
}

// WalkedTree is how it went at one tree.
type WalkedTree struct {
	ID        string   `json:"id"`
	N         int      `json:"n"`
	Taxon     string   `json:"taxon" doc:"What it was"`
	English   string   `json:"english"`
	Named     string   `json:"named"`
	Verdict   string   `json:"verdict"`
	Words     string   `json:"words"`
	Carries   string   `json:"carries" doc:"How far what was looked at carries a name"`
	Seconds   int      `json:"seconds"`
	Best      int      `json:"best_seconds"`
	Order     []string `json:"order" doc:"The core's own order, in words"`
	BestName  string   `json:"best_name" doc:"What that would have named it"`
	Misread   []string `json:"misread"`
	Nothing   []string `json:"nothing" doc:"Looks that told nothing"`
	Strangers []string `json:"strangers" doc:"What lay there of another tree"`
	TakenFor  string   `json:"taken_for" doc:"A stranger whose name was given"`
}

// walkVerdicts say what a verdict means on a walk.
var walkVerdicts = map[string]string{practice.Right: "Right.", practice.TooFar: "Too far for what was looked at.",
	practice.NotFar: "Not far enough: what was looked at says more.", practice.Wrong: "Another tree.", practice.NoIdea: "Not named."}

// WalkAccount gives how a walk that is ended went.
func (b *Book) WalkAccount(ctx context.Context, id, by string) (*WalkAccount, error) {
	kept, err := b.store.Walk(ctx, id, by)
	if err != nil {
		return nil, err
	}
	if kept.Ended == nil {
		return nil, ErrWalking
	}
	w, err := walkOf(&kept)
	if err != nil {
		return nil, err
	}
	sh, teacher := b.teacher()
	out := &WalkAccount{ID: id, Made: w.Made, Trees: []WalkedTree{}}
	for i := range w.Trees {
		did, err := b.walked(ctx, w, i, by)
		if err != nil {
			return nil, err
		}
		a, err := teacher.Account(&w.Trees[i], did, flora.Among(w.Among))
		if err != nil {
			return nil, err
		}
		t := sh.walkedTree(w, i, did, a)
		if t.Verdict == practice.Right {
			out.Right++
		}
		out.Seconds, out.Best = out.Seconds+t.Seconds, out.Best+t.Best
		out.Trees = append(out.Trees, *t)
	}
	return out, nil
}

// walked is what somebody did at a tree of a walk.
func (b *Book) walked(ctx context.Context, w *walkKept, i int, by string) (*practice.Walked, error) {
	did := &practice.Walked{Parts: w.Parts[i]}
	work, done, err := b.Walking(ctx, w.IDs[i], by, false)
	if err == nil && work != nil {
		defer done()
	}
	if err != nil || work == nil {
		return did, err
	}
	s, err := work.read(ctx, work.store.Reader, w.IDs[i])
	if err != nil {
		return nil, err
	}
	defer s.close()
	if n := s.log.Name(); n != nil && n.Rank != logbook.Undetermined {
		did.Said = practice.Said{Rank: ranking.Rank(n.Rank), Name: n.Name, Sure: "fair"}
	}
	for li, l := range s.log.Looks {
		for si, sc := range l.Scores {
			score := sc.Score
			if sc.Value != nil && s.fault == nil {
				v := s.weighed.Looks[li].Scores[si].Value // in the character's unit
				score = record.Score{Character: sc.Character, Value: &v}
			}
			did.Scores = append(did.Scores, score)
			did.From = append(did.From, l.From)
		}
	}
	return did, nil
}

func (s *shelf) walkedTree(w *walkKept, i int, did *practice.Walked, a *practice.Account) *WalkedTree {
	words := func(ids []string) []string {
		return each(ids, func(id string) string { return practice.PartNamed(id).Words })
	}
	out := &WalkedTree{
		ID:        w.IDs[i],
		N:         i + 1,
		Taxon:     w.Trees[i].Taxon,
		English:   s.english(w.Trees[i].Taxon, w.Region),
		Verdict:   a.Verdict.Verdict,
		Words:     walkVerdicts[a.Verdict.Verdict],
		Seconds:   a.Seconds,
		Best:      a.Best.Seconds,
		Order:     words(a.Best.Parts),
		BestName:  s.nameWords(string(a.Best.Name.Rank), a.Best.Name.Name),
		Nothing:   words(a.Nothing),
		Strangers: []string{},
		Misread:   []string{},
	}
	if did.Said.Name != "" {
		out.Named = s.nameWords(string(did.Said.Rank), did.Said.Name)
	}
	if len(did.Parts) > 0 {
		out.Carries = s.nameWords(string(a.Verdict.Carries.Rank), a.Verdict.Carries.Name)
	}
	for _, part := range a.Strangers {
		out.Strangers = append(out.Strangers, practice.PartNamed(part).Words+": of "+s.english(w.Trees[i].Other[part], w.Region))
	}
	if a.TakenFor != "" {
		out.TakenFor = s.english(a.TakenFor, w.Region)
	}
	for _, m := range a.Misread {
		out.Misread = append(out.Misread, m.Said+"; it was "+m.Was)
	}
	return out
}
