package record_test

import (
	"encoding/json"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora"
	"palethicket/core/flora/floratest"
	"palethicket/core/tree/record"
)

func load(t testing.TB) *flora.Flora {
	f := floratest.Shipped(t)
	return f
}

func read(t testing.TB, text string) *record.Record {
	var rec record.Record
	require.NoError(t, json.Unmarshal([]byte(text), &rec))
	return &rec
}

func TestResolve(t *testing.T) {
	rec := read(t, `{"id": "LC-412", "age": "mature", "looks": [
		{"from": "tree", "scores": [
			{"character": "bark.texture", "states": ["mesh-ridges", "long-ridges"], "certainty": "sure", "zone": "upper"},
			{"character": "bark.furrow-depth", "value": 1.5, "unit": "cm", "readings": 3, "how": "caliper", "certainty": "guess"}]},
		{"from": "fallen", "scores": [
			{"character": "twig.arrangement", "pairs": 4, "nodes": 6},
			{"character": "fruit.hanging", "seen": false, "visibility": "poor"}]}]}`)
	tree, err := record.Resolve(load(t), rec)
	require.NoError(t, err)
	require.Len(t, tree.Looks, 3, "two looks and the one at the foliage")
	m := tree.Pool.Model

	bark := tree.Looks[0].Scores[0]
	upper, _ := tree.Pool.Index("bark.texture", flora.Upper)
	require.Equal(t, upper, bark.Character)
	require.Equal(t, 0.02, bark.Error)
	var states []string
	for i, s := range m.Characters()[upper].States {
		if bark.States&(1<<i) != 0 {
			states = append(states, s)
		}
	}
	require.Equal(t, []string{"mesh-ridges", "long-ridges"}, states)

	depth := tree.Looks[0].Scores[1]
	require.InDelta(t, 15, depth.Value, 1e-9, "1.5 cm in the character's mm")
	require.Equal(t, 3, depth.Readings)
	require.Equal(t, 0.03, depth.Spread)
	require.Equal(t, 0.30, depth.Error)

	require.Equal(t, 0.80, tree.Looks[1].Belongs)
	require.Equal(t, 4, tree.Looks[1].Scores[0].Pairs)
	fruit := tree.Looks[1].Scores[1]
	require.Equal(t, []any{false, 0.30, 0.02}, []any{fruit.Seen, fruit.Detect, fruit.False})

	foliage := tree.Looks[2]
	require.Equal(t, 0.99, foliage.Belongs)
	require.Equal(t, 0.02, foliage.Scores[0].Error)
	require.EqualValues(t, 1, foliage.Scores[0].States, "bare, unless said otherwise")
	for i := range tree.Looks {
		for j := range tree.Looks[i].Scores {
			require.NoError(t, m.Check(&tree.Looks[i].Scores[j]))
		}
	}
}

// TestDefaults: fair, ruler, one reading, clear, breast height, and ages mixed.
func TestDefaults(t *testing.T) {
	tree, err := record.Resolve(load(t), read(t, `{"looks": [{"from": "crown", "scores": [
		{"character": "bud.length", "value": 6}, {"character": "bark.pale-runs", "seen": true}]}]}`))
	require.NoError(t, err)
	s := tree.Looks[0].Scores
	require.Equal(t, []any{0.10, 0.10, 1}, []any{s[0].Error, s[0].Spread, s[0].Readings})
	require.Equal(t, 0.95, s[1].Detect)
	require.Equal(t, 0.95, tree.Looks[0].Belongs)
}

func TestFoliageScoredIsNotAddedAgain(t *testing.T) {
	f := load(t)
	tree, err := record.Resolve(f, read(t, `{"looks": [{"from": "tree", "scores": [{"character": "needle.kept", "states": ["needles"]}]}]}`))
	require.NoError(t, err)
	require.Len(t, tree.Looks, 1)
	tree, err = record.Resolve(f, read(t, `{"foliage": "scale-leaves", "looks": []}`))
	require.NoError(t, err)
	require.EqualValues(t, 1<<2, tree.Looks[0].Scores[0].States)
}

// TestFallenFruitIsNoSecondWitness: fruit under a tree is there because it is on the tree, so it
// counts as a guess where both are scored.
func TestFallenFruitIsNoSecondWitness(t *testing.T) {
	fallen := func(others string) float64 {
		tree, err := record.Resolve(load(t), read(t, `{"looks": [{"from": "litter", "scores": [
			{"character": "ground.fruit", "states": ["acorn"], "certainty": "sure"}]}`+others+`]}`))
		require.NoError(t, err)
		return tree.Looks[0].Scores[0].Error
	}
	require.Equal(t, record.ErrorRate["sure"], fallen(""))
	require.Equal(t, record.ErrorRate["guess"], fallen(`, {"from": "tree", "scores": [{"character": "fruit.kind", "states": ["acorn"]}]}`))
}

