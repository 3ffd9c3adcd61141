package reference_test

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/weigh/evidence"
	"palethicket/core/weigh/nextlook"
	"palethicket/core/weigh/ranking"
)

// soybean is the Soybean data set (Michalski and Chilausky 1980; UCI Machine
// Learning Repository): diseases of plants known by partial observations. Said
// is what e1071's naiveBayes(laplace = 1) answers on the same ten folds.
type soybean struct {
	Classes  []string
	States   []int
	Class    []int
	Rows     [][]int
	Fold     []int
	Said     []int
	Accuracy float64
}

const folds = 10

// train counts the classes and states of all folds but one, with one added to
// every count, as e1071's laplace = 1 does.
func (d *soybean) train(t testing.TB, fold int, unlisted float64) *evidence.Model {
	prior := make([]float64, len(d.Classes))
	chances := make([][][]float64, len(d.States))
	for f, states := range d.States {
		chances[f] = make([][]float64, len(d.Classes))
		for c := range chances[f] {
			chances[f][c] = make([]float64, states)
			for s := range chances[f][c] {
				chances[f][c][s] = 1
			}
		}
	}
	for i, row := range d.Rows {
		if d.Fold[i] == fold {
			continue
		}
		prior[d.Class[i]]++
		for f, s := range row {
			if s >= 0 {
				chances[f][d.Class[i]][s]++
			}
		}
	}
	for f := range chances {
		for c := range chances[f] {
			total := 0.0
			for _, n := range chances[f][c] {
				total += n
			}
			for s := range chances[f][c] {
				chances[f][c][s] /= total
			}
		}
	}
	return classifier(t, prior, chances, unlisted)
}

func (d *soybean) models(t testing.TB, unlisted float64) []*evidence.Model {
	out := make([]*evidence.Model, folds+1)
	for k := 1; k <= folds; k++ {
		out[k] = d.train(t, k, unlisted)
	}
	return out
}

// said ranks every plant with the model of its fold; see changes its row.
func (d *soybean) said(models []*evidence.Model, e float64, see func(plant int, row []int) []int) []int {
	rankers := map[*evidence.Model]*ranking.Ranker{}
	out := make([]int, len(d.Rows))
	for i, row := range d.Rows {
		m := models[d.Fold[i]]
		if rankers[m] == nil {
			rankers[m] = ranking.NewRanker(m)
		}
		st := rankers[m].Rank(look(see(i, row), e))
		if out[i] = st.Leader(); out[i] == st.Unlisted() {
			out[i] = st.Order()[1]
		}
	}
	return out
}

func whole(_ int, row []int) []int { return row }

func (d *soybean) accuracy(said []int) float64 {
	right := 0
	for i, c := range said {
		if c == d.Class[i] {
			right++
		}
	}
	return float64(right) / float64(len(said))
}

// TestSoybean: as the plain rule the core answers as e1071 does, plant by
// plant; with its own error rate and the unlisted it must not be worse.
func TestSoybean(t *testing.T) {
	var d soybean
	read(t, "soybean.json", &d)
	plain := d.said(d.models(t, 0), 0, whole)
	require.Equal(t, d.Said, plain)
	own := d.accuracy(d.said(d.models(t, evidence.DefaultUnlisted), 0.02, whole))
	t.Logf("accuracy over ten folds: e1071 %.4f, the core as the plain rule %.4f, as it ships %.4f", d.Accuracy, d.accuracy(plain), own)
	require.InDelta(t, d.Accuracy, d.accuracy(plain), 1e-12)
	require.GreaterOrEqual(t, own, d.Accuracy-0.01)
}

// TestSoybeanHidden hides a share of the values that were there.
func TestSoybeanHidden(t *testing.T) {
	var d soybean
	read(t, "soybean.json", &d)
	models := d.models(t, evidence.DefaultUnlisted)
	before := 1.0
	for _, hidden := range []float64{0, 0.25, 0.5, 0.75} {
		rng := rand.New(rand.NewPCG(3, uint64(100*hidden)))
		acc := d.accuracy(d.said(models, 0.02, func(_ int, row []int) []int {
			seen := make([]int, len(row))
			for f, s := range row {
				if seen[f] = s; rng.Float64() < hidden {
					seen[f] = -1
				}
			}
			return seen
		}))
		t.Logf("%2.0f %% hidden: accuracy %.4f", 100*hidden, acc)
		require.Less(t, acc, before)
		require.Greater(t, acc, 0.6, "a quarter of the values still tells most plants")
		before = acc
	}
}

// TestSoybeanNextLook counts the looks that reach nine tenths of the full
// accuracy: the best next look first, and in random order.
func TestSoybeanNextLook(t *testing.T) {
	var d soybean
	read(t, "soybean.json", &d)
	models := d.models(t, evidence.DefaultUnlisted)
	full := d.accuracy(d.said(models, 0.02, whole))
	best := d.looksTo(0.9*full, models, func(_ int, m *evidence.Model, post []float64, left []int) int {
		at, most := 0, -1.0
		for k, f := range left {
			if g := gain(m, f, post); g > most {
				at, most = k, g
			}
		}
		return at
	})
	rng := rand.New(rand.NewPCG(5, 5))
	random := d.looksTo(0.9*full, models, func(_ int, _ *evidence.Model, _ []float64, left []int) int { return rng.IntN(len(left)) })
	t.Logf("looks to reach %.4f of %.4f: best next look first %d, in random order %d", 0.9*full, full, best, random)
	require.Less(t, 2*best, random)
}

var tables = map[*evidence.Model]map[int]*nextlook.Table{}

func gain(m *evidence.Model, f int, post []float64) float64 {
	if tables[m] == nil {
		tables[m] = map[int]*nextlook.Table{}
	}
	if tables[m][f] == nil {
		tables[m][f] = nextlook.NewTable(m, f, nextlook.Setting{Belongs: 1, Setting: evidence.Setting{Error: 0.02}})
	}
	return tables[m][f].Gain(post)
}

// looksTo reveals one value after another to every plant, as choose says among
// those left, until the accuracy is reached.
func (d *soybean) looksTo(
	goal float64,
	models []*evidence.Model,
	choose func(plant int, m *evidence.Model, post []float64, left []int) int,
) int {
	seen, left := make([][]int, len(d.Rows)), make([][]int, len(d.Rows))
	post := make([][]float64, len(d.Rows))
	rankers := map[*evidence.Model]*ranking.Ranker{}
	for _, m := range models[1:] {
		rankers[m] = ranking.NewRanker(m)
	}
	for i, row := range d.Rows {
		seen[i] = make([]int, len(row))
		post[i] = append(post[i], models[d.Fold[i]].Prior()...)
		for f, s := range row {
			seen[i][f] = -1
			if s >= 0 {
				left[i] = append(left[i], f)
			}
		}
	}
	for n := 1; n <= len(d.States); n++ {
		right := 0
		for i := range d.Rows {
			m := models[d.Fold[i]]
			if len(left[i]) > 0 {
				k := choose(i, m, post[i], left[i])
				f := left[i][k]
				left[i] = append(left[i][:k], left[i][k+1:]...)
				seen[i][f] = d.Rows[i][f]
			}
			st := rankers[m].Rank(look(seen[i], 0.02))
			copy(post[i], st.Posterior)
			if st.Leader() == d.Class[i] {
				right++
			}
		}
		if float64(right)/float64(len(d.Rows)) >= goal {
			return n
		}
	}
	return len(d.States) + 1
}
