package logbook

import (
	"encoding/json"
	"testing"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"

	"palethicket/core/tree/record"
)

func given(pairs ...string) map[string]json.RawMessage {
	out := map[string]json.RawMessage{}
	for i := 0; i < len(pairs); i += 2 {
		out[pairs[i]] = json.RawMessage(pairs[i+1])
	}
	return out
}

func measured(kind Kind, m *Measured) Entry {
	return Entry{ID: ulid.Make().String(), Kind: kind, Measured: m, Look: "look"}
}

// TestReadingsSay: what an entry says comes from its readings; the worked examples of the
// sums are those of docs/measures.md.
func TestReadingsSay(t *testing.T) {
	tall := measured(KindFacts, &Measured{Sum: "height-angles", Instrument: "hypsometer H1",
		Given: given("distance", `"25 m"`, "along", `"slope"`, "slope", `"20 %"`, "top", `"70 %"`, "base", `"10 %"`)})
	require.NoError(t, tall.Fill())
	require.NoError(t, tall.Check())
	require.InDelta(t, 14.71, *tall.Facts.Height, 1e-9)
	require.Contains(t, tall.how(), "base 10 %, distance 25 m")
	require.Contains(t, tall.how(), "by hypsometer H1")

	round := measured(KindScore, &Measured{Sum: "diameter-girth", Given: given("girth", `"37 in"`)})
	require.NoError(t, round.Fill())
	require.NoError(t, round.Check())
	require.Equal(t, "29.91 cm", round.Score.Typed)

	there := measured(KindFacts, &Measured{Sum: "fix", Given: given("positions", `[[-90.63,43.57],[-90.6301,43.57],[-90.6302,43.57]]`)})
	require.NoError(t, there.Fill())
	require.NoError(t, there.Check())
	require.InDelta(t, -90.6301, there.Facts.Position.Lon, 1e-9)
	require.InDelta(t, 8.1, there.Facts.Position.Within, 0.1)
}

// TestReadingsRefused: what is wrong is named as it stands in the entry, and nobody says
// other than the readings do.
func TestReadingsRefused(t *testing.T) {
	high := 99.0
	for field, e := range map[string]Entry{
		"measured.given.top": measured(KindFacts, &Measured{Sum: "height-angles",
			Given: given("distance", `"20 m"`, "top", `"steep"`, "base", `"-8 %"`)}),
		"measured.sum": measured(KindFacts, &Measured{Sum: "basal-area", Given: given("diameter", `"30 cm"`)}),
		"measured":     measured(KindFacts, &Measured{Sum: "height-stick", Given: given("distance", `"20 m"`)}),
	} {
		var wrong *record.FieldError
		require.ErrorAs(t, e.Fill(), &wrong)
		require.Equal(t, field, wrong.Field)
	}
	lies := measured(KindFacts, &Measured{Sum: "height-angles", Given: given("distance", `"20 m"`, "top", `"62 %"`, "base", `"-8 %"`)})
	lies.Facts = &SetFacts{Height: &high}
	require.ErrorContains(t, lies.Check(), "not what its readings give")
}

// TestReadingsChange: the last readings stand; undone, those before them; a height written
// plainly has none.
func TestReadingsChange(t *testing.T) {
	entries := logOf(t)
	first := next(t, entries, KindFacts, func(e *Entry) {
		e.Measured = &Measured{Sum: "height-angles", Given: given("distance", `"20 m"`, "top", `"62 %"`, "base", `"-8 %"`)}
	})
	entries = append(entries, first)
	second := next(t, entries, KindFacts, func(e *Entry) {
		e.Measured = &Measured{Sum: "height-angles", Given: given("distance", `"21 m"`, "top", `"62 %"`, "base", `"-8 %"`)}
	})
	entries = append(entries, second)
	l := NewLog(entries)
	require.InDelta(t, 14.7, l.Facts.Height, 1e-9)
	require.Equal(t, second.ID, l.Readings()["height"].ID)
	undo := next(t, entries, KindUndo, func(e *Entry) { e.Entry = second.ID })
	l.Add(undo)
	require.InDelta(t, 14.0, l.Facts.Height, 1e-9)
	require.Equal(t, first.ID, l.Readings()["height"].ID)
	plain := next(t, l.Entries, KindFacts, func(e *Entry) { high := 12.0; e.Facts = &SetFacts{Height: &high} })
	l.Add(plain)
	require.NotContains(t, l.Readings(), "height")
}

func logOf(t *testing.T) []Entry {
	return []Entry{next(t, nil, KindStart, func(e *Entry) { e.Start = &Start{Place: Place{"LC-1", "Lantern Creek", "North cove"}} })}
}

// next is an entry that comes after all others.
func next(t *testing.T, after []Entry, kind Kind, fill func(*Entry)) Entry {
	t.Helper()
	e := Entry{ID: ulid.MustNew(uint64(1_700_000_000_000+1000*len(after)), nil).String(), Kind: kind}
	fill(&e)
	require.NoError(t, e.Fill())
	return e
}
