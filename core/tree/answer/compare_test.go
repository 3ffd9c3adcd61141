package answer_test

import (
	"encoding/json"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/tree/answer"
	"palethicket/core/tree/record"
	"palethicket/core/weigh/ranking"
)

func rec(t testing.TB, text string) *record.Record {
	var r record.Record
	require.NoError(t, json.Unmarshal([]byte(text), &r))
	return &r
}

var ash = seen("mature",
	"tree: bark.texture mesh-ridges sure; scar.top notched guess",
	"crown: twig.arrangement 5/5",
	"site: setting.landform swamp sure")

func TestCompare(t *testing.T) {
	e := engine(t)
	c, err := weighed(t, e, rec(t, ash)).Compare("Fraxinus nigra", "Fraxinus americana")
	require.NoError(t, err)
	res := answered(t, e, ash)
	posterior := map[string]float64{}
	for _, r := range res.Ranking {
		posterior[r.Taxon] = r.Posterior
	}
	ratio := posterior["Fraxinus nigra"] / posterior["Fraxinus americana"]
	require.InEpsilon(t, ratio, math.Exp2(c.Bits), 1e-6, "prior and looks make up the odds")
	require.Greater(t, c.Looks[2].Bits, 2.0, "swamps speak for black ash")
	require.Less(t, c.Looks[0].Bits, 0.0, "mesh bark speaks for white ash")
	require.InDelta(t, c.Looks[2].Bits, c.Looks[2].Scores[0].Bits, 1e-9, "the only score is the look")

	back, err := weighed(t, e, rec(t, ash)).Compare("Fraxinus americana", "Fraxinus nigra")
	require.NoError(t, err)
	require.InDelta(t, -c.Bits, back.Bits, 1e-9)

	_, err = weighed(t, e, rec(t, ash)).Compare("Fraxinus negra", "")
	require.ErrorContains(t, err, `did you mean "Fraxinus nigra"?`)
}

func TestWhyNot(t *testing.T) {
	e := engine(t)
	r := rec(t, ash)
	w, err := weighed(t, e, r).WhyNot("Fraxinus americana")
	require.NoError(t, err)
	require.Equal(t, "Fraxinus pennsylvanica", w.Leader)
	require.Equal(t, []answer.Check{{Look: 2, Score: 0, Character: "setting.landform",
		Leader: "Fraxinus americana", English: "white ash", From: "site"}}, w.Wrong)
	require.Equal(t, "Against white ash speaks most of all the landform. If that one score were wrong, white ash would lead.", w.Words)

	without := *r
	without.Looks = r.Looks[:2]
	res, err := e.Identify(&without, answer.Options{})
	require.NoError(t, err)
	require.Equal(t, "Fraxinus americana", res.Ranking[0].Taxon, "without it, it leads")

	require.NotEmpty(t, w.Settle)
	for _, n := range w.Settle {
		require.ElementsMatch(t, []string{"green ash", "white ash"}, n.Separates)
	}
	leads, err := weighed(t, e, r).WhyNot("Fraxinus pennsylvanica")
	require.NoError(t, err)
	require.Equal(t, 1, leads.Place)
	require.Empty(t, leads.Against)

	lost, err := weighed(t, e, r).WhyNot("Pinus strobus")
	require.NoError(t, err)
	require.Empty(t, lost.Wrong, "no few scores would bring a pine back")
	require.Contains(t, lost.Words, "More than a few scores would have to be wrong")
}

// TestPlan: looking two ahead promises no less than the best single look, and
// stops where the answer settles it.
func TestPlan(t *testing.T) {
	e := engine(t)
	res, err := e.Identify(rec(t, ash), answer.Options{Plan: true})
	require.NoError(t, err)
	require.NotNil(t, res.Plan)
	require.Greater(t, res.Plan.Bits, res.Plan.First.Bits-1e-9)
	require.GreaterOrEqual(t, res.Plan.Seconds, float64(res.Plan.First.Seconds))
	for _, b := range res.Plan.Then {
		if b.Settled {
			require.Empty(t, b.Next)
		}
		require.NotEqual(t, res.Plan.First.Character, b.Next)
	}
}

func TestWarnings(t *testing.T) {
	e := engine(t)
	for _, c := range []struct{ kind, says, rec string }{
		{"stranger", "fallen twig", seen("mature",
			"tree: bark.texture long-loose-plates sure; fruit.kind husked-nut sure",
			"fallen: twig.arrangement 4/4; bud.coat sticky sure")},
		{"never-together", "bud color together with this pith", looks("tree", "bud.color sulphur-yellow; twig.pith chambered")},
		{"older-bark", "Such bark comes with age on black cherry", seen("young",
			"tree: bark.texture small-scales; twig.scent bitter-almond sure; twig.arrangement 0/5; bud.length 4; "+
				"twig.finish flaking-film; form.habit single-stem; bud.shape egg")},
		{"too-thick", "A stem of 30 cm is thicker than beaked hazel grows",
			looks("tree", "form.dbh 30 guess; fruit.catkins singly; bud.coat silky; bud.length 6; form.habit shrub-clump sure; "+
				"twig.zigzag seen; fruit.kind husked-nut sure; bark.texture smooth sure; fruit.catkin-length 12")},
		{"memory-rule", "horsechestnut is opposite too", looks("tree", "twig.arrangement 5/5; bud.coat sticky sure; bud.length 24")},
		{"memory-rule", "Pagoda dogwood is not opposite, whatever the rule",
			looks("tree", "twig.arrangement 0/6; form.crown flat-topped sure; form.limbs tiered-whorls sure; "+
				"twig.color purple sure; bud.scales few-overlapping; scar.shape crescent")},
	} {
		res := answered(t, e, c.rec)
		words := ""
		for _, w := range res.Warnings {
			if w.Kind == c.kind {
				words += w.Words
			}
		}
		require.Contains(t, strings.ToUpper(words), strings.ToUpper(c.says), "%v %v", res.Warnings, res.Ranking[:3])
	}
	quiet := answered(t, e, looks("tree", "bark.texture warty-ridges sure; twig.arrangement 0/5; form.dbh 40"))
	require.Empty(t, quiet.Warnings)
}

func TestCarried(t *testing.T) {
	e := engine(t)
	w := weighed(
		t,
		e,
		rec(t, looks("tree", "twig.arrangement 5/5; bark.texture mesh-ridges sure; scar.bundles arc-of-many")))
	for _, c := range []struct {
		rank ranking.Rank
		name string
		step ranking.Step
		says string
	}{
		{ranking.Genus, "Fraxinus", ranking.Sure, ""},
		{ranking.Species, "Fraxinus americana", ranking.NotYet, "it would take 90 %"},
		{ranking.Undetermined, "", ranking.Sure, ""},
	} {
		step, says := w.Carried(c.rank, c.name)
		require.Equal(t, c.step, step, c.name)
		require.Contains(t, says, c.says)
		require.Equal(t, c.says == "", says == "")
	}
}
