package key

import (
	"context"
	"math"
	"math/rand/v2"
	"slices"

	"palethicket/core/flora"
	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/ranking"
	"palethicket/core/weigh/specimen"
)

// Answer is what somebody read off a tree for one character.
type Answer struct {
	State string  // of a character with states
	Value float64 // of a measure, in the character's unit
	Seen  bool    // of a sign
}

// Fits says whether a lead is the one for an answer.
func (l *Lead) Fits(a Answer) bool {
	switch {
	case l.Seen != nil:
		return *l.Seen == a.Seen
	case l.Below != nil || l.From != nil:
		return (l.From == nil || a.Value >= *l.From) && (l.Below == nil || a.Value < *l.Below)
	}
	return slices.Contains(l.States, a.State)
}

// Walk goes through a key by answers, and gives where it ends and how many couplets that took.
func (k *Key) Walk(answer func(c *Couplet) Answer) (end *End, couplets int) {
	if len(k.Couplets) == 0 {
		return k.End, 0
	}
	at := 1
	for {
		c := &k.Couplets[at-1]
		couplets++
		a := answer(c)
		i := slices.IndexFunc(c.Leads, func(l Lead) bool { return l.Fits(a) })
		if i < 0 {
			i = 0 // no such part: whatever comes first
		}
		if c.Leads[i].To == 0 {
			return c.Leads[i].Ends, couplets
		}
		at = c.Leads[i].To
	}
}

// Right says whether an end is right of a taxon.
func (e *End) Right(t *flora.Taxon) bool {
	switch e.Rank {
	case "species":
		return e.Name == t.Name
	case "group":
		return e.Name == t.Group
	case "genus":
		return e.Name == t.Genus
	case "family":
		return e.Name == t.Family
	}
	return slices.Contains(e.Taxa, t.Name)
}

// Measured is how a key does on drawn specimens.
type Measured struct {
	Specimens int
	Right     float64            // share that came out right to the rank that the key ended in
	Species   float64            // share that came out as a species
	Couplets  float64            // on average
	Longest   int                // way
	Bits      float64            // log2 of the effective number of taxa: the entropy of how common they are
	ByRank    map[string]float64 // share right, by the rank ended in
	Ended     map[string]float64 // share that ended in each rank
	Worst     []Worst            // taxa that come out right least often
	Ranking   float64            // share that the ranking names right, to whatever rank, by the same looks
	Named     float64            // share that it names at all
}

// Worst is a taxon, and how often it comes out right.
type Worst struct {
	Taxon string
	Right float64
	Of    int
}

// Measure walks drawn specimens through a key, read as a fair observer reads: how many come out right.
func Measure(ctx context.Context, f *flora.Flora, k *Key, a Asked, specimens int, seed uint64) (*Measured, error) {
	p, err := a.pool(f)
	if err != nil {
		return nil, err
	}
	weights, err := a.chosen(p)
	if err != nil {
		return nil, err
	}
	w := &walker{pool: p, draw: specimen.NewDrawer(p.Model, rand.NewPCG(seed, 1)), rng: rand.New(rand.NewPCG(seed, 2)),
		ranker: ranking.NewRanker(p.Model), wood: specimen.Cumulative(shared(weights))}
	m := &Measured{Specimens: specimens, ByRank: map[string]float64{}, Ended: map[string]float64{}, Bits: entropy(weights)}
	sums := specimen.Cumulative(shared(weights))
	right, seen := map[int]int{}, map[int]int{}
	for range specimens {
		if ctx.Err() != nil {
			return nil, ctx.Err()
		}
		t := specimen.Pick(sums, w.rng.Float64())
		w.begin(t)
		end, n := k.Walk(w.answer)
		ok := end.Right(p.Taxa[t])
		seen[t]++
		m.Couplets += float64(n)
		m.Longest = max(m.Longest, n)
		m.Ended[end.Rank]++
		if ok {
			m.Right++
			m.ByRank[end.Rank]++
			right[t]++
		}
		if end.Rank == "species" {
			m.Species++
		}
		named, good := w.ranked(t)
		m.Named += named
		m.Ranking += good
	}
	m.finish(p, right, seen)
	return m, nil
}

