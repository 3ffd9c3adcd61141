package book_test

import (
	"cmp"
	"strings"
	"testing"
	"time"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
	"palethicket/core/stand/worklist"
	"palethicket/demo/demotest"
	"palethicket/store"
)

func TestMain(m *testing.M) { demotest.Main(m) }

const (
	tract = "Lantern Creek watershed forest"
	slope = "Upper slope"
)

func started(t testing.TB, b *book.Book, tag string) string {
	t.Helper()
	id := ulid.Make().String()
	_, err := b.AddTree(t.Context(), book.NewTree{ID: id, Tag: tag, Tract: tract, Stand: slope})
	require.NoError(t, err)
	return id
}

// add adds an entry with an id of its own.
func add(t testing.TB, b *book.Book, tree string, e book.Entry) string {
	t.Helper()
	e.ID, e.By = ulid.Make().String(), cmp.Or(e.By, "Wren Halloran")
	_, err := b.AddEntry(t.Context(), tree, &e)
	require.NoError(t, err)
	return e.ID
}

// undone undoes an entry in somebody's name.
func undone(t testing.TB, b *book.Book, tree, entry, by string) (*book.TreeView, error) {
	t.Helper()
	return b.AddEntry(t.Context(), tree, &book.Entry{ID: ulid.Make().String(), Kind: "undo", By: by, Entry: entry})
}

func scored(t testing.TB, b *book.Book, tree, look, character string, states ...string) string {
	t.Helper()
	return add(t, b, tree, book.Entry{Kind: "score", Look: look, Score: &book.Score{Character: character, States: states, Certainty: "sure"}})
}

func named(t testing.TB, b *book.Book, tree, rank, name string) string {
	t.Helper()
	return add(t, b, tree, book.Entry{Kind: "name", Name: &book.Naming{Rank: rank, Name: name}})
}

func look(t testing.TB, b *book.Book, tree, from string) string {
	t.Helper()
	return add(t, b, tree, book.Entry{Kind: "look", From: from})
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
	st, err := b.StandingOf(t.Context(), tree)
	require.NoError(t, err)
	return st
}

// TestStandingsFollowTheLog: what lists show is what ranking the log gives, after
// every kind of entry.
func TestStandingsFollowTheLog(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	tree := started(t, b, "LC-1")
	require.Equal(t, worklist.Unscored, standing(t, b, tree).Status)
	l := look(t, b, tree, "tree")
	score := scored(t, b, tree, l, "bark.texture", "warty-ridges")
	agree := func() {
		t.Helper()
		v, err := b.View(t.Context(), tree)
		require.NoError(t, err)
		st := standing(t, b, tree)
		require.Equal(t, v.Result.Ranking[0].Taxon, st.Leader)
		require.InDelta(t, v.Result.Ranking[0].Posterior, st.LeaderPosterior, 1e-12)
		require.Equal(t, v.Result.Named.Rank, st.NamedRank)
		if len(v.Result.Next) > 0 {
			require.Equal(t, v.Result.Next[0].Character, st.NextCharacter)
		}
	}
	agree()
	require.Equal(t, "Celtis occidentalis", standing(t, b, tree).Leader)
	scored(t, b, tree, l, "twig.pith", "chambered")
	agree()
	named(t, b, tree, "species", "Celtis occidentalis")
	require.Equal(t, worklist.Named, standing(t, b, tree).Status)
	add(t, b, tree, book.Entry{Kind: "withdraw", Entry: score})
	agree()
	require.Equal(t, worklist.Doubtful, standing(t, b, tree).Status, "the name lost its ground")
	require.NotEmpty(t, standing(t, b, tree).Doubt)
	add(t, b, tree, book.Entry{Kind: "score", Look: l, Score: &book.Score{Character: "form.dbh", Value: to(12.0), Unit: "in"}})
	require.InDelta(t, 30.48, standing(t, b, tree).DBH, 1e-9)
	require.InDelta(t, 0.0730, standing(t, b, tree).Area, 1e-4)
	add(t, b, tree, book.Entry{Kind: "facts", Facts: &book.SetFacts{Position: &book.Position{Lon: -90.6, Lat: 43.5}}})
	require.Equal(t, 43.5, *standing(t, b, tree).Lat)
}

