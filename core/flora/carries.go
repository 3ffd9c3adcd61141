package flora

import (
	"io/fs"
	"slices"

	"go.yaml.in/yaml/v3"
)

const carriesFile = "carries.yaml"

// CardKinds are the parts of a tree that a practice card shows one of.
var CardKinds = []string{"twig", "bark", "outline", "ground"}

// nameRanks are the ranks of names, the finest first.
var nameRanks = []string{"species", "group", "genus", "family"}

// ranks are those that a name may have, written alone or as a list.
type ranks []string

func (r *ranks) UnmarshalYAML(n *yaml.Node) error {
	if n.Kind == yaml.ScalarNode {
		*r = ranks{n.Value}
		return nil
	}
	return n.Decode((*[]string)(r))
}

// carries reads how far each kind of card carries the name of each taxon; of a flora of one's own
// it is what is usual.
func (r *reader) carries(own bool) {
	if _, err := fs.Stat(r.dir, carriesFile); err != nil { // a flora may leave it to what is usual
		return
	}
	top := r.open(carriesFile)
	if top == nil {
		return
	}
	var file struct {
		Usual  map[string]ranks
		Genera map[string]map[string]ranks
		Taxa   map[string]map[string]ranks
	}
	r.onlyKeys(top, "how far cards carry", []string{"usual", "genera", "taxa"})
	r.decode(top, &file)
	if own {
		file.Genera, file.Taxa = nil, nil
	}
	known := map[string]bool{}
	for i := range r.flora.Taxa {
		t := &r.flora.Taxa[i]
		known[t.Genus], known[t.Name] = true, true
		t.Carries = map[string][]string{}
		for _, kind := range CardKinds {
			for _, of := range []map[string]ranks{file.Usual, file.Genera[t.Genus], file.Taxa[t.Name]} {
				if ranks, ok := of[kind]; ok {
					t.Carries[kind] = ranks
				}
			}
			if kind == "bark" && t.BarkEnough != "" {
				t.Carries[kind] = []string{"species"}
			}
		}
	}
	check := func(name string, of map[string]ranks) {
		for kind, ranks := range of {
			wrong := func(rank string) bool { return !slices.Contains(nameRanks, rank) }
			if !slices.Contains(CardKinds, kind) || len(ranks) == 0 || slices.ContainsFunc(ranks, wrong) {
				r.fail(top, "%s: %s: %v: want one of %v, and ranks of %v", name, kind, ranks, CardKinds, nameRanks)
			}
		}
	}
	check("usual", file.Usual)
	for _, all := range []map[string]map[string]ranks{file.Genera, file.Taxa} {
		for name, of := range all {
			if check(name, of); !known[name] {
				r.fail(top, "%s: the flora has no such genus or taxon", name)
			}
		}
	}
}
