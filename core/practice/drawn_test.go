package practice_test

import (
	"maps"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/practice"
)

// TestWordsAreDrawn: a word is asked only on a drawing that tells it from every other word that is
// offered, and that does not say it.
func TestWordsAreDrawn(t *testing.T) {
	t.Parallel()
	teach := teacher(t)
	deck, err := teach.Deck(here, []string{practice.Word}, nil)
	require.NoError(t, err)
	require.Greater(t, len(deck), 60)
	asked := map[string]bool{}
	for _, card := range deck {
		asked[card.Character] = true
		ind, err := teach.Individual(card, here, 5, 0)
		require.NoError(t, err, card.ID())
		if ind.Part == "bark" {
			continue
		}
		shown, kind, err := ind.Draw("light")
		require.NoError(t, err)
		require.NotEmpty(t, kind)
		require.NotContains(t, string(shown), "<title>")
		for _, s := range teach.Flora.Character(card.Character).States {
			if s.ID != card.State {
				other := *ind
				tree := *ind.Tree
				tree.Shows = maps.Clone(tree.Shows)
				is := tree.Shows[card.Character]
				is.State = s.ID
				tree.Shows[card.Character] = is
				other.Tree, other.State = &tree, s.ID
				drawn, _, err := other.Draw("light")
				require.NoError(t, err)
				require.NotEqual(t, string(shown), string(drawn), "%s is drawn as %s", card.ID(), s.ID)
			}
		}
	}
	require.NotContains(t, asked, "ground.leaf-edge", "no drawing shows it")
	require.Contains(t, asked, "ground.leaf")
}
