// Package key makes the keys that people carry: numbered pairs of leads, each an either-or that leads on
// or to a name, for just the trees that could be meant.
//
//	key.go      what a key is, and what it is asked for
//	column.go   what each character says of the trees: the marks that leads are made of
//	grow.go     how one grows: which couplet parts the trees at each place best
//	couplet.go  a couplet: marks that agree, and who goes where by them
//	clusters.go which trees are like each other
//	ends.go     where a key comes out: the name, what confirms it, what it is taken for
//	groups.go   a long key begins with a key to groups
//	words.go    marks, leads and titles in words
//	walk.go     walking a key; how well that does on drawn specimens
package key

import (
	"cmp"
	"errors"
	"fmt"
	"slices"
	"strings"

	"palethicket/core/flora"
	"palethicket/core/weigh/evidence"
)

// Key is a key. Couplets are numbered from 1, each after the one that leads to it.
type Key struct {
	Title    string    `json:"title"`
	Age      string    `json:"age"`
	Taste    string    `json:"taste"`
	Taxa     []string  `json:"taxa"` // that it is for
	Couplets []Couplet `json:"couplets"`
	End      *End      `json:"ends,omitempty"` // where there is nothing to ask: what it ends in at once
	Says     []string  `json:"says"`           // what is to be known of it
}

// Couplet is one pair of leads. They exclude each other and leave nothing out.
type Couplet struct {
	N     int     `json:"n"`
	Group string  `json:"group"`          // the heading it stands under; empty: a short key has none
	Back  int     `json:"back,omitempty"` // the couplet that leads here; 0: it is the first
	Look  string  `json:"look"`           // how to look at the first mark
	Leads [2]Lead `json:"leads"`
	// Commoner is the lead that more trees follow: it is taken where nothing of the marks can be seen.
	Commoner int `json:"commoner"`
}

// Lead is one side of a couplet: one to three marks that agree, each the opposite of the other lead's.
type Lead struct {
	Words string `json:"words"`
	Marks []Mark `json:"marks"`
	To    int    `json:"to,omitempty"` // couplet; 0: it ends
	Ends  *End   `json:"ends,omitempty"`
}

// Mark is what a tree shows of one character. Which of states, below, from and seen counts follows from the character.
type Mark struct {
	Character string   `json:"character"`
	States    []string `json:"states,omitempty"`
	Below     *float64 `json:"below,omitempty"` // in the character's unit
	From      *float64 `json:"from,omitempty"`
	Seen      *bool    `json:"seen,omitempty"`
	Words     string   `json:"words"`
	Shows     string   `json:"shows,omitempty"` // the state that a drawing shows best; empty: none
}

// End is where a key comes out: one tree, or two or three that winter does not part.
type End struct {
	Rank    string   `json:"rank"` // species, group, genus, family; several: they share no such name
	Name    string   `json:"name"` // empty where the rank is several
	Words   string   `json:"words"`
	Taxa    []string `json:"taxa"`    // who it could be, the commonest first
	Confirm []string `json:"confirm"` // what confirms it, in words: its look-alikes lack it
	Taken   []Taken  `json:"taken"`   // what it is taken for
	Why     string   `json:"why,omitempty"`
}

// Taken is what a tree is taken for, and what tells the two apart.
type Taken struct {
	Taxon string `json:"taxon"`
	Words string `json:"words"` // its name
	Apart string `json:"apart,omitempty"`
}

// Several is the rank of an end whose trees share no name.
const Several = "several"

// Taste says which marks a key asks of, and which it likes.
type Taste struct {
	ID, Words string
	refuses   func(c *flora.Character) bool
	prefers   func(c *flora.Character) float64 // how much more a mark is liked; nil: 1
}

// Tastes are those that keys come in.
var Tastes = []Taste{
	{ID: "whole", Words: "the whole tree"},
	{ID: "bark", Words: "bark first", prefers: liked("bark", 4)},
	{ID: "twig", Words: "twig in hand", refuses: notReach("hand", "ground"), prefers: liked("bud twig scar", 2)},
	{ID: "no-twig", Words: "without a twig", refuses: reach("hand")},
	{ID: "snow", Words: "deep snow", refuses: reach("ground")},
	{ID: "afar", Words: "from afar", refuses: notReach("afar", "crown")},
	{ID: "opposite", Words: "opposite trees only"},
	{ID: "genus", Words: "one genus"},
}

