package practice_test

import (
	"math"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"palethicket/core/practice"
	"palethicket/core/practice/fsrs"
)

var morning = time.Date(2026, 11, 2, 8, 0, 0, 0, time.UTC)

func scheduler(t testing.TB, wanted float64) *fsrs.Scheduler {
	t.Helper()
	s, err := fsrs.New(wanted)
	require.NoError(t, err)
	return s
}

// TestGrades follow from right or wrong, sureness and time.
func TestGrades(t *testing.T) {
	t.Parallel()
	for _, c := range []struct {
		review practice.Review
		grade  fsrs.Grade
	}{
		{practice.Review{Verdict: practice.Right, Sure: "sure", Seconds: 4}, fsrs.Easy},
		{practice.Review{Verdict: practice.Right, Sure: "sure", Seconds: 40}, fsrs.Good},
		{practice.Review{Verdict: practice.Right, Sure: "fair", Seconds: 4}, fsrs.Good},
		{practice.Review{Verdict: practice.Right, Sure: "guess"}, fsrs.Hard},
		{practice.Review{Verdict: practice.NotFar, Sure: "sure"}, fsrs.Hard},
		{practice.Review{Verdict: practice.TooFar, True: true, Sure: "sure"}, fsrs.Hard},
		{practice.Review{Verdict: practice.TooFar, Sure: "sure"}, fsrs.Again},
		{practice.Review{Verdict: practice.Wrong, Sure: "guess"}, fsrs.Again},
		{practice.Review{Verdict: practice.NoIdea}, fsrs.Again},
	} {
		require.Equal(t, c.grade, c.review.Grade(), c.review)
	}
}

// TestOddness: the better a card is known, the odder its individuals.
func TestOddness(t *testing.T) {
	t.Parallel()
	last := -1.0
	for _, days := range []float64{0, 1, 5, 30, 200} {
		odd := practice.Standing{Memory: fsrs.Memory{Stability: days}}.Oddness()
		require.Greater(t, odd, last)
		require.LessOrEqual(t, odd, 0.9)
		last = odd
	}
}

func TestFigures(t *testing.T) {
	t.Parallel()
	f := practice.FiguresOf([]practice.Review{
		{Card: "twig:Acer rubrum", Verdict: practice.Right, Sure: "sure"},
		{Card: "bark:Acer rubrum", Verdict: practice.Wrong, Sure: "sure", TakenFor: "Acer saccharinum"},
		{Card: "bark:Acer rubrum", Verdict: practice.NoIdea},
		{Card: "of an older program", Verdict: practice.Right, Sure: "sure"},
		{Card: "pair:Acer nigrum|Acer saccharum", Verdict: practice.Wrong, TakenFor: "Acer nigrum"},
		{Card: "pair:Acer nigrum|Acer saccharum", Verdict: practice.Wrong, TakenFor: "Acer saccharum"},
	})
	require.Equal(t, 5, f.Reviews)
	require.Equal(t, 1, f.TakenFor[[2]string{"Acer saccharum", "Acer nigrum"}])
	require.Equal(t, 1, f.TakenFor[[2]string{"Acer nigrum", "Acer saccharum"}])
	require.Len(t, f.TakenFor, 3, "no tree is taken for itself")
	require.Equal(t, practice.Counted{N: 2, Right: 1}, f.BySure["sure"])
	require.Equal(t, practice.Counted{N: 3, Right: 1}, f.ByTaxon["Acer rubrum"])
	require.Equal(t, 1, f.TakenFor[[2]string{"Acer rubrum", "Acer saccharinum"}])
	require.InDelta(t, (0.0025+0.9025)/2, f.Brier, 1e-9)
}

// learner is somebody simulated, whose memory follows the scheduler's formulas with other
// weights than it believes in.
type learner struct {
	mind  *fsrs.Scheduler
	cards []fsrs.Memory
	last  []float64
	rng   *rand.Rand
}

func newLearner(t testing.TB, seed uint64, n int) *learner {
	l := &learner{mind: scheduler(t, 0.9), cards: make([]fsrs.Memory, n), last: make([]float64, n), rng: rand.New(rand.NewPCG(seed, 3))}
	for i := range l.mind.W[:17] {
		l.mind.W[i] *= math.Exp(0.15 * l.rng.NormFloat64())
	}
	return l
}

// review asks a card on a day, and says how it went.
func (l *learner) review(t testing.TB, i int, day float64) fsrs.Grade {
	g := fsrs.Again
	if l.rng.Float64() < l.mind.Recall(l.cards[i], day-l.last[i]) {
		g = fsrs.Good
	}
	next, err := l.mind.Next(l.cards[i], day-l.last[i], g)
	require.NoError(t, err)
	l.cards[i], l.last[i] = next, day
	return g
}

