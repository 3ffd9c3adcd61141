package book_test

import (
	"path/filepath"
	"sync"
	"sync/atomic"
	"testing"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
	"palethicket/core/stand/worklist"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
)

// TestAPressAnswersWithWhatIsKept: the answer to a press, made from the weighing that
// wrote the standing, is what the book then says of the tree.
func TestAPressAnswersWithWhatIsKept(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	tree := started(t, b, "LC-1")
	press := func(e book.Entry) *book.TreeView {
		t.Helper()
		e.ID, e.By = ulid.Make().String(), "Wren Halloran"
		answer, err := b.AddEntry(t.Context(), tree, &e)
		require.NoError(t, err)
		kept, err := b.View(t.Context(), tree)
		require.NoError(t, err)
		require.Equal(t, kept, answer)
		st := standing(t, b, tree)
		require.Equal(t, kept.Result.Ranking[0].Taxon, st.Leader)
		require.InDelta(t, kept.Result.Ranking[0].Posterior, st.LeaderPosterior, 1e-12)
		return answer
	}
	v := press(book.Entry{Kind: "look", From: "tree"})
	look := v.Looks[0].ID
	v = press(
		book.Entry{Kind: "score", Look: look, Score: &book.Score{Character: "bark.texture", States: []string{"warty-ridges"}, Certainty: "sure"}},
	)
	press(book.Entry{Kind: "facts", Facts: &book.SetFacts{Age: to("mature"), Snow: to("deep")}})
	press(book.Entry{Kind: "note", Look: look, Note: "north side"})
	press(book.Entry{Kind: "name", Name: &book.Naming{Rank: "genus", Name: "Celtis"}})
	press(book.Entry{Kind: "withdraw", Entry: v.Looks[0].Scores[0].Entry})
	press(book.Entry{Kind: "undo", Entry: v.Looks[0].Scores[0].Entry})
	again, err := undone(t, b, tree, v.Looks[0].Scores[0].Entry, "Wren Halloran")
	require.ErrorContains(t, err, "undone already")
	require.Nil(t, again)
}

// TestPressesAtOnce: of presses on one tree at the same time none is lost, and the standing is that of
// all of them; of two trees only one gets a tag.
func TestPressesAtOnce(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	tree, other := started(t, b, "LC-1"), started(t, b, "LC-2")
	v, err := b.AddEntry(t.Context(), tree, &book.Entry{ID: ulid.Make().String(), Kind: "look", From: "tree"})
	require.NoError(t, err)
	scores := []book.Score{{Character: "bark.texture", States: []string{"mesh-ridges"}}, {Character: "bud.coat", States: []string{"bare"}},
		{Character: "twig.arrangement", States: []string{"opposite"}}, {Character: "bud.shape", States: []string{"cone"}},
		{Character: "twig.color", States: []string{"brown"}}, {Character: "scar.shape", States: []string{"crescent"}}}
	var wg sync.WaitGroup
	for i := range scores {
		wg.Go(func() {
			_, err := b.AddEntry(t.Context(), tree, &book.Entry{ID: ulid.Make().String(), Kind: "score", Look: v.Looks[0].ID, Score: &scores[i]})
			assert.NoError(t, err)
		})
	}
	var moved atomic.Int64
	for _, id := range []string{tree, other} {
		wg.Go(func() {
			if _, err := b.MoveTree(t.Context(), id, book.Move{Tag: "LC-3", Tract: v.Tree.Tract, Stand: v.Tree.Stand}); err == nil {
				moved.Add(1)
			}
		})
	}
	wg.Wait()
	require.EqualValues(t, 1, moved.Load())
	v, err = b.View(t.Context(), tree)
	require.NoError(t, err)
	require.Len(t, v.Looks[0].Scores, len(scores))
	st := standing(t, b, tree)
	require.Equal(t, len(scores), st.Scores)
	require.InDelta(t, v.Result.Ranking[0].Posterior, st.LeaderPosterior, 1e-12)
}

