package logbook_test

import (
	"encoding/binary"
	"slices"
	"strings"
	"testing"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"

	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
	"palethicket/core/tree/stamp"
)

// id makes the nth id of a log.
func id(n uint64) string {
	var u ulid.ULID
	if err := u.SetTime(1_763_000_000_000 + n*1000); err != nil {
		panic(err)
	}
	binary.BigEndian.PutUint64(u[8:], n)
	return u.String()
}

// stampOf makes the stamp of a node at a time.
func stampOf(millis int64, node string) stamp.Stamp { return stamp.New(millis, 0, node) }

// start is the entry that starts a tree.
func start(n uint64) logbook.Entry {
	return logbook.Entry{ID: id(n), Kind: logbook.KindStart, Start: &logbook.Start{
		Place: logbook.Place{Tag: "LC-1", Tract: "Lantern Creek watershed forest", Stand: "Creek bottom"},
		Among: logbook.Among{Region: "eastern-north-america"}}}
}

func score(n uint64, look string, s record.Score) logbook.Entry {
	return logbook.Entry{ID: id(n), Kind: logbook.KindScore, Look: look, Score: &s}
}

func coat(state string) record.Score {
	return record.Score{Character: "bud.coat", States: []string{state}}
}

func TestLastScoreStands(t *testing.T) {
	log := []logbook.Entry{
		{ID: id(1), Kind: logbook.KindLook, From: "tree"},
		score(2, id(1), coat("bare")),
		score(3, id(1), coat("downy")),
		score(4, id(1), record.Score{Character: "bark.color", States: []string{"brown"}}),
		score(5, id(1), record.Score{Character: "bark.color", States: []string{"white"}, Zone: "upper"}),
		score(6, id(1), record.Score{Character: "bark.color", States: []string{"olive"}, Zone: "breast"}),
	}
	st := logbook.Replay(log)
	require.Len(t, st.Looks, 1)
	require.Len(t, st.Looks[0].Scores, 3, "one of the coat, one of each height")
	require.Equal(t, []string{"downy"}, st.Looks[0].Scores[0].States)
	require.Equal(t, []string{"olive"}, st.Looks[0].Scores[1].States, "no height is breast height")

	slices.Reverse(log)
	require.Equal(t, st, logbook.Replay(log), "a log has no order but its stamps'")
}

func TestWithdraw(t *testing.T) {
	log := []logbook.Entry{
		{ID: id(1), Kind: logbook.KindLook, From: "tree"},
		score(2, id(1), coat("bare")),
		score(3, id(1), coat("downy")),
		{ID: id(4), Kind: logbook.KindWithdraw, Entry: id(3)},
	}
	require.Empty(t, logbook.Replay(log).Looks[0].Scores, "the replaced score does not come back")

	log = append(log, score(5, id(1), coat("silky")))
	require.Equal(t, []string{"silky"}, logbook.Replay(log).Looks[0].Scores[0].States)

	log = append(log, logbook.Entry{ID: id(6), Kind: logbook.KindWithdraw, Entry: id(1)})
	require.Empty(t, logbook.Replay(log).Looks)
}

func TestFacts(t *testing.T) {
	young, deep := "young", "deep"
	st := logbook.Replay([]logbook.Entry{
		{ID: id(1), Kind: logbook.KindFacts, Facts: &logbook.SetFacts{Age: &young}},
		{ID: id(2), Kind: logbook.KindFacts, Facts: &logbook.SetFacts{Snow: &deep}},
	})
	require.Equal(t, logbook.Facts{Age: "young", Snow: "deep", Beyond: []string{}, Light: "good"}, st.Facts,
		"what was not said is the ordinary case")
	rec := st.Record("LC-1", logbook.Among{Region: "eastern-north-america"})
	require.Equal(t, "young", rec.Age)
	require.Equal(t, "deep", rec.Snow)
}

func TestNamesAreKept(t *testing.T) {
	name := func(n uint64, what, by string) logbook.Entry {
		return logbook.Entry{ID: id(n), Kind: logbook.KindName, By: by, Name: &logbook.Naming{Rank: "species", Name: what}}
	}
	st := logbook.Replay([]logbook.Entry{name(1, "Acer rubrum", "Wren"), name(2, "Acer saccharum", "Tobias")})
	require.Len(t, st.Names, 2)
	require.Equal(t, "Acer rubrum", st.Names[0].Name)
	require.Equal(t, "Tobias", st.Names[1].By)
	require.Equal(t, st.Last, st.Names[1].At)
	require.EqualValues(t, 1_763_000_001_000, st.Names[0].At.UnixMilli())
}

