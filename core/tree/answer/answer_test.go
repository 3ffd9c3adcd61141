package answer_test

import (
	"encoding/json"
	"strconv"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora/floratest"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/record"
	"palethicket/core/weigh/ranking"
)

// shipped is loaded once for all tests: an engine is safe for several at once.
var shipped = sync.OnceValues(func() (*answer.Engine, error) {
	f, err := floratest.Load()
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
// looks writes a record of one look at a mature tree: see seen.
func looks(from, scores string) string { return seen("mature", from+": "+scores) }

// seen writes a record of looks such as "tree: bark.texture smooth sure; bud.length 5": an
// answer for each character, and how sure it is. Answers are states, a|b for either;
// pairs/nodes; a value; seen or missing.
func seen(age string, looks ...string) string {
	var all []any
	for _, l := range looks {
		from, text, _ := strings.Cut(l, ": ")
		var scores []any
		for _, one := range strings.Split(text, "; ") {
			scores = append(scores, score(strings.Fields(one)))
		}
		all = append(all, map[string]any{"from": from, "scores": scores})
	}
	out, err := json.Marshal(map[string]any{"age": age, "looks": all})
	if err != nil {
		panic(err)
	}
	return string(out)
}

func score(words []string) map[string]any {
	s := map[string]any{"character": words[0]}
	value, err := strconv.ParseFloat(words[1], 64)
	pairs, nodes, counted := strings.Cut(words[1], "/")
	switch {
	case counted:
		s["pairs"], s["nodes"] = json.Number(pairs), json.Number(nodes)
	case words[1] == "seen" || words[1] == "missing":
		s["seen"] = words[1] == "seen"
	case err == nil:
		s["value"] = value
	default:
		s["states"] = strings.Split(words[1], "|")
	}
	if len(words) > 2 {
		s["certainty"] = words[2]
	}
	return s
}

// TestCommonPractice names trees from marks that the trade holds to be enough,
// or not enough (common practice).
func TestCommonPractice(t *testing.T) {
	e := engine(t)
	for _, c := range []struct{ name, rank, rec string }{
		{"Prunus serotina", "species",
			looks("tree", "bark.color near-black; bark.texture small-scales sure; twig.scent bitter-almond sure; twig.arrangement 0/5")},
		{"Carya cordiformis", "species", looks("tree", "bud.color sulphur-yellow sure; bud.shape flat-paddle")},
		{"Juglans cinerea", "species", looks("tree", "twig.pith chambered sure; scar.fringe seen; scar.top straight sure")},
		{"Juglans nigra", "species", looks("tree", "twig.pith chambered sure; bud.coat downy; scar.top notched sure; scar.fringe missing")},
		{"Liriodendron tulipifera", "species",
			looks("tree", "twig.stipule-marks full-ring sure; bud.scales two-edge-to-edge sure; bud.shape flat-paddle sure")},
		{"Fagus grandifolia", "species",
			looks("tree", "twig.arrangement 0/5; fruit.leaves-held seen; bud.shape spindle sure; bark.texture smooth; bud.length 19")},
		{"Pinus strobus", "species",
			strings.Replace(looks("tree", "needle.bundle fives sure"), "{", `{"foliage": "needles", `, 1)},
		{"Fraxinus", "genus",
			looks("tree", "twig.arrangement 5/5; bark.texture mesh-ridges sure; bark.furrow-depth 18; scar.bundles arc-of-many")},
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
		res := answered(t, e, looks("tree", "bark.texture mesh-ridges sure; bark.color "+color+" sure"))
		require.InEpsilon(t, share(res, "Fraxinus americana"), share(res, "Fraxinus pennsylvanica"), 0.02, color)
	}
}

// TestStranger: a twig with pairs under a shagbark hickory is not of it.
func TestStranger(t *testing.T) {
	res := answered(t, engine(t), seen("mature",
		"tree: bark.texture long-loose-plates sure; bud.length 15; fruit.kind husked-nut sure",
		"fallen: twig.arrangement 4/4; bud.coat sticky"))
	require.Equal(t, "Carya ovata", res.Ranking[0].Taxon)
	require.False(t, res.Looks[0].Stranger)
	require.True(t, res.Looks[1].Stranger)
	require.Contains(t, res.Looks[0].Says, "shagbark hickory")
}

// TestNothingFits: marks that no listed tree shows together.
func TestNothingFits(t *testing.T) {
	res := answered(t, engine(t), seen("mature",
		"tree: twig.pith chambered sure; bud.color sulphur-yellow sure",
		"tree: twig.arrangement 6/6; scar.bundles ring-of-many sure",
		"tree: twig.hair velvety sure; bark.resin-blisters seen",
		"tree: twig.arms prickles sure"))
	require.Equal(t, ranking.Unlisted, res.Named.Rank)
	require.Equal(t, "none of the listed trees fits", res.Named.Words)
	require.Less(t, res.Fit, 0.01)
}

// TestFit: what a tree usually shows fits it well.
func TestFit(t *testing.T) {
	res := answered(t, engine(t), looks("tree", "bark.texture warty-ridges sure; bark.color mid-grey; bud.stance pressed"))
	require.Equal(t, "Celtis occidentalis", res.Named.Name)
	require.Greater(t, res.Fit, 0.2)
}

func TestNextLooks(t *testing.T) {
	e := engine(t)
	rec := looks("tree", "twig.arrangement 0/6; bark.texture mesh-ridges")
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
		"an ash of some kind":    looks("tree", "twig.arrangement 5/5; bark.texture mesh-ridges sure; scar.bundles arc-of-many"),
		"a red oak of some kind": looks("tree", "bud.tip cluster-at-end sure; ground.leaf pointed-lobes sure; ground.fruit acorn sure"),
		"not yet named":          `{"looks": []}`,
		"probably black walnut":  looks("tree", "twig.arrangement alternate; twig.pith chambered; twig.pith-color tan; scar.top notched; scar.fringe missing"),
	} {
		require.Equal(t, words, answered(t, e, rec).Named.Words)
	}
}

func TestCautions(t *testing.T) {
	res := answered(t, engine(t), looks("tree", "form.habit vine sure; bud.scales naked sure"))
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
