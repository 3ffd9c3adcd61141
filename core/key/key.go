// Package key makes printed keys: numbered either-or questions that lead to a name, for just
// the trees that could be meant, with the misreading of a fair observer counted in.
//
//	key.go      what a key is, and what it is asked for
//	grow.go     how one grows: which question is worth most per minute, and who is kept where
//	leads.go    how a character's answers are put into two to four leads
//	words.go    a key in words
//	walk.go     going through one; how well that does on drawn specimens
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

// Key is a printed key. Couplets are numbered from 1, a question before those it leads to.
type Key struct {
	Title    string    `json:"title"`
	Taste    string    `json:"taste"`
	Taxa     []string  `json:"taxa"` // that it is for
	Couplets []Couplet `json:"couplets"`
	End      *End      `json:"ends,omitempty"` // where there is nothing to ask: what it ends in at once
	Says     []string  `json:"says"`           // what is to be known of it
	Accounts []Account `json:"accounts"`       // of its trees, by their names
}

// Account is what is to be known of one tree of a key: what bears its name out, and what it is taken for.
type Account struct {
	Taxon   string   `json:"taxon"`
	Words   string   `json:"words"`
	Confirm []string `json:"confirm"`
	Taken   []Taken  `json:"taken"`
}

// Taken is what a tree is taken for, and what tells the two apart.
type Taken struct {
	Taxon string `json:"taxon"`
	Words string `json:"words"` // its name
	Apart string `json:"apart,omitempty"`
}

// Couplet is one question, with two to four leads.
type Couplet struct {
	N     int    `json:"n"`
	Back  int    `json:"back,omitempty"` // the couplet that leads here; 0: it is the first
	Look  string `json:"look"`           // how to look
	Leads []Lead `json:"leads"`
}

// Lead is one answer. Which of states, below, from and seen count follows from the character.
type Lead struct {
	Words     string   `json:"words"`
	Character string   `json:"character"`
	States    []string `json:"states,omitempty"`
	Below     *float64 `json:"below,omitempty"` // in the character's unit
	From      *float64 `json:"from,omitempty"`
	Seen      *bool    `json:"seen,omitempty"`
	Also      []Mark   `json:"also,omitempty"` // what bears it out
	To        int      `json:"to,omitempty"`   // couplet; 0: it ends
	Ends      *End     `json:"ends,omitempty"`

	Taxa []string `json:"kept,omitempty"` // who is still in it, likeliest first
}

// Mark is a further mark.
type Mark struct {
	Character string   `json:"character"`
	States    []string `json:"states,omitempty"`
	Seen      *bool    `json:"seen,omitempty"`
	Words     string   `json:"words"`
}

// End is where a key comes out.
type End struct {
	Rank    string   `json:"rank"` // species, group, genus, family; several: one of the taxa
	Name    string   `json:"name"` // empty where it is one of several
	Words   string   `json:"words"`
	Seldom  string   `json:"seldom,omitempty"` // of several: the rest of them, in words
	Taxa    []string `json:"taxa"`             // who it could be, likeliest first
	Confirm []string `json:"confirm"`          // what bears it out, in words
	Taken   []Taken  `json:"taken"`
	Why     string   `json:"why,omitempty"`

	chance float64 // that it is right, by the key's own reckoning
}

// WhyFew is why most ends are not parted further.
const WhyFew = "few come here; score the tree to part them"

// Several is the rank of an end that winter does not part.
const Several = "several"

// Taste says which questions a key asks, and of which trees.
type Taste struct {
	ID, Words string
	refuses   func(c *flora.Character) bool
	prefers   func(c *flora.Character) float64 // how much more a question is liked; nil: 1
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

// foliage is what is seen of any tree at once: whether it has kept its leaves.
const foliage = "needle.kept"

// arrangement is the character that opposite trees are told by.
const arrangement = "twig.arrangement"

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
	Greedy  bool               // as keys are made without allowing for misreading, to hold against
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

// chosen are the taxa that a key is for, by their index in the pool, with how common each is.
func (a *Asked) chosen(p *flora.Pool) ([]float64, error) {
	weights := make([]float64, len(p.Taxa))
	for _, name := range a.Names {
		if _, ok := p.Find(name); !ok {
			return nil, fmt.Errorf("%q is not among the trees of the list", name)
		}
	}
	at, tally := p.Index(arrangement, flora.Breast)
	any := false
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
		any = any || w > 0
	}
	if !any {
		return nil, ErrNobody
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
