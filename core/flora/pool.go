package flora

import (
	"errors"
	"fmt"
	"maps"
	"math"
	"slices"
	"sync"

	"palethicket/core/weigh/evidence"
)

// Among says which taxa a tree could be: all of a region, or those of a list.
type Among struct {
	Region string // of the flora: whose names the trees go by
	List   string // name of a [List]; empty: every taxon of the region
}

// Among reads what somebody says of which taxa a tree could be. Without a region
// it is the home region; the region of a list is the list's own. The name of a
// list may stand in place of a region, as it did in older records. The error is
// a [*NoSuch].
func (f *Flora) Among(region, list string) (Among, error) {
	if list == "" && f.lists[region] != nil {
		list = region
	}
	if list != "" {
		if l := f.lists[list]; l != nil {
			return Among{l.Region, list}, nil
		}
		return Among{}, &NoSuch{"list", UnknownWord("list", list, f.ListNames())}
	}
	if region == "" {
		region = f.HomeRegion()
	}
	if err := UnknownWord("region", region, f.RegionIDs()); err != nil {
		return Among{}, &NoSuch{"region", err}
	}
	return Among{Region: region}, nil
}

// Amongs lists everything a tree can be ranked among: the regions, then the
// lists.
func (f *Flora) Amongs() []Among {
	var out []Among
	for _, r := range f.RegionIDs() {
		out = append(out, Among{Region: r})
	}
	for _, name := range f.ListNames() {
		out = append(out, Among{f.lists[name].Region, name})
	}
	return out
}

// NoSuch says that the flora has no such region, list or taxon; Field says
// which, as records call it.
type NoSuch struct {
	Field string
	Err   error
}

func (e *NoSuch) Error() string { return e.Err.Error() }

// Unwrap gives what was wrong with the word.
func (e *NoSuch) Unwrap() error { return e.Err }

// PoolKey says which taxa a tree could be, and how their values are read.
type PoolKey struct {
	Among
	Age  PoolAge // that of the trees; it must be given
	Flat bool    // every taxon taken as equally common
}

// PoolAge is the age of the trees of a pool. The zero one is none, and is refused: nobody's trees
// are young by oversight.
type PoolAge struct {
	age   Age
	given bool
}

// At is an age for a pool.
func At(age Age) PoolAge { return PoolAge{age, true} }

// ErrNoAge is given for a pool of trees whose age is not said.
var ErrNoAge = errors.New("a pool needs the age of its trees: young, mature, old or any")

// Pool is a region's taxa laid out for scoring.
type Pool struct {
	Model *evidence.Model
	Among
	Taxa  []*Taxon // in the model's order
	key   PoolKey
	flora *Flora
	first []int        // by the flora's character: the model's, the one at the base where it varies by zone
	chars []*Character // of each model character
	zones []Zone
}

// ageMix is how ages are mixed where the tree's is not given.
var ageMix = [3]float64{0.25, 0.60, 0.15}

// Pool gives the taxa of a region or a list, laid out. Pools are made once and
// kept. The error is a [*NoSuch] where there is no such region or list.
func (f *Flora) Pool(key PoolKey) (*Pool, error) {
	if !key.Age.given {
		return nil, ErrNoAge
	}
	among, err := f.Among(key.Region, key.List)
	if err != nil {
		return nil, err
	}
	key.Among = among
	p, err := f.poolsOf(key).get(key, f.layOut)
	if err != nil {
		return nil, fmt.Errorf("laying out the pool of %s %s: %w", key.Region, key.List, err)
	}
	return p, nil
}

func (f *Flora) poolsOf(key PoolKey) *pools {
	if key.List == "" {
		return f.whole
	}
	return f.pools
}

// Has says whether a pool is one that [Flora.Pool] gives.
func (f *Flora) Has(p *Pool) bool { return f.poolsOf(p.key).has(p) }

// pools are those that were laid out.
type pools struct {
	mu sync.Mutex
	of map[PoolKey]*Pool
}

func (k *pools) get(key PoolKey, layOut func(PoolKey) (*Pool, error)) (*Pool, error) {
	k.mu.Lock()
	defer k.mu.Unlock()
	if p, ok := k.of[key]; ok {
		return p, nil
	}
	p, err := layOut(key)
	if err != nil {
		return nil, err
	}
	if k.of == nil {
		k.of = map[PoolKey]*Pool{}
	}
	p.key, k.of[key] = key, p
	return p, nil
}

func (k *pools) has(p *Pool) bool {
	k.mu.Lock()
	defer k.mu.Unlock()
	return k.of[p.key] == p
}

func (k *pools) copied() *pools {
	k.mu.Lock()
	defer k.mu.Unlock()
	return &pools{of: maps.Clone(k.of)}
}

// Index gives the model's character for a character of the flora in a zone.
// Characters that do not vary by zone have one for all.
func (p *Pool) Index(id string, zone Zone) (int, bool) {
	i, ok := p.flora.byID[id]
	if !ok {
		return 0, false
	}
	return p.At(i, zone), true
}

// At is Index for the character with the index in the flora.
func (p *Pool) At(char int, zone Zone) int {
	if p.flora.Characters[char].ByZone {
		return p.first[char] + int(zone)
	}
	return p.first[char]
}