func to[T any](v T) *T { return &v }

// ours is a list of all taxa of the home region.
func ours(t testing.TB, b *book.Book) book.NewList {
	t.Helper()
	whole := b.Flora().RegionList("eastern-north-america")
	list := book.NewList{Name: "Lantern Creek", Region: whole.Region, Taxa: whole.Abundance}
	_, err := b.PutList(t.Context(), list, "")
	require.NoError(t, err)
	b.Settle()
	return list
}

// TestStandingsFollowTheirList: when a list changes, the trees ranked among it are
// weighed again, and no others.
func TestStandingsFollowTheirList(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	list := ours(t, b)
	among, _ := hackberry(t, b, "LC-1")
	other, _ := hackberry(t, b, "LC-2")
	add(t, b, among, book.Entry{Kind: "facts", Facts: &book.SetFacts{Among: &book.Among{List: list.Name}}})
	require.NoError(t, b.WeighStale(t.Context(), func(int, int) { t.Error("nothing is stale") }))

	before := standing(t, b, other).Basis
	delete(list.Taxa, "Celtis occidentalis")
	_, err := b.PutList(t.Context(), list, "")
	require.NoError(t, err)
	b.Settle()
	require.Equal(t, book.Weighing{Done: 1}, b.Weighing())
	require.NoError(t, b.WeighStale(t.Context(), func(int, int) { t.Error("nothing is stale") }))
	require.Equal(t, before, standing(t, b, other).Basis, "the region is as it was")
	require.NotEqual(t, "Celtis occidentalis", standing(t, b, among).Leader, "it is not on the list any more")
	require.Equal(t, "Celtis occidentalis", standing(t, b, other).Leader)
}

func TestStory(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	tree, score := hackberry(t, b, "LC-1")
	named(t, b, tree, "species", "Celtis occidentalis")
	add(t, b, tree, book.Entry{Kind: "withdraw", Entry: score})
	s, err := b.Story(t.Context(), tree)
	require.NoError(t, err)
	require.Len(t, s.Steps, 7)
	require.Equal(t, "Started as LC-1 in Upper slope, "+tract, s.Steps[0].Words)
	s.Steps = s.Steps[1:]
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
		if taxon.Taxon == "Celtis occidentalis" {
			at = i
		}
	}
	require.Greater(t, s.Steps[4].Posteriors[at], s.Steps[5].Posteriors[at])

	_, err = undone(t, b, tree, s.Steps[5].Entry, "Tobias Okafor")
	require.ErrorContains(t, err, "Wren Halloran did this", "nobody undoes what others did")
	_, err = undone(t, b, tree, s.Steps[5].Entry, "Wren Halloran")
	require.NoError(t, err, "putting it back")
	s, err = b.Story(t.Context(), tree)
	require.NoError(t, err)
	require.Len(t, s.Steps, 8, "undone by a further entry")
	s.Steps = s.Steps[1:]
	require.Empty(t, s.Steps[4].Flag, "the name has its ground again")
	require.Equal(t, worklist.Named, standing(t, b, tree).Status)

	v, err := undone(t, b, tree, s.Steps[4].Entry, "Wren Halloran")
	require.NoError(t, err)
	require.Empty(t, v.Names, "the name was taken back")
	_, err = undone(t, b, tree, s.Steps[4].Entry, "Wren Halloran")
	require.ErrorContains(t, err, "undone already", "twice makes no sense")
}

func TestWorklist(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	settled, _ := hackberry(t, b, "LC-1")
	named(t, b, settled, "species", "Celtis occidentalis")
	ash := started(t, b, "LC-2")
	l := look(t, b, ash, "tree")
	scored(t, b, ash, l, "bark.texture", "mesh-ridges")
	scored(t, b, ash, l, "twig.arrangement", "opposite")
	blank := started(t, b, "LC-3")
	list, err := b.Worklist(t.Context(), book.Query{}, 50, 0)
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
	settledToo, err := b.Worklist(t.Context(), book.Query{Status: []string{worklist.Named}}, 50, 0)
	require.NoError(t, err)
	require.Equal(t, 2, settledToo.Total, "what is settled is no work")
	text, err := b.ICalendar(t.Context(), book.Query{})
	require.NoError(t, err)
	require.Contains(t, text, "SUMMARY:LC-2: when buds swell")
	require.NotContains(t, text, "LC-1:")
}