func TestCheck(t *testing.T) {
	for _, c := range []struct {
		field string
		entry logbook.Entry
	}{
		{"id", logbook.Entry{ID: "x", Kind: logbook.KindNote}},
		{"id", logbook.Entry{ID: strings.ToLower(id(1)), Kind: logbook.KindNote}},
		{"facts.extra", logbook.Entry{ID: id(1), Kind: logbook.KindFacts, Facts: &logbook.SetFacts{Extra: "text"}}},
		{"start", logbook.Entry{ID: id(1), Kind: logbook.KindStart}},
		{"move", logbook.Entry{ID: id(1), Kind: logbook.KindMove}},
		{"photo", logbook.Entry{ID: id(1), Kind: logbook.KindPhoto}},
		{"photo.digest", logbook.Entry{ID: id(1), Kind: logbook.KindPhoto, Photo: &logbook.Photo{Digest: "../../book.db", Kind: "image/png"}}},
		{"photo.digest", logbook.Entry{ID: id(1), Kind: logbook.KindPhoto, Photo: &logbook.Photo{Digest: strings.Repeat("/", 64), Kind: "image/png"}}},
		{"photo.kind", logbook.Entry{ID: id(1), Kind: logbook.KindPhoto, Photo: &logbook.Photo{Digest: strings.Repeat("a", 64), Kind: "text/html"}}},
		{"name.rank", logbook.Entry{ID: id(1), Kind: logbook.KindName, Name: &logbook.Naming{Rank: "kingdom", Name: "Plantae"}}},
		{"walk", logbook.Entry{ID: id(1), Kind: logbook.KindVisit}},
		{"land", logbook.Entry{ID: id(1), Kind: logbook.KindLand, Land: &logbook.Land{}}},
		{"list", logbook.Entry{ID: id(1), Kind: logbook.KindList}},
		{"entry", logbook.Entry{ID: id(1), Kind: logbook.KindUndo}},
		{"kind", logbook.Entry{ID: id(1), Kind: "guess"}},
		{"facts", logbook.Entry{ID: id(1), Kind: logbook.KindFacts}},
		{"from", logbook.Entry{ID: id(1), Kind: logbook.KindLook}},
		{"look", logbook.Entry{ID: id(1), Kind: logbook.KindScore}},
		{"score", logbook.Entry{ID: id(1), Kind: logbook.KindScore, Look: id(2)}},
		{"entry", logbook.Entry{ID: id(1), Kind: logbook.KindWithdraw}},
		{"name", logbook.Entry{ID: id(1), Kind: logbook.KindName, Name: &logbook.Naming{Rank: "genus"}}},
	} {
		var fe *record.FieldError
		require.ErrorAs(t, c.entry.Check(), &fe)
		require.Equal(t, c.field, fe.Field)
	}
	ok := logbook.Entry{ID: id(1), Kind: logbook.KindName, Name: &logbook.Naming{Rank: "undetermined"}}
	require.NoError(t, ok.Check())
}

func TestFits(t *testing.T) {
	l := logbook.NewLog([]logbook.Entry{start(0), {ID: id(1), Kind: logbook.KindLook, From: "tree"}, score(2, id(1), coat("bare"))})
	for entry, says := range map[*logbook.Entry]string{
		{Kind: logbook.KindScore, Look: id(9)}:      "no such look",
		{Kind: logbook.KindScore, Look: id(2)}:      "no such look",
		{Kind: logbook.KindNote, Look: id(9)}:       "no such look",
		{Kind: logbook.KindPhoto, Look: id(9)}:      "no such look",
		{Kind: logbook.KindWithdraw, Entry: id(7)}:  "no such entry",
		{Kind: logbook.KindWithdraw, Entry: id(0)}:  "nothing of that id stands",
		{Kind: logbook.KindStart, ID: id(5)}:        "started already",
		{Kind: logbook.KindUndo, Entry: "whatever"}: "no such entry",
	} {
		require.ErrorContains(t, l.Fits(entry), says)
	}
	require.NoError(t, l.Fits(&logbook.Entry{Kind: logbook.KindScore, Look: id(1)}))
	require.NoError(t, l.Fits(&logbook.Entry{Kind: logbook.KindWithdraw, Entry: id(2)}))
	l.Add(logbook.Entry{ID: id(3), Kind: logbook.KindWithdraw, Entry: id(1)})
	late := &logbook.Entry{Kind: logbook.KindScore, Look: id(1)}
	require.ErrorContains(t, l.Fits(late), "it was taken back", "who scores in it now is told")
	require.NoError(t, l.Refers(late), "who did before they knew is not")
	require.ErrorContains(t, logbook.NewLog(nil).Refers(late), "not started", "nothing comes before the tree")
}

// TestClocks: a look from a clock that is ahead does not swallow a score that comes
// after it by a clock that is right, nor do entries of one millisecond each other.
func TestClocks(t *testing.T) {
	ahead := logbook.Entry{ID: id(900), Kind: logbook.KindLook, From: "tree", Stamp: stampOf(100, "A")}
	now := score(2, ahead.ID, coat("bare"))
	now.Stamp = stampOf(99, "B")
	st := logbook.Replay([]logbook.Entry{start(0), now, ahead})
	require.Len(t, st.Looks[0].Scores, 1, "a score is of its look, whichever comes first")
	later := score(1, ahead.ID, coat("silky"))
	later.Stamp = stampOf(101, "B")
	require.Equal(t, []string{"silky"}, logbook.Replay([]logbook.Entry{later, now, ahead, start(0)}).Looks[0].Scores[0].States,
		"stamps order, whatever the ids")
}

// TestDays: what tells of a day of the past is of that day, wherever it stands in the
// order.
func TestDays(t *testing.T) {
	old := logbook.Entry{ID: id(1), Kind: logbook.KindLook, From: "tree", Day: "1987-02-03"}
	s := score(2, old.ID, coat("bare"))
	l := logbook.NewLog([]logbook.Entry{old, s})
	require.Equal(t, "1987-02-03 12:00", l.At(&l.Entries[0]).Format("2006-01-02 15:04"))
	require.Equal(t, l.At(&l.Entries[0]), l.At(&l.Entries[1]), "a score is of its look's day")
	require.Equal(t, 1987, l.Last.Year())
	for _, day := range []string{"1387-02-03", "2201-01-01", "3 February"} {
		old.Day = day
		require.ErrorContains(t, old.Check(), "day: ")
	}
}
