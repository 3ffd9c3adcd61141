package fsrs_test

import (
	"encoding/json"
	"math"
	"os"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/practice/fsrs"
)

// TestAgainstReference follows 200 drawn histories of reviews beside ts-fsrs 5.4
// (scripts/reference-fsrs.mjs), which rounds to eight places after each step.
func TestAgainstReference(t *testing.T) {
	text, err := os.ReadFile("testdata/ts-fsrs.json")
	require.NoError(t, err)
	var reference struct {
		Histories []struct {
			Wanted  float64      `json:"wanted"`
			Reviews [][6]float64 `json:"reviews"`
		} `json:"histories"`
	}
	require.NoError(t, json.Unmarshal(text, &reference))
	require.Len(t, reference.Histories, 200)
	near := func(want, got float64, what string) {
		t.Helper()
		require.LessOrEqual(t, math.Abs(want-got), 1e-6*math.Max(1, want), what)
	}
	for _, h := range reference.Histories {
		s, err := fsrs.New(h.Wanted)
		require.NoError(t, err)
		var m fsrs.Memory
		for _, r := range h.Reviews {
			near(r[2], s.Recall(m, r[0]), "recall")
			m, err = s.Next(m, r[0], fsrs.Grade(r[1]))
			require.NoError(t, err)
			near(r[3], m.Stability, "stability")
			near(r[4], m.Difficulty, "difficulty")
			require.InDelta(t, r[5], s.Days(m), 1, "due") // a half may be rounded up or down
		}
	}
}

// TestMeaning: after as many days as its stability a card is recalled nine times in ten,
// and it is due when recall has fallen to what is wanted.
func TestMeaning(t *testing.T) {
	s, err := fsrs.New(0.9)
	require.NoError(t, err)
	m := fsrs.Memory{Stability: 40, Difficulty: 5}
	require.InDelta(t, 0.9, s.Recall(m, 40), 1e-12)
	require.InDelta(t, 1, s.Recall(m, 0), 1e-12)
	require.InDelta(t, 40, s.Days(m), 0)
	eager, err := fsrs.New(0.97)
	require.NoError(t, err)
	require.Less(t, eager.Days(m), s.Days(m))
	require.InDelta(t, 0.97, s.Recall(m, eager.Days(m)), 0.01)
	require.Zero(t, s.Recall(fsrs.Memory{}, 3), "never asked")
	again, err := s.Next(m, 40, fsrs.Again)
	require.NoError(t, err)
	good, err := s.Next(m, 40, fsrs.Good)
	require.NoError(t, err)
	require.Less(t, again.Stability, m.Stability)
	require.Greater(t, good.Stability, m.Stability)
}

// TestRefused: what cannot be meant is refused, and the memory stays as it was.
func TestRefused(t *testing.T) {
	for _, wanted := range []float64{0, 0.5, 1, math.NaN()} {
		_, err := fsrs.New(wanted)
		require.ErrorContains(t, err, "want 0.7 to 0.99")
	}
	s, err := fsrs.New(0.9)
	require.NoError(t, err)
	m := fsrs.Memory{Stability: 3, Difficulty: 4}
	for _, g := range []fsrs.Grade{0, 5, -1} {
		same, err := s.Next(m, 1, g)
		require.ErrorIs(t, err, fsrs.ErrGrade)
		require.Equal(t, m, same)
	}
	for _, days := range []float64{-1, math.NaN()} {
		_, err = s.Next(m, days, fsrs.Good)
		require.ErrorContains(t, err, "want 0 or more")
	}
}
