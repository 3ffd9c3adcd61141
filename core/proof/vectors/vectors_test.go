// Package vectors checks the core against worked examples computed outside it.
package vectors

import (
	"encoding/json"
	"math"
	"os"
	"path/filepath"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/nextlook"
	"palethicket/core/weigh/ranking"
)

type example struct {
	Name       string
	Characters []struct {
		ID, Kind  string
		States    []string
		Confusion map[string]map[string]float64
		Shape     map[string][2]float64
	}
	Taxa []struct {
		ID, Genus string
		Prior     float64
		Values    map[string]json.RawMessage
	}
	Unlisted float64
	Looks    []struct {
		ID      string
		Belongs float64
		Scores  []score
	}
	Next []struct {
		Character string
		Setting   score
	}
	Expect struct {
		Posterior  map[string]float64
		Credible95 []string
		Genus      map[string]float64
		Belongs    map[string]float64
		Bits       struct {
			For, Over string
			Looks     map[string]float64
		}
		Flips []struct{ Look, Character, Leader string }
		Gain  map[string]float64
	}
}

type score struct {
	Character            string
	States               []string
	Value, Spread, Error float64
	Readings             int
	Seen                 bool
	Detect, False        float64
	Pairs, Nodes         int
	Belongs              float64
}

// worked is an example made ready for the core.
type worked struct {
	example
	model *evidence.Model
	looks []evidence.Look
	index map[string]int // of characters
}

func TestVectorsPosterior(t *testing.T) {
	each(t, func(t *testing.T, w *worked) {
		st := ranking.NewRanker(w.model).Rank(w.looks)
		require.Len(t, w.Expect.Posterior, len(st.Posterior))
		for h, p := range st.Posterior {
			agree(t, w.Expect.Posterior[w.name(h)], p, w.name(h))
		}
	})
}

func TestVectorsCredible(t *testing.T) {
	each(t, func(t *testing.T, w *worked) {
		var got []string
		for _, h := range ranking.NewRanker(w.model).Rank(w.looks).Credible(0.95) {
			got = append(got, w.name(h))
		}
		assert.Equal(t, w.Expect.Credible95, got)
	})
}

func TestVectorsGenus(t *testing.T) {
	each(t, func(t *testing.T, w *worked) {
		sums := ranking.NewRanker(w.model).Rank(w.looks).RollUp(ranking.Genus)
		require.Len(t, sums, len(w.Expect.Genus))
		for _, s := range sums {
			agree(t, w.Expect.Genus[s.Name], s.Posterior, s.Name)
		}
	})
}

func TestVectorsBelongs(t *testing.T) {
	each(t, func(t *testing.T, w *worked) {
		st := ranking.NewRanker(w.model).Rank(w.looks)
		require.Len(t, st.Belongs, len(w.Expect.Belongs))
		for i, b := range st.Belongs {
			agree(t, w.Expect.Belongs[w.Looks[i].ID], b, w.Looks[i].ID)
		}
	})
}

func TestVectorsBits(t *testing.T) {
	each(t, func(t *testing.T, w *worked) {
		st := ranking.NewRanker(w.model).Rank(w.looks)
		a, b := st.Order()[0], st.Order()[1]
		require.Equal(t, []string{w.Expect.Bits.For, w.Expect.Bits.Over}, []string{w.name(a), w.name(b)})
		require.Len(t, w.Looks, len(w.Expect.Bits.Looks))
		for i, l := range w.Looks {
			agree(t, w.Expect.Bits.Looks[l.ID], st.Bits(i, a, b), l.ID)
		}
	})
}

func TestVectorsFlips(t *testing.T) {
	each(t, func(t *testing.T, w *worked) {
		r := ranking.NewRanker(w.model)
		r.Rank(w.looks)
		flips := r.Flips(w.looks)
		require.Len(t, flips, len(w.Expect.Flips))
		for i, f := range flips {
			want := w.Expect.Flips[i]
			assert.Equal(t, want.Look, w.Looks[f.Look].ID)
			assert.Equal(t, want.Character, w.Looks[f.Look].Scores[f.Score].Character)
			assert.Equal(t, want.Leader, w.name(f.Leader))
		}
	})
}

func TestVectorsGain(t *testing.T) {
	each(t, func(t *testing.T, w *worked) {
		st := ranking.NewRanker(w.model).Rank(w.looks)
		require.Len(t, w.Next, len(w.Expect.Gain))
		for _, next := range w.Next {
			s := next.Setting
			got := nextlook.Gain(w.model, st.Posterior, w.index[next.Character], nextlook.Setting{
				Belongs: s.Belongs,
				Setting: evidence.Setting{Error: s.Error, Spread: s.Spread, Readings: s.Readings, Detect: s.Detect, False: s.False},
			})
			agree(t, w.Expect.Gain[next.Character], got, next.Character)
		}
	})
}

