package flora

import (
	"maps"
	"math"
	"slices"

	"go.yaml.in/yaml/v3"

	"palethicket/core/weigh/evidence"
)

// taxonFile is a taxon as it is written, its values apart.
type taxonFile struct {
	Name      string              `yaml:"name"`
	Group     string              `yaml:"group"`
	English   []string            `yaml:"english"`
	Also      []string            `yaml:"also"`
	NamesIn   map[string][]string `yaml:"names_in"`
	Abundance map[string]string   `yaml:"abundance"`
	Status    byRegion            `yaml:"status"`
	Cautions  []string            `yaml:"cautions"`
	Poisonous string              `yaml:"poisonous"`
	Enough    string              `yaml:"bark_enough"`
	Height    []float64           `yaml:"height"`
	Sources   []string            `yaml:"sources"`
}

// byRegion is one word for every region, or a word for each.
type byRegion struct {
	all string
	in  map[string]string
}

func (b *byRegion) UnmarshalYAML(n *yaml.Node) error {
	if n.Kind == yaml.ScalarNode {
		b.all = n.Value
		return nil
	}
	return n.Decode(&b.in)
}

var (
	genusKeys = []string{"genus", "english", "family", "sources", "shared", "groups", "taxa"}
	taxonKeys = []string{"name", "group", "english", "also", "names_in", "abundance", "status",
		"cautions", "poisonous", "bark_enough", "height", "sources", "values"}
)

// genus reads one genus file: what all its members share, what each group
// shares, and the taxa. The more particular value stands.
func (r *reader) genus(top *yaml.Node) {
	if top == nil {
		return
	}
	if top.Kind != yaml.MappingNode {
		r.fail(top, "want a genus, with its keys and values")
		return
	}
	r.onlyKeys(top, "genus file", genusKeys)
	var head struct {
		Genus   string   `yaml:"genus"`
		English string   `yaml:"english"`
		Family  string   `yaml:"family"`
		Sources []string `yaml:"sources"`
	}
	r.decode(top, &head)
	if head.Genus == "" || head.English == "" || head.Family == "" {
		r.fail(top, "a genus file needs genus, english and family")
	}
	r.knownSources(top, head.Sources)
	shared := r.values(child(top, "shared"))
	groups := map[string]map[string]*Entry{}
	if g := child(top, "groups"); g != nil {
		for i := 0; i+1 < len(g.Content); i += 2 {
			groups[g.Content[i].Value] = r.values(g.Content[i+1])
		}
	}
	taxa := child(top, "taxa")
	if taxa == nil {
		r.fail(top, "no taxa")
		return
	}
	for _, n := range taxa.Content {
		t := r.taxon(n)
		t.Genus, t.GenusEnglish, t.Family = head.Genus, head.English, head.Family
		if t.Sources == nil {
			t.Sources = head.Sources
		}
		if len(t.Sources) == 0 {
			r.fail(n, "%s: names no source", t.Name)
		}
		r.taxonName = t.Name
		own := r.values(child(n, "values"))
		r.contradictions(child(n, "values"), own, shared, groups[t.Group])
		r.taxonName = ""
		t.values = maps.Clone(r.defaults)
		maps.Copy(t.values, shared)
		maps.Copy(t.values, groups[t.Group])
		maps.Copy(t.values, own)
		r.derive(n, &t, own)
		r.flora.Taxa = append(r.flora.Taxa, t)
	}
}

// contradictions remarks on values that share nothing with those of the group
// or genus they stand in for, where no note says why.
func (r *reader) contradictions(n *yaml.Node, own map[string]*Entry, above ...map[string]*Entry) {
	for id, e := range own {
		for _, values := range above {
			general := values[id]
			if general == nil {
				continue
			}
			a, b := &e.Cells[Mature][Breast], &general.Cells[Mature][Breast]
			if e.Note == "" && a.Knowledge == evidence.Known && b.Knowledge == evidence.Known && disjoint(a, b) {
				r.remark(n, id, "shares nothing with the value of its group or genus, and no note says why")
			}
		}
	}
}

// disjoint says whether two values have no state, or no part of a range, in
// common.
func disjoint(a, b *evidence.Value) bool {
	if len(a.Normals) > 0 {
		x, y := a.Normals[0], b.Normals[0]
		return math.Abs(x.Mean-y.Mean) > 2*(math.Sqrt(x.Var)+math.Sqrt(y.Var))
	}
	if len(a.Dist) == 0 {
		return math.Abs(a.Chance-b.Chance) > 0.8
	}
	for i := range a.Dist {
		if a.Dist[i] > 0 && b.Dist[i] > 0 {
			return false
		}
	}
	return true
}