// TestMeasuresAreRead: what was written for a measurement is kept with what was
// understood, and what cannot be is refused by name.
func TestMeasuresAreRead(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	tree := started(t, b, "LC-1")
	l := look(t, b, tree, "tree")
	write := func(character, typed string) (*book.TreeView, error) {
		return b.AddEntry(
			t.Context(),
			tree,
			&book.Entry{ID: ulid.Make().String(), Kind: "score", Look: l, Score: &book.Score{Character: character, Typed: typed}},
		)
	}
	v, err := write("bud.length", "¼ in")
	require.NoError(t, err)
	require.Equal(t, "0.25 in = 6.35 mm", v.Looks[0].Scores[0].Words)
	require.Equal(t, "¼ in", v.Looks[0].Scores[0].Typed)
	v, err = write("bud.length", "5; 6; 5.5")
	require.NoError(t, err)
	require.Equal(t, "5.5 mm, mean of 3 readings, spread 0.5 mm", v.Looks[0].Scores[0].Words)
	v, err = write("twig.diameter", "half a pencil")
	require.NoError(t, err)
	require.Equal(t, "3.5 mm, by eye", v.Looks[0].Scores[1].Words)
	for character, c := range map[string]struct{ typed, says string }{
		"bud.length":   {"abc", "is not a measurement"},
		"bud.coat":     {"3", "takes no typed"},
		"form.dbh":     {"-4 in", "is not a measurement"},
		"scar.bundles": {"3 mm", "takes no typed"},
	} {
		_, err := write(character, c.typed)
		require.ErrorContains(t, err, c.says, character)
		require.Contains(t, book.FieldsOf(err)[0].Field, "score.", character)
	}
}

// TestRevision: it stays while a tree does, and changes with whatever its view shows.
func TestRevision(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	tree, other := started(t, b, "LC-1"), started(t, b, "LC-2")
	now := func() string {
		t.Helper()
		r, err := b.Revision(t.Context(), tree)
		require.NoError(t, err)
		v, err := b.View(t.Context(), tree)
		require.NoError(t, err)
		require.Equal(t, v.Revision, r)
		return r
	}
	first := now()
	look(t, b, other, "tree")
	require.Equal(t, first, now(), "another tree is another matter")
	look(t, b, tree, "tree")
	second := now()
	require.NotEqual(t, first, second)
	_, err := b.MoveTree(t.Context(), tree, book.Move{Tag: "LC-9", Tract: tract, Stand: slope})
	require.NoError(t, err)
	third := now()
	require.NotEqual(t, second, third)
	ours(t, b)
	require.NotEqual(t, third, now(), "a list changed")
	_, err = b.Revision(t.Context(), "nothing")
	require.ErrorIs(t, err, book.ErrNoTree)
}

// TestUnreadableTree: a book opens with a tree that nobody can read; it is listed as
// such, with why, and the others are as they were.
func TestUnreadableTree(t *testing.T) {
	t.Parallel()
	path := filepath.Join(t.TempDir(), "book.db")
	b := booktest.At(t, path)
	good, _ := hackberry(t, b, "LC-1")
	bad := started(t, b, "LC-2")
	l := look(t, b, bad, "tree")
	require.NoError(t, b.Spoil(t.Context(), bad, logbook.Entry{ID: ulid.Make().String(), Kind: logbook.KindScore, Look: l,
		Score: &record.Score{Character: "bark.tecture", States: []string{"smooth"}}}))
	require.NoError(t, b.Close())

	b = booktest.At(t, path)
	name, err := b.AddEntry(
		t.Context(),
		bad,
		&book.Entry{ID: ulid.Make().String(), Kind: "name", Name: &book.Naming{Rank: "genus", Name: "Acer"}},
	)
	require.ErrorContains(t, err, "tree LC-2 cannot be read")
	require.Nil(t, name)
	snow := "deep"
	v, err := b.AddEntry(t.Context(), bad, &book.Entry{ID: ulid.Make().String(), Kind: "facts", Facts: &book.SetFacts{Snow: &snow}})
	require.NoError(t, err, "what is wrong with the tree is no fault of the entry's")
	require.Equal(t, "deep", v.Facts.Snow)
	require.Contains(t, v.Fault, "bark.tecture")
	require.Empty(t, v.Result.Ranking)
	require.Equal(t, []string{"smooth"}, v.Looks[0].Scores[0].States, "what is in it is shown")
	list, err := b.Trees(t.Context(), book.Query{Sort: "tag"}, 10, 0)
	require.NoError(t, err)
	require.Equal(t, []string{worklist.Ready, worklist.Unreadable}, []string{status(list, good), status(list, bad)})
	require.Contains(t, list.Trees[1].Doubt, `did you mean "bark.texture"?`)
	_, err = b.Compare(t.Context(), bad, "", "")
	var unreadable *book.Unreadable
	require.ErrorAs(t, err, &unreadable)
	require.Equal(t, "LC-2", unreadable.Tag)
	story, err := b.Story(t.Context(), bad)
	require.NoError(t, err)
	require.Len(t, story.Steps, 4)
	require.Contains(t, story.Fault, "bark.tecture")

	found, err := book.FindUnreadable(t.Context(), path, b.Flora())
	require.NoError(t, err)
	require.Len(t, found, 1)
	require.Equal(t, "LC-2", found[0].Tag)
	_, err = undone(t, b, bad, story.Steps[2].Entry, "")
	require.NoError(t, err, "taking the score back makes it readable")
	require.Equal(t, worklist.Unscored, standing(t, b, bad).Status)
}

