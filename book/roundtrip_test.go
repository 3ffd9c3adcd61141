package book_test

import (
	"bytes"
	"encoding/csv"
	"maps"
	"os"
	"slices"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
	"palethicket/core/exchange"
	"palethicket/demo/demotest"
)

// table is all that a book's trees are in a table, by tag: fields by their names.
func tableOf(t *testing.T, b *book.Book) map[string]map[string]string {
	t.Helper()
	var out bytes.Buffer
	require.NoError(t, b.Export(t.Context(), &out, book.Query{}, "csv", book.About{}))
	rows, err := csv.NewReader(bytes.NewReader(bytes.TrimPrefix(out.Bytes(), []byte("\ufeff")))).ReadAll()
	require.NoError(t, err)
	trees := map[string]map[string]string{}
	for _, row := range rows[1:] {
		tree := map[string]string{}
		for i, field := range rows[0] {
			tree[field] = row[i]
		}
		trees[tree["tag"]] = tree
	}
	return trees
}

// TestEachFormatThereAndBack takes the forest out and into a fresh book, in each format: all fields of all trees are as they
// were, but for those that the format is said to lose.
func TestEachFormatThereAndBack(t *testing.T) {
	t.Parallel()
	forest := demotest.New(t)
	was := tableOf(t, forest)
	lists, err := forest.Lists(t.Context())
	require.NoError(t, err)
	for _, f := range exchange.Formats {
		t.Run(f.ID, func(t *testing.T) {
			t.Parallel()
			var file bytes.Buffer
			require.NoError(t, forest.Export(t.Context(), &file, book.Query{}, f.ID, book.About{Title: "Lantern Creek"}))
			fresh := booktest.New(t)
			for _, l := range lists {
				_, err := fresh.PutList(t.Context(), book.NewList{Name: l.Name, Region: l.Region, Taxa: l.Taxa}, "")
				require.NoError(t, err)
			}
			p, err := fresh.ReadFile(t.Context(), "forest."+f.Extension, file.Bytes())
			require.NoError(t, err)
			m := p.Mapping
			m.Tract, m.Stand = tract, slope // where the format does not say
			require.NoError(t, fresh.PutIn(t.Context(), p.ID, m, book.Choice{}, ""))
			require.Empty(t, ended(t, fresh, p.ID).Wrong)
			now, differ := tableOf(t, fresh), map[string]string{}
			for tag, tree := range was {
				for field, value := range tree {
					if !worked[field] && now[tag][field] != value {
						differ[field] = tag + ": " + value + " -> " + now[tag][field]
					}
				}
			}
			lost := slices.DeleteFunc(slices.Clone(f.Loses), func(what string) bool { return exchange.FieldByID(what) == nil || what == "tract" })
			require.ElementsMatch(t, lost, slices.Collect(maps.Keys(differ)), "%v", differ)
		})
	}
}

// worked are what the evidence says, and not the file.
var worked = map[string]bool{"leader": true, "leader_posterior": true, "status": true}

// TestWhatIsLostIsWritten: the page of formats says of each what it cannot carry, in the words of the program.
func TestWhatIsLostIsWritten(t *testing.T) {
	text, err := os.ReadFile("../docs/file-formats.md")
	require.NoError(t, err)
	for _, f := range book.Formats() {
		require.Contains(t, string(text), "| "+f.Name+" | "+f.Lost+" |")
	}
}
