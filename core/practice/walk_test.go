package practice_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/practice"
	"palethicket/core/tree/record"
)

var grows = []practice.Grows{
	{"Quercus rubra", 8},
	{"Acer saccharum", 6},
	{"Juglans nigra", 3},
	{"Fraxinus americana", 3},
	{"Tilia americana", 4},
	{"Betula papyrifera", 2},
	{"Carya ovata", 2},
	{"Prunus serotina", 2},
	{"Pinus strobus", 1},
	{"Ulmus rubra", 0},
}

func TestWood(t *testing.T) {
	t.Parallel()
	count, strange := map[string]int{}, 0
	for seed := uint64(1); seed <= 100; seed++ {
		trees, err := practice.Wood(grows, 20, "none", 0.4, seed)
		require.NoError(t, err)
		require.Len(t, trees, 20)
		for _, w := range trees {
			count[w.Taxon]++
			strange += len(w.Other)
		}
	}
	require.InDelta(t, 2000*8.0/31, count["Quercus rubra"], 80)
	require.Zero(t, count["Ulmus rubra"])
	require.Greater(t, strange, 300)
	again, err := practice.Wood(grows, 20, "none", 0.4, 5)
	require.NoError(t, err)
	same, err := practice.Wood(grows, 20, "none", 0.4, 5)
	require.NoError(t, err)
	require.Equal(t, again, same)
	_, err = practice.Wood(nil, 10, "none", 0, 1)
	require.ErrorIs(t, err, practice.ErrNoWood)
	_, err = practice.Wood(grows, 3, "none", 0, 1)
	require.ErrorContains(t, err, "5 to 20")
}

// TestSee: a look shows what is drawn and says the rest, in no words that name a tree; what snow or
// reach keeps is refused with why.
func TestSee(t *testing.T) {
	t.Parallel()
	teach := teacher(t)
	trees, err := practice.Wood(grows, 20, "none", 0.4, 3)
	require.NoError(t, err)
	for i := range trees {
		for _, p := range practice.WalkParts {
			s, err := teach.See(&trees[i], p.ID, here)
			if ok, why := trees[i].Offered(&p); !ok {
				require.ErrorContains(t, err, why)
				continue
			}
			require.NoError(t, err)
			require.Positive(t, s.Seconds, "%s of %s", p.ID, trees[i].Taxon)
			for _, x := range teach.Flora.Taxa {
				require.NotContains(t, strings.Join(s.Words, " "), x.Name)
			}
			if s.Tree != nil {
				require.Equal(t, "a tree", s.Tree.Tree.English)
			}
		}
	}
	deep := trees[0]
	deep.Snow, deep.Beyond = "deep", []string{"hand", "ground"}
	for part, why := range map[string]string{"ground": "snow", "fallen": "snow", "twig": "reach", "root": "no part"} {
		_, err := teach.See(&deep, part, here)
		require.ErrorContains(t, err, why)
	}
}

// TestAccount: who looks at all and says what that carries is right; what they misread and whose
// leaves they took for the tree's is told; the core's own order takes less time than all looks.
func TestAccount(t *testing.T) {
	t.Parallel()
	teach := teacher(t)
	trees, err := practice.Wood(grows, 20, "none", 0, 8)
	require.NoError(t, err)
	named, best, all := 0, 0, 0
	for i := range trees {
		w := &trees[i]
		did := practice.Walked{}
		for _, p := range practice.WalkParts {
			if ok, _ := w.Offered(&p); ok && p.ID != "fallen" {
				did.Parts = append(did.Parts, p.ID)
			}
		}
		blank, err := teach.Account(w, &did, here)
		require.NoError(t, err)
		require.Equal(t, practice.NoIdea, blank.Verdict.Verdict)
		did.Said = practice.Said{Rank: blank.Verdict.Carries.Rank, Name: blank.Verdict.Carries.Name, Sure: "sure"}
		a, err := teach.Account(w, &did, here)
		require.NoError(t, err)
		require.Equal(t, practice.Right, a.Verdict.Verdict, w.Taxon)
		best, all = best+a.Best.Seconds, all+a.Seconds
		if a.Best.Name.Name == w.Taxon {
			named++
		}
	}
	require.GreaterOrEqual(t, named, 12, "the core names most by its own order")
	require.Less(t, best, all)
	t.Logf("best order %d s, all looks %d s, named %d of 20", best, all, named)

	w := trees[0]
	w.Taxon, w.Other = "Quercus rubra", map[string]string{"ground": "Tilia americana"}
	did := practice.Walked{Parts: []string{"bark", "ground"}, Said: practice.Said{Rank: "species", Name: "Tilia americana", Sure: "sure"},
		Scores: []record.Score{{Character: "bark.texture", States: []string{"papery-curls"}}}, From: []string{"tree"}}
	a, err := teach.Account(&w, &did, here)
	require.NoError(t, err)
	require.Equal(t, []string{"ground"}, a.Strangers)
	require.Equal(t, "Tilia americana", a.TakenFor)
	require.Len(t, a.Misread, 1)
	require.Equal(t, "bark.texture", a.Misread[0].Character)
}

// TestOutlineSaysWhatItShows: where no fruit hangs nothing goes on about its kind, and nothing is measured in millimeters from a few
// steps off; what lies below tells of husks and cones.
func TestOutlineSaysWhatItShows(t *testing.T) {
	t.Parallel()
	teach := teacher(t)
	bare, below := 0, 0
	for i, taxon := range []string{"Acer rubrum", "Carya ovata", "Quercus alba", "Fraxinus americana", "Larix laricina", "Juglans nigra"} {
		for seed := range uint64(12) {
			w := &practice.WalkTree{Taxon: taxon, Age: "mature", Seed: 100*uint64(i) + 2*seed + 1, Snow: "none", Odd: 0.5}
			outline, err := teach.See(w, "outline", here)
			require.NoError(t, err)
			says := strings.Join(outline.Words, "; ")
			require.NotContains(t, says, " mm")
			if strings.Contains(says, "Fruit still hanging: no") {
				bare++
				require.NotContains(t, says, "Kind of fruit")
			}
			ground, err := teach.See(w, "ground", here)
			require.NoError(t, err)
			if strings.Contains(strings.Join(ground.Words, "; "), "usk") {
				below++
			}
		}
	}
	require.Greater(t, bare, 10)
	require.Positive(t, below)
}
