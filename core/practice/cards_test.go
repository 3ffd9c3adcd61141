package practice_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora"
	"palethicket/core/practice"
)

// TestWordCards: a word's card shows a tree that has the state, asks for nothing that is not drawn,
// and is judged by what it shows.
func TestWordCards(t *testing.T) {
	t.Parallel()
	teach := teacher(t)
	deck, err := teach.Deck(here, []string{practice.Word}, nil)
	require.NoError(t, err)
	require.Greater(t, len(deck), 80)
	for i, c := range deck[:60] {
		back, err := practice.ParseCard(c.ID())
		require.NoError(t, err)
		require.Equal(t, c, back)
		ind, err := teach.Individual(c, here, uint64(2*i+1), 0.6)
		require.NoError(t, err)
		require.Equal(t, c.State, ind.Tree.Shows[c.Character].State)
		require.Equal(t, practice.PartOf(c.Character), ind.Part)
		v, err := teach.JudgeWord(ind, c.State, "sure")
		require.NoError(t, err)
		require.Equal(t, practice.Right, v.Verdict)
	}
	ind, err := teach.Individual(practice.Card{Kind: practice.Word, Character: "bark.texture", State: "smooth"}, here, 3, 0)
	require.NoError(t, err)
	v, err := teach.JudgeWord(ind, "long-ridges", "sure")
	require.NoError(t, err)
	require.Equal(t, practice.Wrong, v.Verdict)
	require.InDelta(t, 0.95*0.95, v.Brier, 1e-12)
	_, err = teach.JudgeWord(ind, "velvet", "sure")
	require.ErrorContains(t, err, "velvet")
	_, err = teach.JudgeWord(ind, "smooth", "")
	require.ErrorIs(t, err, practice.ErrSureness)
	v, err = teach.JudgeWord(ind, "", "")
	require.NoError(t, err)
	require.Equal(t, practice.NoIdea, v.Verdict)
	_, err = teach.Individual(practice.Card{Kind: practice.Word, Character: "twig.scent", State: "none"}, here, 1, 0)
	require.ErrorContains(t, err, "no drawn state")
}

// TestPairCards: two look-alikes come in either order; which is which is right only with a
// character in which the two that are shown differ.
func TestPairCards(t *testing.T) {
	t.Parallel()
	teach := teacher(t)
	deck, err := teach.Deck(here, []string{practice.Pair}, nil)
	require.NoError(t, err)
	require.Greater(t, len(deck), 30)
	c, ok := practice.PairOf("Juglans nigra", "Juglans cinerea")
	require.True(t, ok)
	require.Contains(t, deck, c)
	firsts := map[string]bool{}
	for seed := uint64(1); seed < 2000; seed += 100 {
		ind, err := teach.Individual(c, here, seed, 0)
		require.NoError(t, err)
		firsts[ind.First()] = true
		telling := teach.Telling(c, ind.Part)
		require.NotEmpty(t, telling)
		judge := func(first, by string) string {
			v, err := teach.JudgePair(ind, first, by, "fair")
			require.NoError(t, err)
			return v.Verdict
		}
		other := c.Taxon
		if other == ind.First() {
			other = c.Other
		}
		require.Equal(t, practice.Right, judge(ind.First(), telling[0]))
		require.Equal(t, practice.NotFar, judge(ind.First(), "twig.arrangement"), "both alternate")
		require.Equal(t, practice.NotFar, judge(ind.First(), ""))
		require.Equal(t, practice.Wrong, judge(other, telling[0]))
		require.Equal(t, practice.NoIdea, judge("", ""))
	}
	require.Len(t, firsts, 2, "either may come first")
	for _, none := range [][2]string{{"Acer rubrum", "Acer rubrum"}, {"Amelanchier arborea", "Amelanchier (serviceberries)"}} {
		_, ok = practice.PairOf(none[0], none[1])
		require.False(t, ok, none)
	}
	_, ok = practice.PairOf("Amelanchier arborea", "Amelanchier laevis")
	require.True(t, ok)
}

// TestDecksRefused: each in a plain word.
func TestDecksRefused(t *testing.T) {
	t.Parallel()
	teach := teacher(t)
	_, err := teach.Deck(here, []string{"twig"}, []string{"Acer rubrum"})
	require.ErrorIs(t, err, practice.ErrTooFew)
	_, err = teach.Deck(here, []string{"twig"}, []string{"Acer nullum", "Acer nihil"})
	require.ErrorIs(t, err, practice.ErrTooFew)
	_, err = teach.Deck(here, []string{"ground"}, []string{"Pinus strobus", "Pinus resinosa"})
	require.ErrorIs(t, err, practice.ErrNothingDrawn)
	two, err := teach.Deck(here, []string{"twig", practice.Pair}, []string{"Juglans nigra", "Juglans cinerea"})
	require.NoError(t, err)
	require.Len(t, two, 3)
	_, err = teach.Deck(flora.Among{Region: "nowhere"}, []string{"twig"}, nil)
	require.Error(t, err)
}

// TestForecast: what was answered longest ago and worst is forgotten next; what is overdue is due today.
func TestForecast(t *testing.T) {
	t.Parallel()
	s := scheduler(t, 0.9)
	old, fresh := morning.AddDate(0, 0, -20), morning
	st, err := practice.Progress(s, []practice.Review{
		{Card: "twig:Acer rubrum", At: old, Verdict: practice.Right, Sure: "fair"},
		{Card: "twig:Fagus grandifolia", At: fresh, Verdict: practice.Right, Sure: "sure", Seconds: 3},
		{Card: "twig:Celtis occidentalis", At: fresh, Verdict: practice.Wrong, Sure: "sure"},
	})
	require.NoError(t, err)
	cards, due := practice.Forecast(s, st, morning, 14)
	require.Equal(t, practice.Foreseen{Card: "twig:Celtis occidentalis", Due: fresh}, cards[0], "what was wrong just now is not known")
	require.Equal(t, "twig:Acer rubrum", cards[1].Card)
	require.Less(t, cards[1].Recall, 0.9)
	require.InDelta(t, 1, cards[2].Recall, 1e-9)
	require.Len(t, due, 14)
	require.Equal(t, 2, due[0])
}

// TestClockSetBack: an answer after a clock was set back counts as after the one before.
func TestClockSetBack(t *testing.T) {
	t.Parallel()
	later := practice.NotBefore(morning.Add(-48*time.Hour), morning)
	require.Equal(t, morning.Add(time.Second), later)
	require.Equal(t, morning, practice.NotBefore(morning, morning.Add(-time.Hour)))
	s := scheduler(t, 0.9)
	st, err := practice.Progress(s, []practice.Review{{Card: "twig:Acer rubrum", At: morning, Verdict: practice.Wrong},
		{Card: "twig:Acer rubrum", At: later, Verdict: practice.Right, Sure: "fair"}})
	require.NoError(t, err)
	require.True(t, st["twig:Acer rubrum"].Due.After(morning))
}
