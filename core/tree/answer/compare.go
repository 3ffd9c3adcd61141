package answer

import (
	"cmp"
	"fmt"
	"slices"

	"palethicket/core/flora"
	"palethicket/core/tree/record"
	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/nextlook"
	"palethicket/core/weigh/ranking"
)

// Comparison is what each look and score says between two taxa. Bits above 0
// speak for A, below 0 for B.
type Comparison struct {
	A         string        `json:"a"`
	B         string        `json:"b"`
	PriorBits float64       `json:"prior_bits" doc:"How much commoner A is than B"`
	Bits      float64       `json:"bits" doc:"Prior and all looks together"`
	Looks     []LookBalance `json:"looks"`
}

// LookBalance is one look's weight between two taxa.
type LookBalance struct {
	Look   int            `json:"look"`
	From   string         `json:"from"`
	Bits   float64        `json:"bits"`
	Says   string         `json:"says"`
	Scores []ScoreBalance `json:"scores"`
}

// ScoreBalance is what one score adds to its look's weight.
type ScoreBalance struct {
	Character string  `json:"character"`
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

// session is an answer that keeps its ranker, for questions asked after it.
type session struct {
	answer
	ranker *ranking.Ranker
}

func (e *Engine) session(rec *record.Record) (*session, error) {
	tree, err := record.Resolve(e.Flora, rec)
	if err != nil {
		return nil, fmt.Errorf("reading the record of %q: %w", rec.ID, err)
	}
	r := ranking.NewRanker(tree.Pool.Model)
	return &session{answer{Tree: tree, st: r.Rank(tree.Looks), desk: e.desk(tree.Pool), engine: e}, r}, nil
}

// find gives the hypothesis of a name; "" is given as fallback.
func (s *session) find(field, name string, fallback int) (int, error) {
	if name == "" {
		return fallback, nil
	}
	if name == unlisted {
		return s.st.Unlisted(), nil
	}
	h, ok := s.Pool.Find(name)
	if !ok {
		known := []string{}
		for _, t := range s.Pool.Taxa {
			known = append(known, t.Name)
		}
		return 0, record.Errors{{Field: field, Message: flora.UnknownWord("taxon", name, known).Error()}}
	}
	return h, nil
}

// Compare weighs the looks between two taxa; empty names stand for the leader
// and the runner-up.
func (e *Engine) Compare(rec *record.Record, a, b string) (*Comparison, error) {
	s, err := e.session(rec)
	if err != nil {
		return nil, err
	}
	ha, err := s.find("a", a, s.st.Order()[0])
	if err != nil {
		return nil, err
	}
	hb, err := s.find("b", b, s.st.Order()[1])
	if err != nil {
		return nil, err
	}
	c := s.compare(ha, hb)
	return &c, nil
}

func (s *session) compare(a, b int) Comparison {
	prior := s.Pool.Model.Prior()
	c := Comparison{A: s.name(a), B: s.name(b), PriorBits: ranking.BitsOf(prior[a], prior[b]), Looks: []LookBalance{}}
	c.Bits = c.PriorBits
	for i := range s.Looks {
		bits := s.st.Bits(i, a, b)
		c.Bits += bits
		if i >= len(s.Record.Looks) || len(s.Record.Looks[i].Scores) == 0 {
			continue
		}
		l := LookBalance{Look: i, From: s.Record.Looks[i].From, Bits: bits, Says: weightWords(bits, s.english(a), s.english(b))}
		for j, sc := range s.Record.Looks[i].Scores {
			l.Scores = append(l.Scores, ScoreBalance{sc.Character, j, s.ranker.ScoreBits(s.Looks, i, j, a, b)})
		}
		c.Looks = append(c.Looks, l)
	}
	return c
}

// WhyNot says why a taxon does not lead.
func (e *Engine) WhyNot(rec *record.Record, taxon string) (*WhyNot, error) {
	s, err := e.session(rec)
	if err != nil {
		return nil, err
	}
	h, err := s.find("taxon", taxon, s.st.Order()[1])
	if err != nil {
		return nil, err
	}
	lead := s.st.Leader()
	w := &WhyNot{Taxon: s.name(h), English: s.english(h), Place: 1 + slices.Index(s.st.Order(), h),
		Posterior: s.st.Posterior[h], Leader: s.name(lead), Against: []Comparison{}, Wrong: []Check{}, Settle: []Next{}}
	rival := lead
	if h == lead {
		rival = s.st.Order()[1]
		w.Words = fmt.Sprintf("%s leads.", upperFirst(s.english(h)))
	} else {
		w.Against = append(w.Against, s.compare(lead, h))
	}
	w.Settle = s.settle(h, rival)
	if h != lead {
		w.Wrong = s.wrong(h)
		w.Words = s.whyWords(h, lead, w)
	}
	return w, nil
}

// settle gives the looks that best tell two hypotheses apart, taken as even.
func (s *session) settle(a, b int) []Next {
	even := make([]float64, len(s.st.Posterior))
	even[a], even[b] = 0.5, 0.5
	order := []int{a, b}
	st := &ranking.Standing{Posterior: even}
	pair := answer{Tree: s.Tree, st: st.Ordered(order), desk: s.desk, engine: s.engine}
	return pair.next(3, true)
}

// mostWrong is how many scores may be doubted before a taxon is given up.
const mostWrong = 4

// wrong lists the scores that, left out, would make h lead: each time the one
// without which it stands best.
func (s *session) wrong(h int) []Check {
	looks := make([]evidence.Look, len(s.Looks))
	at := make([][]int, len(s.Record.Looks)) // where the scores left stand in the record
	for i, l := range s.Looks {
		looks[i] = evidence.Look{Belongs: l.Belongs, Scores: slices.Clone(l.Scores)}
		for j := range l.Scores {
			if i < len(at) {
				at[i] = append(at[i], j)
			}
		}
	}
	r := ranking.NewRanker(s.Pool.Model)
	best := r.Rank(looks).Posterior[h]
	out := []Check{}
	for len(out) < mostWrong {
		l, j := -1, 0
		for i := range at {
			for k := range looks[i].Scores {
				if p := without(r, looks, i, k, h); p > best {
					l, j, best = i, k, p
				}
			}
		}
		if l < 0 {
			return []Check{} // what is left speaks for it: it is only rarer
		}
		out = append(out, Check{Look: l, Score: at[l][j], Character: s.Record.Looks[l].Scores[at[l][j]].Character, Leader: s.name(h)})
		looks[l].Scores = slices.Delete(looks[l].Scores, j, j+1)
		at[l] = slices.Delete(at[l], j, j+1)
		if r.Rank(looks).Leader() == h {
			return out
		}
	}
	return []Check{}
}

// without is the posterior of h with one score left out.
func without(r *ranking.Ranker, looks []evidence.Look, look, score, h int) float64 {
	kept := looks[look].Scores
	looks[look].Scores = slices.Concat(kept[:score], kept[score+1:])
	p := r.Rank(looks).Posterior[h]
	looks[look].Scores = kept
	return p
}

// whyWords says in a sentence or two what keeps h from leading.
func (s *session) whyWords(h, lead int, w *WhyNot) string {
	type doubt struct {
		character string
		bits      float64
	}
	var most []doubt
	for _, l := range w.Against[0].Looks {
		for _, sc := range l.Scores {
			if sc.Bits > 0.5 {
				most = append(most, doubt{sc.Character, sc.Bits})
			}
		}
	}
	slices.SortFunc(most, func(a, b doubt) int { return cmp.Compare(b.bits, a.bits) })
	name, over := upperFirst(s.english(h)), s.english(lead)
	if prior := s.Pool.Model.Prior(); len(most) == 0 && prior[h] >= prior[lead] {
		return fmt.Sprintf("Nothing scored so far tells %s from %s.", s.english(h), over)
	}
	if len(most) == 0 {
		return fmt.Sprintf("%s fits about as well as %s; it is only less common here.", name, over)
	}
	words := fmt.Sprintf("Against %s speaks most of all the %s.", s.english(h), s.characterName(most[0].character))
	switch n := len(w.Wrong); {
	case n == 1:
		words += fmt.Sprintf(" If that one score were wrong, %s would lead.", s.english(h))
	case n > 1:
		words += fmt.Sprintf(" %d scores would have to be wrong before it led.", n)
	default:
		words += " More than a few scores would have to be wrong before it led."
	}
	return words
}

func (s *session) characterName(id string) string {
	if i, ok := s.Pool.Index(id, 1); ok {
		c, _ := s.Pool.Character(i)
		return c.Name
	}
	return id
}

// Plan is a look and, after each of its answers, the look that best follows.
type Plan struct {
	First   Next     `json:"first"`
	Bits    float64  `json:"bits" doc:"Expected of both looks together"`
	Seconds float64  `json:"seconds" doc:"Expected for both"`
	Then    []Branch `json:"then"`
}

// Branch is an answer to the first look and what follows.
type Branch struct {
	Answer  string  `json:"answer"`
	Chance  float64 `json:"chance"`
	Leader  string  `json:"leader"`
	Settled bool    `json:"settled" doc:"The leader can be named to species: stop there"`
	Next    string  `json:"next,omitempty" doc:"Character to look at then"`
	Name    string  `json:"name,omitempty"`
	From    string  `json:"from,omitempty"`
}

// How wide the look ahead goes.
const (
	planFirst  = 8  // first looks tried
	planSecond = 12 // second looks tried after each answer
)

// plan looks two ahead: of the best first looks, the one that with the best
// second look after each of its answers promises most per minute.
func (a *answer) plan() *Plan {
	seconds := a.candidates(a.st.Posterior, planSecond)
	var best *Plan
	first, rate := 0, 0.0
	for _, f := range seconds[:min(planFirst, len(seconds))] {
		p := a.ahead(f, seconds)
		if r := p.Bits / p.Seconds; best == nil || r > rate {
			best, first, rate = p, f.char, r
		}
	}
	if best != nil {
		best.First.Separates, best.First.Answers = a.separates(first), a.answers(first)
	}
	return best
}

// ahead works one first look out.
func (a *answer) ahead(f candidate, seconds []candidate) *Plan {
	c, _ := a.Pool.Character(f.char)
	p := &Plan{First: a.describe(f), Bits: f.bits, Seconds: float64(c.Seconds), Then: []Branch{}}
	post := make([]float64, len(a.st.Posterior))
	for o := range a.table(f.char).Rows {
		chance := a.table(f.char).After(post, a.st.Posterior, o)
		lead := top(post)
		b := Branch{Answer: a.answerWords(f.char, o, o), Chance: chance, Leader: a.english(lead),
			Settled: lead != a.st.Unlisted() && post[lead] >= ranking.DefaultBars.Species}
		if !b.Settled {
			if s, ok := a.second(post, f.char, seconds); ok {
				sc, _ := a.Pool.Character(s.char)
				p.Bits += chance * s.bits
				p.Seconds += chance * float64(sc.Seconds)
				b.Next, b.Name, b.From = sc.ID, sc.Name, from(sc)
			}
		}
		p.Then = append(p.Then, b)
	}
	slices.SortStableFunc(p.Then, func(x, y Branch) int { return cmp.Compare(y.Chance, x.Chance) })
	p.Then = p.Then[:min(shownAnswers, len(p.Then))]
	return p
}

// second is the best look for a posterior, other than the first.
func (a *answer) second(post []float64, first int, among []candidate) (best candidate, ok bool) {
	for _, s := range among {
		if s.char == first {
			continue
		}
		bits := a.table(s.char).Gain(post)
		if r := bits / cost(a.Pool, s.char); r > best.rank {
			best, ok = candidate{s.char, bits, r}, true
		}
	}
	return best, ok && best.bits > worthwhile*nextlook.Entropy(post)
}
