package answer_test

import (
	"regexp"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora/floratest"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/record"
)

// asked answers a record of one look among the trees of eastern North America.
func asked(t *testing.T, age string, scores ...record.Score) *answer.Result {
	t.Helper()
	rec := &record.Record{ID: "LC-1", Region: "eastern-north-america", Age: age, Date: "2026-02-20"}
	if len(scores) > 0 {
		rec.Looks = []record.Look{{From: "tree", Scores: scores}}
	}
	opt := answer.Usual
	opt.Next = 8
	res, err := answer.NewEngine(floratest.Shipped(t)).Identify(rec, opt)
	require.NoError(t, err)
	return res
}

func is(character string, states ...string) record.Score {
	return record.Score{Character: character, States: states}
}

func measures(character string, value float64) record.Score {
	return record.Score{Character: character, Value: &value}
}

func sure(s record.Score) record.Score {
	s.Certainty = "sure"
	return s
}

// TestAdviceFindsSomething: nobody is sent to look at the fruit of a bare tree, of which most
// have none in February, and every look that is advised has an answer more likely than not.
func TestAdviceFindsSomething(t *testing.T) {
	for _, scores := range [][]record.Score{nil, {is("bark.texture", "smooth")}, {is("twig.arrangement", "opposite")}} {
		next := asked(t, "", scores...).Next
		require.Len(t, next, 8)
		for _, n := range next {
			require.NotEqual(t, "fruit.kind", n.Character)
			require.GreaterOrEqual(t, n.Answerable, 0.5, n.Character)
			chance := 0.0
			for _, a := range n.Answers {
				chance += a.Chance
			}
			require.LessOrEqual(t, chance, 1+1e-9, n.Character)
		}
	}
}

// TestFruitThatHangs: once fruit is seen, its kind is worth a look, and can be told; where it was
// looked for and not seen, it is not asked for.
func TestFruitThatHangs(t *testing.T) {
	kind := func(seen bool) *answer.Next {
		next := asked(t, "", record.Score{Character: "fruit.hanging", Seen: &seen}).Next
		for i := range next {
			if next[i].Character == "fruit.kind" {
				return &next[i]
			}
		}
		return nil
	}
	require.Nil(t, kind(false))
	require.NotNil(t, kind(true))
	require.Greater(t, kind(true).Answerable, 0.8)
}

// TestGreenNeedles: a needle that is scored drops what is taken for granted of trees in winter, that
// they are leafless.
func TestGreenNeedles(t *testing.T) {
	for _, scores := range [][]record.Score{
		{is("needle.bundle", "fives"), measures("needle.length", 90)},
		{is("needle.bundle", "fives"), is("bark.texture", "smooth")},
	} {
		require.Equal(t, "Pinus strobus", asked(t, "", scores...).Ranking[0].Taxon)
	}
}

// TestYoungTrees: a thin trunk speaks against no tall tree while it is young.
func TestYoungTrees(t *testing.T) {
	sapling := []record.Score{sure(is("bud.shape", "flat-paddle")), is("twig.stipule-marks", "full-ring")}
	without, with := asked(t, "young", sapling...), asked(t, "young", append(sapling, measures("form.dbh", 4))...)
	require.Equal(t, "Liriodendron tulipifera", with.Ranking[0].Taxon)
	require.Greater(t, with.Ranking[0].Posterior, 0.8*without.Ranking[0].Posterior)
}

// TestOneFalseScent: one mark that was misread names no tree against three others.
func TestOneFalseScent(t *testing.T) {
	res := asked(t, "", is("bark.texture", "shredding-strips"), is("fruit.catkins", "twos-and-threes"), is("bud.scales", "many-overlapping"),
		is("twig.scent", "wintergreen"))
	require.Equal(t, "undetermined", string(res.Named.Rank), res.Named.Words)
	require.Equal(t, "Ostrya virginiana", res.Ranking[0].Taxon)
}

// TestCountAgain: where one look says opposite and another alternate, counting again comes first.
func TestCountAgain(t *testing.T) {
	pairs, nodes := 0, 5
	res := asked(t, "", is("twig.arrangement", "opposite"), record.Score{Character: "twig.arrangement", Pairs: &pairs, Nodes: &nodes})
	require.Equal(t, "twig.arrangement", res.Next[0].Character)
	for _, n := range asked(t, "", is("twig.arrangement", "opposite"), is("twig.arrangement", "opposite")).Next {
		require.NotEqual(t, "twig.arrangement", n.Character)
	}
}

