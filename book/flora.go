package book

import (
	"errors"
	"slices"
	"strings"

	"palethicket/core/flora"
	"palethicket/core/flora/handbook"
	"palethicket/core/flora/names"
	"palethicket/core/plate"
	"palethicket/core/plate/bark"
	"palethicket/core/plate/outline"
	"palethicket/core/plate/twig"
	"palethicket/core/tree/record"
)

// ErrNoTaxon and ErrNoCharacter are given by the pages of the flora.
var (
	ErrNoTaxon     = errors.New("the flora has no taxon of this name")
	ErrNoCharacter = errors.New("there is no character of this id")
)

// TaxonLine is a taxon in a list.
type TaxonLine struct {
	Name         string `json:"name"`
	English      string `json:"english"`
	Group        string `json:"group"`
	Genus        string `json:"genus"`
	GenusEnglish string `json:"genus_english" doc:"What a tree of the genus is called: ash, oak"`
	Family       string `json:"family"`
	Common       string `json:"common" doc:"How common it is in the region or list asked for"`
	Status       string `json:"status" doc:"native, planted or invasive in the region asked for"`
	Known        bool   `json:"known" doc:"False where something that was filtered by is not known of it"`
}

// TaxonPage is a taxon as a page.
type TaxonPage struct {
	Name      string        `json:"name"`
	English   []string      `json:"english"`
	Called    []string      `json:"called" doc:"What it is called in single regions, in words"`
	Where     []string      `json:"where" doc:"How common it is in each region, in words"`
	Also      []string      `json:"also" doc:"Older scientific names"`
	Group     string        `json:"group"`
	Genus     string        `json:"genus"`
	Family    string        `json:"family"`
	Height    []float64     `json:"height_m" doc:"Usual range of grown trees"`
	Cautions  []string      `json:"cautions"`
	Poisonous string        `json:"poisonous"`
	Sections  []PageSection `json:"sections" doc:"What to look for, in the order of work"`
	Alike     []LookAlike   `json:"alike" doc:"Its look-alikes, the nearest first"`
	Sources   []PageSource  `json:"sources"`
}

// PageSection is what a page says under one heading.
type PageSection struct {
	ID    string     `json:"id"`
	Words string     `json:"words"`
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
	Words  string  `json:"words"`
	Chance float64 `json:"chance"`
}

// LookAlike is a look-alike and what tells it apart.
type LookAlike struct {
	Name        string   `json:"name"`
	English     string   `json:"english"`
	Region      string   `json:"region"`
	RegionWords string   `json:"region_words"`
	Twig        float64  `json:"twig_bits" doc:"What a complete twig is worth between the two"`
	Bark        float64  `json:"bark_bits"`
	Both        float64  `json:"both_bits"`
	Line        string   `json:"line" doc:"What tells them apart"`
	By          []string `json:"by" doc:"Names of the characters that part them best"`
}

// PageSource is a work that values follow.
type PageSource struct {
	Key   string `json:"key"`
	Title string `json:"title"`
	Note  string `json:"note"`
}

// CharacterPage is a character with the trees that show each of its states.
type CharacterPage struct {
	Character
	States   []StatePage      `json:"states" doc:"A sign has the states seen and not-seen; a measurement none"`
	Ranges   []TaxonRange     `json:"ranges" doc:"A measurement: the range of each taxon, the smallest first"`
	Mistaken []MistakenStates `json:"mistaken"`
}

// StatePage is a state and who shows it.
type StatePage struct {
	State
	Taxa []StateTaxon `json:"taxa" doc:"Those that show it most often first"`
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
}

// MistakenStates is a state and what it is mostly mistaken for, in words.
type MistakenStates struct {
	State string   `json:"state"`
	For   []string `json:"for"`
}

// Plate is what a taxon shows, to draw it from.
type Plate struct {
	Name    string      `json:"name"`
	English string      `json:"english"`
	Shows   []DrawnFrom `json:"-"` // what the drawings are made from
	Marked  []string    `json:"marked" doc:"Characters in which it differs from another that stands beside it"`
	Differs []string    `json:"differs" doc:"In what it differs from the tree as scored, in words"`
	Says    PlateSays   `json:"says"`
}

// PlateSays is what drawings show, in words, for who does not see them.
type PlateSays struct {
	Twig    string `json:"twig"`
	Bark    string `json:"bark"`
	Outline string `json:"outline"`
}

// Beside is taxa side by side, in what they differ.
type Beside struct {
	Plates []Plate      `json:"plates"`
	Rows   []Difference `json:"rows" doc:"The characters that tell most, first"`
	Lines  []string     `json:"lines" doc:"What tells single pairs of them apart, where the flora has a line"`
}

