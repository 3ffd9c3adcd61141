package stamp_test

import (
	"sync"
	"testing"
	"time"

	"github.com/oklog/ulid/v2"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"palethicket/core/tree/stamp"
)

// TestText: stamps sort as text as they are ordered, and read back.
func TestText(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		draw := func() (int64, int) {
			return rapid.Int64Range(0, 1<<48-1).Draw(t, "millis"), rapid.IntRange(0, 65535).Draw(t, "counter")
		}
		ma, ca := draw()
		mb, cb := draw()
		a, b := stamp.New(ma, ca, "A"), stamp.New(mb, cb, "A")
		require.Equal(t, ma < mb || ma == mb && ca < cb, a < b)
		require.Equal(t, ma, a.Time().UnixMilli())
		got, err := stamp.Parse(string(a))
		require.NoError(t, err)
		require.Equal(t, a, got)
	})
}

func TestNoStamp(t *testing.T) {
	for _, text := range []string{"", "x", "01KB0000000000", "01KB0000000000.", "01KB0000000000.a", "01kb0000000000.A", "01KB000000000g.A",
		"ZZZZZZZZZZ0000.A", "01KB0000000000.AAAAAAAAAAAAAAAAAAAAAAAAAAA", "01KB0000000000-A"} {
		_, err := stamp.Parse(text)
		require.ErrorIs(t, err, stamp.ErrNoStamp, text)
	}
	require.True(t, stamp.Stamp("").Time().IsZero())
	require.Empty(t, stamp.OfID("LC-1"))
}

// TestOfID is ordered as ids of one millisecond and another are.
func TestOfID(t *testing.T) {
	at := time.UnixMilli(1_763_000_000_123)
	id := ulid.MustNew(ulid.Timestamp(at), ulid.DefaultEntropy()).String()
	require.Equal(t, at.UTC(), stamp.OfID(id).Time())
	_, err := stamp.Parse(string(stamp.OfID(id)))
	require.NoError(t, err)
	require.Less(t, stamp.OfID(id), stamp.New(at.UnixMilli(), 0, "A1"))
}

// TestClock: each stamp is later than all given and seen, with any clock.
func TestClock(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		now := time.UnixMilli(1_763_000_000_000)
		c := stamp.NewClock("A", func() time.Time { return now })
		last := stamp.Stamp("")
		for range rapid.IntRange(1, 30).Draw(t, "steps") {
			now = now.Add(time.Duration(rapid.IntRange(-5, 5).Draw(t, "tick")) * time.Millisecond)
			seen := stamp.New(now.UnixMilli()+rapid.Int64Range(-20, 20).Draw(t, "off"), rapid.IntRange(0, 65535).Draw(t, "counter"), "B")
			got := c.After(seen)
			require.Greater(t, got, seen)
			require.Greater(t, got, last)
			last = got
		}
	})
}

// TestClockThatStands: a clock that stands still runs out of counts, not of stamps.
func TestClockThatStands(t *testing.T) {
	at := time.UnixMilli(7)
	require.Equal(t, stamp.New(8, 0, "A"), stamp.New(7, 65535, "B").After(at, "A"))
	c := stamp.NewClock("A", func() time.Time { return at })
	var mu sync.Mutex
	given := map[stamp.Stamp]bool{}
	var wg sync.WaitGroup
	for range 8 {
		wg.Go(func() {
			for range 200 {
				s := c.After()
				mu.Lock()
				given[s] = true
				mu.Unlock()
			}
		})
	}
	wg.Wait()
	require.Len(t, given, 1600)
}
