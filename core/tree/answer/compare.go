package answer

import (
	"cmp"
	"fmt"
	"slices"

	"palethicket/core/flora"
	"palethicket/core/tree/record"
	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/ranking"
)

// Comparison is what each look and score says between two taxa. Bits above 0
// speak for A, below 0 for B.
type Comparison struct {
	A         string        `json:"a"`
	B         string        `json:"b"`
	PriorBits float64       `json:"prior_bits"` // how much commoner A is than B
	Bits      float64       `json:"bits"`       // prior and all looks together
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
	Place     int          `json:"place"` // 1 is the leader
	Posterior float64      `json:"posterior"`
	Leader    string       `json:"leader"`
	Against   []Comparison `json:"against"` // the leader over it; empty where it leads
	Wrong     []Check      `json:"wrong"`   // scores that would have to be wrong for it to lead; empty where none together would do
	Settle    []Next       `json:"settle"`  // what would bring it back or bury it
	Words     string       `json:"words"`
}

// find gives the hypothesis of a name; "" is given as fallback.
func (w *Weighing) find(field, name string, fallback int) (int, error) {
	if name == "" {
		return fallback, nil
	}
	if name == Unlisted {
		return w.verdict.Unlisted(), nil
	}
	h, ok := w.Pool.Find(name)
	if !ok {
		known := []string{}
		for _, t := range w.Pool.Taxa {
			known = append(known, t.Name)
		}
		return 0, record.Errors{{Field: field, Message: flora.UnknownWord("taxon", name, known).Error()}}
	}
	return h, nil
}

// Compare weighs the looks between two taxa; empty names stand for the leader
// and the runner-up.
func (w *Weighing) Compare(a, b string) (*Comparison, error) {
	ha, err := w.find("a", a, w.verdict.Order()[0])
	if err != nil {
		return nil, err
	}
	hb, err := w.find("b", b, w.verdict.Order()[1])
	if err != nil {
		return nil, err
	}
	c := w.compare(ha, hb)
	return &c, nil
}

func (w *Weighing) compare(a, b int) Comparison {
	prior := w.Pool.Model.Prior()
	c := Comparison{A: w.name(a), B: w.name(b), PriorBits: ranking.BitsOf(prior[a], prior[b]), Looks: []LookBalance{}}
	c.Bits = c.PriorBits
	for i := range w.Looks {
		bits := w.verdict.Bits(i, a, b)
		c.Bits += bits
		if i >= len(w.Record.Looks) || len(w.Record.Looks[i].Scores) == 0 {
			continue
		}
		l := LookBalance{Look: i, From: w.Record.Looks[i].From, Bits: bits, Says: weightWords(bits, w.english(a), w.english(b))}
		for j, sc := range w.Record.Looks[i].Scores {
			l.Scores = append(l.Scores, ScoreBalance{sc.Character, j, w.ranker.ScoreBits(w.Looks, i, j, a, b)})
		}
		c.Looks = append(c.Looks, l)
	}
	return c
}

// WhyNot says why a taxon does not lead.
func (w *Weighing) WhyNot(taxon string) (*WhyNot, error) {
	h, err := w.find("taxon", taxon, w.verdict.Order()[1])
	if err != nil {
		return nil, err
	}
	lead := w.verdict.Leader()
	out := &WhyNot{Taxon: w.name(h), English: w.english(h), Place: 1 + slices.Index(w.verdict.Order(), h),
		Posterior: w.verdict.Posterior[h], Leader: w.name(lead), Against: []Comparison{}, Wrong: []Check{}, Settle: []Next{}}
	rival := lead
	if h == lead {
		rival = w.verdict.Order()[1]
		out.Words = fmt.Sprintf("%s leads.", flora.UpperFirst(w.english(h)))
	} else {
		out.Against = append(out.Against, w.compare(lead, h))
	}
	out.Settle = w.settle(h, rival)
	if h != lead {
		out.Wrong = w.wrong(h)
		out.Words = w.whyWords(h, lead, out)
	}
	return out, nil
}

// settle gives the looks that best tell two hypotheses apart, taken as even.
func (w *Weighing) settle(a, b int) []Next {
	even := make([]float64, len(w.verdict.Posterior))
	even[a], even[b] = 0.5, 0.5
	order := []int{a, b}
	v := &ranking.Verdict{Posterior: even}
	pair := answer{Reading: w.Reading, verdict: v.Ordered(order), kit: w.kit, engine: w.engine, month: w.month}
	return pair.next(pair.candidates(pair.verdict.Posterior, 3), true)
}

// mostWrong is how many scores may be doubted before a taxon is given up.
const mostWrong = 4

// wrong lists the scores that, left out, would make h lead: each time the one
// without which it stands best.
func (w *Weighing) wrong(h int) []Check {
	looks := make([]evidence.Look, len(w.Looks))
	at := make([][]int, len(w.Record.Looks)) // where the scores left stand in the record
	for i, l := range w.Looks {
		looks[i] = evidence.Look{Belongs: l.Belongs, Scores: slices.Clone(l.Scores)}
		for j := range l.Scores {
			if i < len(at) {
				at[i] = append(at[i], j)
			}
		}
	}
	r := ranking.NewRanker(w.Pool.Model)
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
		out = append(out, w.check(l, at[l][j], h))
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
func (w *Weighing) whyWords(h, lead int, why *WhyNot) string {
	type doubt struct {
		character string
		bits      float64
	}
	var most []doubt
	for _, l := range why.Against[0].Looks {
		for _, sc := range l.Scores {
			if sc.Bits > 0.5 {
				most = append(most, doubt{sc.Character, sc.Bits})
			}
		}
	}
	slices.SortFunc(most, func(a, b doubt) int { return cmp.Compare(b.bits, a.bits) })
	name, over := flora.UpperFirst(w.english(h)), w.english(lead)
	if prior := w.Pool.Model.Prior(); len(most) == 0 && prior[h] >= prior[lead] {
		return fmt.Sprintf("Nothing scored so far tells %s from %s.", w.english(h), over)
	}
	if len(most) == 0 {
		return fmt.Sprintf("%s fits about as well as %s; it is only less common here.", name, over)
	}
	words := fmt.Sprintf("Against %s speaks most of all the %s.", w.english(h), w.characterName(most[0].character))
	switch n := len(why.Wrong); {
	case n == 1:
		words += fmt.Sprintf(" If that one score were wrong, %s would lead.", w.english(h))
	case n > 1:
		words += fmt.Sprintf(" %d scores would have to be wrong before it led.", n)
	default:
		words += " More than a few scores would have to be wrong before it led."
	}
	return words
}

func (w *Weighing) characterName(id string) string {
	if i, ok := w.Pool.Index(id, 1); ok {
		c, _ := w.Pool.Character(i)
		return c.Name
	}
	return id
}
