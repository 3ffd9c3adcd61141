package audit

import (
	"cmp"
	"fmt"
	"slices"

	"palethicket/core/flora"
	"palethicket/core/flora/lookalike"
	"palethicket/core/weigh/evidence"
)

// Finding is one thing to correct, or to explain in the flora.
type Finding struct {
	About string // a taxon, a pair, a character, or a file and line
	Words string
}

// Coverage is how many characters are known of a taxon, beside those that
// defaults.yaml gives to all.
type Coverage struct {
	Taxon string
	Kind  Kind
	Known int
}

// Kind is the growth form by which coverage is asked for.
type Kind string

// The kinds, and how many characters each should have.
const (
	Tree      Kind = "deciduous tree"
	Shrub     Kind = "shrub"
	Evergreen Kind = "evergreen"
	Vine      Kind = "vine"
)

// Wanted is how many characters should be known of each kind.
var Wanted = map[Kind]int{Tree: 35, Shrub: 30, Evergreen: 20, Vine: 20}

// Check gives everything there is to correct.
func Check(f *flora.Flora) []Finding {
	var out []Finding
	for _, r := range f.Remarks {
		out = append(out, Finding{fmt.Sprintf("%s:%d", r.File, r.Line), fmt.Sprintf("%s %s: %s", r.Taxon, r.Character, r.Words)})
	}
	for _, c := range Cover(f) {
		if c.Known < Wanted[c.Kind] {
			out = append(
				out,
				Finding{c.Taxon, fmt.Sprintf("%d characters are known; a %s should have %d", c.Known, c.Kind, Wanted[c.Kind])},
			)
		}
	}
	out = append(out, incomplete(f)...)
	for _, region := range f.RegionIDs() {
		out = append(out, pairs(f, region)...)
	}
	out = append(out, rules(f)...)
	return append(out, lines(f)...)
}

// Cover gives the coverage of every taxon, the least known first.
func Cover(f *flora.Flora) []Coverage {
	var out []Coverage
	for i := range f.Taxa {
		t := &f.Taxa[i]
		c := Coverage{Taxon: t.Name, Kind: kindOf(f, t)}
		for _, id := range f.CharacterIDs() {
			if e := t.Entry(id); !e.Usual && e.Cells[flora.Mature][flora.Breast].Knowledge == evidence.Known {
				c.Known++
			}
		}
		out = append(out, c)
	}
	slices.SortStableFunc(out, func(a, b Coverage) int { return cmp.Compare(a.Known, b.Known) })
	return out
}

// chance is the chance that a mature taxon shows one of the states.
func chance(f *flora.Flora, t *flora.Taxon, id string, states ...string) float64 {
	sum := 0.0
	e, c := t.Entry(id), f.Character(id)
	if e.Cells[flora.Mature][flora.Breast].Knowledge != evidence.Known {
		return 0
	}
	for _, s := range states {
		if i := c.State(s); i >= 0 {
			sum += e.Cells[flora.Mature][flora.Breast].Dist[i]
		}
	}
	return sum
}

func kindOf(f *flora.Flora, t *flora.Taxon) Kind {
	switch {
	case chance(f, t, "form.habit", "vine") > 0.5:
		return Vine
	case chance(f, t, "needle.kept", "bare") < 0.5:
		return Evergreen
	case chance(f, t, "form.habit", "shrub-clump", "thicket") > 0.4:
		return Shrub
	default:
		return Tree
	}
}

// incomplete finds taxa without what a page about them needs.
func incomplete(f *flora.Flora) (out []Finding) {
	for i := range f.Taxa {
		t := &f.Taxa[i]
		if t.Height == nil {
			out = append(out, Finding{t.Name, "no height is written"})
		}
		harmful := slices.Contains(t.Cautions, "toxic") || slices.Contains(t.Cautions, "irritant")
		if harmful && t.Poisonous == "" {
			out = append(out, Finding{t.Name, "is toxic or irritant, but not which parts"})
		}
	}
	return out
}