func (r *reader) taxon(n *yaml.Node) Taxon {
	var w taxonFile
	r.decode(n, &w)
	r.onlyKeys(n, "taxon", taxonKeys)
	switch {
	case w.Name == "":
		r.fail(n, "a taxon needs a name")
	case slices.ContainsFunc(r.flora.Taxa, func(t Taxon) bool { return t.Name == w.Name }):
		r.fail(n, "%s stands twice", w.Name)
	case len(w.English) == 0:
		r.fail(n, "%s: no English name", w.Name)
	case len(w.Abundance) == 0:
		r.fail(n, "%s: no abundance for any region", w.Name)
	}
	for region, word := range w.Abundance {
		r.word(n, "region", region, r.regionIDs())
		r.word(n, "abundance word", word, slices.Sorted(maps.Keys(AbundanceWord)))
	}
	for region, names := range w.NamesIn {
		r.word(n, "region", region, r.regionIDs())
		if len(names) == 0 {
			r.fail(n, "%s: names_in: no name for %s", w.Name, region)
		}
	}
	known := cautionWords()
	for _, c := range w.Cautions {
		r.word(n, "caution", c, known)
	}
	if w.Height != nil && (len(w.Height) != 2 || !(0 < w.Height[0] && w.Height[0] < w.Height[1])) {
		r.fail(n, "%s: height is %v, want the usual range [lo, hi] of grown trees in m", w.Name, w.Height)
	}
	r.knownSources(n, w.Sources)
	if w.Enough != "" {
		r.knownSources(n, []string{w.Enough})
	}
	return Taxon{Name: w.Name, Group: w.Group, English: w.English, Also: w.Also, NamesIn: w.NamesIn,
		Abundance: w.Abundance, Status: r.status(n, &w), Cautions: w.Cautions, Poisonous: w.Poisonous, BarkEnough: w.Enough,
		Height: w.Height, Sources: w.Sources}
}

// status gives the taxon's standing in each region it grows in.
func (r *reader) status(n *yaml.Node, w *taxonFile) map[string]string {
	out := map[string]string{}
	for region := range w.Abundance {
		word := w.Status.all
		if word == "" {
			word = w.Status.in[region]
		}
		if word == "" {
			r.fail(n, "%s: no status for %s", w.Name, region)
		} else {
			r.word(n, "status", word, statusWords)
		}
		out[region] = word
	}
	return out
}

func (r *reader) knownSources(n *yaml.Node, keys []string) {
	for _, k := range keys {
		r.word(n, "source", k, slices.Sorted(maps.Keys(r.flora.Sources)))
	}
}

// values reads a mapping of character ids to what is said of them.
func (r *reader) values(n *yaml.Node) map[string]*Entry {
	got := map[string]*Entry{}
	if n == nil {
		return got
	}
	if n.Kind != yaml.MappingNode {
		r.fail(n, "want values by character")
		return got
	}
	for i := 0; i+1 < len(n.Content); i += 2 {
		key := n.Content[i]
		ch := r.flora.Character(key.Value)
		if ch == nil {
			r.fail(key, "%w", UnknownWord("character", key.Value, r.flora.CharacterIDs()))
			continue
		}
		if _, twice := got[ch.ID]; twice {
			r.fail(key, "%s: stands twice", ch.ID)
		}
		got[ch.ID] = r.entry(ch, n.Content[i+1])
	}
	return got
}

// derive marks the parts that the taxon does not have, from the characters'
// "only", and refuses values written for such a part.
func (r *reader) derive(n *yaml.Node, t *Taxon, own map[string]*Entry) {
	for i := range r.flora.Characters {
		ch := &r.flora.Characters[i]
		if ch.Only == nil || !r.lacks(t, ch.Only) {
			continue
		}
		if e, ok := own[ch.ID]; ok && e.Cells[Mature][Breast].Knowledge == evidence.Known {
			r.fail(n, "%s: %s is written, but its %s shows none of %v", t.Name, ch.ID, ch.Only.Character, ch.Only.States)
		}
		t.values[ch.ID] = absentEntry
	}
}

var absentEntry = func() *Entry {
	e := &Entry{}
	for a := range e.Cells {
		for z := range e.Cells[a] {
			e.Cells[a][z].Knowledge = evidence.Absent
		}
	}
	return e
}()

// lacks says whether the taxon is known to show none of the states. What is
// not known of the base character is not known of the part.
func (r *reader) lacks(t *Taxon, only *Only) bool {
	base := r.flora.Character(only.Character)
	e, ok := t.values[only.Character]
	if !ok {
		return false
	}
	known := false
	for _, zones := range e.Cells {
		for _, v := range zones {
			if v.Knowledge == evidence.Absent {
				known = true
			}
			if v.Knowledge != evidence.Known {
				continue
			}
			known = true
			for i, id := range base.StateIDs() {
				if v.Dist[i] > 0 && slices.Contains(only.States, id) {
					return false
				}
			}
		}
	}
	return known
}