// TestTwoKindsOfEvidence: bark alone names no species, however much of it agrees, but where it is
// marked as enough.
func TestTwoKindsOfEvidence(t *testing.T) {
	var bark []record.Score
	for _, zone := range []string{"base", "breast", "upper"} {
		warts := sure(is("bark.texture", "warty-ridges"))
		warts.Zone = zone
		bark = append(bark, warts, sure(is("bark.color", "mid-grey")))
	}
	res := asked(t, "mature", bark...)
	require.Greater(t, res.Ranking[0].Posterior, 0.9)
	require.NotEqual(t, "species", string(res.Named.Rank), res.Named.Words)
	require.Equal(t, "Celtis occidentalis", res.Probably.Name)
	withTwig := asked(t, "mature", append(bark, is("twig.pith", "chambered"))...)
	require.Equal(t, "Celtis occidentalis", withTwig.Named.Name)
	rec := &record.Record{ID: "LC-1", Region: "eastern-north-america", Age: "mature", Looks: []record.Look{{From: "tree", Scores: bark},
		{From: "fallen", Scores: []record.Score{is("twig.arrangement", "opposite"), sure(is("bud.scales", "one-cap")), sure(is("twig.pith", "hollow"))}}}}
	stranger, err := answer.NewEngine(floratest.Shipped(t)).Identify(rec, answer.Usual)
	require.NoError(t, err)
	require.True(t, stranger.Looks[1].Stranger)
	require.Greater(t, stranger.Ranking[0].Posterior, 0.9)
	require.NotEqual(t, "species", string(stranger.Named.Rank), "what is of another tree is no second kind")
	sycamore := asked(t, "mature", sure(is("bark.texture", "mottled-patches")), sure(is("bark.color", "white")))
	require.Equal(t, "Platanus occidentalis", sycamore.Named.Name)
}

// TestAnswersAsPeopleMeasure: what a measure could show is said in figures that people read off.
func TestAnswersAsPeopleMeasure(t *testing.T) {
	plain := regexp.MustCompile(`^((under|over|about) )?[0-9.]{1,4}( to [0-9.]{1,4})? (mm|cm)$|^((under|over|about) )?[0-9]+( to [0-9]+)? [a-z]+$|^[a-z ]+$`)
	pairs := regexp.MustCompile(`pairs in 5$`)
	for _, scores := range [][]record.Score{{is("bud.scales", "many-overlapping")}, {is("twig.arrangement", "opposite")}} {
		for _, n := range asked(t, "", scores...).Next {
			for _, a := range n.Answers {
				require.True(t, plain.MatchString(a.Words) || pairs.MatchString(a.Words), a.Words)
			}
		}
	}
}

// TestHowItClimbs: rootlets on a bare vine are poison ivy's mark in winter (common practice), pads
// at the ends of tendrils Virginia creeper's; no tree climbs.
func TestHowItClimbs(t *testing.T) {
	for mark, first := range map[string]string{
		"rootlets": "Toxicodendron radicans", "disc-tendrils": "Parthenocissus quinquefolia", "forked-tendrils": "Vitis (wild grapes)",
		"twining": "Celastrus",
	} {
		t.Run(mark, func(t *testing.T) {
			res := asked(t, "", is("form.climbs", mark), is("twig.arrangement", "alternate"))
			require.Contains(t, res.Ranking[0].Taxon, first)
		})
	}
}

// TestKindOfFruitIsFruitSeen: to score what hangs is to say that something does, unless that was said.
func TestKindOfFruitIsFruitSeen(t *testing.T) {
	seen := true
	hangs := record.Score{Character: "fruit.hanging", Seen: &seen}
	kind := is("fruit.kind", "woody-conelets")
	chances := func(scores ...record.Score) map[string]float64 {
		out := map[string]float64{}
		for _, r := range asked(t, "", scores...).Ranking {
			out[r.Taxon] = r.Posterior
		}
		return out
	}
	require.InDeltaMapValues(t, chances(kind, hangs), chances(kind), 0.02)
}