// rules holds the rules of thumb against the values: whom each leaves out, and whom it
// takes in wrongly, as far as the flora has their genera.
func rules(f *flora.Flora) (out []Finding) {
	for _, r := range f.Rules {
		for i := range f.Taxa {
			t := &f.Taxa[i]
			if t.Entry(r.Character).Cells[flora.Mature][flora.Breast].Knowledge != evidence.Known {
				continue
			}
			against, named := chance(f, t, r.Character, r.Against) > 0.5, slices.Contains(r.Genera, t.Genus)
			switch {
			case !against && !named && !slices.Contains(r.LeavesOut, t.Genus):
				out = append(out, Finding{t.Name, fmt.Sprintf("is left out by the rule %s, which does not say so of %s", r.ID, t.Genus)})
			case against && named && !slices.Contains(r.Wrong, t.Name):
				out = append(out, Finding{t.Name, fmt.Sprintf("is taken in wrongly by the rule %s, which does not say so", r.ID)})
			case against && slices.Contains(r.LeavesOut, t.Genus) && !someOf(f, &r, t.Genus), !against && slices.Contains(r.Wrong, t.Name):
				out = append(out, Finding{t.Name, fmt.Sprintf("shows %s otherwise than the rule %s says", r.Character, r.ID)})
			}
		}
	}
	return out
}

// someOf says whether any taxon of a genus shows what a rule speaks of: of buckthorns some do and some do not.
func someOf(f *flora.Flora, r *flora.Rule, genus string) bool {
	return slices.ContainsFunc(f.Taxa, func(t flora.Taxon) bool {
		return t.Genus == genus && t.Entry(r.Character).Cells[flora.Mature][flora.Breast].Knowledge == evidence.Known &&
			chance(f, &t, r.Character, r.Against) <= 0.5
	})
}

// inseparable is the worth in bits of twig and bark together below which two
// taxa cannot be told apart by them.
const inseparable = 1.0

// pairs finds look-alikes that have no line, and pairs that nothing separates
// without a line that says so.
func pairs(f *flora.Flora, region string) (out []Finding) {
	p, err := f.Pool(flora.PoolKey{Among: flora.Among{Region: region}, Age: flora.At(flora.AnyAge)})
	if err != nil {
		return []Finding{{region, err.Error()}}
	}
	table := lookalike.NewTable(p)
	seen := map[[2]int]bool{}
	for a := range p.Taxa {
		for _, pair := range table.Nearest(a) {
			key := [2]int{min(a, pair.B), max(a, pair.B)}
			if seen[key] {
				continue
			}
			seen[key] = true
			x, y := p.Taxa[a].Name, p.Taxa[pair.B].Name
			if f.Apart(x, y) == nil {
				out = append(
					out,
					Finding{
						x + " and " + y,
						fmt.Sprintf("are look-alikes in %s, and no line in look-alikes.yaml tells them apart", region),
					},
				)
			}
			if pair.Both < inseparable {
				out = append(out, Finding{x + " and " + y, "nothing in twig and bark separates them"})
			}
		}
	}
	return out
}

// leastWorth is the worth in bits under which a character does not part a pair.
const leastWorth = 0.3

// lines finds lines on look-alikes that the values do not bear out.
func lines(f *flora.Flora) (out []Finding) {
	all := f.RegionList("")
	for _, t := range f.Taxa {
		all.Abundance[t.Name] = "common"
	}
	all.Name, all.Region = "all", f.RegionIDs()[0]
	whole, err := f.With(all)
	if err != nil {
		return []Finding{{"the whole flora", err.Error()}}
	}
	p, err := whole.Pool(flora.PoolKey{Among: flora.Among{Region: all.Name}, Age: flora.At(flora.AnyAge)})
	if err != nil {
		return []Finding{{"the whole flora", err.Error()}}
	}
	table := lookalike.NewTable(p)
	for _, alike := range f.Alike {
		a, _ := p.Find(alike.Pair[0])
		b, _ := p.Find(alike.Pair[1])
		for _, id := range alike.By {
			if bits := table.Of(id, a, b); bits < leastWorth {
				out = append(out, Finding{alike.Pair[0] + " and " + alike.Pair[1],
					fmt.Sprintf("the line goes by %s, but the values part them by only %.2f bits", id, bits)})
			}
		}
	}
	return out
}
