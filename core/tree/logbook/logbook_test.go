package logbook_test

import (
	"encoding/binary"
	"slices"
	"testing"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"

	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
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
	require.Equal(t, st, logbook.Replay(log), "a log has no order but its ids'")
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
	require.Equal(t, logbook.Facts{Age: "young", Foliage: "bare", Snow: "deep", Beyond: []string{}, Light: "good"}, st.Facts,
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
	st := logbook.Replay([]logbook.Entry{{ID: id(1), Kind: logbook.KindLook, From: "tree"}, score(2, id(1), coat("bare"))})
	s := score(3, id(9), coat("bare"))
	require.ErrorContains(t, st.Fits(&s), "no such look")
	s = score(3, id(1), coat("bare"))
	require.NoError(t, st.Fits(&s))
	require.Error(t, st.Fits(&logbook.Entry{Kind: logbook.KindWithdraw, Entry: id(7)}))
	require.NoError(t, st.Fits(&logbook.Entry{Kind: logbook.KindWithdraw, Entry: id(2)}))
}
