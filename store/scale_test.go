package store_test

import (
	"fmt"
	"math/rand/v2"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/store"
)

// BenchmarkTrees times lists, filters, search, the worklist and sums over a book
// of 100 000 trees in 300 stands. docs/performance.md has its figures.
func BenchmarkTrees(b *testing.B) {
	s := large(b, 100_000, 300)
	taxa := []string{"Quercus rubra", "Quercus velutina"}
	require.NoError(b, s.Warm(b.Context()))
	for _, c := range []struct {
		name string
		q    store.Query
		from int
	}{
		{"first page", store.Query{}, 0},
		{"last page", store.Query{}, 99_900},
		{"one stand", store.Query{Tract: "Tract 3", Stand: "Stand 3"}, 0},
		{"in doubt", store.Query{Status: []string{"doubtful"}}, 0},
		{"part of a tag", store.Query{Text: "99-7"}, 0},
		{"name of a tree", store.Query{Text: "red oak", Taxa: taxa}, 0},
		{"name of a tree, last page", store.Query{Text: "red oak", Taxa: taxa}, 33_000},
		{"name of a tree, worth most", store.Query{Text: "red oak", Taxa: taxa, Status: []string{"open", "doubtful"}, Sort: "worth"}, 0},
		{"middle page", store.Query{}, 50_000},
		{"last page, latest", store.Query{Sort: "last"}, 99_900},
		{"last page, tags", store.Query{Sort: "tag"}, 99_900},
		{"worth most", store.Query{Status: []string{"open", "doubtful", "ready", "unscored"}, Sort: "worth"}, 0},
		{"latest", store.Query{Sort: "last"}, 0},
	} {
		b.Run(c.name, func(b *testing.B) {
			for b.Loop() {
				page, _, err := s.Trees(b.Context(), c.q, 100, c.from)
				require.NoError(b, err)
				require.NotEmpty(b, page)
			}
		})
	}
	b.Run("sums of a stand", func(b *testing.B) {
		for b.Loop() {
			n, _, _, err := s.Sums(b.Context(), "Tract 3", "Stand 3", nobody)
			require.NoError(b, err)
			require.Positive(b, n)
		}
	})
	b.Run("changes of every stand", func(b *testing.B) {
		for b.Loop() {
			places, err := s.Places(b.Context(), "", "")
			require.NoError(b, err)
			require.Len(b, places, 300)
		}
	})
	b.Run("stands", func(b *testing.B) {
		for b.Loop() {
			all, err := s.Stands(b.Context())
			require.NoError(b, err)
			require.Len(b, all, 300)
		}
	})
}

// large makes a book of trees whose standings are drawn, not ranked.
func large(b *testing.B, trees, stands int) *store.Store {
	b.Helper()
	s, err := store.Open(b.Context(), filepath.Join(b.TempDir(), "book.db"))
	require.NoError(b, err)
	b.Cleanup(func() { s.Close() })
	rng := rand.New(rand.NewPCG(1, 2))
	taxa := []string{"Acer saccharum", "Quercus rubra", "Quercus velutina", "Tilia americana", "Fraxinus americana", "Carya ovata"}
	statuses := []string{"named", "named", "named", "doubtful", "ready", "open", "unscored"}
	require.NoError(b, s.Write(b.Context(), func(tx *store.Tx) error {
		for i := range trees {
			stand := i % stands
			tree := store.Tree{ID: fmt.Sprintf("%026d", i), Tag: fmt.Sprintf("%d-%d", stand, i), Region: "eastern-north-america",
				Tract: fmt.Sprintf("Tract %d", stand%10), Stand: fmt.Sprintf("Stand %d", stand)}
			if err := tx.AddTree(b.Context(), &tree, ""); err != nil {
				return err
			}
			a, c := rng.IntN(len(taxa)), rng.IntN(len(taxa)-1)
			lon, lat := -90.6+rng.Float64()/10, 43.5+rng.Float64()/10
			other := taxa[(a+1+c)%len(taxa)]
			st := &store.Standing{Status: statuses[rng.IntN(len(statuses))], Leader: taxa[a], LeaderPosterior: 0.8, Given: taxa[a], Second: other,
				NextBits: rng.Float64() * 3, NextCharacter: "bud.color", DBH: 30, Area: 0.07, Lon: &lon, Lat: &lat, Last: fmt.Sprint(rng.IntN(1e9)),
				Posteriors: store.Posteriors{taxa[a]: 0.8, other: 0.15, "unlisted": 0.05}}
			if err := tx.KeepStanding(b.Context(), &tree, st); err != nil {
				return err
			}
		}
		return nil
	}))
	return s
}
