// Package benchmark measures what the core costs. docs/performance.md gives the
// figures and the commands.
package benchmark_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora"
	"palethicket/core/flora/floratest"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/record"
	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/nextlook"
	"palethicket/core/weigh/ranking"
	"palethicket/core/weigh/specimen"
)

func pool(t testing.TB) *flora.Pool {
	f := floratest.Shipped(t)
	p, err := f.Pool(flora.PoolKey{Among: flora.Among{Region: "eastern-north-america"}, Age: flora.At(flora.Mature)})
	require.NoError(t, err)
	return p
}

// sized gives the flora's model with its taxa repeated up to n, or fewer.
func sized(t testing.TB, n int) *evidence.Model {
	m := pool(t).Model
	var taxa []evidence.Taxon
	for i := range n {
		x := m.Taxa()[i%len(m.Taxa())]
		x.Name = fmt.Sprint(x.Name, " ", i)
		taxa = append(taxa, x)
	}
	out, err := evidence.NewModel(m.Characters(), taxa, evidence.DefaultUnlisted)
	require.NoError(t, err)
	return out
}

// aTree draws a tree of the model with its scores spread over the looks.
func aTree(m *evidence.Model, scores, looks int) []evidence.Look { return treeOf(m, scores, looks, 1) }

// treeOf draws another tree for each seed.
func treeOf(m *evidence.Model, scores, looks int, seed uint64) []evidence.Look {
	src := rand.NewPCG(seed, 1)
	rng, d := rand.New(src), specimen.NewDrawer(m, src)
	out := make([]evidence.Look, looks)
	t := d.Taxon()
	n := 0
	for _, c := range rng.Perm(len(m.Characters())) {
		if n == scores {
			break
		}
		if m.KnownShare(c) == 0 || m.Lacks(c) {
			continue
		}
		s := evidence.Score{Character: c, Error: 0.1, Spread: 0.1, Readings: 1, Detect: 0.95, False: 0.02}
		if m.Characters()[c].Kind == evidence.Tally {
			s.Nodes = 6
		}
		d.Score(t, &s)
		at := &out[n%looks]
		at.Belongs = 0.95
		at.Scores = append(at.Scores, s)
		n++
	}
	return out
}

// BenchmarkRank ranks one tree of 30 scores in 5 looks over 165 taxa.
func BenchmarkRank(b *testing.B) {
	m := sized(b, 165)
	r, looks := ranking.NewRanker(m), aTree(m, 30, 5)
	b.ReportAllocs()
	for b.Loop() {
		r.Rank(looks)
	}
}

func BenchmarkRankByTaxa(b *testing.B) {
	for _, n := range []int{100, 300, 1000, 3000, 10000} {
		b.Run(fmt.Sprint(n), func(b *testing.B) {
			m := sized(b, n)
			r, looks := ranking.NewRanker(m), aTree(m, 30, 5)
			for b.Loop() {
				r.Rank(looks)
			}
		})
	}
}

func BenchmarkRankByScores(b *testing.B) {
	m := sized(b, 165)
	for _, n := range []int{5, 10, 20, 40} {
		b.Run(fmt.Sprint(n), func(b *testing.B) {
			r, looks := ranking.NewRanker(m), aTree(m, n, 5)
			for b.Loop() {
				r.Rank(looks)
			}
		})
	}
}

// BenchmarkNextLooks weighs every character as a next look over 165 taxa.
func BenchmarkNextLooks(b *testing.B) {
	m := sized(b, 165)
	post := ranking.NewRanker(m).Rank(aTree(m, 5, 2)).Posterior
	var tables []*nextlook.Table
	for c := range m.Characters() {
		tables = append(tables, nextlook.NewTable(m, c, nextlook.Setting{Belongs: 0.95, Setting: evidence.Setting{
			Error: 0.1, Spread: 0.1, Readings: 1, Detect: 0.95, False: 0.02}}))
	}
	b.ReportAllocs()
	for b.Loop() {
		for _, t := range tables {
			t.Gain(post)
		}
	}
}

