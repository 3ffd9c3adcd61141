package answer_test

import (
	"encoding/json"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/record"
	"palethicket/core/weigh/ranking"
	files "palethicket/flora"
)

// shipped is loaded once for all tests: an engine is safe for several at once.
var shipped = sync.OnceValues(func() (*answer.Engine, error) {
	f, err := flora.Load(files.Files)
	if err != nil {
		return nil, err
	}
	return answer.NewEngine(f), nil
})

func engine(t testing.TB) *answer.Engine {
	e, err := shipped()
	require.NoError(t, err)
	return e
}

func weighed(t testing.TB, e *answer.Engine, rec *record.Record) *answer.Weighing {
	t.Helper()
	w, err := e.Weigh(rec)
	require.NoError(t, err)
	t.Cleanup(w.Close)
	return w
}

func answered(t testing.TB, e *answer.Engine, text string) *answer.Result {
	t.Helper()
	var rec record.Record
	require.NoError(t, json.Unmarshal([]byte(text), &rec))
	res, err := e.Identify(&rec, answer.Usual)
	require.NoError(t, err)
	return res
}

// looks writes a mature tree's record with one look.
func looks(from, scores string) string {
	return `{"age": "mature", "looks": [{"from": "` + from + `", "scores": [` + scores + `]}]}`
}

// TestCommonPractice names trees from marks that the trade holds to be enough,
// or not enough (common practice).
func TestCommonPractice(t *testing.T) {
	e := engine(t)
	for _, c := range []struct{ name, rank, rec string }{
		{"Prunus serotina", "species", looks("tree", `{"character": "bark.color", "states": ["near-black"]}, {"character": "bark.texture", "states": ["small-scales"], "certainty": "sure"}, {"character": "twig.scent", "states": ["bitter-almond"], "certainty": "sure"}, {"character": "twig.arrangement", "pairs": 0, "nodes": 5}`)},
		{"Carya cordiformis", "species", looks("tree", `{"character": "bud.color", "states": ["sulphur-yellow"], "certainty": "sure"}, {"character": "bud.shape", "states": ["flat-paddle"]}`)},
		{"Juglans cinerea", "species", looks("tree", `{"character": "twig.pith", "states": ["chambered"], "certainty": "sure"}, {"character": "scar.fringe", "seen": true}, {"character": "scar.top", "states": ["straight"], "certainty": "sure"}`)},
		{"Juglans nigra", "species", looks("tree", `{"character": "twig.pith", "states": ["chambered"], "certainty": "sure"}, {"character": "bud.coat", "states": ["downy"]}, {"character": "scar.top", "states": ["notched"], "certainty": "sure"}, {"character": "scar.fringe", "seen": false}`)},
		{"Liriodendron tulipifera", "species", looks("tree", `{"character": "twig.stipule-marks", "states": ["full-ring"], "certainty": "sure"}, {"character": "bud.scales", "states": ["two-edge-to-edge"], "certainty": "sure"}, {"character": "bud.shape", "states": ["flat-paddle"], "certainty": "sure"}`)},
		{"Fagus grandifolia", "species", looks("tree", `{"character": "twig.arrangement", "pairs": 0, "nodes": 5}, {"character": "fruit.leaves-held", "seen": true}, {"character": "bud.shape", "states": ["spindle"], "certainty": "sure"}, {"character": "bark.texture", "states": ["smooth"]}, {"character": "bud.length", "value": 19}`)},
		{"Pinus strobus", "species", `{"age": "mature", "foliage": "needles", "looks": [{"from": "tree", "scores": [{"character": "needle.bundle", "states": ["fives"], "certainty": "sure"}]}]}`},
		{"Fraxinus", "genus", looks("tree", `{"character": "twig.arrangement", "pairs": 5, "nodes": 5}, {"character": "bark.texture", "states": ["mesh-ridges"], "certainty": "sure"}, {"character": "bark.furrow-depth", "value": 18}, {"character": "scar.bundles", "states": ["arc-of-many"]}`)},
	} {
		res := answered(t, e, c.rec)
		if c.rank == "species" { // whether two or three scores carry the name is another matter
			require.Equal(t, c.name, res.Ranking[0].Taxon, "ranking %v", res.Ranking[:3])
			require.Greater(t, res.Ranking[0].Posterior, 0.75, c.name)
			continue
		}
		require.Equal(t, c.name, res.Named.Name, "ranking %v", res.Ranking[:3])
		require.EqualValues(t, c.rank, res.Named.Rank)
	}
}