// Character gives the flora's character behind a character of the model, and
// the zone it is read in.
func (p *Pool) Character(i int) (*Character, Zone) { return p.chars[i], p.zones[i] }

// Called is what the people of the pool's region call its taxon i.
func (p *Pool) Called(i int) string { return p.Taxa[i].Called(p.Region) }

// Find gives the index of a taxon by scientific name.
func (p *Pool) Find(name string) (int, bool) {
	i := slices.IndexFunc(p.Taxa, func(t *Taxon) bool { return t.Name == name })
	return i, i >= 0
}

func (f *Flora) layOut(key PoolKey) (*Pool, error) {
	p := &Pool{flora: f, Among: key.Among}
	list := f.lists[key.List]
	var chars []evidence.Character
	for i := range f.Characters {
		c := &f.Characters[i]
		zones := []Zone{Breast}
		if c.ByZone {
			zones = []Zone{Base, Breast, Upper}
		}
		p.first = append(p.first, len(chars))
		for _, z := range zones {
			p.chars, p.zones = append(p.chars, c), append(p.zones, z)
			chars = append(chars, evidence.Character{ID: c.ID, Kind: c.Kind, States: c.StateIDs(),
				Confusion: c.mistaken, Shapes: c.Pairs})
		}
	}
	var taxa []evidence.Taxon
	for i := range f.Taxa {
		t := &f.Taxa[i]
		word := t.Abundance[key.Region]
		if list != nil {
			word = list.Abundance[t.Name]
		}
		if word == "" {
			continue
		}
		weight := AbundanceWord[word]
		if key.Flat {
			weight = 1
		}
		et := evidence.Taxon{Name: t.Name, Group: t.Group, Genus: t.Genus, Family: t.Family, Weight: weight}
		for c := range chars {
			et.Values = append(et.Values, t.value(p.chars[c], p.zones[c], key.Age.age))
		}
		taxa, p.Taxa = append(taxa, et), append(p.Taxa, t)
	}
	m, err := evidence.NewModel(chars, taxa, evidence.DefaultUnlisted)
	p.Model = m
	return p, err
}

// value gives what the taxon shows of the character at a zone and age; ages
// are mixed where the tree's is not given.
func (t *Taxon) value(c *Character, zone Zone, age Age) evidence.Value {
	e := t.Entry(c.ID)
	ages := [3]evidence.Value{e.Cells[Young][zone], e.Cells[Mature][zone], e.Cells[Old][zone]}
	if c.Grows {
		ages[Young] = growing(c, ages[Young])
	}
	switch {
	case age != AnyAge:
		return ages[age]
	case !c.ByAge && !c.Grows:
		return ages[Mature]
	}
	return mix(c, ages)
}

// growing is a grown tree's measure in one that still grows to it: every trunk of 40 cm was once
// one of 4 cm. From the least that is measured to the grown tree's middle each size is, by its
// logarithm, as likely as another; above that it falls as the grown tree's does.
func growing(c *Character, v evidence.Value) evidence.Value {
	if v.Knowledge != evidence.Known {
		return v
	}
	out := evidence.Value{Knowledge: evidence.Known}
	for _, n := range v.Normals {
		least := math.Log(sapling[c.Unit])
		step, sd := max(n.Mean-least, math.Sqrt(n.Var))/growthSteps, math.Sqrt(n.Var)
		above := sd * math.Sqrt(math.Pi/2) / step // in steps, so that there is no jump at the middle
		weight := n.Weight / (growthSteps + above)
		for k := range growthSteps {
			mean := n.Mean - (float64(k)+0.5)*step
			out.Normals = append(out.Normals, evidence.Component{Weight: weight, Mean: mean, Var: step * step * spread * spread})
		}
		above = weight * above
		out.Normals = append(out.Normals, evidence.Component{Weight: above, Mean: n.Mean + spread*sd, Var: n.Var * spread * spread})
	}
	return out
}

// sapling is the least of a young tree that is measured, by unit.
var sapling = map[string]float64{"cm": 1, "mm": 0.5}

const (
	growthSteps = 6   // normals that stand for an even spread
	spread      = 0.6 // their standard deviation, in steps: the sum is even to a few hundredths
)

// mix joins the values of the three ages by how common the ages are. An age
// whose value is not known, or that lacks the part, leaves the others.
func mix(c *Character, ages [3]evidence.Value) evidence.Value {
	out := evidence.Value{Knowledge: ages[Mature].Knowledge}
	total := 0.0
	for a, v := range ages {
		if v.Knowledge == evidence.Known {
			total += ageMix[a]
			out.Knowledge = evidence.Known
		}
	}
	if out.Knowledge != evidence.Known {
		return out
	}
	if len(c.States) > 0 {
		out.Dist = make([]float64, len(c.States))
	}
	for a, v := range ages {
		if v.Knowledge != evidence.Known {
			continue
		}
		w := ageMix[a] / total
		for i, q := range v.Dist {
			out.Dist[i] += w * q
		}
		out.Chance += w * v.Chance
		for _, n := range v.Normals {
			out.Normals = append(out.Normals, evidence.Component{Weight: w * n.Weight, Mean: n.Mean, Var: n.Var})
		}
	}
	return out
}
