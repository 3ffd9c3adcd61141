package book

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"palethicket/core/flora"
	"palethicket/core/stand/composition"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/record"
)

// Comparison is what each look and score says between two taxa. Bits above 0
// speak for A, below 0 for B.
type Comparison struct {
	A         string        `json:"a"`
	AWords    string        `json:"a_words" doc:"What A is called"`
	B         string        `json:"b"`
	BWords    string        `json:"b_words"`
	PriorBits float64       `json:"prior_bits" doc:"How much commoner A is than B"`
	Bits      float64       `json:"bits" doc:"Prior and all looks together"`
	Looks     []LookBalance `json:"looks"`
}

// LookBalance is one look's weight between two taxa.
type LookBalance struct {
	Look      int            `json:"look"`
	From      string         `json:"from"`
	FromWords string         `json:"from_words"`
	Bits      float64        `json:"bits"`
	Says      string         `json:"says"`
	Scores    []ScoreBalance `json:"scores"`
}

// ScoreBalance is what one score adds to its look's weight.
type ScoreBalance struct {
	Character string  `json:"character"`
	Name      string  `json:"name"`
	Score     int     `json:"score"`
	Bits      float64 `json:"bits"`
}

// WhyNot is how an expected taxon stands, and what keeps it from leading.
type WhyNot struct {
	Taxon     string       `json:"taxon"`
	English   string       `json:"english"`
	Place     int          `json:"place" doc:"1 is the leader"`
	Posterior float64      `json:"posterior"`
	Leader    string       `json:"leader"`
	Against   []Comparison `json:"against" doc:"The leader over it; empty where it leads"`
	Wrong     []Check      `json:"wrong" doc:"Scores that would have to be wrong for it to lead; empty where none together would do"`
	Settle    []Next       `json:"settle" doc:"What would bring it back or bury it"`
	Words     string       `json:"words"`
}

// Walk is where a key walk stands.
type Walk struct {
	Question *Question `json:"question" doc:"Absent where nothing is left to ask"`
	Named    Name      `json:"named"`
	Settled  bool      `json:"settled" doc:"The tree is named to species: confirm it against its look-alikes"`
}

// Question is one either/or question of a key walk. Its answers are scores.
type Question struct {
	Character string   `json:"character"`
	Name      string   `json:"name"`
	Look      string   `json:"look"`
	From      string   `json:"from" doc:"Kind of look the answer goes into"`
	FromWords string   `json:"from_words"`
	Seconds   int      `json:"seconds"`
	Bits      float64  `json:"bits"`
	Options   []Option `json:"options" doc:"Two of them"`
}

// Option is one answer to a question, and the score it makes.
type Option struct {
	Words  string  `json:"words"`
	Leader string  `json:"leader" doc:"Who would lead then"`
	Chance float64 `json:"chance"`
	Score  Score   `json:"score"`
}

// Here is a tree ranked with its stand's own record as the prior.
type Here struct {
	Trees   int      `json:"trees" doc:"Other trees of the stand that the record counts"`
	Ranking []Ranked `json:"ranking"`
	Note    string   `json:"note"`
}

// Compare weighs the looks at a tree between two taxa; empty names stand for the
// leader and the runner-up.
func (b *Book) Compare(ctx context.Context, tree, one, other string) (*Comparison, error) {
	s, err := b.readable(ctx, b.store.Reader, tree)
	if err != nil {
		return nil, err
	}
	defer s.close()
	c, err := s.weighed.Compare(one, other)
	if err != nil {
		return nil, err
	}
	out := s.comparison(*c)
	return &out, nil
}

func (s *sheet) comparison(c answer.Comparison) Comparison {
	region := s.among().Region
	return Comparison{
		c.A,
		s.english(c.A, region),
		c.B,
		s.english(c.B, region),
		c.PriorBits,
		c.Bits,
		each(c.Looks, func(l answer.LookBalance) LookBalance {
			return LookBalance{l.Look, l.From, record.Froms.Words(l.From), l.Bits, l.Says, each(l.Scores, func(sc answer.ScoreBalance) ScoreBalance {
				return ScoreBalance{sc.Character, s.characterName(sc.Character), sc.Score, sc.Bits}
			})}
		}),
	}
}

// WhyNot says why a taxon does not lead.
func (b *Book) WhyNot(ctx context.Context, tree, taxon string) (*WhyNot, error) {
	s, err := b.readable(ctx, b.store.Reader, tree)
	if err != nil {
		return nil, err
	}
	defer s.close()
	w, err := s.weighed.WhyNot(taxon)
	if err != nil {
		return nil, err
	}
	return &WhyNot{
		w.Taxon,
		w.English,
		w.Place,
		w.Posterior,
		w.Leader,
		each(w.Against, s.comparison),
		each(w.Wrong, s.check),
		each(w.Settle, next),
		w.Words,
	}, nil
}

