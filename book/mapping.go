package book

import "palethicket/core/exchange"

// Mapping says what the columns of a file hold, and what holds for lines that do
// not say.
type Mapping struct {
	Columns []string `json:"columns" doc:"A field for each column, or empty to leave it out"`
	Tract   string   `json:"tract,omitempty" maxLength:"80" doc:"Where lines do not say"`
	Stand   string   `json:"stand,omitempty" maxLength:"80" doc:"Where lines do not say"`
	Region  string   `json:"region,omitempty" doc:"Region of the flora, where lines do not say; absent: its home region"`
	List    string   `json:"list,omitempty" doc:"List to rank among, where lines do not say; absent: the whole region"`
	Date    string   `json:"date,omitempty" format:"date" doc:"Day looked at, where lines do not say"`

	Units []string          `json:"units,omitempty" doc:"Unit of each column of lengths, where cells do not say: mm, cm, m, in or ft"`
	Days  string            `json:"days,omitempty" enum:"day-first,month-first," doc:"How 3/4/2026 is read; absent: as the column tells"`
	Names map[string]Meant  `json:"names,omitempty" doc:"What names in the file stand for, by how they are written there"`
	Zone  string            `json:"zone,omitempty" maxLength:"10" doc:"Of the UTM grid, where lines do not say: 15N"`
	Lists map[string]string `json:"lists,omitempty" doc:"List to rank among in place of one that the book lacks; empty: the whole region"`

	Mends map[int]map[int]string `json:"mends,omitempty" doc:"What cells should say: by line, counted from 0, and column"`

	Far bool `json:"far,omitempty" doc:"Lines far from the other trees of their tract are meant; absent: they are left out"`
}

// Meant is a name of the flora that a name in a file stands for; one without a rank and
// a name is none.
type Meant struct {
	Rank string `json:"rank" enum:"species,group,genus,family,undetermined,"`
	Name string `json:"name" maxLength:"120"`
}

// fields is the mapping as files are read by.
func (m *Mapping) fields() exchange.Mapping {
	names := make(map[string]exchange.Called, len(m.Names))
	for written, is := range m.Names {
		names[written] = exchange.Called(is)
	}
	return exchange.Mapping{Columns: m.Columns, Tract: m.Tract, Stand: m.Stand, Region: m.Region, List: m.List, Date: m.Date,
		Units: m.Units, Days: m.Days, Names: names, Zone: m.Zone, Lists: m.Lists, Mends: m.Mends}
}
