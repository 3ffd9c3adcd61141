package answer

import (
	"cmp"
	"context"
	"fmt"
	"sync"
	"time"

	"palethicket/core/flora"
	"palethicket/core/tree/record"
	"palethicket/core/weigh/fit"
	"palethicket/core/weigh/ranking"
)

// Result is the answer to one record.
type Result struct {
	ID         string       `json:"id"`
	Ranking    []Ranked     `json:"ranking"`     // every listed tree and the unlisted, best first
	Named      Name         `json:"named"`       // how far the evidence carries a name
	Probably   Name         `json:"probably"`    // what the tree probably is, finer than that; undetermined: nothing
	Says       string       `json:"says"`        // how it stands, in one line with the chances
	Credible   []string     `json:"credible"`    // fewest taxa that hold 0.95 of the posterior
	Looks      []LookResult `json:"looks"`       // one for each look of the record
	CheckAgain []Check      `json:"check_again"` // scores that, left out, would change the leader
	Fit        float64      `json:"fit"`         // share of drawn specimens of the leader that look as odd as this tree
	FitWords   string       `json:"fit_words"`
	Next       []Next       `json:"next"`           // what to look at next, best first
	Plan       *Plan        `json:"plan,omitempty"` // two looks ahead
	Warnings   []Warning    `json:"warnings"`       // what looks like a mistake
	Cautions   []Caution    `json:"cautions"`       // what to beware of with the trees still in it
}

// Ranked is one hypothesis and its share. Taxon is a scientific name, or
// "unlisted".
type Ranked struct {
	Taxon     string  `json:"taxon"`
	English   string  `json:"english,omitempty"`
	Posterior float64 `json:"posterior"`
}

// Name is how far the tree can be named, and in words.
type Name struct {
	Rank      ranking.Rank `json:"rank"`
	Name      string       `json:"name"`
	Posterior float64      `json:"posterior"`
	Words     string       `json:"words"`
}

// LookResult is what came of one look.
type LookResult struct {
	Belongs  float64 `json:"belongs"`  // chance that it was of this tree, given everything
	Stranger bool    `json:"stranger"` // it probably was of another tree
	Bits     float64 `json:"bits"`     // weight of evidence for the leader over the runner-up
	Says     string  `json:"says"`     // the same, in words
}

// Check is a score that, left out, gives the tree another leader.
type Check struct {
	Look      int    `json:"look"`
	Score     int    `json:"score"`
	Character string `json:"character"`
	Leader    string `json:"leader"`  // who would lead without it
	English   string `json:"english"` // what that is called
	From      string `json:"from"`    // where the look came from
}

// Unlisted is what the hypothesis outside the pool is called in results, and
// UnlistedWords how it is said.
const (
	Unlisted      = "unlisted"
	UnlistedWords = "something not listed"
)

// strangerBelow is the chance of belonging under which a look is called a
// stranger's.
const strangerBelow = 0.5

// Options says how much to work out.
type Options struct {
	Next  int       // how many next looks; 0: none
	Draws fit.Draws // specimens drawn for the fit; none: fit is then 1
	// Explain adds what a person asks next: warnings, cautions, what each look
	// says, and what each answer to a next look would mean.
	Explain bool
	Plan    bool // looks two ahead, which takes as long as all the rest
}

// Usual is what a person at a tree wants to know; Brief is for files of many
// trees.
var (
	Usual = Options{Next: 3, Draws: fit.Usual, Explain: true}
	Brief = Options{Next: 3, Draws: fit.Quick}
)

// Engine answers records against one flora. It is safe for use by several
// goroutines and keeps what is worked out once for each pool.
type Engine struct {
	Flora *flora.Flora
	Bars  ranking.Bars // what names must reach
	kits  *sync.Map    // *flora.Pool to *kit
}

// NewEngine makes an Engine for the flora, with the usual bars.
func NewEngine(f *flora.Flora) *Engine { return &Engine{f, ranking.DefaultBars, &sync.Map{}} }

