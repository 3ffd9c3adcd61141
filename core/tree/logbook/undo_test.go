package logbook_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
)

func ptr[T any](v T) *T { return &v }

// undone adds to a log what undoes one of its entries.
func undone(t require.TestingT, log []logbook.Entry, entry string) []logbook.Entry {
	more, err := logbook.NewLog(log).Undo(entry)
	require.NoError(t, err)
	n := uint64(1000 + len(log))
	logbook.Number(more, func() string { n++; return id(n) })
	return append(log[:len(log):len(log)], more...)
}

// TestUndo undoes each kind of entry: what stands after is what stood before it.
func TestUndo(t *testing.T) {
	base := []logbook.Entry{
		{ID: id(1), Kind: logbook.KindFacts, Facts: &logbook.SetFacts{Age: ptr("young"), Snow: ptr("patchy"), Beyond: ptr([]string{"hand"})}},
		{ID: id(2), Kind: logbook.KindLook, From: "tree", Note: "north side"},
		score(3, id(2), coat("bare")),
		{ID: id(4), Kind: logbook.KindName, Name: &logbook.Naming{Rank: "genus", Name: "Acer"}},
		{ID: id(5), Kind: logbook.KindNote, Look: id(2), Note: "south side"},
	}
	for name, e := range map[string]logbook.Entry{
		"a look":  {ID: id(9), Kind: logbook.KindLook, From: "crown"},
		"a score": score(9, id(2), record.Score{Character: "bark.color", States: []string{"brown"}}),
		"a name":  {ID: id(9), Kind: logbook.KindName, Name: &logbook.Naming{Rank: "genus", Name: "Tilia"}},
		"a note":  {ID: id(9), Kind: logbook.KindNote, Look: id(2), Note: "wet"},
		"facts": {ID: id(9), Kind: logbook.KindFacts, Facts: &logbook.SetFacts{Age: ptr("old"), Snow: ptr("deep"), Height: ptr(21.0),
			Vigour: ptr("failing"), Remarks: ptr("forked"), Aside: ptr(true), Flat: ptr(true), Light: ptr("poor"), Among: &logbook.Among{Region: "british-isles", List: "avenue"},
			Beyond: ptr([]string{}), Foliage: ptr("needles"), Position: &logbook.Position{Lon: -90.64, Lat: 43.56}}},
		"a withdrawn score": {ID: id(9), Kind: logbook.KindWithdraw, Entry: id(3)},
		"a withdrawn look":  {ID: id(9), Kind: logbook.KindWithdraw, Entry: id(2)},
		"a withdrawn name":  {ID: id(9), Kind: logbook.KindWithdraw, Entry: id(4)},
	} {
		before := logbook.Replay(base)
		log := append(base[:len(base):len(base)], e)
		require.NotEqual(t, shown(before), shown(logbook.Replay(log)), name)
		after := logbook.Replay(undone(t, log, e.ID))
		require.Equal(t, shown(before), shown(after), name)
	}
}

// shown is what a person sees of a state: without ids, times and what was taken
// back.
func shown(st *logbook.State) string {
	facts := st.Facts
	facts.Position = nil // printed apart, as it is a pointer
	out := fmt.Sprintf("%+v %v", facts, st.Facts.Position)
	for _, l := range st.Looks {
		out += "\n" + l.From + " " + l.Note
		for _, s := range l.Scores {
			out += fmt.Sprintf("\n  %s %v", s.Character, s.States)
		}
	}
	if n := st.Name(); n != nil {
		out += "\n" + n.Rank + " " + n.Name
	}
	return out
}

func TestWhatCannotBeUndone(t *testing.T) {
	log := []logbook.Entry{
		{ID: id(1), Kind: logbook.KindLook, From: "tree"},
		score(2, id(1), coat("bare")),
		score(3, id(1), coat("downy")),
		{ID: id(4), Kind: logbook.KindWithdraw, Entry: id(3)},
		{ID: id(5), Kind: logbook.KindWithdraw, Entry: id(1)},
	}
	for entry, says := range map[string]string{
		"nothing": "no such entry",
		id(2):     "scored again since",
		id(4):     "put the look back first",
	} {
		_, err := logbook.NewLog(log).Undo(entry)
		require.ErrorContains(t, err, says)
	}
}

