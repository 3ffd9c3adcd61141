package handbook

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"palethicket/core/flora"
	"palethicket/core/weigh/evidence"
)

// Shown is a state that trees are filtered by; for a sign, seen or not-seen.
type Shown struct{ Character, State string }

// ParseShown reads "bark.texture:smooth".
func ParseShown(text string) (Shown, error) {
	character, state, ok := strings.Cut(text, ":")
	if !ok {
		return Shown{}, fmt.Errorf("%q: want a character and a state, as bark.texture:smooth", text)
	}
	return Shown{character, state}, nil
}

// atLeast is the chance from which on a taxon is listed as showing a state.
const atLeast = 0.05

// List gives the taxa of a pool that show all the states, or may: where
// something is not known of a taxon it stays in. The commonest come first, and
// those of which all is known before the others.
func (b *Handbook) List(among flora.Among, shown []Shown) ([]TaxonLine, error) {
	p, err := b.flora.Pool(flora.PoolKey{Among: among, Age: flora.At(flora.AnyAge)})
	if err != nil {
		return nil, err
	}
	out := []TaxonLine{}
	weight := map[string]float64{}
	for i, t := range p.Taxa {
		l := TaxonLine{Name: t.Name, English: p.Called(i), Group: t.Group, Genus: t.Genus,
			GenusEnglish: t.GenusEnglish, Family: t.Family,
			Common: t.Abundance[p.Region], Status: t.Status[p.Region], Known: true}
		if list := b.flora.List(among.List); list != nil {
			l.Common = list.Abundance[t.Name]
		}
		in := true
		for _, s := range shown {
			chance, known, err := b.chance(p, i, s)
			if err != nil {
				return nil, err
			}
			in = in && (!known || chance >= atLeast)
			l.Known = l.Known && known
		}
		if in {
			out, weight[t.Name] = append(out, l), p.Model.Share()[i]
		}
	}
	slices.SortStableFunc(out, func(a, b TaxonLine) int {
		return cmp.Or(-compareBool(a.Known, b.Known), cmp.Compare(weight[b.Name], weight[a.Name]), cmp.Compare(a.Name, b.Name))
	})
	return out, nil
}

func compareBool(a, b bool) int {
	switch {
	case a == b:
		return 0
	case a:
		return 1
	default:
		return -1
	}
}

// chance is how many trees of a taxon, of any age, show a state.
func (b *Handbook) chance(p *flora.Pool, taxon int, s Shown) (chance float64, known bool, err error) {
	c := b.flora.Character(s.Character)
	if c == nil {
		return 0, false, flora.UnknownWord("character", s.Character, b.flora.CharacterIDs())
	}
	i, _ := p.Index(s.Character, flora.Breast)
	v := &p.Model.Taxa()[taxon].Values[i]
	if c.Kind == evidence.Sign {
		if err := flora.UnknownWord("answer", s.State, []string{"seen", "not-seen"}); err != nil {
			return 0, false, err
		}
		if s.State == "seen" {
			return v.Chance, v.Knowledge != evidence.Unknown, nil
		}
		return 1 - v.Chance, v.Knowledge != evidence.Unknown, nil
	}
	k := c.State(s.State)
	if k < 0 {
		return 0, false, fmt.Errorf("%s: %w", c.ID, flora.UnknownWord("state", s.State, c.StateIDs()))
	}
	if v.Knowledge == evidence.Known {
		chance = v.Dist[k]
	}
	return chance, v.Knowledge != evidence.Unknown, nil
}

// CharacterPage is a character with the trees that show each of its states.
type CharacterPage struct {
	ID       string           `json:"id"`
	Section  string           `json:"section"`
	Name     string           `json:"name"`
	Look     string           `json:"look"`
	Kind     string           `json:"kind" enum:"categorical,numeric,sign,tally"`
	Unit     string           `json:"unit"`
	Reach    string           `json:"reach"`
	Seconds  int              `json:"seconds"`
	Harm     string           `json:"harm"`
	States   []StatePage      `json:"states" doc:"A sign has the states seen and not-seen; a measurement none"`
	Ranges   []TaxonRange     `json:"ranges" doc:"A measurement: the range of each taxon, the smallest first"`
	Mistaken []MistakenStates `json:"mistaken"`
}

