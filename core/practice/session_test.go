package practice_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"palethicket/core/practice"
)

// asking answers cards as they come.
type asking struct {
	t       *testing.T
	deck    []practice.Card
	session practice.Session
	now     time.Time
	reviews []practice.Review
	asked   []string
}

// card is what is asked now, or "".
func (l *asking) card() string {
	s := scheduler(l.t, 0.9)
	st, err := practice.Progress(s, l.reviews)
	require.NoError(l.t, err)
	c, ok := practice.Next(s, l.deck, st, l.asked, l.now, l.session)
	if !ok {
		return ""
	}
	return c.ID()
}

func (l *asking) say(verdict string) string {
	id := l.card()
	require.NotEmpty(l.t, id)
	require.Equal(l.t, id, l.card(), "asked again it is the same")
	l.reviews = append(l.reviews, practice.Review{Card: id, At: l.now, Verdict: verdict, Sure: "fair"})
	l.asked, l.now = append(l.asked, id), l.now.Add(time.Minute)
	return id
}

func twigs(n int) (deck []practice.Card) {
	for i := range n {
		deck = append(deck, practice.Card{Kind: "twig", Taxon: fmt.Sprintf("Acer %03d", i)})
	}
	return deck
}

// TestSession: new cards come one by one, a wrong one comes back after another, and what is
// known rests until it is due.
func TestSession(t *testing.T) {
	t.Parallel()
	l := &asking{t: t, deck: twigs(3), session: practice.Session{New: 2}, now: morning}
	first := l.say(practice.Wrong)
	second := l.say(practice.Right)
	require.NotEqual(t, first, second, "another first")
	require.Equal(t, first, l.say(practice.Right), "it comes back")
	require.Empty(t, l.card(), "two new ones are enough for a day")
	l.session.TillSure = true
	for range 2 {
		l.say(practice.Right)
	}
	require.Empty(t, l.card(), "till sure: each right twice running")
	l.session.TillSure = false
	l.now = morning.AddDate(0, 0, 1)
	require.NotContains(t, []string{first, second, ""}, l.card(), "the next day there are new ones")
	l.now = morning.AddDate(0, 0, 60)
	require.NotEmpty(t, l.card(), "what is known least of what is due")
}

// TestOrderSaysNothing: who knows no tree and names the one that came some cards before is right no
// more often than who names any of the day's cards.
func TestOrderSaysNothing(t *testing.T) {
	t.Parallel()
	const fresh, asked, lags = 12, 400, 10
	l := &asking{t: t, deck: twigs(40), session: practice.Session{By: "Wren Halloran", New: fresh}, now: morning}
	hits := [lags + 1]int{}
	for range asked {
		id := l.say(practice.Wrong)
		for lag := 1; lag <= min(lags, len(l.asked)-1); lag++ {
			if l.asked[len(l.asked)-1-lag] == id {
				hits[lag]++
			}
		}
	}
	for lag, n := range hits {
		require.Less(t, float64(n)/asked, 1.0/fresh+0.08, "cards that came %d before", lag)
	}
}

// TestNewCardsComeToEachInAnotherOrder, and the common trees before the rare all the same.
func TestNewCardsComeToEachInAnotherOrder(t *testing.T) {
	t.Parallel()
	begun := func(by string) []string {
		l := &asking{t: t, deck: twigs(200), session: practice.Session{By: by, New: 40}, now: morning}
		for range 40 {
			l.say(practice.Right)
		}
		return l.asked
	}
	one, other := begun("Wren Halloran"), begun("Tobias Okafor")
	require.NotEqual(t, one, other)
	for _, id := range append(one, other...) {
		require.Less(t, id, "twig:Acer 064", "a card comes 24 places later at most")
	}
}