// TestUndoingTwice: undoing and undoing that changes nothing, for any facts.
func TestUndoingTwice(t *testing.T) {
	words := rapid.SampledFrom([]string{"", "young", "mature", "old"})
	rapid.Check(t, func(t *rapid.T) {
		var log []logbook.Entry
		for i := range rapid.IntRange(1, 6).Draw(t, "entries") {
			age := words.Draw(t, "age")
			log = append(log, logbook.Entry{ID: id(uint64(i + 1)), Kind: logbook.KindFacts, Facts: &logbook.SetFacts{Age: &age}})
		}
		last := log[len(log)-1].ID
		once := undone(t, log, last)
		twice := undone(t, once, once[len(once)-1].ID)
		require.Equal(t, logbook.Replay(log).Facts, logbook.Replay(twice).Facts)
	})
}

func TestNameStandsUntilTakenBack(t *testing.T) {
	name := func(n uint64, what string) logbook.Entry {
		return logbook.Entry{ID: id(n), Kind: logbook.KindName, Name: &logbook.Naming{Rank: "species", Name: what}}
	}
	log := []logbook.Entry{name(1, "Acer rubrum"), name(2, "Acer saccharum"), {ID: id(3), Kind: logbook.KindWithdraw, Entry: id(2)}}
	st := logbook.Replay(log)
	require.Equal(t, "Acer rubrum", st.Name().Name, "the one before stands again")
	require.Len(t, st.Names, 2, "both are remembered")
	require.True(t, st.Names[1].Back)
	require.Error(t, st.Fits(&logbook.Entry{Kind: logbook.KindWithdraw, Entry: id(2)}), "twice makes no sense")
	require.NoError(t, st.Fits(&logbook.Entry{Kind: logbook.KindWithdraw, Entry: id(1)}))
	require.Equal(t, map[string]bool{id(1): true, id(2): false}, st.Stand())
}

func TestPositions(t *testing.T) {
	at := func(lon, lat float64) error {
		e := logbook.Entry{ID: id(1), Kind: logbook.KindFacts, Facts: &logbook.SetFacts{Position: &logbook.Position{Lon: lon, Lat: lat}}}
		return e.Check()
	}
	require.NoError(t, at(-90.64, 43.56))
	require.NoError(t, at(180, -90))
	require.ErrorContains(t, at(43.56, -90.64), "lat: -90.64 is off the globe")
	require.ErrorContains(t, at(181, 0), "lon")
	require.ErrorContains(t, at(0, math.NaN()), "lat")
	st := logbook.Replay([]logbook.Entry{
		{ID: id(1), Kind: logbook.KindFacts, Facts: &logbook.SetFacts{Position: &logbook.Position{Lon: -90.64, Lat: 43.56}}},
		{ID: id(2), Kind: logbook.KindFacts, Facts: &logbook.SetFacts{Remarks: ptr("leans")}},
	})
	rec := st.Record("LC-1", logbook.Among{Region: "eastern-north-america"})
	require.Equal(t, &[2]float64{-90.64, 43.56}, rec.Position, "longitude first")
	require.Equal(t, "leans", rec.Note)
}

func TestMeasured(t *testing.T) {
	log := []logbook.Entry{
		{ID: id(1), Kind: logbook.KindLook, From: "tree"},
		score(2, id(1), record.Score{Character: "form.dbh", Value: ptr(12.0), Unit: "in"}),
	}
	s, ok := logbook.Replay(log).Measured("form.dbh")
	require.True(t, ok)
	require.InDelta(t, 30.48, record.Centimetres(&s), 1e-9)
	_, ok = logbook.Replay(log).Measured("bud.length")
	require.False(t, ok)
	require.Equal(t, 31.0, record.Centimetres(&record.Score{Value: ptr(31.0)}), "its own unit is the centimetre")
	require.Zero(t, record.Centimetres(&record.Score{}))
}