func (m *Measured) finish(p *flora.Pool, right, seen map[int]int) {
	all := float64(m.Specimens)
	for rank := range m.ByRank {
		m.ByRank[rank] /= m.Ended[rank]
	}
	for rank := range m.Ended {
		m.Ended[rank] /= all
	}
	m.Right, m.Species, m.Couplets, m.Ranking, m.Named = m.Right/all, m.Species/all, m.Couplets/all, m.Ranking/all, m.Named/all
	for t, n := range seen {
		if n >= 20 {
			m.Worst = append(m.Worst, Worst{p.Taxa[t].Name, float64(right[t]) / float64(n), n})
		}
	}
	slices.SortFunc(m.Worst, func(a, b Worst) int {
		switch {
		case a.Right != b.Right:
			return int(math.Copysign(1, a.Right-b.Right))
		case a.Taxon < b.Taxon:
			return -1
		}
		return 1
	})
	m.Worst = m.Worst[:min(len(m.Worst), 5)]
}

func shared(weights []float64) []float64 {
	sum := 0.0
	for _, w := range weights {
		sum += w
	}
	out := make([]float64, len(weights))
	for i, w := range weights {
		out[i] = w / sum
	}
	return out
}

func entropy(weights []float64) float64 {
	h := 0.0
	for _, p := range shared(weights) {
		h -= xlog(p)
	}
	return h
}

// walker reads one drawn specimen.
type walker struct {
	pool   *flora.Pool
	draw   *specimen.Drawer
	rng    *rand.Rand
	ranker *ranking.Ranker
	wood   []float64 // cumulative, of the trees that the key is for
	taxon  int
	scores []evidence.Score
}

func (w *walker) begin(taxon int) { w.taxon, w.scores = taxon, nil }

// answer draws what a fair observer reads of the specimen.
func (w *walker) answer(c *Couplet) Answer {
	id := c.Leads[0].Character
	char, _ := w.pool.Index(id, flora.Breast)
	m := w.pool.Model
	if m.Taxa()[w.taxon].Values[char].Knowledge == evidence.Absent {
		return Answer{Value: -1} // there is no such part to read
	}
	s := evidence.Score{Character: char, Error: fairError, Spread: ruler, Readings: 1, Detect: detect, False: falseAlarm}
	who := w.taxon
	if c, _ := w.pool.Character(char); w.rng.Float64() >= belongs(c) {
		who = specimen.Pick(w.wood, w.rng.Float64()) // of another tree of the wood
	}
	for m.Taxa()[who].Values[char].Knowledge != evidence.Known { // nobody knows: as one of those that are known
		who = w.draw.Taxon()
	}
	w.draw.Score(who, &s)
	w.scores = append(w.scores, s)
	switch m.Characters()[char].Kind {
	case evidence.Sign:
		return Answer{Seen: s.Seen}
	case evidence.Numeric:
		return Answer{Value: s.Value}
	}
	for i, state := range m.Characters()[char].States {
		if s.States == 1<<i {
			return Answer{State: state}
		}
	}
	return Answer{}
}

// ranked says whether the ranking names the specimen by the same looks, and right.
func (w *walker) ranked(taxon int) (named, right float64) {
	v := w.ranker.Rank([]evidence.Look{{Belongs: 0.99, Scores: w.scores}})
	n := v.Named(ranking.DefaultBars)
	if n.Rank == ranking.Undetermined {
		return 0, 0
	}
	end := End{Rank: string(n.Rank), Name: n.Name}
	if end.Right(w.pool.Taxa[taxon]) {
		return 1, 1
	}
	return 1, 0
}
