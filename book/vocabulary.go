package book

import (
	"palethicket/core/flora"
	"palethicket/core/measure"
	"palethicket/core/plate/tile"
	"palethicket/core/stand/worklist"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
	"palethicket/core/weigh/evidence"
	"slices"
)

// Vocabulary is what a page needs to know once: the characters, and the words of the
// record with how they are said.
type Vocabulary struct {
	Regions      []Term      `json:"regions" doc:"Of the flora, the home region first"`
	Amongs       []AmongTerm `json:"amongs" doc:"What a tree can be ranked among: the regions, then the book's lists"`
	Sections     []Section   `json:"sections" doc:"The characters in the order of work, from far to near"`
	Froms        []From      `json:"froms"`
	Ages         []Term      `json:"ages"`
	Zones        []Term      `json:"zones"`
	Certainties  []Term      `json:"certainties"`
	Hows         []Term      `json:"hows"`
	Visibilities []Term      `json:"visibilities"`
	Foliages     []Term      `json:"foliages"`
	Snows        []Term      `json:"snows"`
	Lights       []Term      `json:"lights"`
	Beyonds      []Term      `json:"beyonds"`
	Vigours      []Term      `json:"vigours"`
	Confirms     []Term      `json:"confirms" doc:"What confirms a name once winter is over"`
	Units        []string    `json:"units" doc:"Of length"`
	Statuses     []StatusOf  `json:"statuses" doc:"What a tree's status means, each with a sign of its own"`
	Bars         Bars        `json:"bars" doc:"The chances that names must reach"`
	Names        []NameTerm  `json:"names" doc:"Names that can be given, at every rank"`
	Routes       []Route     `json:"routes" doc:"Orders of work to choose from"`
	Roles        []string    `json:"roles" doc:"Of the crew, the one that may do most first"`
	NotSeen      string      `json:"not_seen" doc:"How it is said that a sign was looked for and not seen"`
	Plates       string      `json:"plates" doc:"Stands in the addresses of drawings: another where they would come out otherwise"`
	Unlisted     string      `json:"unlisted" doc:"How the hypothesis outside the list is called"`
}

// Term is a word of the record and how it is said.
type Term struct {
	ID    string `json:"id"`
	Words string `json:"words"`
	Hint  string `json:"hint,omitempty"`
}

// AmongTerm is what a tree can be ranked among, and how it is said.
type AmongTerm struct {
	Among
	Words string `json:"words"`
}

// StatusOf is a status of trees, in words and as a sign.
type StatusOf struct {
	ID      string `json:"id"`
	Words   string `json:"words"`
	Sign    string `json:"sign"`
	Settled bool   `json:"settled" doc:"Worklists leave it out"`
}

// Section is a group of characters.
type Section struct {
	ID         string      `json:"id"`
	Words      string      `json:"words"`
	Characters []Character `json:"characters"`
}

// Character is a character as a page shows it.
type Character struct {
	ID        string  `json:"id"`
	Kind      string  `json:"kind" enum:"categorical,numeric,sign,tally"`
	Name      string  `json:"name"`
	Look      string  `json:"look" doc:"How to look at it"`
	From      string  `json:"from" doc:"Kind of look that it is scored in"`
	Section   string  `json:"section"`
	States    []State `json:"states"`
	Unit      string  `json:"unit"`
	Length    bool    `json:"length" doc:"Its unit is one of length: any other will do"`
	Caliper   bool    `json:"caliper" doc:"A caliper's jaws go round it"`
	Gauge     bool    `json:"gauge" doc:"So small that it can be held against the screen"`
	ByZone    bool    `json:"by_zone"`
	Seconds   int     `json:"seconds"`
	Harm      string  `json:"harm"`
	HarmWords string  `json:"harm_words" doc:"Empty: it does none"`
	Drawn     bool    `json:"drawn" doc:"A sign: there is a drawing of it"`
}

// State is an answer and what it means.
type State struct {
	ID    string `json:"id"`
	Words string `json:"words"`
	Means string `json:"means"`
	Drawn bool   `json:"drawn" doc:"There is a drawing of it"`
}

// From is a kind of look.
type From struct {
	Term
	Belongs float64  `json:"belongs" doc:"Chance that such a look is of the tree, before anything is scored"`
	Parts   []string `json:"parts" doc:"Sections of characters that such a look shows, best first"`
}

// NameTerm is a name that can be given to a tree.
type NameTerm struct {
	Rank  string `json:"rank" enum:"species,group,genus,family,undetermined"`
	Name  string `json:"name"`
	Words string `json:"words"`
}