// StatePage is a state and who shows it.
type StatePage struct {
	ID    string       `json:"id"`
	Means string       `json:"means"`
	Taxa  []StateTaxon `json:"taxa" doc:"Those that show it most often first"`
}

// StateTaxon is a taxon that shows a state, and the share of its trees that do.
type StateTaxon struct {
	Name    string  `json:"name"`
	English string  `json:"english"`
	Chance  float64 `json:"chance"`
}

// TaxonRange is what a measurement comes to in one taxon.
type TaxonRange struct {
	Name    string `json:"name"`
	English string `json:"english"`
	Words   string `json:"words"`
	middle  float64
}

// MistakenStates is a state and what it is mostly mistaken for.
type MistakenStates struct {
	State string   `json:"state"`
	For   []string `json:"for"`
}

// Character gives the page of a character over a pool's taxa, or nil where
// there is no such character.
func (b *Handbook) Character(id string, among flora.Among) (*CharacterPage, error) {
	c := b.flora.Character(id)
	if c == nil {
		return nil, nil
	}
	p, err := b.flora.Pool(flora.PoolKey{Among: among, Age: flora.At(flora.AnyAge)})
	if err != nil {
		return nil, err
	}
	out := &CharacterPage{ID: c.ID, Section: c.Section, Name: c.Name, Look: c.Look, Kind: c.Kind.String(), Unit: c.Unit,
		Reach: c.Reach, Seconds: c.Seconds, Harm: c.Harm, States: []StatePage{}, Ranges: []TaxonRange{}, Mistaken: mistaken(c)}
	states := c.States
	if c.Kind == evidence.Sign {
		states = []flora.State{{ID: "seen", Means: "it is there"}, {ID: "not-seen", Means: "looked for, and not there"}}
	}
	for _, s := range states {
		page := StatePage{ID: s.ID, Means: s.Means, Taxa: []StateTaxon{}}
		for i, t := range p.Taxa {
			if chance, known, err := b.chance(p, i, Shown{id, s.ID}); err != nil {
				return nil, err
			} else if known && chance >= atLeast {
				page.Taxa = append(page.Taxa, StateTaxon{t.Name, p.Called(i), chance})
			}
		}
		slices.SortStableFunc(page.Taxa, func(a, b StateTaxon) int { return cmp.Compare(b.Chance, a.Chance) })
		out.States = append(out.States, page)
	}
	if c.Kind == evidence.Numeric {
		out.Ranges = b.ranges(p, c)
	}
	return out, nil
}

func (b *Handbook) ranges(p *flora.Pool, c *flora.Character) []TaxonRange {
	i, _ := p.Index(c.ID, flora.Breast)
	out := []TaxonRange{}
	for t := range p.Taxa {
		v := &p.Taxa[t].Entry(c.ID).Cells[flora.Mature][flora.Breast]
		if p.Model.Taxa()[t].Values[i].Knowledge == evidence.Known {
			out = append(out, TaxonRange{p.Taxa[t].Name, p.Called(t), Words(c, v), v.Normals[0].Mean})
		}
	}
	slices.SortStableFunc(out, func(a, b TaxonRange) int { return cmp.Compare(a.middle, b.middle) })
	return out
}

// mostMistaken is how many of the states that one is taken for are named.
const mostMistaken = 3

func mistaken(c *flora.Character) []MistakenStates {
	out := []MistakenStates{}
	for i, s := range c.States {
		row := c.Mistaken(i)
		if row == nil {
			continue
		}
		var order []int
		for j, share := range row {
			if share >= 0.1 {
				order = append(order, j)
			}
		}
		slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(row[b], row[a]) })
		m := MistakenStates{State: s.ID}
		for _, j := range order[:min(mostMistaken, len(order))] {
			m.For = append(m.For, c.States[j].ID)
		}
		out = append(out, m)
	}
	return out
}