// Walk gives the next question of a key walk; characters in skip were asked and
// could not be answered.
func (b *Book) Walk(ctx context.Context, tree string, skip []string) (*Walk, error) {
	s, err := b.readable(ctx, b.store.Reader, tree)
	if err != nil {
		return nil, err
	}
	defer s.close()
	w := s.weighed.Walk(skip)
	out := &Walk{Named: named(&w.Named), Settled: w.Settled}
	if q := w.Question; q != nil {
		out.Question = &Question{q.Character, q.Name, q.Look, q.From, record.Froms.Words(q.From), q.Seconds, q.Bits,
			each(q.Options, func(o answer.Option) Option { return Option{o.Words, o.Leader, o.Chance, Score(o.Score)} })}
	}
	return out, nil
}

const hereNote = "This ranking takes the other trees of the stand as what to expect, beside the flora's own " +
	"abundances, which count for %d trees. " +
	"It helps where a stand is much of a kind, and it can make you see what you expect: a first tree " +
	"of its kind needs more evidence to be believed. " +
	"Names and lists never use it."

// Ahead thinks two looks ahead.
func (b *Book) Ahead(ctx context.Context, tree string) (*Ahead, error) {
	s, err := b.readable(ctx, b.store.Reader, tree)
	if err != nil {
		return nil, err
	}
	defer s.close()
	plan := s.weighed.Result(answer.Options{Plan: true}).Plan
	if plan == nil {
		return &Ahead{Then: []Branch{}}, nil
	}
	first := next(plan.First)
	return &Ahead{&first, plan.Seconds, each(plan.Then, func(b answer.Branch) Branch { return Branch(b) })}, nil
}

// Here ranks a tree with its stand's own record, without itself, as the prior. Tree
// and stand are read as they are at one moment.
func (b *Book) Here(ctx context.Context, tree string) (here *Here, err error) {
	snap, err := b.store.Snapshot(ctx)
	if err != nil {
		return nil, err
	}
	defer func() { err = errors.Join(err, snap.Close()) }()
	s, err := b.readable(ctx, snap.Reader, tree)
	if err != nil {
		return nil, err
	}
	defer s.close()
	n, own, err := snap.StandCounts(ctx, &s.tree)
	if err != nil {
		return nil, err
	}
	among := s.among()
	pool, err := s.flora.Pool(flora.PoolKey{Among: flora.Among(among), Age: flora.At(flora.AnyAge), Flat: s.log.Facts.Flat})
	if err != nil {
		return nil, err
	}
	shares := map[string]float64{}
	for i, share := range pool.Model.Share() {
		shares[pool.Taxa[i].Name] = share
	}
	res := s.weighed.Result(answer.Options{})
	return &Here{Trees: n, Note: fmt.Sprintf(hereNote, composition.Concentration),
		Ranking: each(answer.Reweigh(res.Ranking, shares, composition.Here(shares, own)), ranked)}, nil
}

// Drawn is a tree as scored beside the two that lead, to draw them from.
type Drawn struct {
	Own     []DrawnFrom `json:"-"` // what the drawings of the tree are made from
	Says    PlateSays   `json:"says" doc:"What the drawings of the tree itself show"`
	Leaders []Plate     `json:"leaders" doc:"The leader and the runner-up as they usually are; what differs between them is marked"`
}

// Drawn gives what a tree as scored and the two leading it are drawn from.
func (b *Book) Drawn(ctx context.Context, tree string) (*Drawn, error) {
	s, err := b.readable(ctx, b.store.Reader, tree)
	if err != nil {
		return nil, err
	}
	defer s.close()
	res := s.weighed.Result(answer.Options{})
	out := &Drawn{Own: s.drawn(res), Leaders: []Plate{}}
	age := cmp.Or(s.log.Facts.Age, flora.AgeWords[flora.Mature])
	for _, r := range res.Ranking {
		if r.Taxon == answer.Unlisted || len(out.Leaders) == 2 {
			continue
		}
		p, err := b.Plate(r.Taxon, s.among().Region, age, flora.ZoneWords[flora.Breast], 0)
		if err != nil {
			return nil, err
		}
		for _, id := range differences(out.Own, p.Shows) {
			p.Differs = append(p.Differs, s.differWords(id, out.Own, p.Shows))
		}
		out.Leaders = append(out.Leaders, *p)
	}
	out.Says = says(scoredTree(tree, s, out.Own))
	mark(out.Leaders)
	return out, nil
}

// differWords says in what a tree as scored differs from a usual one.
func (s *shelf) differWords(id string, own, usual []DrawnFrom) string {
	say := func(from []DrawnFrom) string {
		i := slices.IndexFunc(from, func(d DrawnFrom) bool { return d.Character == id })
		switch d := from[i]; {
		case d.Value != nil:
			return fmt.Sprintf("%.2g %s", *d.Value, s.flora.Character(id).Unit)
		case d.Seen != nil:
			return record.SignWords(*d.Seen)
		case len(d.States) > 0:
			return strings.Join(each(d.States, record.StateWords), " or ")
		default:
			return record.StateWords(d.State)
		}
	}
	return flora.UpperFirst(fmt.Sprintf("%s: here %s, usually %s", s.characterName(id), say(own), say(usual)))
}
