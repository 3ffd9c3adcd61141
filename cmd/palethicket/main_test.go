package main

import (
	"bytes"
	"testing"

	"github.com/alecthomas/kong"
	"github.com/stretchr/testify/require"
)

// TestWhatIsTyped: places south and west are no flags, what is typed wrongly says where help is, and help
// lists the words that a flag takes.
func TestWhatIsTyped(t *testing.T) {
	t.Parallel()
	require.Equal(t, []string{"light", "--at=-33.9,151.2", "--date", "2026-12-21"}, signed([]string{"light", "--at", "-33.9,151.2", "--date", "2026-12-21"}))
	require.Equal(t, []string{"identify", "--in", "-", "--out", "--next"}, signed([]string{"identify", "--in", "-", "--out", "--next"}))
	for typed, says := range map[string]string{
		"lihgt": `did you mean "light"?; see palethicket --help`,
		"--bad": "unknown flag --bad; see palethicket --help",
	} {
		_, err := reader(t.Context()).Parse([]string{typed})
		require.ErrorContains(t, err, "")
		require.Contains(t, err.Error()+more(err), says)
	}
	_, err := reader(t.Context()).Parse([]string{"key", "--format", "docx"})
	require.Contains(t, err.Error()+more(err), "see palethicket key --help")

	var out bytes.Buffer
	help := reader(t.Context(), kong.Writers(&out, &out), kong.Exit(func(int) {}))
	_, _ = help.Parse([]string{"key", "--help"})
	require.Regexp(t, `One of whole, bark,\s+twig`, out.String())
	require.Contains(t, version(), "palethicket")
}