func status(list *book.TreeList, id string) string {
	for _, l := range list.Trees {
		if l.ID == id {
			return l.Status
		}
	}
	return ""
}

// TestServedWith: the book remembers what it was served with.
func TestServedWith(t *testing.T) {
	t.Parallel()
	path := filepath.Join(t.TempDir(), "book.db")
	with, err := book.ServedWith(t.Context(), path)
	require.NoError(t, err)
	require.Zero(t, with, "there is no book yet")
	b := booktest.At(t, path)
	served := book.Served{Flora: "/flora.yaml", Lists: []string{"/avenue.yaml"}}
	require.NoError(t, b.RememberServed(t.Context(), served))
	with, err = book.ServedWith(t.Context(), path)
	require.NoError(t, err)
	require.Equal(t, served, with)
}

// TestDrawn: what was scored is drawn in the characters' own units, a count with any
// pair as opposite, and without looks that probably were of another tree; the leaders
// are marked in what they differ, and told in words where this tree is otherwise.
func TestDrawn(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	tree, _ := hackberry(t, b, "LC-1")
	l := look(t, b, tree, "tree")
	add(t, b, tree, book.Entry{Kind: "score", Look: l, Score: &book.Score{Character: "bud.length", Typed: "1/2 in"}})
	stray := look(t, b, tree, "fallen")
	add(t, b, tree, book.Entry{Kind: "score", Look: stray, Score: &book.Score{Character: "twig.arrangement", Pairs: to(9), Nodes: to(9)}})
	add(
		t,
		b,
		tree,
		book.Entry{Kind: "score", Look: stray, Score: &book.Score{Character: "twig.pith", States: []string{"solid"}, Certainty: "sure"}},
	)
	add(
		t,
		b,
		tree,
		book.Entry{Kind: "score", Look: stray, Score: &book.Score{Character: "bud.color", States: []string{"near-black"}, Certainty: "sure"}},
	)
	v, err := b.View(t.Context(), tree)
	require.NoError(t, err)
	require.True(t, v.Looks[2].Stranger)
	require.Equal(t, "probably another tree", v.Looks[2].Whose)
	d, err := b.Drawn(t.Context(), tree)
	require.NoError(t, err)
	own := map[string]book.DrawnFrom{}
	for _, s := range d.Own {
		own[s.Character] = s
	}
	require.InDelta(t, 12.7, *own["bud.length"].Value, 1e-9)
	require.Equal(t, "alternate", own["twig.arrangement"].State, "the fallen twig is another's")
	require.NotContains(t, own, "bud.color")
	leader := v.Result.Ranking[0].Taxon
	if leader == answer.Unlisted { // a bud of its length fits none
		leader = v.Result.Ranking[1].Taxon
	}
	require.Equal(t, leader, d.Leaders[0].Name)
	require.Contains(t, d.Leaders[0].Differs, "Bud length: here 13 mm, usually 4.2 mm")
	require.NotEmpty(t, d.Leaders[0].Marked)

	ash := started(t, b, "LC-2")
	add(
		t,
		b,
		ash,
		book.Entry{Kind: "score", Look: look(t, b, ash, "tree"), Score: &book.Score{Character: "twig.arrangement", Pairs: to(2), Nodes: to(6)}},
	)
	d, err = b.Drawn(t.Context(), ash)
	require.NoError(t, err)
	require.Equal(t, "opposite", d.Own[0].State, "any pair at all: broken twigs hide them")
}