// For makes an Engine for the same flora with other lists, and for other bars. It keeps
// what this one has worked out that still holds.
func (e *Engine) For(f *flora.Flora, bars ranking.Bars) *Engine {
	out := &Engine{f, bars, &sync.Map{}}
	e.kits.Range(func(p, kit any) bool {
		if f.Has(p.(*flora.Pool)) {
			out.kits.Store(p, kit)
		}
		return true
	})
	return out
}

// Warm works out beforehand what the first record of each age needs, so that no
// press waits for it, until ctx is done.
func (e *Engine) Warm(ctx context.Context, among flora.Among) error {
	for _, flat := range []bool{false, true} {
		for _, age := range []flora.Age{flora.AnyAge, flora.Young, flora.Mature, flora.Old} {
			if err := ctx.Err(); err != nil {
				return err
			}
			p, err := e.Flora.Pool(flora.PoolKey{Among: among, Age: flora.At(age), Flat: flat})
			if err != nil {
				return err
			}
			e.kit(p)
		}
	}
	return nil
}

// Weighing is a record that was weighed, to be asked as much as is wanted: it is
// ranked once, whatever is asked. It is for one goroutine, which closes it.
type Weighing struct {
	answer
	ranker *ranking.Ranker
}

// Weigh ranks a record. One that cannot be read gives a [record.Errors].
func (e *Engine) Weigh(rec *record.Record) (*Weighing, error) { return e.WeighErring(rec, nil) }

// WeighErring is Weigh with other chances of misreading than the usual ones: erring gives that of a
// score of a look, or 0 for the usual one.
func (e *Engine) WeighErring(rec *record.Record, erring func(look, score int) float64) (*Weighing, error) {
	reading, err := record.Resolve(e.Flora, rec)
	if err != nil {
		return nil, fmt.Errorf("reading the record of %q: %w", rec.ID, err)
	}
	if erring != nil {
		for i := range rec.Looks {
			for j := range rec.Looks[i].Scores {
				if s := &reading.Looks[i].Scores[j]; s.Error > 0 {
					s.Error = cmp.Or(erring(i, j), s.Error)
				}
			}
		}
	}
	k := e.kit(reading.Pool)
	r := k.rankers.Get().(*ranking.Ranker)
	return &Weighing{answer{Reading: reading, verdict: r.Rank(reading.Looks), kit: k, engine: e, month: month(rec)}, r}, nil
}

// Close gives back what weighing took; nothing may be asked after it.
func (w *Weighing) Close() {
	if w.ranker != nil {
		w.kit.rankers.Put(w.ranker)
		w.ranker = nil
	}
}

// Result answers the record.
func (w *Weighing) Result(opt Options) *Result { return w.result(w.ranker, opt) }

// Identify answers a record. One that cannot be read gives a [record.Errors].
func (e *Engine) Identify(rec *record.Record, opt Options) (*Result, error) {
	w, err := e.Weigh(rec)
	if err != nil {
		return nil, err
	}
	defer w.Close()
	return w.Result(opt), nil
}

func (a *answer) result(ranker *ranking.Ranker, opt Options) *Result {
	res := &Result{
		ID: a.Record.ID, Ranking: a.ranking(), Named: a.named(), Probably: a.probably(), Says: a.says(),
		Credible: a.names(a.verdict.Credible(ranking.CredibleLevel)),
		Looks:    a.looks(opt.Explain), CheckAgain: a.checks(ranker.Flips(a.Looks)), Fit: a.fit(opt.Draws),
		Next: a.next(a.best(opt.Next), opt.Explain), Warnings: []Warning{}, Cautions: []Caution{},
	}
	if opt.Draws.Most > 0 {
		res.FitWords = fitWords(res.Fit)
	}
	if opt.Explain {
		res.Warnings, res.Cautions = a.warnings(), a.cautions()
	}
	if opt.Plan {
		res.Plan = a.plan()
	}
	return res
}

