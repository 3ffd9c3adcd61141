package book_test

import (
	"testing"
	"time"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
)

// TestOwnErrors: an observer who misreads half of the words has their look count for less, beside the usual
// ranking, which stays; of whom nothing is known, or who does not share it, the usual rates are taken.
func TestOwnErrors(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	const ines = "Ines Varga"
	tree := ulid.Make().String()
	_, err := b.AddTree(t.Context(), book.NewTree{ID: tree, Tag: "LC-1", Tract: "T", Stand: "S", By: ines})
	require.NoError(t, err)
	look := ulid.Make().String()
	for _, e := range []book.Entry{{ID: look, Kind: "look", From: "tree", By: ines},
		{ID: ulid.Make().String(), Kind: "score", Look: look, By: ines,
			Score: &book.Score{Character: "bark.texture", States: []string{"papery-curls"}, Certainty: "sure"}}} {
		_, err := b.AddEntry(t.Context(), tree, &e)
		require.NoError(t, err)
	}
	usual, err := b.View(t.Context(), tree)
	require.NoError(t, err)
	own, err := b.OwnErrors(t.Context(), tree, "", true)
	require.NoError(t, err)
	require.Empty(t, own.Observers)
	require.Equal(t, []string{ines}, own.Without)
	require.InDelta(t, usual.Result.Ranking[0].Posterior, own.Ranking[0].Posterior, 1e-12)

	var answers []book.PracticeAnswer
	for i := range 60 {
		verdict := "right"
		if i%2 == 0 {
			verdict = "wrong"
		}
		answers = append(answers, book.PracticeAnswer{ID: ulid.Make().String(), Card: "word:bark.texture=smooth", At: time.Now(), Sure: "sure", Verdict: verdict})
	}
	_, err = b.TakeAnswers(t.Context(), ines, answers)
	require.NoError(t, err)
	own, err = b.OwnErrors(t.Context(), tree, "Wren Halloran", false)
	require.NoError(t, err)
	require.Empty(t, own.Observers, "she does not share it")
	require.NoError(t, b.SharePractice(t.Context(), ines, true))
	own, err = b.OwnErrors(t.Context(), tree, "Wren Halloran", false)
	require.NoError(t, err)
	require.InDelta(t, (30+20*0.02)/80, own.Observers[0].Sure, 1e-12)
	require.Less(t, own.Ranking[0].Posterior, usual.Result.Ranking[0].Posterior)
	require.NotEmpty(t, own.Changes)
	after, err := b.View(t.Context(), tree)
	require.NoError(t, err)
	require.Equal(t, usual.Result.Ranking, after.Result.Ranking, "the usual stays")
}

// TestDecks: a deck of a stand has what grows there; one of one tree, and one of an empty stand, are refused; a
// crew's deck is a lead's; another's own is not seen.
func TestDecks(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	among := book.Among{Region: "eastern-north-america"}
	deck := func(change func(*book.KeptDeck)) book.KeptDeck {
		d := book.KeptDeck{ID: ulid.Make().String(), Name: "These by December", Among: among, Taxa: []string{"Acer rubrum", "Acer saccharum"}}
		change(&d)
		return d
	}
	for what, c := range map[string]struct {
		deck book.KeptDeck
		says string
	}{
		"one tree":       {deck(func(d *book.KeptDeck) { d.Taxa = d.Taxa[:1] }), "fewer than two trees"},
		"unknown":        {deck(func(d *book.KeptDeck) { d.Taxa[0] = "Acer nullum" }), "Acer nullum"},
		"an empty stand": {deck(func(d *book.KeptDeck) { d.Taxa, d.Tract, d.Stand = nil, "T", "Nowhere" }), "nothing grows in that stand"},
		"a day":          {deck(func(d *book.KeptDeck) { d.Until = "soon" }), "until"},
		"the crew's":     {deck(func(d *book.KeptDeck) { d.Crew = true }), "set by a lead"},
	} {
		require.ErrorContains(t, b.PutDeck(t.Context(), c.deck, "Ines", false), c.says, what)
	}
	mine, crews := deck(func(*book.KeptDeck) {}), deck(func(d *book.KeptDeck) { d.Crew, d.Until = true, "2026-12-24" })
	require.NoError(t, b.PutDeck(t.Context(), mine, "Ines", false))
	require.NoError(t, b.PutDeck(t.Context(), crews, "Wren", true))
	seen := func(who string) int {
		all, err := b.Decks(t.Context(), who)
		require.NoError(t, err)
		return len(all)
	}
	require.Equal(t, []int{2, 1}, []int{seen("Ines"), seen("Tobias")})
	card, err := b.AskCard(t.Context(), "Ines", book.Deck{Kinds: []string{"twig"}, New: 5, Kept: mine.ID})
	require.NoError(t, err)
	require.Equal(t, 2, card.Fresh)
	_, err = b.AskCard(t.Context(), "Tobias", book.Deck{Kinds: []string{"twig"}, New: 5, Kept: mine.ID})
	require.ErrorIs(t, err, book.ErrNoDeck)
	require.ErrorIs(t, b.DropDeck(t.Context(), crews.ID, "Ines", false), book.ErrNoDeck)
	require.NoError(t, b.DropDeck(t.Context(), crews.ID, "Odile", true))
	require.NoError(t, b.DropDeck(t.Context(), mine.ID, "Ines", false))
}
