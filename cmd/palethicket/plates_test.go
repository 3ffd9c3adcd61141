package main

import (
	"context"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

// TestPlates writes drawings to files, to a labelled sheet, and to one without names.
func TestPlates(t *testing.T) {
	dir := t.TempDir()
	two := []string{"Quercus alba", "Platanus ×hispanica"}
	kinds := []string{"twig", "bark", "outline"}
	ask := func(c platesCmd) (string, error) {
		c.Age, c.Zone, c.Theme, c.Kind = "mature", "breast", "light", kinds
		return printed(t, func() error { return c.Run(t.Context()) })
	}
	out, err := ask(platesCmd{Out: filepath.Join(dir, "all"), Taxa: two})
	require.NoError(t, err)
	require.Contains(t, out, "6 drawings")
	for _, name := range []string{"Quercus-alba-twig.svg", "Platanus-×hispanica-bark.png", "Quercus-alba-outline.svg"} {
		require.FileExists(t, filepath.Join(dir, "all", name))
	}

	read := func(name string) string {
		text, err := os.ReadFile(filepath.Join(dir, name))
		require.NoError(t, err)
		return string(text)
	}
	_, err = ask(platesCmd{Out: filepath.Join(dir, "sheet.html"), Taxa: two, Sheet: true})
	require.NoError(t, err)
	require.Contains(t, read("sheet.html"), "white oak (Quercus alba)")
	require.Equal(t, 6, strings.Count(read("sheet.html"), "<img"))

	kinds = []string{"twig"}
	out, err = ask(platesCmd{Out: filepath.Join(dir, "blind.html"), Blind: 7})
	require.NoError(t, err)
	require.Contains(t, out, "40 trees")
	require.NotRegexp(t, "oak|Quercus|maple|Acer", read("blind.html"), "no names, and none in a picture's description")
	answers := strings.Split(strings.TrimSpace(read("blind-answers.txt")), "\n")
	require.Len(t, answers, 40)
	first := read("blind.html")
	_, err = ask(platesCmd{Out: filepath.Join(dir, "blind.html"), Blind: 7})
	require.NoError(t, err)
	require.Equal(t, first, read("blind.html"), "the same seed gives the same sheet")

	_, err = ask(platesCmd{Out: filepath.Join(dir, "x"), Taxa: []string{"Quercus nulla"}})
	require.ErrorContains(t, err, "Quercus nulla")
	_, err = ask(platesCmd{Out: filepath.Join(dir, "x"), Region: "the moon"})
	require.ErrorContains(t, err, "the moon")
	ctx, stop := context.WithCancel(t.Context())
	stop()
	err = (&platesCmd{Out: filepath.Join(dir, "none"), Age: "mature", Zone: "breast", Kind: kinds}).Run(ctx)
	require.ErrorContains(t, err, "stopped")
}