// fit is the tail share of the leader, or 1 where nothing is to be drawn.
func (a *answer) fit(draws fit.Draws) float64 {
	if draws.Most == 0 {
		return 1
	}
	return a.kit.judge.Tail(a.Looks, a.bestListed(), draws)
}

func (e *Engine) kit(p *flora.Pool) *kit {
	if d, ok := e.kits.Load(p); ok {
		return d.(*kit)
	}
	kept, _ := e.kits.LoadOrStore(p, newKit(p))
	return kept.(*kit)
}

// answer is one record being answered.
type answer struct {
	*record.Reading
	verdict *ranking.Verdict
	kit     *kit
	engine  *Engine
	month   time.Month  // when the record was made; 0: it does not say
	called  *naming     // once asked for
	asked   int         // candidates that were asked for
	found   []candidate // and those there are
}

func (a *answer) name(h int) string {
	if h == a.verdict.Unlisted() {
		return Unlisted
	}
	return a.Pool.Taxa[h].Name
}

func (a *answer) names(hs []int) []string {
	out := make([]string, len(hs))
	for i, h := range hs {
		out[i] = a.name(h)
	}
	return out
}

// english is the everyday name of a hypothesis.
func (a *answer) english(h int) string {
	if h == a.verdict.Unlisted() {
		return UnlistedWords
	}
	return a.Pool.Called(h)
}

func (a *answer) bestListed() int {
	if h := a.verdict.Leader(); h != a.verdict.Unlisted() {
		return h
	}
	return a.verdict.Order()[1]
}

func (a *answer) ranking() []Ranked {
	out := make([]Ranked, 0, len(a.verdict.Posterior))
	for _, h := range a.verdict.Order() {
		r := Ranked{Taxon: a.name(h), Posterior: a.verdict.Posterior[h]}
		if h != a.verdict.Unlisted() {
			r.English = a.english(h)
		}
		out = append(out, r)
	}
	return out
}

func (a *answer) looks(explain bool) []LookResult {
	lead, second := a.verdict.Order()[0], a.verdict.Order()[1]
	out := make([]LookResult, len(a.Record.Looks))
	for i := range out {
		l := LookResult{
			Belongs:  a.verdict.Belongs[i],
			Stranger: a.verdict.Belongs[i] < strangerBelow,
			Bits:     a.verdict.Bits(i, lead, second),
		}
		if explain && len(a.Record.Looks[i].Scores) > 0 {
			l.Says = weightWords(l.Bits, a.english(lead), a.english(second))
		}
		out[i] = l
	}
	return out
}

func (a *answer) checks(flips []ranking.Flip) []Check {
	out := []Check{}
	for _, f := range flips {
		if f.Look < len(a.Record.Looks) { // the look at the foliage is the tool's own
			out = append(out, a.check(f.Look, f.Score, f.Leader))
		}
	}
	return out
}

func (a *answer) check(look, score, leader int) Check {
	l := &a.Record.Looks[look]
	return Check{look, score, l.Scores[score].Character, a.name(leader), a.english(leader), l.From}
}

// Posterior gives the posterior of a name at a rank, or an error that suggests the
// nearest name where nothing the tree could be has such a one.
func (w *Weighing) Posterior(rank ranking.Rank, name string) (float64, error) {
	sum, known := 0.0, []string{}
	for i, t := range w.Pool.Taxa {
		label := Label(t, rank)
		if label == name {
			sum += w.verdict.Posterior[i]
		}
		known = append(known, label)
	}
	return sum, flora.UnknownWord(string(rank), name, known)
}

// Label is what a taxon is called at a rank; "" where it has no such name, as outside any
// group.
func Label(t *flora.Taxon, rank ranking.Rank) string {
	switch rank {
	case ranking.Species:
		return t.Name
	case ranking.Group:
		return t.Group
	case ranking.Genus:
		return t.Genus
	case ranking.Family:
		return t.Family
	}
	return ""
}
