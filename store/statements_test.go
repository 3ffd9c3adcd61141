package store_test

import (
	"fmt"
	"sync"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/store"
)

// TestStatementsAreKeptReady writes from eight sides at once, each with statements
// that are not ready yet: none waits for another's, and all is written.
func TestStatementsAreKeptReady(t *testing.T) {
	t.Parallel()
	s, ctx := openNew(t), t.Context()
	before := s.Ready()
	var wg sync.WaitGroup
	errs := make([]error, 8)
	for i := range errs {
		wg.Go(func() {
			errs[i] = s.Write(ctx, func(tx *store.Tx) error { return tx.PutSetting(ctx, fmt.Sprint("side ", i), fmt.Sprint(i)) })
		})
	}
	wg.Wait()
	for i, err := range errs {
		require.NoError(t, err)
		value, err := s.Setting(ctx, fmt.Sprint("side ", i))
		require.NoError(t, err)
		require.Equal(t, fmt.Sprint(i), value)
	}
	require.LessOrEqual(t, s.Ready(), before+1, "the same statement is kept once")
	require.Positive(t, s.Ready())

	require.Error(t, s.Write(ctx, func(tx *store.Tx) error {
		require.NoError(t, tx.PutSetting(ctx, "side 0", "lost"))
		return store.ErrChanged
	}))
	value, err := s.Setting(ctx, "side 0")
	require.NoError(t, err)
	require.Equal(t, "0", value, "a statement that was ready is taken back with its change")
}
