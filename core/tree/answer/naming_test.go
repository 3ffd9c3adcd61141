package answer_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/tree/answer"
	"palethicket/core/weigh/ranking"
)

// laneyi is a hickory with the loose plates of shagbark and the flat yellow buds of
// bitternut, as their hybrid has them (Sargent 1918, Trees and Shrubs, on Carya × laneyi;
// from memory). It is not listed.
const laneyi = "bark.texture long-loose-plates sure; bud.color sulphur-yellow sure; bud.shape flat-paddle; twig.arrangement 0/6"

// shagbark has the same bark and shagbark's own buds.
const shagbark = "bark.texture long-loose-plates sure; bud.scales many-overlapping; bud.color dark-brown; twig.arrangement 0/6"

// TestAMemberThatIsNotListed: marks that no hickory has together, and hickories do have
// one by one, are said to be of a hickory that is not listed, and of none of its members.
func TestAMemberThatIsNotListed(t *testing.T) {
	res := answered(t, engine(t), looks("tree", laneyi))
	require.Contains(t, res.Named.Words, "perhaps a hickory")
	require.Equal(t, ranking.Undetermined, res.Probably.Rank)
	require.NotContains(t, answered(t, engine(t), looks("tree", shagbark)).Named.Words, "perhaps")
}

// TestThreeSteps: with more looks a tree is not yet named, then probable, then named; what
// is probable is what the bar says.
func TestThreeSteps(t *testing.T) {
	e := engine(t)
	black := func(e *answer.Engine, scores string) *answer.Result { return answered(t, e, looks("tree", scores)) }
	const bark = "bark.texture small-scales sure"
	const colour = bark + "; bark.color near-black"
	const twig = colour + "; twig.scent bitter-almond sure"
	for _, c := range []struct{ scores, words, says string }{
		{bark, "not yet named", "black cherry leads, "},
		{colour, "probably a cherry or plum of some kind", "probably a cherry or plum of some kind, 7"},
		{twig, "black cherry", "black cherry, 9"},
	} {
		res := black(e, c.scores)
		require.Equal(t, c.words, res.Named.Words)
		require.Contains(t, res.Says, c.says)
	}
	higher := ranking.DefaultBars
	higher.Probable = ranking.MostProbable
	require.Equal(t, "not yet named", black(e.For(e.Flora, higher), colour).Named.Words)
	require.Equal(t, "black cherry", black(e.For(e.Flora, higher), twig).Named.Words)
}
