package book_test

import (
	"strings"
	"testing"
	"time"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
	"palethicket/store"
)

const (
	tract = "Lantern Creek watershed forest"
	slope = "Upper slope"
)

func started(t testing.TB, b *book.Book, tag string) string {
	t.Helper()
	id := ulid.Make().String()
	require.NoError(t, b.AddTree(t.Context(), book.NewTree{ID: id, Tag: tag, Tract: tract, Stand: slope, Region: record.DefaultRegion}))
	return id
}

// add adds an entry with an id of its own.
func add(t testing.TB, b *book.Book, tree string, e logbook.Entry) string {
	t.Helper()
	e.ID, e.By = ulid.Make().String(), "Wren Halloran"
	require.NoError(t, b.AddEntry(t.Context(), tree, &e))
	return e.ID
}

func scored(t testing.TB, b *book.Book, tree, look, character string, states ...string) string {
	t.Helper()
	return add(t, b, tree, logbook.Entry{Kind: logbook.KindScore, Look: look, Score: &record.Score{Character: character, States: states, Certainty: "sure"}})
}

func named(t testing.TB, b *book.Book, tree, rank, name string) string {
	t.Helper()
	return add(t, b, tree, logbook.Entry{Kind: logbook.KindName, Name: &logbook.Naming{Rank: rank, Name: name}})
}

func look(t testing.TB, b *book.Book, tree, from string) string {
	t.Helper()
	return add(t, b, tree, logbook.Entry{Kind: logbook.KindLook, From: from})
}

// hackberry is a tree that its bark names.
func hackberry(t testing.TB, b *book.Book, tag string) (tree, score string) {
	t.Helper()
	tree = started(t, b, tag)
	l := look(t, b, tree, "tree")
	score = scored(t, b, tree, l, "bark.texture", "warty-ridges")
	scored(t, b, tree, l, "twig.arrangement", "alternate")
	scored(t, b, tree, l, "twig.pith", "chambered")
	return tree, score
}

func standing(t testing.TB, b *book.Book, tree string) *store.Standing {
	t.Helper()
	st, err := b.Store.Standing(t.Context(), tree)
	require.NoError(t, err)
	return st
}

// TestStandingsFollowTheLog: what lists show is what ranking the log gives, after
// every kind of entry.
func TestStandingsFollowTheLog(t *testing.T) {
	b := booktest.New(t)
	tree := started(t, b, "LC-1")
	require.Equal(t, book.StatusUnscored, standing(t, b, tree).Status)
	l := look(t, b, tree, "tree")
	score := scored(t, b, tree, l, "bark.texture", "warty-ridges")
	agree := func() {
		t.Helper()
		v, err := b.View(t.Context(), tree, answer.Options{Next: 1})
		require.NoError(t, err)
		st := standing(t, b, tree)
		require.Equal(t, v.Result.Ranking[0].Taxon, st.Leader)
		require.InDelta(t, v.Result.Ranking[0].Posterior, st.LeaderShare, 1e-12)
		require.Equal(t, string(v.Result.Named.Rank), st.NamedRank)
		if len(v.Result.Next) > 0 {
			require.Equal(t, v.Result.Next[0].Character, st.NextCharacter)
		}
	}
	agree()
	require.Equal(t, "Celtis occidentalis", standing(t, b, tree).Leader)
	scored(t, b, tree, l, "twig.pith", "chambered")
	agree()
	named(t, b, tree, "species", "Celtis occidentalis")
	require.Equal(t, book.StatusNamed, standing(t, b, tree).Status)
	add(t, b, tree, logbook.Entry{Kind: logbook.KindWithdraw, Entry: score})
	agree()
	require.Equal(t, book.StatusDoubtful, standing(t, b, tree).Status, "the name lost its ground")
	require.NotEmpty(t, standing(t, b, tree).Doubt)
	add(t, b, tree, logbook.Entry{Kind: logbook.KindScore, Look: l, Score: &record.Score{Character: "form.dbh", Value: to(12.0), Unit: "in"}})
	require.InDelta(t, 30.48, standing(t, b, tree).DBH, 1e-9)
	require.InDelta(t, 0.0730, standing(t, b, tree).Area, 1e-4)
	add(t, b, tree, logbook.Entry{Kind: logbook.KindFacts, Facts: &logbook.Facts{Position: &logbook.Position{Lon: -90.6, Lat: 43.5}}})
	require.Equal(t, 43.5, *standing(t, b, tree).Lat)
}

func to[T any](v T) *T { return &v }