// Difference is one character in which taxa differ.
type Difference struct {
	Character    string   `json:"character"`
	Name         string   `json:"name"`
	SectionWords string   `json:"section_words"`
	Bits         float64  `json:"bits" doc:"What it is worth between two of them, on average"`
	Words        []string `json:"words" doc:"What each taxon shows, in the order asked for"`
}

// Found is what a search for a name found.
type Found struct {
	Hits      []Hit  `json:"hits"`
	Ambiguous string `json:"ambiguous,omitempty" doc:"Says so where the name means several trees"`
	Rule      *Rule  `json:"rule,omitempty" doc:"A memory rule that was asked for, and whom it leaves out"`
}

// Hit is a taxon found by one of its names.
type Hit struct {
	Taxon   string `json:"taxon"`
	English string `json:"english" doc:"What it is usually called"`
	Name    string `json:"name" doc:"The name it was found by"`
	Kind    string `json:"kind" enum:"scientific,older,english"`
	Where   string `json:"where" doc:"Where that name is used for it, in words"`
	Whole   bool   `json:"whole" doc:"The words asked for are a whole name, or whole words of one"`
}

// Rule is a memory rule held against the flora.
type Rule struct {
	Words   string   `json:"words"`
	LeftOut []Called `json:"left_out" doc:"Taxa it should name and does not"`
	Wrong   []Called `json:"wrong" doc:"Taxa it names and should not"`
}

// Called is a taxon and what it is called.
type Called struct {
	Name    string `json:"name"`
	English string `json:"english"`
}

// Taxa lists the taxa of a region or list that show all of some states, each written
// as bark.texture:smooth.
func (b *Book) Taxa(among Among, show []string) ([]TaxonLine, error) {
	var shown []handbook.Shown
	for _, text := range show {
		one, err := handbook.ParseShown(text)
		if err != nil {
			return nil, &FieldError{"show", err.Error()}
		}
		shown = append(shown, one)
	}
	lines, err := b.shelf.Load().handbook.List(flora.Among(among), shown)
	if err != nil {
		return nil, asked("show", err)
	}
	return each(lines, func(l handbook.TaxonLine) TaxonLine { return TaxonLine(l) }), nil
}

// asked gives what is wrong with a region or list its own field, and other errors the
// one that was asked by.
func asked(field string, err error) error {
	if own := amongError(err); own != err {
		return own
	}
	return &FieldError{field, err.Error()}
}

// Taxon gives a taxon as a page, or [ErrNoTaxon].
func (b *Book) Taxon(name string) (*TaxonPage, error) {
	sh := b.shelf.Load()
	p, err := sh.handbook.Page(name)
	if err == nil && p == nil {
		err = ErrNoTaxon
	}
	if err != nil {
		return nil, err
	}
	out := &TaxonPage{
		Name:      p.Name,
		English:   p.English,
		Called:    []string{},
		Where:     []string{},
		Also:      listed(p.Also),
		Group:     p.Group,
		Genus:     p.Genus,
		Family:    p.Family,
		Height:    listed(p.Height),
		Cautions:  listed(p.Cautions),
		Poisonous: p.Poisonous,
		Sections:  each(p.Sections, sectionOf),
		Sources:   each(p.Sources, func(s handbook.PageSource) PageSource { return PageSource(s) }),
		Alike: each(p.Alike, func(a handbook.LookAlike) LookAlike {
			return LookAlike{a.Name, a.English, a.Region, sh.flora.RegionWords(a.Region), a.Twig, a.Bark, a.Both, a.Line, listed(a.By)}
		}),
	}
	for _, region := range sh.flora.RegionIDs() {
		words := sh.flora.RegionWords(region)
		if names := p.NamesIn[region]; len(names) > 0 {
			out.Called = append(out.Called, "in "+words+": "+strings.Join(names, ", "))
		}
		if p.Abundance[region] != "" {
			out.Where = append(out.Where, p.Abundance[region]+" in "+words+", "+p.Status[region])
		}
	}
	return out, nil
}

func sectionOf(s handbook.PageSection) PageSection {
	return PageSection{s.ID, record.Sections.Words(s.ID), each(s.Lines, func(l handbook.PageLine) PageLine {
		return PageLine{l.Character, l.Name, l.Words, each(l.ByAge, func(a handbook.Aged) Aged { return Aged(a) }), l.Source, l.Note,
			each(l.Chances, func(c handbook.StateChance) StateChance {
				return StateChance{c.State, record.StateWords(c.State), c.Chance}
			})}
	})}
}

