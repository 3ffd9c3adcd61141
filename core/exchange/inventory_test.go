package exchange_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"palethicket/core/exchange"
)

const eastern = "eastern-north-america"

// one reads a table of one line.
func one(t *testing.T, m func(*exchange.Mapping), heads, cells string) exchange.Line {
	t.Helper()
	sheet, err := exchange.Read("t.csv", []byte("tag,tract,stand,"+heads+"\nA-1,Lantern Creek,Cove,"+cells+"\n"))
	require.NoError(t, err)
	mapping := sheet.GuessMapping()
	mapping.Region, mapping.Date = eastern, "2026-11-20"
	if m != nil {
		m(&mapping)
	}
	return linesOf(t, sheet, mapping)[0]
}

// TestNamesAsForestersWriteThem: common practice, in tables of stands.
func TestNamesAsForestersWriteThem(t *testing.T) {
	t.Parallel()
	for written, want := range map[string]string{
		"Quercus rubra": "species Quercus rubra", "quercus rubra": "species Quercus rubra", "Northern Red Oak": "species Quercus rubra",
		"white ash": "species Fraxinus americana", "Quercus sp.": "genus Quercus", "oak spp": "genus Quercus", "Acer": "genus Acer",
		"undetermined": "undetermined ",
	} {
		l := one(t, nil, "species", written)
		require.Empty(t, l.Problems, written)
		require.Equal(t, want, l.Tree.Rank+" "+l.Tree.Name, written)
	}
	for written, likely := range map[string]string{"red oka": "Quercus rubra", "Red oak": "Quercus rubra", "sugr maple": "Acer saccharum"} {
		l := one(t, nil, "species", written)
		require.Len(t, l.Problems, 1, written)
		require.Equal(t, written, l.Doubt.Written)
		require.Contains(t, l.Doubt.Suggests, exchange.Called{Rank: "species", Name: likely})
	}
	none := one(t, nil, "species", "gjxq")
	require.Empty(t, none.Doubt.Suggests)
	require.Contains(t, none.Problems[0], `no tree goes by "gjxq"`)

	said := func(m *exchange.Mapping) {
		m.Names = map[string]exchange.Called{"Red oak": {Rank: "species", Name: "Quercus rubra"}, "hedge": {}}
	}
	l := one(t, said, "species", "Red oak")
	require.Empty(t, l.Problems)
	require.Equal(t, "Quercus rubra", l.Tree.Name)
	l = one(t, said, "species,remarks", "hedge,leans")
	require.Empty(t, l.Problems)
	require.Equal(t, "", l.Tree.Name)
	require.Equal(t, "leans (in the file: hedge)", l.Tree.Remarks)
}

// TestHedgedNames: qualifiers as the Darwin Core terms have them (TDWG, identificationQualifier),
// and as people write them within a name. What is no hedge stays among the remarks.
func TestHedgedNames(t *testing.T) {
	t.Parallel()
	for _, c := range []struct{ name, qualifier, want, hedge, remarks string }{
		{"Quercus alba", "", "Quercus alba", "", ""},
		{"Quercus cf. alba", "", "Quercus alba", "cf.", ""},
		{"cf. Quercus alba", "?", "Quercus alba", "?", ""},
		{"Probably northern red oak", "", "Quercus rubra", "cf.", ""},
		{"northern red oak?", "cf.", "Quercus rubra", "?", ""},
		{"Quercus aff. alba", "", "Quercus alba", "?", ""},
		{"Quercus sp.", "cf.", "Quercus", "cf.", ""},
		{"Quercus alba", "cf. alba", "Quercus alba", "cf.", "(qualifier in the file: cf. alba)"},
		{"Quercus alba", "s. l.", "Quercus alba", "", "(qualifier in the file: s. l.)"},
		{"red oaks", "cf. red oaks", "red oaks", "cf.", ""},
		{"?", "cf.", "", "", "(in the file: ?)"},
		{"undetermined", "?", "", "", ""},
	} {
		l := one(t, nil, "species,identificationQualifier", c.name+","+c.qualifier)
		require.Empty(t, l.Problems, c.name)
		got := []string{l.Tree.Name, l.Tree.Hedge, l.Tree.Remarks}
		require.Equal(t, []string{c.want, c.hedge, c.remarks}, got, "%s, %s", c.name, c.qualifier)
	}
	require.Empty(t, one(t, nil, "species,confirmed", "cf. Quercus alba,leaf").Tree.Hedge, "what was seen in leaf is sure")
}