// TestBarkDoesNotSplitAshes: green and white ash are not told apart by bark
// (common practice), whatever the bark shows.
func TestBarkDoesNotSplitAshes(t *testing.T) {
	e := engine(t)
	share := func(res *answer.Result, name string) float64 {
		for _, r := range res.Ranking {
			if r.Taxon == name {
				return r.Posterior
			}
		}
		return 0
	}
	for _, color := range e.Flora.Character("bark.color").StateIDs() {
		res := answered(
			t,
			e,
			looks(
				"tree",
				`{"character": "bark.texture", "states": ["mesh-ridges"], "certainty": "sure"}, {"character": "bark.color", "states": ["`+color+`"], "certainty": "sure"}`,
			),
		)
		require.InEpsilon(t, share(res, "Fraxinus americana"), share(res, "Fraxinus pennsylvanica"), 0.02, color)
	}
}

// TestStranger: a twig with pairs under a shagbark hickory is not of it.
func TestStranger(t *testing.T) {
	res := answered(t, engine(t), `{"age": "mature", "looks": [
		{"from": "tree", "scores": [{"character": "bark.texture", "states": ["long-loose-plates"], "certainty": "sure"},
			{"character": "bud.length", "value": 15}, {"character": "fruit.kind", "states": ["husked-nut"], "certainty": "sure"}]},
		{"from": "fallen", "scores": [{"character": "twig.arrangement", "pairs": 4, "nodes": 4}, {"character": "bud.coat", "states": ["sticky"]}]}]}`)
	require.Equal(t, "Carya ovata", res.Ranking[0].Taxon)
	require.False(t, res.Looks[0].Stranger)
	require.True(t, res.Looks[1].Stranger)
	require.Contains(t, res.Looks[0].Says, "shagbark hickory")
}

// TestNothingFits: marks that no listed tree shows together.
func TestNothingFits(t *testing.T) {
	res := answered(t, engine(t), `{"age": "mature", "looks": [
		{"from": "tree", "scores": [{"character": "twig.pith", "states": ["chambered"], "certainty": "sure"}, {"character": "bud.color", "states": ["sulphur-yellow"], "certainty": "sure"}]},
		{"from": "tree", "scores": [{"character": "twig.arrangement", "pairs": 6, "nodes": 6}, {"character": "scar.bundles", "states": ["ring-of-many"], "certainty": "sure"}]},
		{"from": "tree", "scores": [{"character": "twig.hair", "states": ["velvety"], "certainty": "sure"}, {"character": "bark.resin-blisters", "seen": true}]},
		{"from": "tree", "scores": [{"character": "twig.arms", "states": ["prickles"], "certainty": "sure"}]}]}`)
	require.Equal(t, ranking.Unlisted, res.Named.Rank)
	require.Equal(t, "none of the listed trees fits", res.Named.Words)
	require.Less(t, res.Fit, 0.01)
}

// TestFit: what a tree usually shows fits it well.
func TestFit(t *testing.T) {
	res := answered(
		t,
		engine(t),
		looks(
			"tree",
			`{"character": "bark.texture", "states": ["warty-ridges"], "certainty": "sure"}, {"character": "bark.color", "states": ["mid-grey"]}, {"character": "bud.stance", "states": ["pressed"]}`,
		),
	)
	require.Equal(t, "Celtis occidentalis", res.Named.Name)
	require.Greater(t, res.Fit, 0.2)
}

