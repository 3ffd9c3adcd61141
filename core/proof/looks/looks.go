package looks

import (
	"context"
	"math/rand/v2"
	"slices"

	"palethicket/core/flora"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/record"
	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/nextlook"
	"palethicket/core/weigh/ranking"
	"palethicket/core/weigh/specimen"
)

// Measured is what one order of looks came to in a region.
type Measured struct {
	Order     string
	Specimens int
	Named     int // to whatever rank
	Right     int // of these
	Species   int // named to species
	Looks     float64
	Minutes   float64 // both on average over all specimens: of one not named, until nothing was left to look at
	Vain      float64 // share of the looks that found nothing: the part was not there, or nobody could tell
	Best      float64 // bits that the look worth most then promised, on average over the looks; 0 where nobody asked
}

// Region is what came of the specimens of a region.
type Region struct {
	Region  string
	Taxa    int
	Entropy float64 // of how common they are, in bits
	First   float64 // bits that the look worth most promises, before any
	Orders  []Measured
}

// Bound is how many looks it takes to tell the trees of a region apart where each tells so
// many bits: Shannon 1948, "A Mathematical Theory of Communication", Bell System Technical
// Journal 27.
func (r *Region) Bound(bits float64) float64 { return r.Entropy / bits }

// Measure draws specimens of a region by how common its trees are, and goes through the
// looks at each in every order until it is named at its bar. The same seed draws the same.
func Measure(ctx context.Context, f *flora.Flora, region string, specimens int, seed uint64) (*Region, error) {
	p, err := f.Pool(flora.PoolKey{Among: flora.Among{Region: region}, Age: flora.At(flora.AnyAge)})
	if err != nil {
		return nil, err
	}
	out := &Region{Region: region, Taxa: len(p.Taxa), Entropy: nextlook.Entropy(p.Model.Prior()), First: first(p)}
	e := answer.NewEngine(f)
	for _, order := range orders(f) {
		m := Measured{Order: order.name, Specimens: specimens}
		for i := range specimens {
			if err := ctx.Err(); err != nil {
				return nil, err
			}
			if err := m.count(newTree(e, p, seed, uint64(i)), order); err != nil {
				return nil, err
			}
		}
		m.Best /= m.Looks
		m.Vain /= m.Looks
		m.Looks /= float64(specimens)
		m.Minutes /= float64(specimens)
		out.Orders = append(out.Orders, m)
	}
	return out, nil
}

// first is what the look that is worth most promises before any, in bits.
func first(p *flora.Pool) (bits float64) {
	for char := range p.Model.Characters() {
		if c, zone := p.Character(char); zone == flora.Breast && c.ID != foliage {
			set := nextlook.Setting{Belongs: record.Belonging[answer.From(c)], There: p.There(char, true, 0), Setting: usual}
			bits = max(bits, c.Told*nextlook.Gain(p.Model, p.Model.Prior(), char, set))
		}
	}
	return bits
}

// foliage is seen before anything is looked at.
const foliage = "needle.kept"

// usual is how a fair observer scores.
var usual = evidence.Setting{Error: record.ErrorRate["fair"], Spread: record.Spread["ruler"], Readings: 1,
	Detect: record.Detection["clear"], False: record.FalseAlarm}

// count goes through the looks at one specimen.
func (m *Measured) count(t *tree, order order) error {
	next := order.begin(t)
	for {
		named, err := t.stands(order.asks)
		if err != nil {
			return err
		}
		if answer.RankWords(named.Rank) != "" {
			m.Named++
			if answer.Label(t.pool.Taxa[t.taxon], named.Rank) == named.Name {
				m.Right++
			}
			if named.Rank == ranking.Species {
				m.Species++
			}
			return nil
		}
		c := next()
		if c == nil {
			return nil
		}
		m.Best += t.best()
		m.Looks++
		m.Minutes += float64(c.Seconds) / 60
		if !t.look(c) {
			m.Vain++
		}
	}
}

// tree is a drawn specimen, and what was scored of it.
type tree struct {
	engine  *answer.Engine
	pool    *flora.Pool
	rng     *rand.Rand
	draw    *specimen.Drawer
	taxon   int
	who     map[string]int // by kind of look: whose it is
	rec     record.Record
	looked  map[string]bool
	shown   map[sighted]bool
	answers []answer.Next // where they are asked for
}