// TestDaysAsPeopleWriteThem reads days in figures and in words.
func TestDaysAsPeopleWriteThem(t *testing.T) {
	t.Parallel()
	want := time.Date(2026, 11, 17, 0, 0, 0, 0, time.UTC)
	for _, written := range []string{"2026-11-17", "17.11.2026", "17/11/2026", "11/17/2026", "17-11-26", "2026/11/17", "20261117",
		"17 Nov 2026", "Nov 17 2026", "November 17th 2026", "17. November 2026", "17-Nov-2026", "\"Nov 17, 2026\"", "46343"} {
		l := one(t, nil, "date", written)
		require.Empty(t, l.Problems, written)
		require.True(t, want.Equal(l.Tree.Date), "%s is %s", written, l.Tree.Date)
	}
	both := one(t, nil, "date", "3/4/2026")
	require.Contains(t, both.Problems[0], "two ways")
	for order, month := range map[string]time.Month{exchange.DayFirst: time.April, exchange.MonthFirst: time.March} {
		l := one(t, func(m *exchange.Mapping) { m.Days = order }, "date", "3/4/2026")
		require.Empty(t, l.Problems)
		require.Equal(t, month, l.Tree.Date.Month())
	}
	require.Equal(t, time.March, one(t, nil, "date", "3/3/2026").Tree.Date.Month(), "either way the same")
	for _, wrong := range []string{"31/31/2026", "soon", "17.13.2026", "30.2.2026"} {
		require.NotEmpty(t, one(t, nil, "date", wrong).Problems, wrong)
	}
}

// TestOneDayTellsTheOrderOfItsColumn: 25/4 can only be of the day first, so 3/4 is too.
func TestOneDayTellsTheOrderOfItsColumn(t *testing.T) {
	t.Parallel()
	sheet, err := exchange.Read("t.csv", []byte("tag,tract,stand,date\nA-1,T,S,3/4/2026\nA-2,T,S,25/4/2026\n"))
	require.NoError(t, err)
	m := sheet.GuessMapping()
	require.False(t, sheet.Asks(m).Days)
	require.Equal(t, time.April, linesOf(t, sheet, m)[0].Tree.Date.Month())
	sheet, err = exchange.Read("t.csv", []byte("tag,date\nA-1,3/4/2026\n"))
	require.NoError(t, err)
	require.Equal(t, exchange.Asks{Tract: true, Stand: true, Days: true}, sheet.Asks(sheet.GuessMapping()))
}

// TestUnitsOfColumns: a column's unit holds where the cell does not say.
func TestUnitsOfColumns(t *testing.T) {
	t.Parallel()
	unit := func(u string) func(*exchange.Mapping) {
		return func(m *exchange.Mapping) { m.Units = []string{"", "", "", u} }
	}
	require.InDelta(t, 30.48, one(t, unit("in"), "dbh", "12").Tree.DBH, 1e-9)
	require.InDelta(t, 31, one(t, unit("mm"), "dbh", "310").Tree.DBH, 1e-9)
	require.InDelta(t, 25.4, one(t, nil, "dbh", "10 in").Tree.DBH, 1e-9)
	require.InDelta(t, 18.288, one(t, unit("ft"), "height", "60").Tree.Height, 1e-9)
	require.InDelta(t, 18.288, one(t, nil, "height", "60'").Tree.Height, 1e-9)
	require.Zero(t, one(t, nil, "height", "0").Tree.Height)
	tall := one(t, nil, "height", "400").Problems
	require.Equal(t, []string{"a height of 400 is more than any tree has (120 m); is the unit right?"}, tall)
	require.NotContains(t, strings.Join(one(t, nil, "dbh", "4000").Problems, ""), "dbh_cm", "in people's words")
}

// TestListTheBookLacks: its trees are ranked among the whole region, or another list, and
// it is said.
func TestListTheBookLacks(t *testing.T) {
	t.Parallel()
	l := one(t, nil, "list,region", "Elm Hollow,"+eastern)
	require.Empty(t, l.Problems)
	require.Equal(t, "Elm Hollow", l.Lacks)
	require.Equal(t, []string{eastern, ""}, []string{l.Tree.Region, l.Tree.List})
}