// TestRankDoesNotAllocate holds the steady state to no allocation.
func TestRankDoesNotAllocate(t *testing.T) {
	m := sized(t, 165)
	r, looks := ranking.NewRanker(m), aTree(m, 30, 5)
	require.Zero(t, testing.AllocsPerRun(100, func() { r.Rank(looks) }))
}

// records writes n field records of about 30 scores.
func records(t testing.TB, n int) []byte {
	p := pool(t)
	var doc bytes.Buffer
	doc.WriteString(`{"records": [`)
	for i := range n {
		if i > 0 {
			doc.WriteByte(',')
		}
		rec := record.Record{ID: fmt.Sprint("T-", i), Age: "mature"}
		for _, l := range treeOf(p.Model, 30, 5, uint64(i)) {
			rl := record.Look{From: "tree"}
			for _, s := range l.Scores {
				rl.Scores = append(rl.Scores, written(p, s))
			}
			rec.Looks = append(rec.Looks, rl)
		}
		line, err := json.Marshal(rec)
		require.NoError(t, err)
		doc.Write(line)
	}
	doc.WriteString(`]}`)
	return doc.Bytes()
}

// written turns a drawn score into a written one.
func written(p *flora.Pool, s evidence.Score) record.Score {
	c, zone := p.Character(s.Character)
	out := record.Score{Character: c.ID}
	if c.ByZone {
		out.Zone = flora.ZoneWords[zone]
	}
	switch {
	case c.Kind == evidence.Numeric:
		out.Value = &s.Value
	case c.Kind == evidence.Sign:
		out.Seen = &s.Seen
	case s.Nodes > 0:
		out.Pairs, out.Nodes = &s.Pairs, &s.Nodes
	default:
		for i, st := range c.States {
			if s.States&(1<<i) != 0 {
				out.States = append(out.States, st.ID)
			}
		}
	}
	return out
}

// BenchmarkIdentify answers records from JSON to JSON: with all they can ask,
// and with the ranking and what follows from it alone.
func BenchmarkIdentify(b *testing.B) {
	f := floratest.Shipped(b)
	const n = 4000
	doc, e := records(b, n), answer.NewEngine(f)
	for name, opt := range map[string]answer.Options{"brief": answer.Brief, "explained": answer.Usual, "ranking": {}} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				failed, err := e.Stream(b.Context(), io.Discard, bytes.NewReader(doc), opt, nil)
				require.NoError(b, err)
				require.Zero(b, failed)
			}
			b.ReportMetric(float64(n*b.N)/b.Elapsed().Seconds(), "records/s")
		})
	}
}

// BenchmarkCategorical ranks rows of plain categorical answers, as
// scripts/speed-sklearn.py does: 165 classes, 30 features of 8 states.
func BenchmarkCategorical(b *testing.B) {
	const classes, features, states, rows = 165, 30, 8, 1000
	rng := rand.New(rand.NewPCG(1, 1))
	chars := make([]evidence.Character, features)
	for f := range chars {
		chars[f] = evidence.Character{ID: fmt.Sprint(f), States: make([]string, states)}
	}
	taxa := make([]evidence.Taxon, classes)
	for c := range taxa {
		taxa[c] = evidence.Taxon{Name: fmt.Sprint(c), Weight: 1}
		for range chars {
			dist, total := make([]float64, states), 0.0
			for s := range dist {
				dist[s] = 1 + float64(rng.IntN(8))
				total += dist[s]
			}
			for s := range dist {
				dist[s] /= total
			}
			taxa[c].Values = append(taxa[c].Values, evidence.Value{Knowledge: evidence.Known, Dist: dist})
		}
	}
	m, err := evidence.NewModel(chars, taxa, 0)
	require.NoError(b, err)
	trees := make([][]evidence.Look, rows)
	for i := range trees {
		l := evidence.Look{Belongs: 1}
		for f := range features {
			l.Scores = append(l.Scores, evidence.Score{Character: f, States: 1 << rng.IntN(states)})
		}
		trees[i] = []evidence.Look{l}
	}
	r := ranking.NewRanker(m)
	for b.Loop() {
		for _, looks := range trees {
			r.Rank(looks)
		}
	}
	b.ReportMetric(float64(rows*b.N)/b.Elapsed().Seconds(), "rows/s")
}
