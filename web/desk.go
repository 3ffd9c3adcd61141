package web

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"palethicket/core/flora"
	"palethicket/core/tree/record"
)

// Desk is what the interface needs to know once: the characters and the words.
type Desk struct {
	Regions      []string       `json:"regions"`
	Pools        []string       `json:"pools" doc:"What a tree can be ranked among: the regions, then the book's lists"`
	Sections     []Section      `json:"sections" doc:"The characters in the order of work, from far to near"`
	From         []From         `json:"from"`
	Ages         []string       `json:"ages"`
	Zones        []string       `json:"zones"`
	Certainties  []string       `json:"certainties"`
	Hows         []string       `json:"hows"`
	Visibilities []string       `json:"visibilities"`
	Foliages     []string       `json:"foliages"`
	Snows        []string       `json:"snows"`
	Beyond       []string       `json:"beyond"`
	Taxa         []TaxonName    `json:"taxa"`
	Routes       []record.Route `json:"routes" doc:"Orders of work to choose from"`
}

// Section is a group of characters.
type Section struct {
	ID         string      `json:"id"`
	Characters []Character `json:"characters"`
}

// Character is a character as the interface shows it.
type Character struct {
	ID      string  `json:"id"`
	Kind    string  `json:"kind" enum:"categorical,numeric,sign,tally"`
	Name    string  `json:"name"`
	Look    string  `json:"look"`
	States  []State `json:"states"`
	Unit    string  `json:"unit"`
	ByZone  bool    `json:"by_zone"`
	Reach   string  `json:"reach"`
	Seconds int     `json:"seconds"`
	Harm    string  `json:"harm"`
}

// State is an answer and what it means.
type State struct {
	ID    string `json:"id"`
	Means string `json:"means"`
}

// From is a place a look can come from.
type From struct {
	ID      string   `json:"id"`
	Belongs float64  `json:"belongs" doc:"Chance that such a look is of the tree, before anything is scored"`
	Parts   []string `json:"parts" doc:"Sections of characters that such a look shows, best first"`
}

// TaxonName is a taxon by its names.
type TaxonName struct {
	Name    string              `json:"name"`
	English []string            `json:"english"`
	NamesIn map[string][]string `json:"names_in"`
	Group   string              `json:"group"`
	Genus   string              `json:"genus"`
	Family  string              `json:"family"`
}

func (s *Server) deskOperations(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "desk", Method: http.MethodGet, Path: "/api/desk",
		Summary: "Characters, states and the words of the record"},
		func(context.Context, *struct{}) (*struct{ Body Desk }, error) {
			return &struct{ Body Desk }{makeDesk(s.flora())}, nil
		})
}

func makeDesk(f *flora.Flora) Desk {
	d := Desk{Regions: f.RegionIDs(), Pools: f.PoolNames(), Ages: flora.AgeWords, Zones: flora.ZoneWords, Certainties: record.CertaintyWords,
		Hows: record.HowWords, Visibilities: record.VisibilityWords, Foliages: record.FoliageWords,
		Snows: record.SnowWords, Beyond: record.BeyondWords, Routes: record.Routes}
	for _, w := range record.FromWords {
		d.From = append(d.From, From{w, record.Belonging[w], record.Parts[w]})
	}
	for i := range f.Characters {
		c := &f.Characters[i]
		if n := len(d.Sections); n == 0 || d.Sections[n-1].ID != c.Section {
			d.Sections = append(d.Sections, Section{ID: c.Section})
		}
		wc := Character{ID: c.ID, Kind: c.Kind.String(), Name: c.Name, Look: c.Look, States: []State{}, Unit: c.Unit,
			ByZone: c.ByZone, Reach: c.Reach, Seconds: c.Seconds, Harm: c.Harm}
		for _, st := range c.States {
			wc.States = append(wc.States, State(st))
		}
		last := &d.Sections[len(d.Sections)-1]
		last.Characters = append(last.Characters, wc)
	}
	for _, t := range f.Taxa {
		d.Taxa = append(d.Taxa, TaxonName{t.Name, t.English, t.NamesIn, t.Group, t.Genus, t.Family})
	}
	return d
}
