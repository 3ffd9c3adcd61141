package book_test

import (
	"strings"
	"testing"
	"time"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"

	"palethicket/book"
	"palethicket/book/booktest"
)

var twigs = book.Deck{Among: book.Among{Region: "eastern-north-america"}, Kinds: []string{"twig"}, New: 3}

// TestPractice: a card is asked without saying whose it is, judged, kept under its person,
// and asked again when it is due; another's cards are their own.
func TestPractice(t *testing.T) {
	t.Parallel()
	now := time.Date(2026, 11, 20, 9, 0, 0, 0, time.UTC)
	opt := booktest.Options(t)
	opt.Now = func() time.Time { return now }
	b := booktest.Opened(t, t.TempDir()+"/book.db", opt)
	const wren, tobias = "Wren Halloran", "Tobias Okafor"

	card, err := b.AskCard(t.Context(), wren, twigs)
	require.NoError(t, err)
	require.Equal(t, "twig", card.Kind)
	require.Greater(t, card.Fresh, 100)
	drawn, err := b.DrawCard(t.Context(), wren, card.ID, "light", false)
	require.NoError(t, err)
	require.Contains(t, string(drawn.Body), "Twig of a tree")
	for _, l := range must(b.Taxa(twigs.Among, nil)) {
		require.NotContains(t, string(drawn.Body), l.Name, "whose it is stays hidden")
	}
	_, err = b.DrawCard(t.Context(), tobias, card.ID, "light", false)
	require.ErrorIs(t, err, book.ErrNotAsked, "another's card")

	_, err = b.AnswerCard(t.Context(), wren, card.ID, &book.CardAnswer{Rank: "species", Name: "Quercus nulla", Sure: "sure"}, 0)
	require.ErrorContains(t, err, "choose a name from the list")
	v, err := b.AnswerCard(t.Context(), wren, card.ID, &book.CardAnswer{Rank: "species", Name: "Pinus strobus", Sure: "sure", Seconds: 4}, 0)
	require.NoError(t, err)
	require.Equal(t, "wrong", v.Verdict)
	require.Equal(t, "Pinus strobus", v.Other)
	require.NotEmpty(t, v.Tells)
	_, err = b.AnswerCard(t.Context(), wren, card.ID, &book.CardAnswer{}, 0)
	require.ErrorIs(t, err, book.ErrNotAsked, "said twice counts once")

	next, err := b.AskCard(t.Context(), wren, twigs)
	require.NoError(t, err)
	require.Equal(t, 1, next.Due, "what was wrong comes back")
	require.Equal(t, 1, must(b.DueCards(t.Context(), wren, 0)))
	require.Zero(t, must(b.DueCards(t.Context(), tobias, 0)))
	v2, err := b.AnswerCard(t.Context(), wren, next.ID, &book.CardAnswer{}, 0)
	require.NoError(t, err)
	require.Equal(t, "not known", v2.Verdict)
	require.Equal(t, "pair", next.Kind, "a confusion makes a card of its own")

	f, err := b.Practised(t.Context(), wren, 0)
	require.NoError(t, err)
	require.Equal(t, 2, f.Reviews)
	require.Equal(t, "Pinus strobus", f.Taken[0].For)
	theirs, err := b.Practised(t.Context(), tobias, 0)
	require.NoError(t, err)
	require.Zero(t, theirs.Reviews)
	require.NoError(t, b.ForgetPractice(t.Context(), wren))
	f, err = b.Practised(t.Context(), wren, 0)
	require.NoError(t, err)
	require.Zero(t, f.Reviews)
}

