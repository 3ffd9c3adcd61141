package key

import (
	"cmp"
	"context"
	"math"
	"math/rand/v2"
	"slices"

	"palethicket/core/flora"
	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/specimen"
)

// Answer is what somebody read off a tree for one character.
type Answer struct {
	State string  // of a character with states
	Value float64 // of a measure, in the character's unit
	Seen  bool    // of a sign
}

// Fits says whether an answer shows a mark.
func (m *Mark) Fits(a Answer) bool {
	switch {
	case m.Seen != nil:
		return *m.Seen == a.Seen
	case m.Below != nil:
		return a.Value < *m.Below
	case m.From != nil:
		return a.Value >= *m.From
	}
	return slices.Contains(m.States, a.State)
}

// Follow gives the lead that more marks fit, the first that can be read breaking ties; where none can be read the one that
// more trees follow. read says what is read for a character; false: it cannot be.
func (c *Couplet) Follow(read func(character string) (Answer, bool)) *Lead {
	ahead, first := 0, -1
	for i := range c.Leads[0].Marks {
		a, ok := read(c.Leads[0].Marks[i].Character)
		if !ok {
			continue
		}
		fits := 1
		if c.Leads[0].Marks[i].Fits(a) {
			fits = 0
		}
		if first < 0 {
			first = fits
		}
		ahead += 1 - 2*fits
	}
	switch {
	case first < 0:
		return &c.Leads[c.Commoner]
	case ahead > 0 || ahead == 0 && first == 0:
		return &c.Leads[0]
	}
	return &c.Leads[1]
}

// Walk goes through a key, and gives where it ends and how many couplets that took.
func (k *Key) Walk(read func(character string) (Answer, bool)) (end *End, couplets int) {
	if len(k.Couplets) == 0 {
		return k.End, 0
	}
	for at := 1; ; {
		lead := k.Couplets[at-1].Follow(read)
		couplets++
		if lead.To == 0 {
			return lead.Ends, couplets
		}
		at = lead.To
	}
}

// Right says whether a taxon is among those that an end names.
func (e *End) Right(t *flora.Taxon) bool { return slices.Contains(e.Taxa, t.Name) }

// Ends are where a key comes out.
func (k *Key) Ends() (out []*End) {
	if k.End != nil {
		return []*End{k.End}
	}
	for i := range k.Couplets {
		for l := range k.Couplets[i].Leads {
			if e := k.Couplets[i].Leads[l].Ends; e != nil {
				out = append(out, e)
			}
		}
	}
	return out
}

// Measured is how a key does on drawn specimens.
type Measured struct {
	Right    float64 // share whose tree is among those named where they come out, by how common the trees are
	Couplets float64 // on average
	Longest  int     // way
	Bits     float64 // log2 of the effective number of taxa: the entropy of how common they are
	Single   float64 // share of the ends that name one tree
	Taxa     []Share // by taxon, those that come out right least often first
}

// Share is how often a taxon comes out right.
type Share struct {
	Taxon string
	Right float64
}

// Measure walks drawn specimens through a key, as many of each taxon, as a fair observer reads them who cannot read what is
// not there, or cannot be told: how many come out right.
func Measure(ctx context.Context, f *flora.Flora, k *Key, a Asked, each int, seed uint64) (*Measured, error) {
	p, err := a.pool(f)
	if err != nil {
		return nil, err
	}
	weights, err := a.chosen(p)
	if err != nil {
		return nil, err
	}
	w := newWalker(p, weights, a.observer(), seed)
	m := &Measured{}
	for t, share := range weights {
		if share == 0 {
			continue
		}
		m.Bits -= xlog(share)
		right := 0.0
		for range each {
			if ctx.Err() != nil {
				return nil, ctx.Err()
			}
			w.begin(t)
			end, n := k.Walk(w.read)
			m.Couplets += share * float64(n) / float64(each)
			m.Longest = max(m.Longest, n)
			if end.Right(p.Taxa[t]) {
				right++
			}
		}
		right /= float64(each)
		m.Right += share * right
		m.Taxa = append(m.Taxa, Share{p.Taxa[t].Name, right})
	}
	slices.SortStableFunc(m.Taxa, func(a, b Share) int { return cmp.Compare(a.Right, b.Right) })
	ends := k.Ends()
	for _, e := range ends {
		if len(e.Taxa) == 1 {
			m.Single += 1 / float64(len(ends))
		}
	}
	return m, nil
}

// walker reads one drawn specimen.
type walker struct {
	observer
	pool  *flora.Pool
	draw  *specimen.Drawer
	rng   *rand.Rand
	wood  []float64         // cumulative, of the trees that the key is for
	there map[int][]float64 // by character: the chance that there is anything to read
	taxon int
	had   map[string]*Answer // what was read of this one; nil: it cannot be
}

func newWalker(p *flora.Pool, weights []float64, o observer, seed uint64) *walker {
	w := &walker{observer: o, pool: p, draw: specimen.NewDrawer(p.Model, rand.NewPCG(seed, 1)), rng: rand.New(rand.NewPCG(seed, 2)),
		wood: specimen.Cumulative(weights), there: map[int][]float64{}}
	for char := range p.Model.Characters() {
		w.there[char] = p.There(char, true, 0)
	}
	return w
}

func (w *walker) begin(taxon int) { w.taxon, w.had = taxon, map[string]*Answer{} }

// read draws what a fair observer reads of the specimen, once.
func (w *walker) read(id string) (Answer, bool) {
	a, ok := w.had[id]
	if !ok {
		a = w.first(id)
		w.had[id] = a
	}
	if a == nil {
		return Answer{}, false
	}
	return *a, true
}

func (w *walker) first(id string) *Answer {
	char, _ := w.pool.Index(id, flora.Breast)
	c, _ := w.pool.Character(char)
	m := w.pool.Model
	if there := w.there[char]; w.rng.Float64() >= w.told(c) || there != nil && w.rng.Float64() >= there[w.taxon] {
		return nil
	}
	s := evidence.Score{Character: char, Error: w.misread(c), Spread: ruler, Readings: 1, Detect: detect, False: falseAlarm}
	who := w.taxon
	if w.rng.Float64() >= w.belongs(c) {
		who = specimen.Pick(w.wood, w.rng.Float64()) // of another tree of the wood
	}
	for m.Taxa()[who].Values[char].Knowledge != evidence.Known { // nobody knows: as one of those that are known
		who = w.draw.Taxon()
	}
	w.draw.Score(who, &s)
	switch m.Characters()[char].Kind {
	case evidence.Sign:
		return &Answer{Seen: s.Seen}
	case evidence.Numeric:
		return &Answer{Value: math.Max(s.Value, math.SmallestNonzeroFloat64)}
	}
	for i, state := range m.Characters()[char].States {
		if s.States == 1<<i {
			return &Answer{State: state}
		}
	}
	return nil
}
