package book_test

import (
	"bytes"
	"fmt"
	"sync"
	"testing"
	"time"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
)

// asPeopleScore is a tree in the middle of its work: three looks, eight scores.
func asPeopleScore(b *testing.B, bk *book.Book) (tree, twig string) {
	b.Helper()
	tree = started(b, bk, ulid.Make().String()[10:])
	bole := look(b, bk, tree, "tree")
	scored(b, bk, tree, bole, "bark.texture", "flat-ridges")
	scored(b, bk, tree, bole, "bark.color", "dark-grey")
	site := look(b, bk, tree, "site")
	scored(b, bk, tree, site, "setting.landform", "slope")
	twig = look(b, bk, tree, "fallen")
	scored(b, bk, tree, twig, "twig.pith", "solid")
	scored(b, bk, tree, twig, "bud.tip", "cluster-at-end")
	scored(b, bk, tree, twig, "bud.shape", "cone")
	scored(b, bk, tree, twig, "bud.color", "red-brown")
	scored(b, bk, tree, twig, "twig.color", "brown")
	return tree, twig
}

// pressing times one kind of press, twenty on each tree, so that logs are as long
// as people make them.
func pressing(b *testing.B, entry func(n int, twig string) book.Entry) {
	bk := booktest.New(b)
	var tree, twig string
	for n := 0; b.Loop(); n++ {
		if n%20 == 0 {
			b.StopTimer()
			tree, twig = asPeopleScore(b, bk)
			b.StartTimer()
		}
		e := entry(n, twig)
		e.ID = ulid.Make().String()
		_, err := bk.AddEntry(b.Context(), tree, &e)
		require.NoError(b, err)
	}
}

func BenchmarkPressScore(b *testing.B) {
	states := []string{"bare", "downy", "silky"}
	pressing(b, func(n int, twig string) book.Entry {
		s := &book.Score{Character: "bud.coat", States: states[n%3 : n%3+1], Certainty: "sure"}
		return book.Entry{Kind: "score", Look: twig, Score: s}
	})
}

// BenchmarkPressFact changes the age, and with it what every character is held against.
func BenchmarkPressFact(b *testing.B) {
	ages := []string{"young", "mature", "old"}
	pressing(b, func(n int, _ string) book.Entry {
		return book.Entry{Kind: "facts", Facts: &book.SetFacts{Age: &ages[n%3]}}
	})
}

// inventory is a table of trees without a look, and one with twenty scores each.
func inventory(trees int) []byte {
	var out bytes.Buffer
	out.WriteString("tag,tract,stand,lat,lon,dbh_cm,age,date\n")
	ages := []string{"young", "mature", "old", ""}
	for i := range trees {
		fmt.Fprintf(&out, "A-%d,%s,Stand %d,43.%04d,-90.%04d,%d,%s,2026-11-20\n", i, tract, i%30, i%10000, i%9999, 10+i%60, ages[i%4])
	}
	return out.Bytes()
}

func scoredRecords(trees int) []byte {
	scores := `{"character":"bark.texture","states":["flat-ridges"]},{"character":"bark.color","states":["dark-grey"]},
		{"character":"bark.give","states":["hard"]},{"character":"setting.landform","states":["slope"]},{"character":"twig.arrangement","states":["alternate"]}`
	twigs := `{"character":"twig.pith","states":["solid"]},{"character":"bud.tip","states":["cluster-at-end"]},{"character":"bud.shape","states":["cone"]},
		{"character":"bud.color","states":["red-brown"]},{"character":"twig.color","states":["brown"]}`
	looks := `{"from":"tree","scores":[` + scores + `]},{"from":"crown","scores":[` + twigs + `]},{"from":"fallen","scores":[` + twigs + `]},{"from":"sapling","scores":[` + twigs + `]}`
	var out bytes.Buffer
	out.WriteString(`{"records": [`)
	for i := range trees {
		fmt.Fprintf(
			&out,
			`%s{"id":"B-%d","tract":"%s","stand":"Stand %d","age":"mature","date":"2026-11-20","looks":[%s]}`,
			[]string{",", ""}[min(1, 1-min(i, 1))],
			i,
			tract,
			i%30,
			looks,
		)
	}
	out.WriteString(`]}`)
	return out.Bytes()
}

// BenchmarkPutIn puts files into a book while other people score; it tells trees a second.
func BenchmarkPutIn(b *testing.B) {
	for name, file := range map[string][]byte{"inventory.csv": inventory(4000), "scored.json": scoredRecords(1500)} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				b.StopTimer()
				bk := booktest.New(b)
				tree, twig := asPeopleScore(b, bk)
				stop, pressed := make(chan struct{}), 0
				var longest time.Duration
				var wg sync.WaitGroup
				wg.Go(func() {
					for {
						select {
						case <-stop:
							return
						case <-time.After(50 * time.Millisecond):
							began := time.Now()
							scored(b, bk, tree, twig, "bud.coat", []string{"bare", "downy"}[pressed%2])
							longest, pressed = max(longest, time.Since(began)), pressed+1
						}
					}
				})
				b.StartTimer()
				began := time.Now()
				p := put(b, bk, name, file)
				took := time.Since(began)
				b.StopTimer()
				close(stop)
				wg.Wait()
				require.Empty(b, p.Wrong)
				b.ReportMetric(float64(p.Trees)/took.Seconds(), "trees/s")
				b.ReportMetric(float64(longest.Milliseconds()), "ms-longest-press")
				b.StartTimer()
			}
		})
	}
}

// BenchmarkWeighAgain weighs trees again after their list changed.
func BenchmarkWeighAgain(b *testing.B) {
	for name, file := range map[string][]byte{"unscored.csv": inventory(4000), "scored.json": scoredRecords(1000)} {
		b.Run(name, func(b *testing.B) {
			bk := booktest.New(b)
			list := ours(b, bk)
			p, err := bk.ReadFile(b.Context(), name, file)
			require.NoError(b, err)
			p.Mapping.List = list.Name
			require.NoError(b, bk.PutIn(b.Context(), p.ID, p.Mapping, book.Choice{}, ""))
			trees := ended(b, bk, p.ID).Trees
			words := []string{"common", "rare"}
			for n := 0; b.Loop(); n++ {
				list.Taxa["Acer rubrum"] = words[n%2]
				began := time.Now()
				_, err := bk.PutList(b.Context(), list, "")
				require.NoError(b, err)
				bk.Settle()
				b.ReportMetric(float64(trees)/time.Since(began).Seconds(), "trees/s")
			}
		})
	}
}