// TestPracticeTillDue: what is known rests until its day.
func TestPracticeTillDue(t *testing.T) {
	t.Parallel()
	now := time.Date(2026, 11, 20, 9, 0, 0, 0, time.UTC)
	opt := booktest.Options(t)
	opt.Now = func() time.Time { return now }
	b := booktest.Opened(t, t.TempDir()+"/book.db", opt)
	deck := twigs
	deck.New = 1
	card, err := b.AskCard(t.Context(), "", deck)
	require.NoError(t, err)
	v, err := b.AnswerCard(t.Context(), "", card.ID, &book.CardAnswer{}, 0)
	require.NoError(t, err)
	_, name, _ := strings.Cut(v.Carries, ": ")
	card, err = b.AskCard(t.Context(), "", deck)
	require.NoError(t, err)
	for _, r := range []string{"species", "group", "genus", "family"} {
		if v2, err := b.AnswerCard(t.Context(), "", card.ID, &book.CardAnswer{Rank: r, Name: name, Sure: "sure", Seconds: 3}, 0); err == nil {
			require.Contains(t, []string{"right", "not far enough", "too far"}, v2.Verdict, "true, whatever this individual carries")
			break
		}
	}
	card, err = b.AskCard(t.Context(), "", deck)
	require.NoError(t, err)
	require.Empty(t, card.ID, "nothing is due, and one new card was enough")
	require.NotEmpty(t, card.Next)
	now = now.AddDate(0, 0, 1)
	card, err = b.AskCard(t.Context(), "", deck)
	require.NoError(t, err)
	require.NotEmpty(t, card.ID, "another day")
}

// TestDeckByADay: a deck with a date says how many new cards a day it takes.
func TestDeckByADay(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	d := book.KeptDeck{ID: ulid.Make().String(), Name: "By the end of next week", Among: book.Among{Region: "eastern-north-america"},
		Taxa: []string{"Acer rubrum", "Acer saccharum", "Fagus grandifolia", "Carya ovata"}, Until: time.Now().AddDate(0, 0, 3).Format(time.DateOnly)}
	require.NoError(t, b.PutDeck(t.Context(), d, "Wren Halloran", false))
	c, err := b.AskCard(t.Context(), "Wren Halloran", book.Deck{Kinds: []string{"twig", "bark"}, Kept: d.ID, New: 20})
	require.NoError(t, err)
	require.Equal(t, 8, c.Fresh)
	require.Equal(t, d.Until, c.Until)
	require.GreaterOrEqual(t, c.Daily, 2)
	require.LessOrEqual(t, c.Daily, 3)
}

// TestQuizKeyGoesAsFarAsTheCards: the key of a printed sheet carries each name as far as the same card does at the desk. Bark tells
// shagbark hickory from all others, and of a red maple that it is a maple (common practice).
func TestQuizKeyGoesAsFarAsTheCards(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	deck := book.Deck{Among: twigs.Among, Kinds: []string{"bark"}, Taxa: []string{"Acer rubrum", "Carya ovata"}}
	q, err := b.Quiz(t.Context(), "Wren Halloran", deck, 2, 3)
	require.NoError(t, err)
	var key []string
	for _, item := range q.Items {
		key = append(key, item.Answer)
	}
	require.ElementsMatch(t, []string{"Red maple (Acer rubrum); as far as it shows: to genus Acer",
		"Shagbark hickory (Carya ovata); as far as it shows: to species Carya ovata"}, key)
}

// TestWrongGenusIsHeldBesideItsCommonestTree: whoever says "oak" of a maple is shown a maple beside the oak that is met most.
func TestWrongGenusIsHeldBesideItsCommonestTree(t *testing.T) {
	t.Parallel()
	b := booktest.New(t)
	deck := book.Deck{Among: twigs.Among, Kinds: []string{"twig"}, Taxa: []string{"Acer saccharinum", "Acer rubrum"}, New: 1}
	card, err := b.AskCard(t.Context(), "", deck)
	require.NoError(t, err)
	v, err := b.AnswerCard(t.Context(), "", card.ID, &book.CardAnswer{Rank: "genus", Name: "Quercus", Sure: "sure", Seconds: 4}, 0)
	require.NoError(t, err)
	require.Equal(t, "wrong", v.Verdict)
	common := map[string]string{}
	for _, l := range must(b.Taxa(twigs.Among, nil)) {
		common[l.Name] = l.Common
	}
	require.Equal(t, "Quercus", strings.Fields(v.Other)[0])
	require.Equal(t, "abundant", common[v.Other], "not just any oak")
	require.NotEmpty(t, v.OtherIs)
	require.NotEmpty(t, v.Tells, "what tells the two apart")
}
