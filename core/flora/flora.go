package flora

import (
	"maps"
	"slices"
	"time"

	"palethicket/core/weigh/evidence"
)

// Flora is a loaded, checked set of characters and taxa. It is immutable and
// safe for use by several goroutines.
type Flora struct {
	Characters []Character
	Taxa       []Taxon // by scientific name
	Sources    map[string]Source
	Alike      []Alike              // what tells look-alikes apart
	Rules      []Rule               // of thumb, and what they leave out
	Regions    []Region             // it is written for, whether or not it has taxa there; the home region first
	Hanging    map[string][]float64 // kind of fruit to how much of it hangs, September to April, of what hangs at midwinter
	Remarks    []Remark             // what the files say that wants a second look
	Digest     string               // of the files that it was read from

	byID   map[string]int // character id to index
	byName map[string]int // scientific name to index
	lists  map[string]*List
	pools  *pools // of its lists
	whole  *pools // of regions, which floras with other lists share
}

// Character is one thing that can be looked at on a leafless tree.
type Character struct {
	ID      string
	Section string // heading in the file: setting, form, bark …
	Kind    evidence.Kind
	Ordered bool    // the states form a scale
	ByAge   bool    // values may differ with the tree's age
	ByZone  bool    // values may differ with height on the trunk
	Grows   bool    // it grows with the tree: a young one has any size up to a grown one's
	Unit    string  // numeric: mm, cm, or what is counted
	Least   float64 // numeric: less than this no tree has, in its unit
	Most    float64 // numeric: more than this no tree has
	Reach   string  // afar, crown, trunk, hand or ground
	Seconds int     // usual time for one look
	Harm    string  // none, scratch, flake or twig
	Only    *Only   // nil: every taxon has the part
	ShownBy string  // id of the sign without which there is nothing to look at; empty: it is always there
	// FallsFrom is the id of the character that is the same on the tree as this one is on the ground; empty: none is.
	FallsFrom string
	Nothing   string  // sign: how it is said that it is not there
	Told      float64 // the chance that a person who tries can say which it is
	Months    []int   // first and last month in which it shows; nil: all year
	Name      string
	Look      string // how to look at it
	Part      string // what a key's lead begins with, before the words of a state
	// Lead is how a key says what is seen of a sign ("seen", "not"), or of a measure ("below", "from", with {} for the figure).
	Lead     map[string]string
	Together []Together // what states are called that are named together
	States   []State
	Pairs    []evidence.Beta // tally: share of nodes showing a pair, by class

	mistaken [][]float64 // confusion rows; nil row: equal shares
}

// Mistaken gives the chances that state i, when misread, is taken for each of
// the others, or nil where it is taken for any of them alike.
func (c *Character) Mistaken(i int) []float64 {
	if c.mistaken == nil {
		return nil
	}
	return c.mistaken[i]
}

// ShowsIn says whether the character can be seen in a month; 0 stands for a
// month that is not known.
func (c *Character) ShowsIn(month time.Month) bool {
	if month == 0 || c.Months == nil {
		return true
	}
	first, last, m := c.Months[0], c.Months[1], int(month)
	if first <= last {
		return first <= m && m <= last
	}
	return m >= first || m <= last
}

// State is one answer to a categorical or tally character.
type State struct {
	ID, Means string
	Lead      string // how a key says it, after the character's part
}

// Together is what some states are called together.
type Together struct {
	Words  string
	States []string
}

// Only says that a part exists only in taxa that can show one of the states.
type Only struct {
	Character string
	States    []string
}

// StateIDs gives the ids of the states, in order.
func (c *Character) StateIDs() []string {
	ids := make([]string, len(c.States))
	for i, s := range c.States {
		ids[i] = s.ID
	}
	return ids
}

// State gives the index of the state with the id, or -1.
func (c *Character) State(id string) int {
	return slices.IndexFunc(c.States, func(s State) bool { return s.ID == id })
}

// Source is a work that values follow.
type Source struct {
	Title string `yaml:"title" json:"title"`
	Note  string `yaml:"note" json:"note,omitempty"`
}

// Taxon is one kind of tree.
type Taxon struct {
	Name                 string // accepted scientific name
	Group, Genus, Family string
	GenusEnglish         string              // what a tree of the genus is called: ash, oak
	English              []string            // the first is the usual one
	NamesIn              map[string][]string // region to its own English names, where they are others
	Also                 []string            // older scientific names
	Abundance            map[string]string   // region to abundance word
	Status               map[string]string   // region to native, planted or invasive
	Cautions             []string
	Poisonous            string    // which parts, and what they do; "" where nothing is known
	BarkEnough           string    // source of that its bark alone tells it from every other; "" where it does not
	Height               []float64 // usual range of grown trees in m; nil: not written
	Sources              []string
	Build                Build               // what a drawing needs beyond the values
	Carries              map[string][]string // kind of practice card to the ranks of name that it carries, the finest first

	values map[string]*Entry // by character id
}

// NameAt is the taxon's name at a rank: species, group, genus or family; "" where it has none.
func (t *Taxon) NameAt(rank string) string {
	switch rank {
	case "species":
		return t.Name
	case "group":
		return t.Group
	case "genus":
		return t.Genus
	case "family":
		return t.Family
	}
	return ""
}

// Entry is what the taxon says of a character; where it says nothing, every value of it is
// unknown. It is not to be changed.
func (t *Taxon) Entry(character string) *Entry {
	if e := t.values[character]; e != nil {
		return e
	}
	return &Entry{}
}