// TestHere: a stand of hackberries makes the next doubtful tree a hackberry
// sooner, and only where one asks for it.
func TestHere(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	for _, tag := range []string{"LC-1", "LC-2", "LC-3", "LC-4"} {
		hackberry(t, b, tag)
	}
	next := started(t, b, "LC-5")
	l := look(t, b, next, "tree")
	scored(t, b, next, l, "twig.pith", "chambered")
	share := func(r []book.Ranked) float64 {
		for _, h := range r {
			if h.Taxon == "Celtis occidentalis" {
				return h.Posterior
			}
		}
		return 0
	}
	plain, err := b.View(t.Context(), next)
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
	again, err := b.View(t.Context(), next)
	require.NoError(t, err)
	require.Equal(t, plain.Result.Ranking, again.Result.Ranking, "nothing else uses it")
}

func TestComposition(t *testing.T) {
	t.Parallel()
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
	t.Parallel()
	b := booktest.New(t)
	tree := started(t, b, "LC-1")
	started(t, b, "LC-2")
	_, err := b.MoveTree(t.Context(), tree, book.Move{Tag: "LC-2", Tract: tract, Stand: "Creek bottom", New: true})
	require.ErrorIs(t, err, book.ErrTagTaken)
	stands, err := b.Stands(t.Context())
	require.NoError(t, err)
	require.Len(t, stands, 1, "the stand of the refused move was not made")
	v, err := b.MoveTree(t.Context(), tree, book.Move{Tag: "LC-9", Tract: tract, Stand: "Creek bottom", By: "Wren Halloran", New: true})
	require.NoError(t, err)
	require.Equal(t, "Creek bottom", v.Tree.Stand)
	story, err := b.Story(t.Context(), tree)
	require.NoError(t, err)
	require.Equal(t, "Now LC-9 in Creek bottom, "+tract, story.Steps[1].Words)
	started(t, b, "LC-1")
	_, err = undone(t, b, tree, story.Steps[1].Entry, "Wren Halloran")
	require.ErrorIs(t, err, book.ErrTagTaken, "somebody else has its tag by now")
	again, err := b.View(t.Context(), tree)
	require.NoError(t, err)
	require.Equal(t, v, again, "nothing of it stays")
}

func TestVisits(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	own := book.Visit{
		ID:      ulid.Make().String(),
		Tract:   tract,
		Day:     time.Now().Format(time.DateOnly),
		Crew:    "Marit Sandoval",
		Weather: "Thaw",
		Snow:    "patchy",
	}
	require.NoError(t, b.PutVisit(t.Context(), own, ""))
	tree := started(t, b, "LC-1")
	v, err := b.View(t.Context(), tree)
	require.NoError(t, err)
	require.Equal(t, "patchy", v.Facts.Snow, "the day's snow was entered once")
	look(t, b, tree, "tree")
	other := book.Visit{ID: ulid.Make().String(), Tract: tract, Day: "2026-01-10", Snow: "deep"}
	require.NoError(t, b.PutVisit(t.Context(), other, ""))
	add(t, b, tree, book.Entry{Kind: "look", From: "crown", Visit: other.ID})
	visits, err := b.Visits(t.Context(), tract)
	require.NoError(t, err)
	require.Len(t, visits, 2, "the day's look went to the day's visit")
	require.Equal(t, []int{1, 1}, []int{visits[0].Looks, visits[1].Looks})
	e := book.Entry{ID: ulid.Make().String(), Kind: "look", From: "crown", Visit: ulid.Make().String()}
	_, err = b.AddEntry(t.Context(), tree, &e)
	require.ErrorIs(t, err, book.ErrNoVisit)
}
