package flora_test

import (
	"github.com/stretchr/testify/require"
	"palethicket/core/flora"
	files "palethicket/flora"
	"testing"
)

func TestX(t *testing.T) {
	f, err := flora.Load(files.Files)
	require.NoError(t, err)
	t.Log(len(f.Taxa))
	for _, x := range f.Taxa {
		t.Log(x.Name, x.Known())
	}
}