func TestResolveRefuses(t *testing.T) {
	f := load(t)
	one := func(score string) string {
		return `{"looks": [{"from": "tree", "scores": [` + score + `]}]}`
	}
	for _, c := range []struct{ text, field, says string }{
		{`{"region": "eastern-north-amerika"}`, "region", `did you mean "eastern-north-america"?`},
		{`{"age": "ancient"}`, "age", "use one of [young mature old]"},
		{`{"foliage": "needle"}`, "foliage", `did you mean "needles"?`},
		{`{"snow": "much"}`, "snow", "use one of"},
		{`{"out_of_reach": ["hands"]}`, "out_of_reach[0]", `did you mean "hand"?`},
		{`{"looks": [{"from": "tre"}]}`, "looks[0].from", `did you mean "tree"?`},
		{one(`{"character": "bud.lenght", "value": 3}`), "looks[0].scores[0].character", `did you mean "bud.length"?`},
		{one(`{"character": "bud.coat", "states": ["bare", "dowy"]}`), "looks[0].scores[0].states[1]", `did you mean "downy"?`},
		{one(`{"character": "bud.coat"}`), "looks[0].scores[0].states", "needs one or more of its states"},
		{one(`{"character": "bud.length"}`), "looks[0].scores[0].value", "needs a value in mm"},
		{one(`{"character": "bud.length", "value": -3}`), "looks[0].scores[0].value", "-3 mm"},
		{one(`{"character": "bud.length", "value": 0}`), "looks[0].scores[0].value", "0 mm"},
		{one(`{"character": "bud.length", "value": 9e99}`), "looks[0].scores[0].value", "want 0.01 to 100000 mm"},
		{one(`{"character": "bud.length", "value": 3, "unit": "inch"}`), "looks[0].scores[0].unit", "use one of [mm cm m in ft]"},
		{one(`{"character": "bud.scale-count", "value": 3, "unit": "mm"}`), "looks[0].scores[0].unit", "use one of [scales]"},
		{one(`{"character": "bud.length", "value": 3, "readings": 0}`), "looks[0].scores[0].readings", "want 1 to 1000"},
		{one(`{"character": "bud.length", "value": 3, "how": "tape"}`), "looks[0].scores[0].how", "use one of"},
		{one(`{"character": "bud.length", "value": 3, "seen": true}`), "looks[0].scores[0].seen", "takes no seen"},
		{one(`{"character": "fruit.hanging"}`), "looks[0].scores[0].seen", "not having looked is no score"},
		{one(`{"character": "fruit.hanging", "seen": true, "visibility": "dim"}`), "looks[0].scores[0].visibility", "use one of"},
		{one(`{"character": "twig.arrangement", "pairs": 4}`), "looks[0].scores[0].nodes", "pairs are given without nodes"},
		{one(`{"character": "twig.arrangement", "nodes": 4}`), "looks[0].scores[0].pairs", "nodes are given without pairs"},
		{one(`{"character": "twig.arrangement", "pairs": 5, "nodes": 4}`), "looks[0].scores[0].pairs", "5 pairs among 4 nodes"},
		{one(`{"character": "twig.arrangement", "pairs": -1, "nodes": 4}`), "looks[0].scores[0].pairs", "-1 pairs"},
		{one(`{"character": "twig.arrangement", "pairs": 0, "nodes": 0}`), "looks[0].scores[0].nodes", "0 nodes"},
		{one(`{"character": "twig.arrangement", "pairs": 1, "nodes": 2, "states": ["opposite"]}`), "looks[0].scores[0].states", "not both"},
		{one(`{"character": "bark.color", "states": ["brown"], "zone": "top"}`), "looks[0].scores[0].zone", "use one of [base breast upper]"},
		{one(`{"character": "bud.coat", "states": ["bare"], "zone": "upper"}`), "looks[0].scores[0].zone", "leave zone out"},
		{one(`{"character": "bud.coat", "states": ["bare"], "certainty": "certain"}`), "looks[0].scores[0].certainty", "use one of"},
	} {
		_, err := record.Resolve(f, read(t, c.text))
		var errs record.Errors
		require.ErrorAs(t, err, &errs, c.text)
		require.Equal(t, c.field, errs[0].Field, c.text)
		require.Contains(t, errs[0].Message, c.says, c.text)
	}
}

// TestWordsOfTheFormat holds the documented words against the ones in use.
func TestWordsOfTheFormat(t *testing.T) {
	doc, err := os.ReadFile("../../../docs/field-record.md")
	require.NoError(t, err)
	for _, terms := range []record.Terms{record.Froms, record.Certainties, record.Hows, record.Visibilities,
		record.Foliages, record.Snows, record.Beyonds, record.Ages, record.Zones} {
		for _, w := range terms.IDs() {
			require.True(t, strings.Contains(string(doc), "`"+w+"`"), "docs/field-record.md does not name %q", w)
		}
	}
}

// FuzzResolve feeds the reader what nobody would write: it must answer with a
// tree whose scores all pass, or with an error, and never panic.
func FuzzResolve(f *testing.F) {
	fl := load(f)
	f.Add(`{"looks": [{"from": "tree", "scores": [{"character": "bud.length", "value": 1e-300, "readings": 3}]}]}`)
	f.Add(`{"looks": [{"from": "crown", "scores": [{"character": "twig.arrangement", "pairs": 4, "nodes": 6}]}]}`)
	f.Add(`{"age": "old", "snow": "deep", "looks": [{"from": "site", "scores": [{"character": "setting.moisture", "states": ["wet"]}]}]}`)
	f.Add(`{"looks": [{"from": "", "scores": [{}]}]}`)
	f.Fuzz(func(t *testing.T, text string) {
		var rec record.Record
		if json.Unmarshal([]byte(text), &rec) != nil {
			return
		}
		tree, err := record.Resolve(fl, &rec)
		if err != nil {
			return
		}
		for i := range tree.Looks {
			for j := range tree.Looks[i].Scores {
				require.NoError(t, tree.Pool.Model.Check(&tree.Looks[i].Scores[j]))
			}
		}
	})
}
