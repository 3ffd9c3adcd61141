package exchange

import (
	"fmt"
	"slices"
	"strings"

	"palethicket/core/flora"
	"palethicket/core/flora/names"
)

// Called is a name of the flora that a name in a file stands for. The zero one is none:
// the line is without a name, and what was written goes into its remarks.
type Called struct {
	Rank string `json:"rank"`
	Name string `json:"name"`
}

// Means gives what a name of the flora is, at whatever rank; an empty one is none.
func Means(f *flora.Flora, name string) (Called, error) {
	if name == "" {
		return Called{}, nil
	}
	c := newCaller(f, nil).find(name, "")
	switch {
	case c.sure:
		return c.is, nil
	case len(c.maybe) == 0:
		return Called{}, fmt.Errorf("no tree goes by %q", name)
	}
	return Called{}, fmt.Errorf("%q may be %s; write it so", name, c.maybe[0].Name)
}

// Doubt is a name in a file that may stand for one of the flora's.
type Doubt struct {
	Written  string
	Suggests []Called // the likeliest first
}

// caller finds what the names of a file stand for. It is for one reading.
type caller struct {
	flora   *flora.Flora
	index   *names.Index
	answers map[string]Called // what somebody said a name stands for
	cached  map[string]called
}

type called struct {
	is    Called
	sure  bool
	maybe []Called
}

func newCaller(f *flora.Flora, answers map[string]Called) *caller {
	return &caller{flora: f, index: names.NewIndex(f), answers: answers, cached: map[string]called{}}
}

// mostSuggested is how many names are offered for one that is in doubt.
const mostSuggested = 8

// find says what a name stands for in a region: a name of the flora at whatever rank,
// what was answered before, or the only tree that goes by it there. Of any other it
// gives what it may be.
func (c *caller) find(written, region string) called {
	key := region + "\n" + written
	if is, ok := c.cached[key]; ok {
		return is
	}
	is := c.look(written, region)
	c.cached[key] = is
	return is
}

func (c *caller) look(written, region string) called {
	if rank := rankOf(c.flora, written); rank != "" {
		return called{is: Called{rank, written}, sure: true}
	}
	if a, ok := c.answers[written]; ok {
		return called{is: a, sure: true}
	}
	if nameless[strings.ToLower(written)] {
		return called{sure: true}
	}
	if plain := plainName(c.flora, written, region); plain != written {
		return c.look(plain, region)
	}
	if is, ok := c.coded(written, region); ok {
		return is
	}
	plain, ofKind := strings.ToLower(written), false
	for _, end := range []string{" sp", " sp.", " spp", " spp.", " species"} {
		if stem, ok := strings.CutSuffix(plain, end); ok {
			plain, ofKind = strings.TrimSpace(stem), true
		}
	}
	if g := c.genus(plain); g != "" {
		return called{
			is:    Called{"genus", g},
			sure:  ofKind || strings.EqualFold(g, plain),
			maybe: append([]Called{{"genus", g}}, c.suggest(plain, region)...),
		}
	}
	if taxon := c.only(written, region); taxon != "" {
		if group := c.group(plain); group != "" { // "red oak" is said of all of them
			return called{maybe: []Called{{"species", taxon}, {"group", group}}}
		}
		return called{is: Called{"species", taxon}, sure: true}
	}
	return called{maybe: c.suggest(written, region)}
}

// only gives the one taxon that goes by a name in a region, or "". A name that others
// bear with a word more is its own only where it is its usual one: "red oak" is not.
func (c *caller) only(written, region string) string {
	var whole []string
	others := false
	for _, h := range c.index.Search(written).Hits {
		if h.Kind == names.English && !slices.Contains(h.Regions, region) {
			continue
		}
		switch {
		case !strings.EqualFold(h.Name, written):
			others = others || h.Whole
		case h.Kind != names.English, strings.EqualFold(c.flora.Taxon(h.Taxon).Called(region), written):
			return h.Taxon
		default:
			whole = append(whole, h.Taxon)
		}
	}
	if len(whole) == 1 && !others {
		return whole[0]
	}
	return ""
}

// genus gives the genus of a scientific or English name of one, or "".
func (c *caller) genus(plain string) string {
	for i := range c.flora.Taxa {
		if t := &c.flora.Taxa[i]; strings.EqualFold(t.Genus, plain) || strings.EqualFold(t.GenusEnglish, plain) {
			return t.Genus
		}
	}
	return ""
}

// group gives the group whose members a name is that of, or "".
func (c *caller) group(plain string) string {
	for i := range c.flora.Taxa {
		if g := c.flora.Taxa[i].Group; g != "" && strings.EqualFold(g, plain+"s") {
			return g
		}
	}
	return ""
}

// suggest lists what a name may be, the trees of the region first.
func (c *caller) suggest(written, region string) (out []Called) {
	var elsewhere []Called
	for _, h := range c.index.Search(written).Hits {
		one := Called{"species", h.Taxon}
		if t := c.flora.Taxon(h.Taxon); t != nil && t.Abundance[region] != "" {
			out = append(out, one)
		} else {
			elsewhere = append(elsewhere, one)
		}
	}
	out = append(out, elsewhere...)
	return out[:min(len(out), mostSuggested)]
}

// given reads the name that a line gives. Where it may stand for several it stays out,
// with what is to be said about it.
func (r *reader) given(t *Tree, c *caller) {
	t.Rank = r.word("rank", ranks)
	whole := strings.TrimSpace(r.cells["given"])
	if whole == undetermined {
		t.Rank = undetermined
		return
	}
	if t.Name, t.Hedge = unhedged(whole); t.Name == "" {
		t.Hedge = ""
		t.remark("in the file", whole)
		if t.Rank != undetermined {
			t.Rank = ""
		}
		return
	}
	// Whether one of the flora's names is of the rank said is seen where it is looked for.
	if t.Rank == "" || rankOf(c.flora, t.Name) == "" {
		r.find(t, c, whole)
	}
	if t.Name != "" {
		r.qualify(t)
	}
}

// find puts what the name written stands for in its place.
func (r *reader) find(t *Tree, c *caller, whole string) {
	written := t.Name
	is := c.find(written, t.Region)
	t.Name, t.Rank = is.is.Name, is.is.Rank
	if is.sure {
		if is.is == (Called{}) {
			t.Hedge = ""
			if !nameless[strings.ToLower(written)] {
				t.remark("in the file", whole)
			}
		}
		return
	}
	t.Name, t.Rank = "", ""
	r.doubt = &Doubt{written, is.maybe}
	switch len(is.maybe) {
	case 0:
		r.wrong("no tree goes by %q here; say which it is, or leave the name out", written)
	case 1:
		r.wrong("there is no tree %q; did you mean %q?", written, is.maybe[0].Name)
	default:
		r.wrong("%q may be several trees; say which it is", written)
	}
}

// remark adds what a file says that no field holds.
func (t *Tree) remark(where, says string) {
	if says != "" {
		t.Remarks = strings.TrimSpace(t.Remarks + " (" + where + ": " + says + ")")
	}
}