func reach(of ...string) func(*flora.Character) bool {
	return func(c *flora.Character) bool { return slices.Contains(of, c.Reach) }
}

func notReach(of ...string) func(*flora.Character) bool {
	return func(c *flora.Character) bool { return !slices.Contains(of, c.Reach) && c.ID != foliage }
}

func liked(sections string, more float64) func(*flora.Character) float64 {
	return func(c *flora.Character) float64 {
		if slices.Contains(strings.Fields(sections), c.Section) {
			return more
		}
		return 1
	}
}

const (
	foliage     = "needle.kept"      // seen of any tree at once
	arrangement = "twig.arrangement" // counted at several nodes
	thorns      = "twig.arms"
	hanging     = "fruit.hanging"
	habit       = "form.habit"
	diameter    = "form.dbh" // says how old a tree is, not which
)

// Asked is what a key is asked for.
type Asked struct {
	flora.Among
	Age     string             // of the trees: young, mature, old or any; empty: mature
	Taste   string             // empty: whole
	Genus   string             // of the taste genus
	Names   []string           // only these taxa; nil: all
	Weights map[string]float64 // how common each is, in place of the list's own; nil: the list's
	But     []string           // characters that are not asked of, as they were scored
	Title   string             // empty: made of what it is for
}

// Ages are the words for how old the trees of a key are, and how its title says so.
var Ages = map[string]string{"young": "young trees", "mature": "grown trees", "old": "old trees", "any": "trees of any age"}

// pool gives the trees of a key's list, of its age.
func (a *Asked) pool(f *flora.Flora) (*flora.Pool, error) {
	age := flora.AnyAge
	switch word := cmp.Or(a.Age, "mature"); {
	case Ages[word] == "":
		return nil, ErrAge
	case word != "any":
		age = flora.Age(slices.Index(flora.AgeWords, word))
	}
	return f.Pool(flora.PoolKey{Among: a.Among, Age: flora.At(age)})
}

// Errors of what was asked.
var (
	ErrAge    = errors.New("there is no such age; use young, mature, old or any")
	ErrNobody = errors.New("there is no tree to make a key of: the list is empty, or no tree of it fits the taste")
	ErrTaste  = errors.New("there is no such taste; use whole, bark, twig, no-twig, snow, afar, opposite or genus")
)

// chosen gives how common each taxon of the pool is in the key, by its index; the sum is 1, and who is not of the key has 0.
func (a *Asked) chosen(p *flora.Pool) ([]float64, error) {
	weights := make([]float64, len(p.Taxa))
	for _, name := range a.Names {
		if _, ok := p.Find(name); !ok {
			return nil, fmt.Errorf("%q is not among the trees of the list", name)
		}
	}
	at, tally := p.Index(arrangement, flora.Breast)
	total := 0.0
	for i, t := range p.Taxa {
		w := p.Model.Share()[i]
		if a.Weights != nil {
			w = a.Weights[t.Name]
		}
		switch {
		case a.Names != nil && !slices.Contains(a.Names, t.Name), a.Taste == "genus" && t.Genus != a.Genus:
			w = 0
		case a.Taste == "opposite" && tally && !opposite(p.Model, at, i):
			w = 0
		}
		weights[i] = w
		total += w
	}
	if total == 0 {
		return nil, ErrNobody
	}
	for i := range weights {
		weights[i] /= total
	}
	return weights, nil
}

// opposite says whether a taxon's leaves mostly stand in pairs or whorls.
func opposite(m *evidence.Model, char, taxon int) bool {
	v := m.Taxa()[taxon].Values[char]
	if v.Knowledge != evidence.Known {
		return false
	}
	pairs := 0.0
	for i, state := range m.Characters()[char].States {
		if strings.Contains(state, "opposite") || strings.Contains(state, "whorl") {
			pairs += v.Dist[i]
		}
	}
	return pairs > 0.5
}
