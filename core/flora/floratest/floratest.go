// Package floratest gives tests the shipped flora, read once for all tests of a package.
package floratest

import (
	"sync"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora"
	files "palethicket/flora"
)

// Load reads the shipped flora, once.
var Load = sync.OnceValues(func() (*flora.Flora, error) { return flora.Load(files.Files) })

// Shipped is the shipped flora. Tests share it: none may change it.
func Shipped(t testing.TB) *flora.Flora {
	t.Helper()
	f, err := Load()
	require.NoError(t, err)
	return f
}
