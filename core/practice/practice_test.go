package practice_test

import (
	"sync"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora"
	"palethicket/core/flora/floratest"
	"palethicket/core/flora/handbook"
	"palethicket/core/practice"
	"palethicket/core/tree/answer"
	"palethicket/core/weigh/ranking"
)

var shared = sync.OnceValues(func() (*practice.Teacher, error) {
	f, err := floratest.Load()
	if err != nil {
		return nil, err
	}
	return practice.NewTeacher(f, answer.NewEngine(f), handbook.New(f)), nil
})

func teacher(t testing.TB) *practice.Teacher {
	t.Helper()
	teach, err := shared()
	require.NoError(t, err)
	return teach
}

var here = flora.Among{Region: "eastern-north-america"}

// TestDeck: every tree of the region has a twig card, and shows in no card what the card
// is not about.
func TestDeck(t *testing.T) {
	t.Parallel()
	teach := teacher(t)
	deck, err := teach.Deck(here, []string{"twig", "bark", "outline", "ground"}, nil)
	require.NoError(t, err)
	require.Greater(t, len(deck), 500)
	for _, c := range deck[:40] {
		back, err := practice.ParseCard(c.ID())
		require.NoError(t, err)
		require.Equal(t, c, back)
		ind, err := teach.Individual(c, here, 7, 0.5)
		require.NoError(t, err)
		require.Equal(t, "a tree", ind.Tree.English)
		for id := range ind.Tree.Shows {
			require.True(t, practice.Shows(c.Kind, id) || id == "needle.kept", "%s shows %s", c.Kind, id)
		}
		require.NotEmpty(t, ind.Rec.Looks)
	}
	for _, bad := range []string{"", "twig", "root:Acer rubrum", "twig:"} {
		_, err := practice.ParseCard(bad)
		require.ErrorContains(t, err, "is no card")
	}
	_, err = teach.Individual(practice.Card{Kind: "twig", Taxon: "Acer nullum"}, here, 1, 0)
	require.ErrorContains(t, err, "Acer nullum")
}

// TestFreshEachTime: another seed shows another individual, the same the same; a usual one
// varies only in how it is drawn.
func TestFreshEachTime(t *testing.T) {
	t.Parallel()
	teach := teacher(t)
	show := func(seed uint64, oddness float64) practice.Individual {
		ind, err := teach.Individual(practice.Card{Kind: "twig", Taxon: "Acer rubrum"}, here, seed, oddness)
		require.NoError(t, err)
		return *ind
	}
	require.Equal(t, show(3, 1).Tree.Shows, show(3, 1).Tree.Shows)
	require.NotEqual(t, show(3, 1).Tree.Shows, show(5, 1).Tree.Shows)
	require.Equal(t, show(3, 0).Tree.Shows, show(5, 0).Tree.Shows)
	require.NotEqual(t, show(3, 0).Tree.Seed, show(5, 0).Tree.Seed)
}

// TestPoorLight: cards that are known well come in poor light now and then, never those that are new, and
// what is seen there is read less surely.
func TestPoorLight(t *testing.T) {
	t.Parallel()
	teach := teacher(t)
	dim := 0
	for seed := uint64(1); seed < 200; seed += 2 {
		for _, oddness := range []float64{0, 0.8} {
			ind, err := teach.Individual(practice.Card{Kind: "twig", Taxon: "Acer rubrum"}, here, seed, oddness)
			require.NoError(t, err)
			if !ind.Dim {
				continue
			}
			dim++
			require.Positive(t, oddness)
			require.Equal(t, "fair", ind.Rec.Looks[0].Scores[0].Certainty)
		}
	}
	require.InDelta(t, 33, dim, 15)
}

