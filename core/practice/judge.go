package practice

import (
	"errors"
	"fmt"
	"math"
	"slices"

	"palethicket/core/flora"
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
	pool, err := t.Flora.Pool(flora.PoolKey{Among: ind.among, Age: flora.At(flora.AnyAge)})
	if err != nil {
		return nil, err
	}
	carried, err := t.carried(ind)
	if err != nil {
		return nil, err
	}
	v := &Verdict{Carries: t.farthest(pool, ind.Taxon, carried), Taxon: ind.Taxon}
	v.True = said.Name != "" && t.names(ind.Taxon, said.Rank) == said.Name
	v.Verdict = t.verdict(pool, ind.Taxon, carried, said)
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

// verdict says what a name is worth of which some ranks are carried.
func (t *Teacher) verdict(pool *flora.Pool, taxon string, carried []ranking.Rank, said Said) string {
	if said.Name == "" {
		return NoIdea
	}
	least, most := math.MaxInt, 0
	for _, rank := range carried {
		n := t.alike(pool, taxon, rank)
		least, most = min(least, n), max(most, n)
	}
	n := t.alike(pool, taxon, said.Rank)
	switch is := t.names(taxon, said.Rank) == said.Name; {
	case is && n < least:
		return TooFar
	case is && n <= most:
		return Right
	case is:
		return NotFar
	case len(carried) > 0 && slices.Index(finer, said.Rank) < slices.Index(finer, carried[0]) &&
		t.names(taxon, carried[0]) == t.names(anyOf(t, said), carried[0]):
		return TooFar // within what could be seen, and beyond it
	}
	return Wrong
}

// alike is how many of the trees that are asked have a taxon's name at a rank: a name of fewer goes farther.
func (t *Teacher) alike(pool *flora.Pool, taxon string, rank ranking.Rank) (n int) {
	name := t.names(taxon, rank)
	for _, x := range pool.Taxa {
		if answer.Label(x, rank) == name {
			n++
		}
	}
	return max(n, 1)
}

// Usual is the commonest tree of a region that has a name at a rank; "" where none has.
func (t *Teacher) Usual(among flora.Among, rank ranking.Rank, name string) (usual string) {
	pool, err := t.Flora.Pool(flora.PoolKey{Among: among, Age: flora.At(flora.AnyAge)})
	if err != nil || name == "" {
		return ""
	}
	most := 0.0
	for i, x := range pool.Taxa {
		if share := pool.Model.Share()[i]; answer.Label(x, rank) == name && share > most {
			usual, most = x.Name, share
		}
	}
	return usual
}

// farthest is the finest name of a taxon among those that are carried: to species, where it is
// the only one of those asked that has it.
func (t *Teacher) farthest(pool *flora.Pool, taxon string, carried []ranking.Rank) answer.Name {
	if len(carried) == 0 {
		return answer.Name{Rank: ranking.Undetermined}
	}
	rank := carried[0]
	if t.alike(pool, taxon, rank) == 1 {
		rank = ranking.Species
	}
	return answer.Name{Rank: rank, Name: t.names(taxon, rank), Words: answer.RankWords(rank)}
}

// carried are the ranks to which what was shown carries a name, the finest first. Of a card it is
// what people of the trade would accept of such a one. Of a tree that was walked to it is what the
// looks at it carry; where an odd one looks like another tree, the rank at which the two are one.
func (t *Teacher) carried(ind *Individual) (carried []ranking.Rank, err error) {
	if ind.Kind != walked {
		for _, rank := range t.Flora.Taxon(ind.Taxon).Carries[ind.Kind] {
			if t.names(ind.Taxon, ranking.Rank(rank)) != "" {
				carried = append(carried, ranking.Rank(rank))
			}
		}
		return carried, nil
	}
	res, err := t.engine.Identify(ind.Rec, answer.Options{})
	if err != nil {
		return nil, fmt.Errorf("weighing what was looked at: %w", err)
	}
	at := slices.Index(finer, res.Named.Rank)
	if at < 0 {
		return nil, nil
	}
	for _, rank := range finer[at:] {
		if name := t.names(ind.Taxon, rank); name != "" && (name == t.names(res.Named.Name, rank) || name == res.Named.Name) {
			return []ranking.Rank{rank}, nil
		}
	}
	return nil, nil
}

// walked is the kind of what is no card but a tree that was walked to.
const walked = "walk"

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
