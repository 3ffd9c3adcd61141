package handbook

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
	"sync"

	"palethicket/core/flora"
	"palethicket/core/flora/lookalike"
	"palethicket/core/tree/record"
	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/portable"
)

// Handbook writes pages of one flora. It is safe for use by several goroutines.
type Handbook struct {
	flora *flora.Flora
	mu    sync.Mutex
	near  map[flora.Among]*lookalike.Table
}

// New makes a Handbook.
func New(f *flora.Flora) *Handbook {
	return &Handbook{flora: f, near: map[flora.Among]*lookalike.Table{}}
}

// TaxonLine is a taxon in a list.
type TaxonLine struct {
	Name         string `json:"name"`
	English      string `json:"english"`
	Group        string `json:"group"`
	Genus        string `json:"genus"`
	GenusEnglish string `json:"genus_english" doc:"What a tree of the genus is called: ash, oak"`
	Family       string `json:"family"`
	Common       string `json:"common" doc:"How common it is in the region asked for"`
	Status       string `json:"status" doc:"native, planted or invasive in the region asked for"`
	Known        bool   `json:"known" doc:"False where something that was filtered by is not known of it"`
}

// TaxonPage is a taxon as a page.
type TaxonPage struct {
	Name      string              `json:"name"`
	English   []string            `json:"english"`
	NamesIn   map[string][]string `json:"names_in" doc:"English names of single regions"`
	Also      []string            `json:"also" doc:"Older scientific names"`
	Group     string              `json:"group"`
	Genus     string              `json:"genus"`
	Family    string              `json:"family"`
	Abundance map[string]string   `json:"abundance" doc:"By region"`
	Status    map[string]string   `json:"status" doc:"By region"`
	Height    []float64           `json:"height_m" doc:"Usual range of grown trees"`
	Cautions  []string            `json:"cautions"`
	Poisonous string              `json:"poisonous"`
	Sections  []PageSection       `json:"sections" doc:"What to look for, in the order of work"`
	Alike     []LookAlike         `json:"alike" doc:"Its look-alikes, the nearest first"`
	Sources   []PageSource        `json:"sources"`
}

// PageSection is what a page says under one heading.
type PageSection struct {
	ID    string     `json:"id"`
	Lines []PageLine `json:"lines"`
}

// PageLine is what a taxon shows of one character, in words.
type PageLine struct {
	Character string        `json:"character"`
	Name      string        `json:"name"`
	Words     string        `json:"words"`
	ByAge     []Aged        `json:"by_age" doc:"Where the ages differ"`
	Source    string        `json:"source" doc:"The work that this value follows, where not the page's"`
	Note      string        `json:"note"`
	Chances   []StateChance `json:"chances" doc:"Chance of each state of a mature tree, where the character has states"`
}

// Aged is what a tree of one age shows.
type Aged struct {
	Age   string `json:"age"`
	Words string `json:"words"`
}

// StateChance is a state and the share of trees that show it.
type StateChance struct {
	State  string  `json:"state"`
	Chance float64 `json:"chance"`
}

// LookAlike is a look-alike and what tells it apart.
type LookAlike struct {
	Name    string   `json:"name"`
	English string   `json:"english"`
	Region  string   `json:"region"`
	Twig    float64  `json:"twig_bits" doc:"What a complete twig is worth between the two"`
	Bark    float64  `json:"bark_bits"`
	Both    float64  `json:"both_bits"`
	Line    string   `json:"line" doc:"What tells them apart"`
	By      []string `json:"by" doc:"Names of the characters that part them best"`
}

// PageSource is a work that values follow.
type PageSource struct {
	Key   string `json:"key"`
	Title string `json:"title"`
	Note  string `json:"note"`
}

// Page gives the page of a taxon, or nil where the flora has no such taxon.
func (b *Handbook) Page(name string) (*TaxonPage, error) {
	t := b.flora.Taxon(name)
	if t == nil {
		return nil, nil
	}
	p := &TaxonPage{Name: t.Name, English: t.English, NamesIn: t.NamesIn, Also: t.Also, Group: t.Group, Genus: t.Genus,
		Family: t.Family, Abundance: t.Abundance, Status: t.Status, Height: t.Height, Cautions: t.Warnings(), Poisonous: t.Poisonous}
	sources := slices.Clone(t.Sources)
	for i := range b.flora.Characters {
		c := &b.flora.Characters[i]
		e := t.Entry(c.ID)
		if e.Usual || e.Cells[flora.Mature][flora.Breast].Knowledge != evidence.Known {
			continue
		}
		if n := len(p.Sections); n == 0 || p.Sections[n-1].ID != c.Section {
			p.Sections = append(p.Sections, PageSection{ID: c.Section})
		}
		s := &p.Sections[len(p.Sections)-1]
		s.Lines = append(s.Lines, value(c, e))
		if e.Source != "" && !slices.Contains(sources, e.Source) {
			sources = append(sources, e.Source)
		}
	}
	for _, key := range sources {
		s := b.flora.Sources[key]
		p.Sources = append(p.Sources, PageSource{key, s.Title, s.Note})
	}
	var err error
	p.Alike, err = b.alike(t)
	return p, err
}

