package handbook

import (
	"math"
	"math/rand/v2"
	"slices"

	"palethicket/core/flora"
	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/portable"
	"palethicket/core/weigh/specimen"
)

// Plate is what a tree shows, one value for each character that is known: what
// a drawing of it is made from.
type Plate struct {
	Name    string       `json:"name"`
	English string       `json:"english"`
	Shows   []PlateValue `json:"shows"`
	Height  float64      `json:"height"` // m, of a grown tree
}

// PlateValue is one character's value. Which field counts follows from its kind.
type PlateValue struct {
	Character string   `json:"character"`
	State     string   `json:"state,omitempty"`
	States    []string `json:"states,omitempty"` // where it may be one of several: all of them
	Value     *float64 `json:"value,omitempty" doc:"In the character's unit"`
	Seen      *bool    `json:"seen,omitempty"`
}

// Plate gives a taxon's usual values at an age and, for bark, a height on the
// trunk: the commonest state, the middle of a range, a sign that at least half
// show. With odd not 0 it gives those of
// one specimen drawn with that seed, within what the taxon varies by. It gives
// nil where the flora has no such taxon.
func (b *Handbook) Plate(name, region string, age flora.Age, zone flora.Zone, odd uint64) (*Plate, error) {
	t := b.flora.Taxon(name)
	if t == nil {
		return nil, nil
	}
	out := &Plate{Name: t.Name, English: t.Called(region), Shows: []PlateValue{}, Height: usualHeight(t)}
	rng := rand.New(rand.NewPCG(odd, odd))
	for i := range b.flora.Characters {
		c := &b.flora.Characters[i]
		v := &t.Entry(c.ID).Cells[age][zone]
		if v.Knowledge != evidence.Known {
			continue
		}
		pick := usual
		if odd != 0 {
			pick = func(c *flora.Character, v *evidence.Value) PlateValue { return drawn(c, v, rng) }
		}
		out.Shows = append(out.Shows, pick(c, v))
	}
	return out, nil
}

// Individual gives what one specimen shows: of each character what is usual, or, by the
// chance that oddness is, what was drawn from how much the taxon varies. The seed is not 0.
func (b *Handbook) Individual(name string, age flora.Age, zone flora.Zone, seed uint64, oddness float64) ([]PlateValue, error) {
	common, err := b.Plate(name, "", age, zone, 0)
	if err != nil || common == nil {
		return nil, err
	}
	odd, err := b.Plate(name, "", age, zone, seed)
	if err != nil {
		return nil, err
	}
	r := rand.New(rand.NewPCG(seed, 1))
	for i := range common.Shows {
		if r.Float64() < oddness {
			common.Shows[i] = odd.Shows[i]
		}
	}
	return common.Shows, nil
}

// lengthsDiffer is how many times as long one length must be as another to look
// different side by side.
const lengthsDiffer = 1.5

// Differences are the characters that two trees both show, and show otherwise.
func Differences(a, b []PlateValue) []string {
	out := []string{}
	for _, x := range a {
		i := slices.IndexFunc(b, func(y PlateValue) bool { return y.Character == x.Character })
		if i >= 0 && x.differs(&b[i]) {
			out = append(out, x.Character)
		}
	}
	return out
}

func (v *PlateValue) differs(o *PlateValue) bool {
	switch {
	case v.Value != nil && o.Value != nil:
		return max(*v.Value, *o.Value) > lengthsDiffer*min(*v.Value, *o.Value)
	case v.Seen != nil && o.Seen != nil:
		return *v.Seen != *o.Seen
	}
	return v.State != o.State && !slices.Contains(v.States, o.State) && !slices.Contains(o.States, v.State)
}

func usual(c *flora.Character, v *evidence.Value) PlateValue {
	out := PlateValue{Character: c.ID}
	switch c.Kind {
	case evidence.Numeric:
		x := portable.Exp(v.Normals[0].Mean)
		out.Value = &x
	case evidence.Sign:
		seen := v.Chance >= 0.5
		out.Seen = &seen
	default:
		best := 0
		for i, p := range v.Dist {
			if p > v.Dist[best] || p == v.Dist[best] && c.States[best].ID == "none" { // what is there teaches more than what is not
				best = i
			}
		}
		out.State = c.States[best].ID
	}
	return out
}

// drawn is a value of one specimen.
func drawn(c *flora.Character, v *evidence.Value, rng *rand.Rand) PlateValue {
	out := PlateValue{Character: c.ID}
	switch c.Kind {
	case evidence.Numeric:
		n := v.Normals[0]
		x := portable.Exp(n.Mean + math.Sqrt(n.Var)*rng.NormFloat64())
		out.Value = &x
	case evidence.Sign:
		seen := rng.Float64() < v.Chance && v.Chance > flora.NeverSeen
		out.Seen = &seen
	default:
		out.State = c.States[specimen.Pick(specimen.Cumulative(v.Dist), rng.Float64())].ID
	}
	return out
}

// Plates gives the usual plates of a pool's taxa.
func (b *Handbook) Plates(among flora.Among) ([]Plate, error) {
	p, err := b.flora.Pool(flora.PoolKey{Among: among, Age: flora.At(flora.AnyAge)})
	if err != nil {
		return nil, err
	}
	out := make([]Plate, 0, len(p.Taxa))
	for _, t := range p.Taxa {
		plate, err := b.Plate(t.Name, p.Region, flora.Mature, flora.Breast, 0)
		if err != nil {
			return nil, err
		}
		out = append(out, *plate)
	}
	return out, nil
}