// SameTree says whether a tree may have both names, each of its rank: the wider may hold the
// narrower. A name that the flora does not have may stand beside any, and so may
// undetermined.
func (f *Flora) SameTree(rank, name, otherRank, other string) bool {
	has, hasOther := false, false
	for i := range f.Taxa {
		t := &f.Taxa[i]
		is, isOther := t.NameAt(rank) == name, t.NameAt(otherRank) == other
		if is && isOther {
			return true
		}
		has, hasOther = has || is, hasOther || isOther
	}
	return !has || !hasOther || name == "" || other == ""
}

// Called is what people of a region call the taxon.
func (t *Taxon) Called(region string) string {
	if names := t.NamesIn[region]; len(names) > 0 {
		return names[0]
	}
	return t.English[0]
}

// Age is an age class of a tree.
type Age int

// The age classes, and the one for "not given", which mixes them.
const (
	Young Age = iota
	Mature
	Old
	AnyAge
)

// Zone is a height on the trunk.
type Zone int

// The zones of a trunk; scores that give none are of breast height.
const (
	Base Zone = iota
	Breast
	Upper
)

// Alike is a line on what tells two taxa apart, and the characters it goes by.
type Alike struct {
	Pair [2]string `yaml:"pair"`
	By   []string  `yaml:"by"`
	Line string    `yaml:"line"`
}

// Remark is something in a file that can be read but looks unintended.
type Remark struct {
	File      string
	Line      int
	Taxon     string // "" where it is about a group or genus
	Character string
	Words     string
}

// Entry is what a taxon says of one character, by age and zone.
type Entry struct {
	Cells  [3][3]evidence.Value // by Age, then Zone
	Source string               // key of Sources, or "" for the taxon's own
	Note   string               // why the value is unlike those of its genus
	Usual  bool                 // from defaults.yaml, not written for the taxon
}

// The words the files use.
var (
	AgeWords      = []string{"young", "mature", "old"}
	ZoneWords     = []string{"base", "breast", "upper"}
	AbundanceWord = map[string]float64{"abundant": 1, "common": 0.5, "occasional": 0.15, "rare": 0.03}
	FrequencyWord = map[string]float64{"always": 0.98, "usually": 0.85, "often": 0.60, "sometimes": 0.30, "rarely": 0.08}
	reachWords    = []string{"afar", "crown", "trunk", "hand", "ground"}
	harmWords     = []string{"none", "scratch", "flake", "twig"}
	statusWords   = []string{"native", "planted", "invasive"}
)

// NeverSeen is a sign's chance under the word "never".
const NeverSeen = 0.01

// Character gives the character with the id, or nil.
func (f *Flora) Character(id string) *Character {
	if i, ok := f.byID[id]; ok {
		return &f.Characters[i]
	}
	return nil
}

// CharacterIndex gives the index into Characters of the one with the id.
func (f *Flora) CharacterIndex(id string) (int, bool) {
	i, ok := f.byID[id]
	return i, ok
}

// Taxon gives the taxon with the scientific name, or nil.
func (f *Flora) Taxon(name string) *Taxon {
	if i, ok := f.byName[name]; ok {
		return &f.Taxa[i]
	}
	return nil
}

// Apart gives the line on what tells two taxa apart, or nil.
func (f *Flora) Apart(a, b string) *Alike {
	for i := range f.Alike {
		if p := f.Alike[i].Pair; p == [2]string{a, b} || p == [2]string{b, a} {
			return &f.Alike[i]
		}
	}
	return nil
}

// CharacterIDs gives the ids of all characters, in the file's order.
func (f *Flora) CharacterIDs() []string {
	ids := make([]string, len(f.Characters))
	for i := range f.Characters {
		ids[i] = f.Characters[i].ID
	}
	return ids
}

// Region is a part of the world that the flora is written for.
type Region struct {
	ID    string `yaml:"id"`
	Words string `yaml:"words"` // as it is said: eastern North America
}

// Rule is a rule of thumb: it takes some genera for all of those that do not
// show a state, leaves others out, and takes some taxa in wrongly.
type Rule struct {
	ID        string   `yaml:"id"`
	Words     string   `yaml:"words"`
	Short     string   `yaml:"short"`
	Character string   `yaml:"character"`
	Against   string   `yaml:"against"`    // the state that the rule's trees do not show
	Genera    []string `yaml:"genera"`     // that it names
	LeavesOut []string `yaml:"leaves_out"` // genera
	Wrong     []string `yaml:"wrong"`      // taxa of its genera that show the state after all
	Asked     []string `yaml:"asked"`      // words by which people ask for it: all of one line
}

// RegionIDs lists the regions that the flora has taxa for, the home region
// first.
func (f *Flora) RegionIDs() []string {
	var have []string
	for _, r := range f.Regions {
		if slices.ContainsFunc(f.Taxa, func(t Taxon) bool { return t.Abundance[r.ID] != "" }) {
			have = append(have, r.ID)
		}
	}
	return have
}

// RegionWords is how a region is said.
func (f *Flora) RegionWords(id string) string {
	for _, r := range f.Regions {
		if r.ID == id {
			return r.Words
		}
	}
	return id
}

// HomeRegion is the region of a record that names none.
func (f *Flora) HomeRegion() string { return f.RegionIDs()[0] }

// ListNames lists the names of the lists it knows, in order.
func (f *Flora) ListNames() []string { return slices.Sorted(maps.Keys(f.lists)) }

// Rule gives the rule of thumb with the id, or nil.
func (f *Flora) Rule(id string) *Rule {
	for i := range f.Rules {
		if f.Rules[i].ID == id {
			return &f.Rules[i]
		}
	}
	return nil
}
