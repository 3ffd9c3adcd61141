package flora

import (
	"fmt"
	"io/fs"
	"maps"
	"slices"

	"go.yaml.in/yaml/v3"
)

// Build is what a drawing needs of a taxon beyond its characters. Zero: not known.
type Build struct {
	Ranks     int     `yaml:"ranks"`     // rows that leaves stand in: 2, 3, or 5 for a spiral
	Internode float64 `yaml:"internode"` // mm between nodes of last year's growth
	Ridge     float64 `yaml:"ridge"`     // mm across a ridge, strip or plate of grown bark
	Plate     float64 `yaml:"plate"`     // mm along it
	Limb      float64 `yaml:"limb"`      // degrees from upright, where a limb leaves the trunk
	Spread    float64 `yaml:"spread"`    // width of an open-grown crown over the tree's height
	Clear     float64 `yaml:"clear"`     // share of the height below the first limb
	Source    string  `yaml:"source"`
}

// drawing reads what drawings need beyond the characters, where a flora has it: a genus's
// values, and over them those of single taxa.
func (r *reader) drawing() {
	if _, err := fs.Stat(r.dir, drawingFile); err != nil {
		return
	}
	top := r.open(drawingFile)
	if top == nil {
		return
	}
	r.onlyKeys(top, "drawing values", []string{"genera", "taxa"})
	genera, taxa := r.builds(child(top, "genera")), r.builds(child(top, "taxa"))
	known := map[string]bool{}
	for i := range r.flora.Taxa {
		t := &r.flora.Taxa[i]
		known[t.Genus], known[t.Name] = true, true
		for _, n := range []*yaml.Node{genera[t.Genus], taxa[t.Name]} {
			if n == nil {
				continue
			}
			r.decode(n, &t.Build)
			if err := t.Build.check(); err != nil {
				r.fail(n, "%s: %w", t.Name, err)
			}
			r.knownSources(n, []string{t.Build.Source})
		}
	}
	for _, of := range []map[string]*yaml.Node{genera, taxa} {
		for _, name := range slices.Sorted(maps.Keys(of)) {
			if !known[name] {
				r.fail(of[name], "%s: the flora has no such genus or taxon", name)
			}
		}
	}
}

func (r *reader) builds(n *yaml.Node) map[string]*yaml.Node {
	out := map[string]*yaml.Node{}
	if n == nil {
		return out
	}
	for i := 0; i+1 < len(n.Content); i += 2 {
		r.onlyKeys(n.Content[i+1], "drawing values of "+n.Content[i].Value,
			[]string{"ranks", "internode", "ridge", "plate", "limb", "spread", "clear", "source"})
		out[n.Content[i].Value] = n.Content[i+1]
	}
	return out
}

func (b *Build) check() error {
	for _, of := range []struct {
		name          string
		x, least, top float64
	}{
		{"ranks", float64(b.Ranks), 2, 8},
		{"internode", b.Internode, 1, 200},
		{"ridge", b.Ridge, 1, 200},
		{"plate", b.Plate, 1, 2000},
		{"limb", b.Limb, 5, 120},
		{"spread", b.Spread, 0.05, 3},
		{"clear", b.Clear, 0.01, 0.9},
	} {
		if of.x != 0 && (of.x < of.least || of.x > of.top) {
			return fmt.Errorf("%s is %v, want %v to %v", of.name, of.x, of.least, of.top)
		}
	}
	return nil
}