// Route is an order of work: which looks are taken first, and what of them is
// scored first.
type Route struct {
	ID       string   `json:"id"`
	Words    string   `json:"words"`
	From     []string `json:"from" doc:"Kinds of look, in order"`
	Sections []string `json:"sections" doc:"Sections of characters, in order"`
}

// Vocabulary gives the words as they are now, the book's lists among them.
func (b *Book) Vocabulary() Vocabulary {
	f := b.Flora()
	v := Vocabulary{
		Regions: each(f.RegionIDs(), func(id string) Term { return Term{ID: id, Words: f.RegionWords(id)} }),
		Amongs: each(f.Amongs(), func(a flora.Among) AmongTerm {
			return AmongTerm{Among(a), logbook.Among(a).Words(f)}
		}),
		Froms: each(record.Froms, func(t record.Term) From { return From{Term(t), record.Belonging[t.ID], record.Parts[t.ID]} }),
		Ages:  terms(record.Ages), Zones: terms(record.Zones), Certainties: terms(record.Certainties), Hows: terms(record.Hows),
		Visibilities: terms(record.Visibilities), Foliages: terms(record.Foliages), Snows: terms(record.Snows),
		Lights: terms(record.Lights), Beyonds: terms(record.Beyonds), Vigours: terms(record.Vigours),
		Confirms: terms(logbook.Confirms), Units: measure.Units(), Roles: Roles,
		Routes: each(record.Routes, func(r record.Route) Route { return Route(r) }), Names: nameTerms(f),
		NotSeen: record.NotSeenWords, Unlisted: answer.UnlistedWords, Plates: b.PlatesDigest(), Bars: b.Bars(),
		Statuses: each(worklist.Statuses, func(s worklist.Status) StatusOf {
			return StatusOf{s.ID, s.Words, s.Sign, s.ID == worklist.Named || s.ID == worklist.Unreadable}
		}),
	}
	for i := range f.Characters {
		c := &f.Characters[i]
		if n := len(v.Sections); n == 0 || v.Sections[n-1].ID != c.Section {
			v.Sections = append(v.Sections, Section{ID: c.Section, Words: record.Sections.Words(c.Section)})
		}
		last := &v.Sections[len(v.Sections)-1]
		last.Characters = append(last.Characters, characterOf(c))
	}
	return v
}

func terms(t record.Terms) []Term { return each(t, func(one record.Term) Term { return Term(one) }) }

func characterOf(c *flora.Character) Character {
	return Character{ID: c.ID, Kind: c.Kind.String(), Name: c.Name, Look: c.Look, From: answer.From(c), Section: c.Section,
		States: each(c.States, func(s flora.State) State { return stateOf(c.ID, s) }),
		Drawn:  c.Kind == evidence.Sign && tile.Has(c.ID, "seen"),
		Unit:   c.Unit, Length: measure.IsLength(c.Unit), Caliper: measure.IsLength(c.Unit) && c.Section != "bark",
		Gauge:  c.Unit == "mm" && c.Kind == evidence.Numeric,
		ByZone: c.ByZone, Seconds: c.Seconds, Harm: c.Harm, HarmWords: record.Harms.Words(c.Harm)}
}

func stateOf(character string, s flora.State) State {
	return State{s.ID, flora.UpperFirst(record.StateWords(s.ID)), s.Means, tile.Has(character, s.ID)}
}

// called says whether the flora has a name of a rank.
func (s *shelf) called(rank, name string) bool {
	return slices.ContainsFunc(nameTerms(s.flora), func(n NameTerm) bool { return n.Rank == rank && n.Name == name })
}

// nameTerms lists every name once, a species with what people call it everywhere.
func nameTerms(f *flora.Flora) []NameTerm {
	out := []NameTerm{{logbook.Undetermined, "", "undetermined: come back"}}
	seen := map[[2]string]bool{}
	put := func(rank, name, words string) {
		if key := [2]string{rank, name}; name != "" && !seen[key] {
			seen[key] = true
			out = append(out, NameTerm{rank, name, words})
		}
	}
	for i := range f.Taxa {
		t := &f.Taxa[i]
		put("species", t.Name, everyName(t)+" ("+t.Name+")")
	}
	for i := range f.Taxa {
		t := &f.Taxa[i]
		put("group", t.Group, t.Group+", of some kind")
		put("genus", t.Genus, t.Genus+", "+t.GenusEnglish+" of some kind")
		put("family", t.Family, "the family "+t.Family)
	}
	return out
}
