package logbook_test

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
)

func ptr[T any](v T) *T { return &v }

func undo(n uint64, entry string) logbook.Entry {
	return logbook.Entry{ID: id(n), Kind: logbook.KindUndo, Entry: entry}
}

// base is a log with something of each kind.
func base() []logbook.Entry {
	return []logbook.Entry{
		start(0),
		{ID: id(1), Kind: logbook.KindFacts, Facts: &logbook.SetFacts{Age: ptr("young"), Snow: ptr("patchy"), Beyond: ptr([]string{"hand"})}},
		{ID: id(2), Kind: logbook.KindLook, From: "tree", Note: "north side"},
		score(3, id(2), coat("bare")),
		{ID: id(4), Kind: logbook.KindName, Name: &logbook.Naming{Rank: "genus", Name: "Acer"}},
		{ID: id(5), Kind: logbook.KindNote, Look: id(2), Note: "south side"},
		{ID: id(6), Kind: logbook.KindLook, From: "crown"},
		{ID: id(7), Kind: logbook.KindPhoto, Look: id(2), Photo: &logbook.Photo{Digest: "d"}},
	}
}

// TestUndo undoes each kind of entry: what stands after is what stood before it, whole
// and in its place, and undoing that is as if nothing had been undone.
func TestUndo(t *testing.T) {
	for name, e := range map[string]logbook.Entry{
		"a look":          {ID: id(9), Kind: logbook.KindLook, From: "crown"},
		"a score":         score(9, id(2), record.Score{Character: "bark.color", States: []string{"brown"}}),
		"a score again":   score(9, id(2), coat("downy")),
		"a name":          {ID: id(9), Kind: logbook.KindName, Name: &logbook.Naming{Rank: "genus", Name: "Tilia"}},
		"a note":          {ID: id(9), Kind: logbook.KindNote, Look: id(2), Note: "wet"},
		"a note at large": {ID: id(9), Kind: logbook.KindNote, Note: "leans"},
		"a move":          {ID: id(9), Kind: logbook.KindMove, Move: &logbook.Place{Tag: "LC-2", Tract: "Lantern Creek", Stand: "Rim"}},
		"a photograph":    {ID: id(9), Kind: logbook.KindPhoto, Photo: &logbook.Photo{Digest: "e"}},
		"facts": {ID: id(9), Kind: logbook.KindFacts, Facts: &logbook.SetFacts{Age: ptr("old"), Snow: ptr("deep"), Height: ptr(21.0),
			Vigour: ptr("failing"), Remarks: ptr("forked"), Aside: ptr(true), Flat: ptr(true), Light: ptr("poor"),
			Among: &logbook.Among{Region: "british-isles", List: "avenue"}, Beyond: ptr([]string{}), Foliage: ptr("needles"),
			Position: &logbook.Position{Lon: -90.64, Lat: 43.56}}},
		"a withdrawn score":      {ID: id(9), Kind: logbook.KindWithdraw, Entry: id(3)},
		"a withdrawn look":       {ID: id(9), Kind: logbook.KindWithdraw, Entry: id(2)},
		"a withdrawn name":       {ID: id(9), Kind: logbook.KindWithdraw, Entry: id(4)},
		"a withdrawn photograph": {ID: id(9), Kind: logbook.KindWithdraw, Entry: id(7)},
	} {
		t.Run(name, func(t *testing.T) {
			before := shown(logbook.Replay(base()))
			l := logbook.NewLog(base())
			require.NoError(t, l.Fits(&e))
			l.Add(e)
			with := shown(&l.State)
			require.NotEqual(t, before, with)
			back := undo(10, e.ID)
			require.NoError(t, l.Fits(&back))
			l.Add(back)
			require.Equal(t, before, shown(&l.State))
			twice := undo(11, e.ID)
			require.ErrorContains(t, l.Fits(&twice), "undone already; nothing was changed")
			again := undo(12, back.ID)
			require.NoError(t, l.Fits(&again))
			l.Add(again)
			require.Equal(t, with, shown(&l.State), "undoing is undone like anything else")
			require.Equal(t, with, shown(logbook.Replay(l.Entries)))
		})
	}
}

// shown is what a person sees of a state: without times and what was taken back.
func shown(st *logbook.State) string {
	facts := st.Facts
	facts.Position = nil // printed apart, as it is a pointer
	out := fmt.Sprintf("%v %+v %v %v %v", st.Place, facts, st.Facts.Position, st.Notes, st.Photos)
	for _, l := range st.Looks {
		out += "\n" + l.ID + " " + l.From + " " + l.Note
		for _, s := range l.Scores {
			out += fmt.Sprintf("\n  %s %v", s.Character, s.States)
		}
	}
	if n := st.Name(); n != nil {
		out += "\n" + n.Rank + " " + n.Name
	}
	return out
}

// TestUndoingAnOlderFact leaves the newer as it is.
func TestUndoingAnOlderFact(t *testing.T) {
	age := func(n uint64, age string) logbook.Entry {
		return logbook.Entry{ID: id(n), Kind: logbook.KindFacts, Facts: &logbook.SetFacts{Age: &age}}
	}
	log := []logbook.Entry{start(0), age(1, "young"), age(2, "old"), undo(3, id(1))}
	require.Equal(t, "old", logbook.Replay(log).Facts.Age)
	require.Equal(t, "young", logbook.Replay([]logbook.Entry{start(0), age(1, "young"), age(2, "old"), undo(3, id(2))}).Facts.Age)
}

