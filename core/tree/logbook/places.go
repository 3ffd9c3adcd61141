package logbook

import "encoding/json"

// Visit is a day's walk in a tract.
type Visit struct {
	ID      string `json:"id"`
	Tract   string `json:"tract"`
	Day     string `json:"day"`
	Crew    string `json:"crew,omitempty"`
	Weather string `json:"weather,omitempty"`
	Snow    string `json:"snow,omitempty"`
	Remarks string `json:"remarks,omitempty"`
}

// Land says something of a tract, or of a stand in it; what is nil stays as it was.
type Land struct {
	Tract    string          `json:"tract"`
	Stand    string          `json:"stand,omitempty"` // empty: the tract
	Remarks  *string         `json:"remarks,omitempty"`
	Boundary json.RawMessage `json:"boundary,omitempty"` // GeoJSON geometry
	Terrain  json.RawMessage `json:"terrain,omitempty"`  // of a tract: GeoJSON feature collection
	Gone     bool            `json:"gone,omitempty"`     // it was emptied and taken out
}

// Lay puts what is said later over what is said of the same land.
func (l *Land) Lay(later *Land) {
	if later.Gone {
		*l = Land{}
	}
	if later.Remarks != nil {
		l.Remarks = later.Remarks
	}
	if later.Boundary != nil {
		l.Boundary = later.Boundary
	}
	if later.Terrain != nil {
		l.Terrain = later.Terrain
	}
}

// List is a list of one's own as it was kept, or that it was dropped.
type List struct {
	Name    string          `json:"name"`
	Body    json.RawMessage `json:"body,omitempty"`
	Dropped bool            `json:"dropped,omitempty"`
}

// About is what an entry of a place is about: of the entries about one thing the
// last stands, or the last that says something of each part of it. It is empty for
// an entry of a tree.
func (e *Entry) About() string {
	const sep = "\x1f" // no name holds it
	switch {
	case e.Walk != nil:
		return "visit" + sep + e.Walk.ID
	case e.Land != nil:
		return "land" + sep + e.Land.Tract + sep + e.Land.Stand
	case e.List != nil:
		return "list" + sep + e.List.Name
	case e.Plot != nil:
		return "plot" + sep + e.Plot.ID
	}
	return ""
}

// Tract is the tract of an entry about a visit, a tract or a stand; else "".
func (e *Entry) Tract() string {
	switch {
	case e.Walk != nil:
		return e.Walk.Tract
	case e.Land != nil:
		return e.Land.Tract
	case e.Plot != nil:
		return e.Plot.Tract
	}
	return ""
}
