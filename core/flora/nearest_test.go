package flora_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora"
)

func TestNearest(t *testing.T) {
	known := []string{"opposite", "alternate", "whorled", "subopposite"}
	for word, want := range map[string]string{
		"oposite": "opposite", "alternat": "alternate", "wholred": "whorled", "sub-opposite": "subopposite",
		"zzzzzzzz": "", "opposite": "opposite",
	} {
		require.Equal(t, want, flora.Nearest(word, known), word)
	}
	require.Equal(t, "ab", flora.Nearest("aa", []string{"ab", "ba"}), "of equally close words the first")
	require.Empty(t, flora.Nearest("oak", nil))
}

func TestUnknownWord(t *testing.T) {
	known := []string{"bark", "twig"}
	require.NoError(t, flora.UnknownWord("section", "bark", known))
	require.EqualError(t, flora.UnknownWord("section", "barks", known), `unknown section "barks"; did you mean "bark"?`)
	require.EqualError(t, flora.UnknownWord("section", "inflorescence", known), `unknown section "inflorescence"`)
}
