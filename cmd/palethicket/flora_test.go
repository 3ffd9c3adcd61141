package main

import (
	"io"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora"
)

// printed gives what a command writes to standard output.
func printed(t *testing.T, run func() error) (string, error) {
	r, w, err := os.Pipe()
	require.NoError(t, err)
	stdout := os.Stdout
	os.Stdout = w
	text := make(chan string)
	go func() {
		all, _ := io.ReadAll(r)
		text <- string(all)
	}()
	err = run()
	os.Stdout = stdout
	require.NoError(t, w.Close())
	return <-text, err
}

func writeTemp(t *testing.T, name, text string) string {
	path := filepath.Join(t.TempDir(), name)
	require.NoError(t, os.WriteFile(path, []byte(text), 0o600))
	return path
}

func TestFloraCheckIsClean(t *testing.T) {
	out, err := printed(t, (&floraCheckCmd{}).Run)
	require.NoError(t, err, out)
	require.Contains(t, out, "346 taxa")
}

func TestFloraCheckSaysWhatToCorrect(t *testing.T) {
	own := writeTemp(t, "own.yaml", `genera:
  - genus: Tilia
    english: basswood
    family: Malvaceae
    sources: [trelease]
    taxa:
      - name: Tilia heterophylla
        english: [white basswood]
        abundance: {eastern-north-america: rare}
        status: {eastern-north-america: native}
        values:
          twig.arrangement: alternate
          bud.shape: {egg: rarely}
      - name: Tilia americana
        english: [American basswood]
        abundance: {eastern-north-america: common}
        status: {eastern-north-america: native}
        values:
          twig.arrangement: alternate
`)
	out, err := printed(t, (&floraCheckCmd{floraFlag{Flora: own}}).Run)
	require.ErrorContains(t, err, "things to correct")
	require.Contains(t, out, "2 taxa")
	require.Contains(t, out, "Tilia heterophylla: no height is written")
	require.Contains(t, out, "the frequency words add up to 0.08")

	_, err = printed(t, (&floraCheckCmd{floraFlag{Flora: own + ".none"}}).Run)
	require.ErrorContains(t, err, "reading the flora")
}

func TestFloraSources(t *testing.T) {
	out, err := printed(t, (&floraSourcesCmd{}).Run)
	require.NoError(t, err)
	require.Contains(t, out, "from memory")
	require.Regexp(t, `followed for \d+ taxa`, out)
}

func TestFloraCoverage(t *testing.T) {
	t.Parallel()
	path := filepath.Join(t.TempDir(), "coverage.svg")
	require.NoError(t, (&floraCoverageCmd{Out: path}).Run())
	text, err := os.ReadFile(path)
	require.NoError(t, err)
	require.True(t, strings.HasPrefix(string(text), "<svg"))
	require.Contains(t, string(text), "Quercus rubra")
}

// TestListGoesOutAndComesBack: what `flora list` writes, `--list` reads.
func TestListGoesOutAndComesBack(t *testing.T) {
	out, err := printed(t, (&floraListCmd{Region: "british-isles", Name: "Pump house", Format: "yaml"}).Run)
	require.NoError(t, err)
	f, err := (&floraFlag{Lists: []string{writeTemp(t, "list.yaml", out)}}).load()
	require.NoError(t, err)
	require.Equal(t, []string{"Pump house"}, f.ListNames())
	whole, err := f.Pool(flora.PoolKey{Among: flora.Among{Region: "british-isles"}, Age: flora.At(flora.Mature)})
	require.NoError(t, err)
	own, err := f.Pool(flora.PoolKey{Among: flora.Among{List: "Pump house"}, Age: flora.At(flora.Mature)})
	require.NoError(t, err)
	require.Equal(t, whole.Model.Prior(), own.Model.Prior())

	csv, err := printed(t, (&floraListCmd{Region: "british-isles", Name: "Pump house", Format: "csv"}).Run)
	require.NoError(t, err)
	require.Contains(t, csv, "Quercus robur")

	_, err = printed(t, (&floraListCmd{Region: "nowhere", Format: "csv"}).Run)
	require.ErrorContains(t, err, `no trees of "nowhere"`)
	_, err = (&floraFlag{Lists: []string{writeTemp(t, "list.yaml", "name: ours\ntrees: 3\n")}}).load()
	require.ErrorContains(t, err, "list.yaml")
}

func TestFloraAccuracy(t *testing.T) {
	if testing.Short() {
		t.Skip("make nightly runs it")
	}
	t.Parallel()
	path := filepath.Join(t.TempDir(), "accuracy.md")
	cmd := &floraAccuracyCmd{Each: 2, Out: path}
	require.NoError(t, cmd.Run())
	text, err := os.ReadFile(path)
	require.NoError(t, err)
	require.Contains(t, string(text), "were among the first 179 taxa")

	cmd.Cases = writeTemp(t, "cases.yaml", "cases: 3\n")
	require.Error(t, cmd.Run())
}

// TestCasesComeAlong: the cases that accuracy is judged by come with the program, wherever it is run.
func TestCasesComeAlong(t *testing.T) {
	t.Chdir(t.TempDir())
	for _, shipped := range []string{"handbook.yaml", "handbook-more.yaml"} {
		cases, err := readCases("", shipped)
		require.NoError(t, err)
		require.Greater(t, len(cases), 50, shipped)
	}
	first, err := readTaxa("", "first-list.txt")
	require.NoError(t, err)
	require.Len(t, first, 179)
	_, err = readCases("none.yaml", "handbook.yaml")
	require.ErrorContains(t, err, "none.yaml", "a file that is named is the one that is read")
}