func newTree(e *answer.Engine, p *flora.Pool, seed, i uint64) *tree {
	src := rand.NewPCG(seed, i)
	t := &tree{
		engine: e,
		pool:   p,
		rng:    rand.New(src),
		draw:   specimen.NewDrawer(p.Model, src),
		who:    map[string]int{},
		looked: map[string]bool{},
		shown:  map[sighted]bool{},
	}
	t.taxon = t.draw.Taxon()
	for _, from := range record.Froms.IDs() {
		t.who[from] = t.taxon
		if t.rng.Float64() >= record.Belonging[from] {
			t.who[from] = t.draw.Taxon()
		}
	}
	t.rec = record.Record{ID: "drawn", Region: p.Region}
	char, _ := p.Index(foliage, flora.Breast)
	if v := &p.Model.Taxa()[t.taxon].Values[char]; v.Knowledge == evidence.Known {
		states := p.Model.Characters()[char].States
		t.rec.Foliage = states[specimen.Pick(specimen.Cumulative(v.Dist), t.rng.Float64())]
	}
	return t
}

// stands says how far the tree can be named now, and takes note of the next looks where
// they are asked for.
func (t *tree) stands(asks int) (answer.Name, error) {
	res, err := t.engine.Identify(&t.rec, answer.Options{Next: asks})
	if err != nil {
		return answer.Name{}, err
	}
	t.answers = res.Next
	return res.Named, nil
}

// best is what the look worth most promises now, of those that were asked for.
func (t *tree) best() (bits float64) {
	for i := range t.answers {
		bits = max(bits, t.answers[i].Bits)
	}
	return bits
}

// look scores a character as a fair observer does who sees only what is there, and says whether
// there was an answer. Where the tree has no such part, or one cannot tell, the time is spent and
// nothing is scored; where what the part is shown by is not there, that is.
func (t *tree) look(c *flora.Character) (found bool) {
	t.looked[c.ID] = true
	if t.rng.Float64() >= c.Told {
		return false
	}
	from := answer.From(c)
	char, _ := t.pool.Index(c.ID, flora.Breast)
	who, m := t.who[from], t.pool.Model
	v := &m.Taxa()[who].Values[char]
	if m.KnownShare(char) == 0 || v.Knowledge == evidence.Absent && c.Kind != evidence.Sign {
		return false
	}
	if sign := c.ShownBy; sign != "" && !t.shows(who, sign) {
		return false
	}
	for v.Knowledge == evidence.Unknown { // as one of those that are known
		who = t.draw.Taxon()
		v = &m.Taxa()[who].Values[char]
	}
	if v.Knowledge == evidence.Absent && c.Kind != evidence.Sign {
		return false
	}
	s := evidence.Score{Character: char, Error: usual.Error, Spread: usual.Spread, Readings: 1, Detect: usual.Detect, False: usual.False}
	if c.Kind == evidence.Tally {
		s.Nodes = evidence.TallyNodes
	}
	t.draw.Score(who, &s)
	if c.Kind == evidence.Sign { // seen or not as it was seen or not before
		if shows, looked := t.shown[sighted{who, c.ID}]; looked {
			s.Seen = shows
		}
		t.shown[sighted{who, c.ID}] = s.Seen
	}
	t.write(from, c, &s)
	return true
}

// sighted is a sign of a taxon's tree.
type sighted struct {
	taxon int
	sign  string
}

// shows says whether a tree shows a sign, and scores that it does not: whoever looked for fruit and saw
// none has said so.
func (t *tree) shows(who int, sign string) bool {
	at := sighted{who, sign}
	if shows, looked := t.shown[at]; looked {
		return shows
	}
	char, _ := t.pool.Index(sign, flora.Breast)
	v := &t.pool.Model.Taxa()[who].Values[char]
	t.shown[at] = v.Knowledge == evidence.Unknown || t.rng.Float64() < v.Chance
	if c := t.engine.Flora.Character(sign); !t.shown[at] {
		t.looked[sign] = true
		t.write(answer.From(c), c, &evidence.Score{Character: char})
	}
	return t.shown[at]
}

// write puts a score into the record, in its kind of look.
func (t *tree) write(from string, c *flora.Character, s *evidence.Score) {
	out := record.Score{Character: c.ID}
	switch {
	case c.Kind == evidence.Numeric:
		out.Value = &s.Value
	case c.Kind == evidence.Sign:
		out.Seen, out.Visibility = &s.Seen, "clear"
	case s.Nodes > 0:
		out.Pairs, out.Nodes = &s.Pairs, &s.Nodes
	default:
		for i, state := range c.States {
			if s.States == 1<<i {
				out.States = []string{state.ID}
			}
		}
	}
	at := slices.IndexFunc(t.rec.Looks, func(l record.Look) bool { return l.From == from })
	if at < 0 {
		at = len(t.rec.Looks)
		t.rec.Looks = append(t.rec.Looks, record.Look{From: from})
	}
	t.rec.Looks[at].Scores = append(t.rec.Looks[at].Scores, out)
}
