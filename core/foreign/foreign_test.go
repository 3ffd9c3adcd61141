package foreign_test

import (
	"errors"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/foreign"
)

func TestRead(t *testing.T) {
	n, err := foreign.Read("the file", func() (int, error) { return 3, nil })
	require.NoError(t, err)
	require.Equal(t, 3, n)
	wrong := errors.New("wrong")
	_, err = foreign.Read("the file", func() (int, error) { return 0, wrong })
	require.ErrorIs(t, err, wrong)
	n, err = foreign.Read("the file", func() (int, error) { return []int{}[len(wrong.Error())], nil })
	require.EqualError(t, err, "the file is damaged in a way that cannot be read: save it anew with the program it came from")
	require.Zero(t, n)
	var damaged *foreign.Damaged
	require.ErrorAs(t, err, &damaged)
	require.Contains(t, string(damaged.Stack), "foreign_test")
}