// TestOnlyOnesOwn: undoing takes back nothing that somebody else did.
func TestOnlyOnesOwn(t *testing.T) {
	mine, theirs := base(), score(9, id(6), coat("bare"))
	theirs.By = "Tobias Okafor"
	l := logbook.NewLog(append(mine, theirs))
	for entry, says := range map[string]string{
		"nothing": "no such entry",
		id(0):     "set it aside",
		id(9):     "Tobias Okafor did this",
		id(6):     "Tobias Okafor has entered something in this look",
	} {
		e := undo(10, entry)
		require.ErrorContains(t, l.Fits(&e), says)
	}
	e := undo(10, id(9))
	e.By = "Tobias Okafor"
	require.NoError(t, l.Fits(&e))
	require.Equal(t, []logbook.Act{{By: "", Entry: id(7)}, {By: "Tobias Okafor", Entry: id(9)}}, l.Acts())
	l.Add(e)
	require.Equal(t, []logbook.Act{{By: "", Entry: id(7)}}, l.Acts())
	back := undo(11, id(7))
	l.Add(back)
	require.Equal(t, []logbook.Act{{By: "", Entry: id(6)}}, l.Acts(), "then what was done before")
}

// TestAnyOrder draws logs with doubled and withdrawn and undone entries, hands them on
// in any order, split over two books and joined again: the same stands, as it does
// when each comes alone.
func TestAnyOrder(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		log := []logbook.Entry{start(0)}
		pick := func(what string) string { return log[rapid.IntRange(0, len(log)-1).Draw(t, what)].ID }
		for n := range uint64(rapid.IntRange(1, 25).Draw(t, "entries")) {
			e := logbook.Entry{ID: id(n + 1), By: rapid.SampledFrom([]string{"Ada", "Ben"}).Draw(t, "by")}
			e.Stamp = stampOf(rapid.Int64Range(0, 12).Draw(t, "time"), e.By)
			switch rapid.IntRange(0, 6).Draw(t, "kind") {
			case 0:
				e.Kind, e.From = logbook.KindLook, "tree"
			case 1, 2:
				s := coat(rapid.SampledFrom([]string{"bare", "downy", "silky"}).Draw(t, "state"))
				e.Kind, e.Look, e.Score = logbook.KindScore, pick("look"), &s
			case 3:
				e.Kind, e.Entry = logbook.KindWithdraw, pick("withdrawn")
			case 4:
				e.Kind, e.Entry = logbook.KindUndo, pick("undone")
			case 5:
				e.Kind, e.Facts = logbook.KindFacts, &logbook.SetFacts{Age: ptr(rapid.SampledFrom([]string{"", "old"}).Draw(t, "age"))}
			case 6:
				e.Kind, e.Note, e.Look = logbook.KindNote, "wet", pick("noted")
			}
			if logbook.NewLog(log).Refers(&e) == nil {
				log = append(log, e)
			}
		}
		want := logbook.NewLog(log)
		require.Equal(t, shown(&want.State), shown(logbook.Replay(rapid.Permutation(log).Draw(t, "order"))))
		one := logbook.NewLog(nil)
		for _, e := range rapid.Permutation(log).Draw(t, "one by one") {
			one.Add(e)
		}
		require.Equal(t, shown(&want.State), shown(&one.State))
		require.Equal(t, want.Stand(), one.Stand())
	})
}

// TestCircle: two entries that undo each other, which no book takes, end somewhere.
func TestCircle(t *testing.T) {
	log := []logbook.Entry{start(0), undo(1, id(2)), undo(2, id(1)), undo(3, id(3))}
	require.NotPanics(t, func() { logbook.Replay(log) })
}

func TestNameStandsUntilTakenBack(t *testing.T) {
	name := func(n uint64, what string) logbook.Entry {
		return logbook.Entry{ID: id(n), Kind: logbook.KindName, Name: &logbook.Naming{Rank: "species", Name: what}}
	}
	l := logbook.NewLog([]logbook.Entry{start(0), name(1, "Acer rubrum"), name(2, "Acer saccharum"),
		{ID: id(3), Kind: logbook.KindWithdraw, Entry: id(2)}})
	require.Equal(t, "Acer rubrum", l.Name().Name, "the one before stands again")
	require.Len(t, l.Names, 2, "both are remembered")
	require.True(t, l.Names[1].Back)
	require.Error(t, l.Fits(&logbook.Entry{Kind: logbook.KindWithdraw, Entry: id(2)}), "twice makes no sense")
	require.NoError(t, l.Fits(&logbook.Entry{Kind: logbook.KindWithdraw, Entry: id(1)}))
	require.Equal(t, map[string]bool{id(0): true, id(1): true, id(2): false, id(3): true}, l.Stand())
}

// TestChainOfUndoings: of undoings that undo one another the last decides, however long the chain.
// Each entry is decided once; before, a chain took the square of its length.
func TestChainOfUndoings(t *testing.T) {
	t.Parallel()
	for _, length := range []uint64{1, 2, 999, 50_000} {
		entries := []logbook.Entry{start(0), {ID: id(1), Kind: logbook.KindNote, Note: "leans"}}
		for n := range length {
			entries = append(entries, undo(2+n, id(1+n)))
		}
		require.Equal(t, length%2 == 1, logbook.NewLog(entries).Undone(id(1)), length)
	}
	own := logbook.NewLog([]logbook.Entry{start(0), undo(1, id(1))})
	require.Len(t, own.Entries, 2, "one that undoes itself ends too")
}
