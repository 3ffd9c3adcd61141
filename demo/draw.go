package demo

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strings"

	"palethicket/core/flora"
	"palethicket/core/tree/record"
	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/specimen"
)

// plan is a look as people take it: where from, and what is scored in it.
type plan struct {
	from  string
	chars []string
}

var (
	atSite  = plan{"site", []string{"setting.landform", "setting.moisture"}}
	atBark  = plan{"tree", []string{"bark.texture", "bark.color", "bark.give", "bark.under-color"}}
	atCrown = plan{"crown", []string{"twig.arrangement", "form.spray", "fruit.hanging", "fruit.kind"}}
	atTwig  = plan{"tree", []string{"twig.arrangement", "bud.tip", "bud.shape", "bud.length", "bud.color", "bud.coat", "bud.scale-count",
		"scar.shape", "scar.bundles", "twig.pith", "twig.color", "needle.bundle", "needle.length"}}
	atGround = plan{"litter", []string{"ground.leaf", "ground.fruit"}}
)

// drawer makes scores of specimens.
type drawer struct {
	flora *flora.Flora
	among flora.Among
	rng   *rand.Rand
	src   rand.Source
}

// look draws what a look at a taxon shows. Parts that the taxon lacks, or that
// the flora does not know of it, are passed over, and now and then one that was
// not got round to.
func (d *drawer) look(age, taxon string, p plan) ([]record.Score, error) {
	pool, err := d.flora.Pool(flora.PoolKey{Among: d.among, Age: flora.At(flora.Age(slices.Index(flora.AgeWords, age)))})
	if err != nil {
		return nil, err
	}
	t, ok := pool.Find(taxon)
	if !ok {
		return nil, fmt.Errorf("%s is not on the list %s", taxon, d.among.List)
	}
	draw := specimen.NewDrawer(pool.Model, d.src)
	var out []record.Score
	for _, id := range p.chars {
		i, ok := pool.Index(id, flora.Breast)
		if !ok {
			return nil, fmt.Errorf("the flora has no character %s", id)
		}
		if pool.Model.Taxa()[t].Values[i].Knowledge != evidence.Known || d.rng.Float64() < 0.2 {
			continue
		}
		s, err := d.score(pool, draw, t, id)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", id, err)
		}
		out = append(out, s)
	}
	return out, nil
}

// score draws one score: a blank one is laid out as the record would be, the
// specimen answers it, and the answer is written back.
func (d *drawer) score(pool *flora.Pool, draw *specimen.Drawer, t int, id string) (record.Score, error) {
	c := d.flora.Character(id)
	s := record.Score{Character: id, Certainty: d.certainty()}
	switch c.Kind {
	case evidence.Categorical:
		s.States = c.StateIDs()[:1]
	case evidence.Numeric:
		one, readings := 1.0, 1+d.rng.IntN(3)
		s.Value, s.Readings = &one, &readings
	case evidence.Sign:
		seen := true
		s.Seen, s.Certainty = &seen, ""
	case evidence.Tally:
		none, nodes := 0, 4+d.rng.IntN(5)
		s.Pairs, s.Nodes, s.Certainty = &none, &nodes, ""
	}
	tree, err := record.Resolve(
		d.flora,
		&record.Record{Region: d.among.Region, List: d.among.List, Looks: []record.Look{{From: "tree", Scores: []record.Score{s}}}},
	)
	if err != nil {
		return s, err
	}
	answer := tree.Looks[0].Scores[0]
	draw.Score(t, &answer)
	switch c.Kind {
	case evidence.Categorical:
		s.States = nil
		for i, state := range c.StateIDs() {
			if answer.States&(1<<i) != 0 {
				s.States = append(s.States, state)
			}
		}
	case evidence.Numeric:
		v := significant(answer.Value)
		s.Value = &v
	case evidence.Sign:
		s.Seen = &answer.Seen
	case evidence.Tally:
		s.Pairs = &answer.Pairs
	}
	return s, nil
}

// certainty is mostly the ordinary one.
func (d *drawer) certainty() string {
	switch u := d.rng.Float64(); {
	case u < 0.35:
		return "sure"
	case u < 0.9:
		return ""
	}
	return "guess"
}

// significant rounds to two figures, as a ruler is read.
func significant(x float64) float64 {
	if x <= 0 {
		return x
	}
	unit := math.Pow(10, math.Floor(math.Log10(x))-1)
	return math.Round(math.Round(x/unit)*unit*1e6) / 1e6
}

// stem draws a diameter at breast height in centimetres: log-normal about the
// middle for the age, less for what stays small.
func (d *drawer) stem(taxon, age string) record.Score {
	middle := map[string]float64{"young": 9, "mature": 31, "old": 58}[age]
	genus, _, _ := strings.Cut(taxon, " ")
	if small[genus] {
		middle /= 3
	}
	v := math.Round(10*middle*math.Exp(0.28*d.rng.NormFloat64())) / 10
	return record.Score{Character: "form.dbh", Value: &v, How: "caliper"}
}

// small are genera of small trees.
var small = map[string]bool{"Alnus": true, "Carpinus": true, "Crataegus": true, "Ostrya": true, "Rhamnus": true, "Rhus": true}

// foliage is what is green on a tree in winter.
func foliage(taxon string) string {
	genus, _, _ := strings.Cut(taxon, " ")
	switch genus {
	case "Pinus":
		return "needles"
	case "Juniperus":
		return "scale-leaves"
	}
	return "bare"
}
