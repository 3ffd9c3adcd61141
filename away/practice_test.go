package away_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"palethicket/book"
)

// answer has somebody answer a card as not known.
func answer(t testing.TB, b *book.Book, by string) {
	t.Helper()
	card, err := b.AskCard(t.Context(), by, book.Deck{Among: book.Among{Region: "eastern-north-america"}, Kinds: []string{"twig"}, New: 50})
	require.NoError(t, err)
	_, err = b.AnswerCard(t.Context(), by, card.ID, &book.CardAnswer{Seconds: 3}, 0)
	require.NoError(t, err)
}

// TestPracticeMeets: somebody practises one deck at home and on two devices; once all have met, each
// knows every answer, once, and the same is due everywhere; another's stay their own.
func TestPracticeMeets(t *testing.T) {
	t.Parallel()
	const wren = "Wren Halloran"
	h := newHome(t, true)
	now := time.Now()
	clock := func() time.Time { return now }
	one, two := h.along(wren, clock), h.along(wren, clock)
	answer(t, h.book, "Tobias Okafor")
	for range 3 {
		answer(t, h.book, wren)
		answer(t, one.book, wren)
		answer(t, two.book, wren)
		answer(t, two.book, wren)
	}
	for range 2 {
		one.meet()
		two.meet()
		now = now.Add(10 * time.Minute)
	}
	one.meet()
	want, err := h.book.Answers(t.Context(), wren)
	require.NoError(t, err)
	require.Len(t, want, 12)
	for _, d := range []*device{one, two} {
		got, err := d.book.Answers(t.Context(), wren)
		require.NoError(t, err)
		require.Equal(t, want, got)
		others, err := d.book.Practisers(t.Context())
		require.NoError(t, err)
		require.Equal(t, []string{wren}, others)
		due, err := d.book.DueCards(t.Context(), wren, 0)
		require.NoError(t, err)
		home, err := h.book.DueCards(t.Context(), wren, 0)
		require.NoError(t, err)
		require.Equal(t, home, due)
	}
}

// TestAnswersRefused: what nobody could have answered is refused with which it is; a clock that is ahead
// does not rule.
func TestAnswersRefused(t *testing.T) {
	t.Parallel()
	h := newHome(t, false)
	good := book.PracticeAnswer{
		ID:      "01K0000000000000000000000A",
		Card:    "twig:Acer rubrum",
		At:      time.Now().AddDate(30, 0, 0),
		Verdict: "right",
		Sure:    "sure",
	}
	for field, bad := range map[string]func(*book.PracticeAnswer){
		"answers[1].id":      func(a *book.PracticeAnswer) { a.ID = "7" },
		"answers[1].card":    func(a *book.PracticeAnswer) { a.Card = "root" },
		"answers[1].verdict": func(a *book.PracticeAnswer) { a.Verdict = "splendid" },
	} {
		a := good
		bad(&a)
		_, err := h.book.TakeAnswers(t.Context(), "Ilse", []book.PracticeAnswer{good, a})
		require.ErrorContains(t, err, field)
	}
	none, err := h.book.Answers(t.Context(), "Ilse")
	require.NoError(t, err)
	require.Empty(t, none, "all or nothing")
	taken, err := h.book.TakeAnswers(t.Context(), "Ilse", []book.PracticeAnswer{good, good})
	require.NoError(t, err)
	require.Equal(t, 1, taken)
	kept, err := h.book.Answers(t.Context(), "Ilse")
	require.NoError(t, err)
	require.True(t, kept[0].At.Before(time.Now().Add(time.Minute)))
}