// Character gives a character and which taxa of a region or list show each of its
// states, or [ErrNoCharacter].
func (b *Book) Character(id string, among Among) (*CharacterPage, error) {
	sh := b.shelf.Load()
	p, err := sh.handbook.Character(id, flora.Among(among))
	if err != nil {
		return nil, asked("id", err)
	}
	if p == nil {
		return nil, ErrNoCharacter
	}
	state := func(s handbook.StatePage) StatePage { return statePage(id, s) }
	return &CharacterPage{Character: characterOf(sh.flora.Character(id)), States: each(p.States, state),
		Ranges: each(p.Ranges, func(r handbook.TaxonRange) TaxonRange { return TaxonRange{r.Name, r.English, r.Words} }),
		Mistaken: each(p.Mistaken, func(m handbook.MistakenStates) MistakenStates {
			return MistakenStates{record.StateWords(m.State), each(m.For, record.StateWords)}
		})}, nil
}

func statePage(character string, s handbook.StatePage) StatePage {
	out := StatePage{
		State: stateOf(character, flora.State{ID: s.ID, Means: s.Means}),
		Taxa:  each(s.Taxa, func(t handbook.StateTaxon) StateTaxon { return StateTaxon(t) }),
	}
	if s.ID == "not-seen" {
		out.Words = flora.UpperFirst(record.NotSeenWords)
	}
	return out
}

// Plate gives what a taxon usually shows at an age and, for bark, a height on the
// trunk; with odd not 0 one specimen of it. It gives [ErrNoTaxon] where there is none.
func (b *Book) Plate(name, region, age, zone string, odd uint64) (*Plate, error) {
	p, err := b.shelf.Load().handbook.Plate(
		name,
		region,
		flora.Age(slices.Index(flora.AgeWords, age)),
		flora.Zone(slices.Index(flora.ZoneWords, zone)),
		odd,
	)
	if err != nil {
		return nil, err
	}
	if p == nil {
		return nil, ErrNoTaxon
	}
	out := plateOf(*p)
	return &out, nil
}

// Plates gives what the taxa of a region or list usually show.
func (b *Book) Plates(among Among) ([]Plate, error) {
	plates, err := b.shelf.Load().handbook.Plates(flora.Among(among))
	return each(plates, plateOf), amongError(err)
}

func plateOf(p handbook.Plate) Plate {
	return Plate{p.Name, p.English, each(p.Shows, func(v handbook.PlateValue) DrawnFrom { return DrawnFrom(v) }), []string{}, []string{},
		says(&plate.Tree{English: p.English, Shows: handbook.ShowsOf(p.Shows), Height: p.Height})}
}

func says(t *plate.Tree) PlateSays {
	return PlateSays{twig.Describe(t), bark.Describe(t), outline.Describe(t)}
}

// mark writes into plates in what each differs from any of the others.
func mark(plates []Plate) {
	for i := range plates {
		for j := range plates {
			if i != j {
				plates[i].Marked = append(plates[i].Marked, differences(plates[i].Shows, plates[j].Shows)...)
			}
		}
		slices.Sort(plates[i].Marked)
		plates[i].Marked = slices.Compact(plates[i].Marked)
	}
}

func differences(a, b []DrawnFrom) []string {
	value := func(d DrawnFrom) handbook.PlateValue { return handbook.PlateValue(d) }
	return handbook.Differences(each(a, value), each(b, value))
}

// Beside compares two to four taxa of a region or list.
func (b *Book) Beside(among Among, taxa []string) (*Beside, error) {
	out, err := b.shelf.Load().handbook.Beside(flora.Among(among), taxa)
	if err != nil {
		return nil, asked("taxon", err)
	}
	plates := each(out.Plates, plateOf)
	mark(plates)
	return &Beside{plates, each(out.Rows, func(d handbook.Difference) Difference {
		return Difference{d.Character, d.Name, record.Sections.Words(d.From), d.Bits, d.Words}
	}), out.Lines}, nil
}

// FindNames finds taxa by any name.
func (b *Book) FindNames(query string) Found {
	sh := b.shelf.Load()
	found := sh.names.Search(query)
	called := func(name string) Called { return Called{name, sh.english(name, "")} }
	out := Found{Ambiguous: found.Ambiguous, Hits: each(found.Hits, func(h names.Hit) Hit {
		where := strings.Join(each(h.Regions, sh.flora.RegionWords), ", ")
		return Hit{h.Taxon, h.English, h.Name, string(h.Kind), where, h.Whole}
	})}
	if r := found.Rule; r != nil {
		out.Rule = &Rule{r.Words, each(r.LeftOut, called), each(r.Wrong, called)}
	}
	return out
}

// everyName lists what a taxon is called anywhere, the usual name first.
func everyName(t *flora.Taxon) string {
	names := slices.Clone(t.English)
	for _, own := range t.NamesIn {
		for _, n := range own {
			if !slices.Contains(names, n) {
				names = append(names, n)
			}
		}
	}
	slices.Sort(names[min(len(names), len(t.English)):])
	return strings.Join(names, ", ")
}
