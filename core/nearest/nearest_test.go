package nearest_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/nearest"
)

func TestOf(t *testing.T) {
	known := []string{"opposite", "alternate", "whorled", "subopposite"}
	for word, want := range map[string]string{
		"oposite": "opposite", "alternat": "alternate", "wholred": "whorled", "sub-opposite": "subopposite",
		"zzzzzzzz": "", "opposite": "opposite",
	} {
		require.Equal(t, want, nearest.Of(word, known), word)
	}
	require.Equal(t, "ab", nearest.Of("aa", []string{"ab", "ba"}), "of equally close words the first")
	require.Empty(t, nearest.Of("oak", nil))
}

func TestUnknown(t *testing.T) {
	known := []string{"bark", "twig"}
	require.NoError(t, nearest.Unknown("section", "bark", known))
	require.EqualError(t, nearest.Unknown("section", "barks", known), `unknown section "barks"; did you mean "bark"?`)
	require.EqualError(t, nearest.Unknown("section", "inflorescence", known), `unknown section "inflorescence"`)
}