// TestStandingsFollowTheirList: when a list changes, the trees ranked among it are
// weighed again, and no others.
func TestStandingsFollowTheirList(t *testing.T) {
	b := booktest.New(t)
	own := b.Base.RegionList(record.DefaultRegion)
	own.Name = "Lantern Creek"
	require.NoError(t, b.Store.PutList(t.Context(), own))
	require.NoError(t, b.Relist(t.Context()))
	among, _ := hackberry(t, b, "LC-1")
	other, _ := hackberry(t, b, "LC-2")
	add(t, b, among, logbook.Entry{Kind: logbook.KindFacts, Facts: &logbook.Facts{Region: to("Lantern Creek")}})
	require.NoError(t, b.WeighStale(t.Context(), func(int, int) { t.Error("nothing is stale") }))

	delete(own.Abundance, "Celtis occidentalis")
	require.NoError(t, b.Store.PutList(t.Context(), own))
	require.NoError(t, b.Reload(t.Context()))
	weighed := 0
	require.NoError(t, b.WeighStale(t.Context(), func(done, left int) { weighed = done; require.Zero(t, left) }))
	require.Equal(t, 1, weighed)
	require.NotEqual(t, "Celtis occidentalis", standing(t, b, among).Leader, "it is not on the list any more")
	require.Equal(t, "Celtis occidentalis", standing(t, b, other).Leader)
}

func TestStory(t *testing.T) {
	b := booktest.New(t)
	tree, score := hackberry(t, b, "LC-1")
	named(t, b, tree, "species", "Celtis occidentalis")
	add(t, b, tree, logbook.Entry{Kind: logbook.KindWithdraw, Entry: score})
	s, err := b.Story(t.Context(), tree)
	require.NoError(t, err)
	require.Len(t, s.Steps, 6)
	require.Len(t, s.Visits, 1, "the day's visit was made by itself")
	require.Equal(t, s.Visits[0].ID, s.Steps[0].Visit)
	name := s.Steps[4]
	require.Equal(t, "Named Celtis occidentalis", name.Words)
	require.Greater(t, name.Name.Posterior, 0.9, "its probability then")
	require.NotEmpty(t, name.Flag, "contradicted since")
	require.Equal(t, "Taken back: Bark texture: warty ridges, sure", strings.Replace(s.Steps[5].Words, "bark", "Bark", 1))
	require.False(t, s.Steps[1].Stands)
	at := 0
	for i, taxon := range s.Taxa {
		if taxon == "Celtis occidentalis" {
			at = i
		}
	}
	require.Greater(t, s.Steps[4].Shares[at], s.Steps[5].Shares[at])

	require.NoError(t, b.Undo(t.Context(), tree, s.Steps[5].Entry, "Tobias Okafor"), "putting it back")
	s, err = b.Story(t.Context(), tree)
	require.NoError(t, err)
	require.Len(t, s.Steps, 7, "undone by a further entry")
	require.Empty(t, s.Steps[4].Flag, "the name has its ground again")
	require.Equal(t, "Tobias Okafor", s.Steps[6].By)
	require.Equal(t, book.StatusNamed, standing(t, b, tree).Status)

	require.NoError(t, b.Undo(t.Context(), tree, s.Steps[4].Entry, "Tobias Okafor"))
	v, err := b.View(t.Context(), tree, answer.Options{})
	require.NoError(t, err)
	require.Empty(t, v.Names, "the name was taken back")
	require.Error(t, b.Undo(t.Context(), tree, s.Steps[4].Entry, "Tobias Okafor"), "twice makes no sense")
}

func TestWorklist(t *testing.T) {
	b := booktest.New(t)
	settled, _ := hackberry(t, b, "LC-1")
	named(t, b, settled, "species", "Celtis occidentalis")
	ash := started(t, b, "LC-2")
	l := look(t, b, ash, "tree")
	scored(t, b, ash, l, "bark.texture", "mesh-ridges")
	scored(t, b, ash, l, "twig.arrangement", "opposite")
	blank := started(t, b, "LC-3")
	list, err := b.Worklist(t.Context(), store.Query{}, 50, 0)
	require.NoError(t, err)
	require.Equal(t, 2, list.Total)
	ids := []string{list.Trees[0].ID, list.Trees[1].ID}
	require.ElementsMatch(t, []string{ash, blank}, ids)
	require.GreaterOrEqual(t, list.Trees[0].NextBits, list.Trees[1].NextBits, "what is worth most first")
	for _, o := range list.Trees {
		require.NotEmpty(t, o.Look, "the one look")
		if o.ID == ash {
			require.NotEmpty(t, o.Back)
			require.Contains(t, o.Candidates, "Fraxinus americana")
		}
	}
	settledToo, err := b.Worklist(t.Context(), store.Query{Status: []string{book.StatusNamed}}, 50, 0)
	require.NoError(t, err)
	require.Equal(t, 2, settledToo.Total, "what is settled is no work")
	text, err := b.ICalendar(t.Context(), store.Query{})
	require.NoError(t, err)
	require.Contains(t, text, "SUMMARY:LC-2: when buds swell")
	require.NotContains(t, text, "LC-1:")
}

