package label_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"palethicket/core/label"
)

func TestClean(t *testing.T) {
	for text, want := range map[string]string{
		"LC-1":                             "LC-1",
		"  Creek \u00a0\t bottom\u3000":    "Creek bottom",
		"LC\u200b-1":                       "LC-1",
		"\u202eLC-1\u202c":                 "LC-1",
		"Cafe\u0301 slope":                 "Caf\u00e9 slope",
		"\ufeffNorth\u2028slope":           "North slope",
		"oak\ufe0f":                        "oak",
		"e\u200d\u0301":                    "\u00e9",
		"\u3164Pump\u2800house":            "Pump house",
		"Żółwi Las 3":                      "Żółwi Las 3",
		strings.Repeat("ä", label.TagMost): strings.Repeat("ä", label.TagMost),
	} {
		got, err := label.Clean(text, label.TagMost)
		require.NoError(t, err, "%q", text)
		require.Equal(t, want, got)
	}
	for text, says := range map[string]string{
		"":                                   "empty",
		" \u200b\u3164\t":                    "empty",
		"LC\ufffd1":                          "could not be read",
		"LC\xff":                             "could not be read",
		"LC\x00-1":                           "U+0000",
		"LC\x1b[31m":                         "U+001B",
		"\ue000":                             "U+E000",
		"\uffff":                             "U+FFFF",
		strings.Repeat("x", label.TagMost+1): "41 letters; at most 40",
	} {
		_, err := label.Clean(text, label.TagMost)
		require.ErrorContains(t, err, says, "%q", text)
	}
}

// TestCleanIsClean: what was cleaned stays as it is, and has nothing that cannot be
// seen in it.
func TestCleanIsClean(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		clean, err := label.Clean(rapid.String().Draw(t, "text"), 1000)
		if err != nil {
			return
		}
		again, err := label.Clean(clean, 1000)
		require.NoError(t, err)
		require.Equal(t, clean, again)
		require.Equal(t, strings.TrimSpace(clean), clean)
	})
}

func TestNext(t *testing.T) {
	for last, next := range map[string]string{
		"LC-401": "LC-402", "LC-009": "LC-010", "99": "100", "7b": "8b", "2026-7": "2026-8", "oak": "oak 2", "": "1",
		strings.Repeat("9", label.TagMost): "1", strings.Repeat("ä", label.TagMost): "1",
	} {
		require.Equal(t, next, label.Next(last), "after %q", last)
	}
}