func value(c *flora.Character, e *flora.Entry) PageLine {
	v := PageLine{
		Character: c.ID,
		Name:      c.Name,
		Words:     zones(c, e.Cells[flora.Mature]),
		Source:    e.Source,
		Note:      e.Note,
		Chances:   []StateChance{},
		ByAge:     []Aged{},
	}
	for i, p := range e.Cells[flora.Mature][flora.Breast].Dist {
		if p > 0 {
			v.Chances = append(v.Chances, StateChance{c.States[i].ID, p})
		}
	}
	if c.ByAge {
		for a, age := range flora.AgeWords {
			words := zones(c, e.Cells[a])
			if flora.Age(a) != flora.Mature && words != v.Words && words != "" {
				v.ByAge = append(v.ByAge, Aged{age, words})
			}
		}
	}
	return v
}

// zones says what is shown, and where it differs by height on the trunk.
func zones(c *flora.Character, cells [3]evidence.Value) string {
	at := Words(c, &cells[flora.Breast])
	if !c.ByZone {
		return at
	}
	for z, zone := range flora.ZoneWords {
		if words := Words(c, &cells[z]); flora.Zone(z) != flora.Breast && words != at {
			at += fmt.Sprintf("; %s %s", map[string]string{"base": "at the base", "upper": "higher up"}[zone], words)
		}
	}
	return at
}

// Words says in words what a taxon shows of a character, or "" where it is not
// known.
func Words(c *flora.Character, v *evidence.Value) string {
	switch {
	case v.Knowledge == evidence.Absent:
		return "no such part"
	case v.Knowledge == evidence.Unknown:
		return ""
	case c.Kind == evidence.Numeric:
		n := v.Normals[0]
		reach := evidence.RangeReach * math.Sqrt(n.Var)
		return fmt.Sprintf("%s to %s %s", figure(portable.Exp(n.Mean-reach)), figure(portable.Exp(n.Mean+reach)), c.Unit)
	case c.Kind == evidence.Sign:
		return often(v.Chance)
	}
	order := make([]int, 0, len(v.Dist))
	for i, p := range v.Dist {
		if p > 0 {
			order = append(order, i)
		}
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(v.Dist[b], v.Dist[a]) })
	parts := make([]string, len(order))
	for k, i := range order {
		parts[k] = record.StateWords(c.States[i].ID)
		switch p := v.Dist[i]; {
		case k == 0:
		case p < 0.12:
			parts[k] = "rarely " + parts[k]
		case p < 0.3:
			parts[k] = "sometimes " + parts[k]
		default:
			parts[k] = "or " + parts[k]
		}
	}
	return strings.Join(parts, ", ")
}

// often says how many trees show a sign.
func often(p float64) string {
	switch {
	case p >= 0.95:
		return "always"
	case p >= 0.75:
		return "usually"
	case p >= 0.45:
		return "often"
	case p >= 0.2:
		return "sometimes"
	case p >= 0.05:
		return "rarely"
	default:
		return "never"
	}
}

// figure writes a number to two figures.
func figure(x float64) string {
	if x >= 10 {
		return strconv.FormatFloat(math.Round(x), 'f', -1, 64)
	}
	return strconv.FormatFloat(x, 'g', 2, 64)
}

// alike gives the look-alikes in every region of a taxon, each once.
func (b *Handbook) alike(t *flora.Taxon) ([]LookAlike, error) {
	out := []LookAlike{}
	for _, region := range b.flora.RegionIDs() {
		if t.Abundance[region] == "" {
			continue
		}
		p, table, err := b.table(flora.Among{Region: region})
		if err != nil {
			return nil, err
		}
		at, _ := p.Find(t.Name)
		for _, pair := range table.Nearest(at) {
			other := p.Taxa[pair.B]
			if slices.ContainsFunc(out, func(a LookAlike) bool { return a.Name == other.Name }) {
				continue
			}
			a := LookAlike{
				Name:    other.Name,
				English: other.Called(region),
				Region:  region,
				Twig:    pair.Twig,
				Bark:    pair.Bark,
				Both:    pair.Both,
				By:      []string{},
			}
			if line := b.flora.Apart(t.Name, other.Name); line != nil {
				a.Line = line.Line
			}
			for _, w := range pair.By[:min(3, len(pair.By))] {
				a.By = append(a.By, b.flora.Character(w.Character).Name)
			}
			out = append(out, a)
		}
	}
	return out, nil
}

// table gives a pool and what its characters are worth, worked out once.
func (b *Handbook) table(among flora.Among) (*flora.Pool, *lookalike.Table, error) {
	p, err := b.flora.Pool(flora.PoolKey{Among: among, Age: flora.At(flora.AnyAge)})
	if err != nil {
		return nil, nil, err
	}
	b.mu.Lock()
	defer b.mu.Unlock()
	if b.near[p.Among] == nil {
		b.near[p.Among] = lookalike.NewTable(p)
	}
	return p, b.near[p.Among], nil
}