// study has a learner learn cards for days, by a way of choosing those of a day; it gives
// the reviews and the mean recall over the second half.
func study(
	t testing.TB,
	l *learner,
	days int,
	choose func(day float64) []int,
	told func(i int, day float64, g fsrs.Grade),
) (reviews, recall float64) {
	n := 0.0
	for day := range days {
		for _, i := range choose(float64(day)) {
			told(i, float64(day), l.review(t, i, float64(day)))
			reviews++
		}
		if day >= days/2 {
			for i := range l.cards {
				recall += l.mind.Recall(l.cards[i], float64(day)-l.last[i])
				n++
			}
		}
	}
	return reviews, recall / n
}

// TestFewerReviews: for the same recall the scheduler asks less often than fixed intervals
// and than cards in chance order do; with learners whose memory is not quite as it believes.
func TestFewerReviews(t *testing.T) {
	t.Parallel()
	const cards, days = 100, 180
	needed := map[string]float64{}
	for seed := range uint64(5) {
		for way, run := range map[string]func(effort float64) (reviews, recall float64){
			"scheduled": func(effort float64) (float64, float64) { return scheduled(t, newLearner(t, seed, cards), days, effort) },
			"fixed":     func(effort float64) (float64, float64) { return fixed(t, newLearner(t, seed, cards), days, effort) },
			"chance":    func(effort float64) (float64, float64) { return chance(t, newLearner(t, seed, cards), days, effort) },
		} {
			lo, hi := 0.0, 1.0 // the least effort that keeps recall at 0.9
			best := 0.0
			for range 14 {
				mid := (lo + hi) / 2
				if reviews, recall := run(mid); recall >= 0.9 {
					hi, best = mid, reviews
				} else {
					lo = mid
				}
			}
			require.NotZero(t, best, way)
			needed[way] += best / 5
		}
	}
	t.Logf("reviews of %d cards in %d days for a mean recall of 0.9: %.0f scheduled, %.0f at fixed intervals, %.0f in chance order",
		cards, days, needed["scheduled"], needed["fixed"], needed["chance"])
	require.Less(t, needed["scheduled"], 0.9*needed["fixed"])
	require.Less(t, needed["scheduled"], 0.9*needed["chance"])
}

func scheduled(t testing.TB, l *learner, days int, effort float64) (reviews, recall float64) {
	s := scheduler(t, 0.7+0.29*effort)
	believed, due, last := make([]fsrs.Memory, len(l.cards)), make([]float64, len(l.cards)), make([]float64, len(l.cards))
	return study(t, l, days, func(day float64) (out []int) {
		for i := range due {
			if due[i] <= day {
				out = append(out, i)
			}
		}
		return out
	}, func(i int, day float64, g fsrs.Grade) {
		next, err := s.Next(believed[i], day-last[i], g)
		require.NoError(t, err)
		believed[i], last[i], due[i] = next, day, day+s.Days(next)
	})
}

func fixed(t testing.TB, l *learner, days int, effort float64) (reviews, recall float64) {
	every := math.Max(1, math.Round(60*math.Pow(1-effort, 2)))
	return study(t, l, days, func(day float64) (out []int) {
		for i := range l.cards {
			if math.Mod(day+float64(i), every) == 0 || day == 0 {
				out = append(out, i)
			}
		}
		return out
	}, func(int, float64, fsrs.Grade) {})
}

func chance(t testing.TB, l *learner, days int, effort float64) (reviews, recall float64) {
	a := math.Pow(effort, 2)
	return study(t, l, days, func(day float64) (out []int) {
		for i := range l.cards {
			if l.rng.Float64() < a || day == 0 {
				out = append(out, i)
			}
		}
		return out
	}, func(int, float64, fsrs.Grade) {})
}

// TestDueByDay: what was answered in the evening is due on the morning of its day, where
// the person is.
func TestDueByDay(t *testing.T) {
	t.Parallel()
	there := time.FixedZone("there", -6*3600)
	evening := time.Date(2026, 11, 2, 20, 0, 0, 0, there) // another day by UTC
	s := scheduler(t, 0.9)
	card := practice.Card{Kind: "twig", Taxon: "Acer rubrum"}
	st, err := practice.Progress(s, []practice.Review{{Card: card.ID(), At: evening, Verdict: practice.Right, Sure: "guess"}})
	require.NoError(t, err)
	days := int(s.Days(st[card.ID()].Memory))
	asked := func(now time.Time) bool {
		_, ok := practice.Next(s, []practice.Card{card}, st, []string{card.ID()}, now, practice.Session{})
		return ok
	}
	require.False(t, asked(time.Date(2026, 11, 2+days-1, 23, 0, 0, 0, there)))
	require.True(t, asked(time.Date(2026, 11, 2+days, 7, 0, 0, 0, there)))
}
