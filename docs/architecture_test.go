// Package docs holds the documents to the code.
package docs

import (
	"os"
	"os/exec"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

func page(t *testing.T, name string) string {
	t.Helper()
	text, err := os.ReadFile(name)
	require.NoError(t, err)
	return string(text)
}

// TestTheWalkIsTrue finds every file that the walk names, and in it what it says is there.
func TestTheWalkIsTrue(t *testing.T) {
	t.Parallel()
	stops := 0
	var file string
	for _, m := range regexp.MustCompile("`([^`]+)`").FindAllStringSubmatch(page(t, "architecture.md"), -1) {
		word := m[1]
		switch {
		case regexp.MustCompile(`^(ui|web|book|store|core|flora)/[\w./-]+\.(go|ts|vue|yaml)$`).MatchString(word):
			file = page(t, "../"+word)
		case regexp.MustCompile(`^[A-Za-z-]+$`).MatchString(word) && file != "" && !strings.HasPrefix(word, "ui"):
			if regexp.MustCompile(`func (\([^)]*\) )?` + word + `\b|(const|function) ` + word + `\b|function ` + word + `\(|"` + word + `"`).
				MatchString(file) {
				stops++
				continue
			}
			require.Contains(t, []string{"standing", "trees", "stands", "flora", "files", "crew", "plates", "frame", "demo", "report"}, word,
				"it is not where the page says")
		default:
			file = ""
		}
	}
	require.Greater(t, stops, 20)
}

// TestTheGraphIsTrue holds the imports that the page lists against go list's.
func TestTheGraphIsTrue(t *testing.T) {
	t.Parallel()
	cmd := exec.Command("go", "list", "-f", `{{.ImportPath}} {{join .Imports " "}}`, "./...")
	cmd.Dir = ".."
	out, err := cmd.Output()
	require.NoError(t, err)
	listed := page(t, "architecture.md")
	lines := 0
	for _, line := range strings.Split(strings.TrimSpace(string(out)), "\n") {
		words := strings.Fields(line)
		me := strings.TrimPrefix(words[0], "palethicket/")
		var ours []string
		for _, w := range words[1:] {
			if short, ok := strings.CutPrefix(w, "palethicket/"); ok {
				ours = append(ours, short)
			}
		}
		if len(ours) == 0 || strings.HasSuffix(me, "test") {
			continue
		}
		lines++
		require.Contains(t, listed, "\n"+me+" -> "+strings.Join(ours, " ")+"\n")
	}
	require.Equal(t, strings.Count(listed, " -> "), lines, "the page lists what is no more")
}
