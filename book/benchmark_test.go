package book_test

import (
	"testing"

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