// TestHere: a stand of hackberries makes the next doubtful tree a hackberry
// sooner, and only where one asks for it.
func TestHere(t *testing.T) {
	b := booktest.New(t)
	for _, tag := range []string{"LC-1", "LC-2", "LC-3", "LC-4"} {
		hackberry(t, b, tag)
	}
	next := started(t, b, "LC-5")
	l := look(t, b, next, "tree")
	scored(t, b, next, l, "twig.pith", "chambered")
	share := func(r []answer.Ranked) float64 {
		for _, h := range r {
			if h.Taxon == "Celtis occidentalis" {
				return h.Posterior
			}
		}
		return 0
	}
	plain, err := b.View(t.Context(), next, answer.Options{})
	require.NoError(t, err)
	here, err := b.Here(t.Context(), next)
	require.NoError(t, err)
	require.Equal(t, 4, here.Trees)
	require.Greater(t, share(here.Ranking), 2*share(plain.Result.Ranking))
	total := 0.0
	for _, h := range here.Ranking {
		total += h.Posterior
	}
	require.InDelta(t, 1, total, 1e-9)
	again, err := b.View(t.Context(), next, answer.Options{})
	require.NoError(t, err)
	require.Equal(t, plain.Result.Ranking, again.Result.Ranking, "nothing else uses it")
}

func TestComposition(t *testing.T) {
	b := booktest.New(t)
	for _, tag := range []string{"LC-1", "LC-2"} {
		tree, _ := hackberry(t, b, tag)
		named(t, b, tree, "species", "Celtis occidentalis")
	}
	started(t, b, "LC-3")
	c, err := b.Composition(t.Context(), tract, "")
	require.NoError(t, err)
	require.Equal(t, 3, c.Trees)
	require.Equal(t, 2, c.Determined)
	require.Equal(t, "Celtis occidentalis", c.Shares[0].Taxon)
	require.InDelta(t, 2, c.Shares[0].Stems, 0.2)
	total := 0.0
	for _, s := range c.Shares {
		total += s.Stems
	}
	require.InDelta(t, 3, total, 0.1, "each tree counts once; what is under 0.2 % is left out")
	none, err := b.Composition(t.Context(), "Elsewhere", "")
	require.NoError(t, err)
	require.Zero(t, none.Trees)
}

func TestMoveTree(t *testing.T) {
	b := booktest.New(t)
	tree := started(t, b, "LC-1")
	started(t, b, "LC-2")
	require.ErrorIs(t, b.MoveTree(t.Context(), tree, "LC-2", tract, slope, ""), store.ErrTagTaken)
	require.NoError(t, b.MoveTree(t.Context(), tree, "LC-9", tract, "Creek bottom", "Wren Halloran"))
	v, err := b.View(t.Context(), tree, answer.Options{})
	require.NoError(t, err)
	require.Equal(t, "Creek bottom", v.Tree.Stand)
	require.Equal(t, []string{"Was LC-1 in Upper slope, " + tract + "."}, v.Notes)
}

func TestVisits(t *testing.T) {
	b := booktest.New(t)
	own := store.Visit{ID: ulid.Make().String(), Tract: tract, Day: time.Now().Format(time.DateOnly), Crew: "Marit Sandoval", Weather: "Thaw", Snow: "patchy"}
	require.NoError(t, b.Store.PutVisit(t.Context(), own))
	tree := started(t, b, "LC-1")
	v, err := b.View(t.Context(), tree, answer.Options{})
	require.NoError(t, err)
	require.Equal(t, "patchy", v.Facts.Snow, "the day's snow was entered once")
	look(t, b, tree, "tree")
	other := store.Visit{ID: ulid.Make().String(), Tract: tract, Day: "2026-01-10", Snow: "deep"}
	require.NoError(t, b.Store.PutVisit(t.Context(), other))
	add(t, b, tree, logbook.Entry{Kind: logbook.KindLook, From: "crown", Visit: other.ID})
	visits, err := b.Store.Visits(t.Context(), tract)
	require.NoError(t, err)
	require.Len(t, visits, 2, "the day's look went to the day's visit")
	require.Equal(t, []int{1, 1}, []int{visits[0].Looks, visits[1].Looks})
	e := logbook.Entry{ID: ulid.Make().String(), Kind: logbook.KindLook, From: "crown", Visit: ulid.Make().String()}
	require.ErrorIs(t, b.AddEntry(t.Context(), tree, &e), store.ErrNoVisit)
}