// agree holds two numbers to a relative 1e-9, absolute where they are near 0.
func agree(t *testing.T, want, got float64, what string) {
	t.Helper()
	assert.InDelta(t, want, got, 1e-9*math.Max(math.Abs(want), 1e-3), what)
}

func each(t *testing.T, check func(t *testing.T, w *worked)) {
	dir := os.Getenv("PT_VECTORS")
	if dir == "" {
		dir = "testdata"
	}
	files, err := filepath.Glob(filepath.Join(dir, "*.json"))
	require.NoError(t, err)
	require.NotEmpty(t, files, "no examples in %s", dir)
	for _, file := range files {
		text, err := os.ReadFile(file)
		require.NoError(t, err)
		w := &worked{index: map[string]int{}}
		require.NoError(t, json.Unmarshal(text, &w.example), file)
		t.Run(w.Name, func(t *testing.T) {
			w.prepare(t)
			check(t, w)
		})
	}
}

func (w *worked) name(h int) string {
	if h == len(w.Taxa) {
		return "unlisted"
	}
	return w.Taxa[h].ID
}

func (w *worked) prepare(t *testing.T) {
	chars := make([]evidence.Character, len(w.Characters))
	for i, c := range w.Characters {
		w.index[c.ID] = i
		chars[i] = evidence.Character{ID: c.ID, States: c.States, Kind: kinds[c.Kind]}
		for class := range c.Shape {
			chars[i].States = append(chars[i].States, class)
		}
		if c.Kind == "tally" {
			slices.Sort(chars[i].States)
		}
		for _, class := range chars[i].States {
			if c.Kind == "tally" {
				chars[i].Shapes = append(chars[i].Shapes, evidence.Beta{Alpha: c.Shape[class][0], Beta: c.Shape[class][1]})
				continue
			}
			var row []float64
			if weights := c.Confusion[class]; weights != nil {
				row = spread(chars[i].States, weights)
			}
			chars[i].Confusion = append(chars[i].Confusion, row)
		}
	}
	taxa := make([]evidence.Taxon, len(w.Taxa))
	for i, x := range w.Taxa {
		taxa[i] = evidence.Taxon{Name: x.ID, Genus: x.Genus, Weight: x.Prior, Values: make([]evidence.Value, len(chars))}
		for id, raw := range x.Values {
			taxa[i].Values[w.index[id]] = value(t, &chars[w.index[id]], raw)
		}
	}
	var err error
	w.model, err = evidence.NewModel(chars, taxa, w.Unlisted)
	require.NoError(t, err)
	for _, l := range w.Looks {
		look := evidence.Look{Belongs: l.Belongs}
		for _, s := range l.Scores {
			look.Scores = append(look.Scores, w.score(t, s))
		}
		w.looks = append(w.looks, look)
	}
}

var kinds = map[string]evidence.Kind{"categorical": evidence.Categorical, "numeric": evidence.Numeric,
	"sign": evidence.Sign, "tally": evidence.Tally}

func value(t *testing.T, ch *evidence.Character, raw json.RawMessage) evidence.Value {
	if string(raw) == `"n/a"` {
		return evidence.Value{Knowledge: evidence.Absent}
	}
	v := evidence.Value{Knowledge: evidence.Known}
	switch ch.Kind {
	case evidence.Categorical, evidence.Tally:
		var dist map[string]float64
		require.NoError(t, json.Unmarshal(raw, &dist))
		v.Dist = spread(ch.States, dist)
	case evidence.Numeric:
		var lohi struct{ Lo, Hi float64 }
		require.NoError(t, json.Unmarshal(raw, &lohi))
		v.Normals = []evidence.Component{evidence.RangeNormal(lohi.Lo, lohi.Hi)}
	case evidence.Sign:
		require.NoError(t, json.Unmarshal(raw, &v.Chance))
	}
	return v
}

func spread(states []string, weights map[string]float64) []float64 {
	row := make([]float64, len(states))
	for i, s := range states {
		row[i] = weights[s]
	}
	return row
}

func (w *worked) score(t *testing.T, s score) evidence.Score {
	c, ok := w.index[s.Character]
	require.True(t, ok, s.Character)
	out := evidence.Score{Character: c, Error: s.Error, Value: s.Value, Spread: s.Spread, Readings: s.Readings,
		Seen: s.Seen, Detect: s.Detect, False: s.False, Pairs: s.Pairs, Nodes: s.Nodes}
	for _, state := range s.States {
		i := slices.Index(w.model.Characters()[c].States, state)
		require.GreaterOrEqual(t, i, 0, "%s: %s", s.Character, state)
		out.States |= 1 << i
	}
	require.NoError(t, w.model.Check(&out))
	return out
}
