package record_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora"
	"palethicket/core/flora/floratest"
	"palethicket/core/tree/record"
)

// TestUnderstood says what was made of a measure, in people's words.
func TestUnderstood(t *testing.T) {
	f := floratest.Shipped(t)
	twig, bud := f.Character("twig.diameter"), f.Character("bud.length")
	for _, c := range []struct {
		c           *flora.Character
		typed, unit string
		want        string
	}{
		{twig, "1/4 in", "", "1/4 in = 6.35 mm, by ruler, 1 reading"},
		{twig, "¼ in", "", "¼ in = 6.35 mm, by ruler, 1 reading"},
		{twig, "4", "", "4 mm, by ruler, 1 reading"},
		{twig, "0.5", "in", "0.5 in = 12.7 mm, by ruler, 1 reading"},
		{twig, "a pencil", "", "a pencil = 7 mm, by eye, 1 reading"},
		{bud, "5; 6; 5.5", "", "5; 6; 5.5 = 5.5 mm, by ruler, mean of 3 readings, spread 0.5 mm"},
	} {
		s := record.Score{Character: c.c.ID, Typed: c.typed, Unit: c.unit}
		require.NoError(t, s.ReadTyped(c.c), c.typed)
		require.Equal(t, c.want, s.Understood(c.c))
	}
	seen := true
	sign := record.Score{Character: "bark.pale-runs", Seen: &seen}
	require.Equal(t, "seen", sign.Understood(f.Character("bark.pale-runs")))
}

// TestWhatCannotBe refuses a slip of the pen or of the unit, with what can be.
func TestWhatCannotBe(t *testing.T) {
	f := floratest.Shipped(t)
	for id, typed := range map[string]string{"twig.diameter": "3 m", "bud.length": "40 ft", "form.dbh": "90 m", "needle.length": "0.001"} {
		c := f.Character(id)
		s := record.Score{Character: id, Typed: typed}
		require.ErrorContains(t, s.ReadTyped(c), "cannot be", id)
		require.Nil(t, s.Value, "nothing of it is kept")
	}
	ok := record.Score{Character: "form.dbh", Typed: "60 in"}
	require.NoError(t, ok.ReadTyped(f.Character("form.dbh")))
}