// TestJudged: a name is right as far as what is shown carries one; beyond that it is too
// far, even when it is true.
func TestJudged(t *testing.T) {
	t.Parallel()
	teach := teacher(t)
	for _, c := range []struct {
		card, name string
		rank       ranking.Rank
		verdict    string
	}{
		{"twig:Liriodendron tulipifera", "Liriodendron tulipifera", ranking.Species, practice.Right},
		{"twig:Liriodendron tulipifera", "Liriodendron", ranking.Genus, practice.Right}, // there is but one here
		{"twig:Liriodendron tulipifera", "Magnoliaceae", ranking.Family, practice.NotFar},
		{"twig:Liriodendron tulipifera", "Betula lenta", ranking.Species, practice.Wrong},
		{"twig:Liriodendron tulipifera", "", "", practice.NoIdea},
		{"twig:Acer rubrum", "Acer", ranking.Genus, practice.NotFar},
		{"bark:Carya ovata", "Carya ovata", ranking.Species, practice.Right},
		{"bark:Carya ovata", "true hickories", ranking.Group, practice.NotFar},
		{"bark:Fraxinus americana", "Fraxinus", ranking.Genus, practice.Right},
		{"bark:Fraxinus americana", "Fraxinus americana", ranking.Species, practice.TooFar},
		{"bark:Fraxinus americana", "Fraxinus nigra", ranking.Species, practice.TooFar},
		{"bark:Fraxinus americana", "Oleaceae", ranking.Family, practice.NotFar},
		{"ground:Acer rubrum", "Acer", ranking.Genus, practice.Right},
		{"ground:Acer rubrum", "Acer rubrum", ranking.Species, practice.TooFar},
		{"ground:Quercus alba", "white oaks", ranking.Group, practice.Right},
		{"ground:Quercus alba", "Quercus", ranking.Genus, practice.Right},
		{"ground:Quercus alba", "Fagaceae", ranking.Family, practice.NotFar},
		{"ground:Quercus alba", "Quercus stellata", ranking.Species, practice.TooFar},
		{"ground:Quercus alba", "red oaks", ranking.Group, practice.Wrong},
		{"outline:Quercus velutina", "Quercus velutina", ranking.Species, practice.TooFar},
		{"outline:Quercus velutina", "Quercus", ranking.Genus, practice.Right},
		{"outline:Quercus velutina", "Pinus", ranking.Genus, practice.Wrong},
	} {
		card, err := practice.ParseCard(c.card)
		require.NoError(t, err)
		ind, err := teach.Individual(card, here, 11, 0)
		require.NoError(t, err)
		v, err := teach.Judge(ind, practice.Said{Rank: c.rank, Name: c.name, Sure: "sure"})
		require.NoError(t, err)
		require.Equal(t, c.verdict, v.Verdict, "%s: %s; it carries %s %s", c.card, c.name, v.Carries.Rank, v.Carries.Name)
		require.Equal(t, card.Taxon, v.Taxon)
	}
}

// TestSurenessIsScored by Brier's score: worst for being sure of what is wrong.
func TestSurenessIsScored(t *testing.T) {
	t.Parallel()
	teach := teacher(t)
	ind, err := teach.Individual(practice.Card{Kind: "twig", Taxon: "Liriodendron tulipifera"}, here, 11, 0)
	require.NoError(t, err)
	brier := func(name, sure string) float64 {
		v, err := teach.Judge(ind, practice.Said{Rank: ranking.Species, Name: name, Sure: sure})
		require.NoError(t, err)
		return v.Brier
	}
	require.InDelta(t, 0.0025, brier("Liriodendron tulipifera", "sure"), 1e-9)
	require.InDelta(t, 0.36, brier("Liriodendron tulipifera", "guess"), 1e-9)
	require.InDelta(t, 0.9025, brier("Betula lenta", "sure"), 1e-9)
	require.InDelta(t, 0.16, brier("Betula lenta", "guess"), 1e-9)
	_, err = teach.Judge(ind, practice.Said{Rank: ranking.Species, Name: "Betula lenta", Sure: "quite"})
	require.ErrorIs(t, err, practice.ErrSureness)
	_, err = teach.Judge(ind, practice.Said{Rank: "kingdom", Name: "Plantae", Sure: "sure"})
	require.ErrorContains(t, err, "no rank")
}
