package practice

import (
	"errors"
	"fmt"
	"slices"

	"palethicket/core/tree/answer"
	"palethicket/core/weigh/ranking"
)

// The verdicts on an answer.
const (
	Right  = "right"          // as far as what was shown carries a name
	TooFar = "too far"        // farther than that, true or not
	NotFar = "not far enough" // true, but a finer name could be seen
	Wrong  = "wrong"          // another tree
	NoIdea = "not known"      // nothing was said
)

// Sureness is how sure one is of an answer, and the chance of being right that it stands
// for (common practice: nearly always, three times in four, less than half).
var Sureness = map[string]float64{"sure": 0.95, "fair": 0.75, "guess": 0.4}

// Said is an answer: a name of some rank, and how sure one is of it; no name is that it is
// not known.
type Said struct {
	Rank ranking.Rank
	Name string
	Sure string
}

// Verdict is what an answer is worth.
type Verdict struct {
	Verdict string
	Carries answer.Name // how far what was shown carries a name, and which
	Taxon   string      // whose individual it was
	True    bool        // the name that was said is the individual's, seen or not
	Brier   float64     // (chance said − outcome)², 0 best; Brier 1950, Mon. Weather Rev. 78:1
}

// ErrSureness is given for another word than sure, fair or guess.
var ErrSureness = errors.New("say how sure: sure, fair or guess")

// finer lists the ranks, the finest first.
var finer = []ranking.Rank{ranking.Species, ranking.Group, ranking.Genus, ranking.Family}

// Judge says what an answer to an individual is worth.
func (t *Teacher) Judge(ind *Individual, said Said) (*Verdict, error) {
	chance, ok := Sureness[said.Sure]
	if said.Name != "" && !ok {
		return nil, ErrSureness
	}
	if said.Name != "" && !slices.Contains(finer, said.Rank) {
		return nil, fmt.Errorf("%q is no rank of a name", said.Rank)
	}
	res, err := t.engine.Identify(ind.Rec, answer.Options{})
	if err != nil {
		return nil, fmt.Errorf("weighing what the card shows: %w", err)
	}
	v := &Verdict{Carries: t.carried(ind, res.Named), Taxon: ind.Taxon}
	at, far := slices.Index(finer, said.Rank), slices.Index(finer, v.Carries.Rank)
	is := t.names(ind.Taxon, said.Rank) == said.Name && said.Name != ""
	v.True = is
	switch {
	case said.Name == "":
		v.Verdict = NoIdea
	case at < far && t.names(ind.Taxon, v.Carries.Rank) == t.names(anyOf(t, said), v.Carries.Rank):
		v.Verdict = TooFar // within what could be seen, and beyond it
	case !is:
		v.Verdict = Wrong
	case at > far:
		v.Verdict = NotFar
	default:
		v.Verdict = Right
	}
	if said.Name != "" {
		outcome := 0.0
		if v.Verdict == Right || v.Verdict == NotFar {
			outcome = 1
		}
		v.Brier = (chance - outcome) * (chance - outcome)
	}
	return v, nil
}

// TakenFor is the taxon that an individual was taken for, or "" where it was taken for
// itself, or for nothing that is one taxon.
func (t *Teacher) TakenFor(v *Verdict, said string) string {
	if v.True || said == "" {
		return ""
	}
	if t.Flora.Taxon(said) != nil {
		return said
	}
	return ""
}

// carried is how far what was shown carries a name of the individual's own: where an odd
// one looks like another tree, the rank at which the two are one; at least its family.
func (t *Teacher) carried(ind *Individual, named answer.Name) answer.Name {
	at := slices.Index(finer, named.Rank)
	if at < 0 {
		at = len(finer) - 1
	}
	for ; at < len(finer)-1; at++ {
		if name := t.names(ind.Taxon, finer[at]); name != "" &&
			(named.Name == "" || name == t.names(named.Name, finer[at]) || name == named.Name) {
			break
		}
	}
	rank := finer[at]
	return answer.Name{Rank: rank, Name: t.names(ind.Taxon, rank), Words: answer.RankWords(rank)}
}

// names is what a taxon is called at a rank; "" where the flora does not know it.
func (t *Teacher) names(taxon string, rank ranking.Rank) string {
	if x := t.Flora.Taxon(taxon); x != nil {
		return answer.Label(x, rank)
	}
	return ""
}

// anyOf is a taxon of the name that was said.
func anyOf(t *Teacher, said Said) string {
	for i := range t.Flora.Taxa {
		if name := t.Flora.Taxa[i].Name; t.names(name, said.Rank) == said.Name {
			return name
		}
	}
	return ""
}