func TestNextLooks(t *testing.T) {
	e := engine(t)
	rec := looks(
		"tree",
		`{"character": "twig.arrangement", "pairs": 0, "nodes": 6}, {"character": "bark.texture", "states": ["mesh-ridges"]}`,
	)
	res := answered(t, e, rec)
	require.Len(t, res.Next, 3)
	for i, n := range res.Next {
		require.Greater(t, n.Bits, 0.0)
		require.NotContains(t, []string{"twig.arrangement", "bark.texture"}, n.Character, "not what was scored already")
		require.Len(t, n.Separates, 2)
		total := 0.0
		for _, a := range n.Answers {
			total += a.Chance
		}
		require.LessOrEqual(t, total, 1+1e-9)
		if i > 0 && n.Harm == "none" && res.Next[i-1].Harm == "none" {
			require.LessOrEqual(t, n.PerMinute, res.Next[i-1].PerMinute)
		}
	}
	within := func(rec string, ok func(answer.Next) bool) {
		var r record.Record
		require.NoError(t, json.Unmarshal([]byte(rec), &r))
		res, err := e.Identify(&r, answer.Options{Next: 200})
		require.NoError(t, err)
		require.NotEmpty(t, res.Next)
		for _, n := range res.Next {
			require.True(t, ok(n), n.Character)
		}
	}
	reach := func(id string) string { return e.Flora.Character(id).Reach }
	within(strings.Replace(rec, "{", `{"snow": "deep", `, 1), func(n answer.Next) bool {
		return reach(n.Character) != "ground" || strings.HasPrefix(n.Character, "setting.")
	})
	within(strings.Replace(rec, "{", `{"out_of_reach": ["hand", "crown"], `, 1), func(n answer.Next) bool {
		return reach(n.Character) != "hand" && reach(n.Character) != "crown"
	})
}

func TestNamesInWords(t *testing.T) {
	e := engine(t)
	for words, rec := range map[string]string{
		"an ash of some kind":    looks("tree", `{"character": "twig.arrangement", "pairs": 5, "nodes": 5}, {"character": "bark.texture", "states": ["mesh-ridges"], "certainty": "sure"}, {"character": "scar.bundles", "states": ["arc-of-many"]}`),
		"a red oak of some kind": looks("tree", `{"character": "bud.tip", "states": ["cluster-at-end"], "certainty": "sure"}, {"character": "ground.leaf", "states": ["pointed-lobes"], "certainty": "sure"}, {"character": "ground.fruit", "states": ["acorn"], "certainty": "sure"}`),
		"not yet named":          `{"looks": []}`,
		"probably black walnut":  looks("tree", `{"character": "twig.arrangement", "states": ["alternate"]}, {"character": "twig.pith", "states": ["chambered"]}, {"character": "twig.pith-color", "states": ["tan"]}, {"character": "scar.top", "states": ["notched"]}, {"character": "scar.fringe", "seen": false}`),
	} {
		require.Equal(t, words, answered(t, e, rec).Named.Words)
	}
}

func TestCautions(t *testing.T) {
	res := answered(
		t,
		engine(t),
		looks(
			"tree",
			`{"character": "form.habit", "states": ["vine"], "certainty": "sure"}, {"character": "bud.scales", "states": ["naked"], "certainty": "sure"}`,
		),
	)
	require.Equal(t, "Toxicodendron radicans", res.Ranking[0].Taxon)
	require.Contains(t, res.Cautions[0].Words, "blister")
}

func TestStream(t *testing.T) {
	e := engine(t)
	in := `{"made": "by hand", "records": [
		{"id": "a", "looks": []},
		{"id": "b", "looks": [{"from": "tre", "scores": []}]},
		{"id": "c", "looks": 7},
		{"id": "d", "colour of boots": "green", "looks": [{"from": "tree", "scores": [{"character": "bark.texture", "states": ["sinewy"], "certainty": "sure"}]}]}]}`
	var out strings.Builder
	failed, err := e.Stream(t.Context(), &out, strings.NewReader(in), answer.Usual, nil)
	require.NoError(t, err)
	require.Equal(t, 2, failed)
	var got struct {
		Results []struct {
			ID, Error string
			Ranking   []answer.Ranked
			Named     answer.Name
		}
	}
	require.NoError(t, json.Unmarshal([]byte(out.String()), &got))
	require.Len(t, got.Results, 4)
	require.Len(t, got.Results[0].Ranking, len(got.Results[3].Ranking))
	require.Contains(t, got.Results[1].Error, `did you mean "tree"?`)
	require.Equal(t, "c", got.Results[2].ID)
	require.NotEmpty(t, got.Results[2].Error)
	require.Equal(t, "Carpinus caroliniana", got.Results[3].Ranking[0].Taxon)

	for _, bad := range []string{``, `[]`, `{"trees": []}`, `{"records": {}}`, `{"records": [{]}`} {
		_, err := e.Stream(t.Context(), &out, strings.NewReader(bad), answer.Usual, nil)
		require.Error(t, err, bad)
	}
}
