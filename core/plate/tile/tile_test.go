package tile

import (
	"bytes"
	"fmt"
	"math"
	"regexp"
	"strconv"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/flora/floratest"
	"palethicket/core/weigh/evidence"
)

// TestEveryState: every state of every character has a tile, each its own.
func TestEveryState(t *testing.T) {
	t.Parallel()
	f := floratest.Shipped(t)
	for i := range f.Characters {
		c := &f.Characters[i]
		states := c.StateIDs()
		if c.Kind == evidence.Sign {
			states = []string{"seen"}
		}
		seen := map[string]string{}
		for _, s := range states {
			require.True(t, Has(c.ID, s), "%s %s", c.ID, s)
			drawn, err := Draw(c.ID, s, "light")
			require.NoError(t, err)
			text := string(titles.ReplaceAll(drawn.Body, nil))
			require.Empty(t, seen[text], "%s: %s is drawn as %s", c.ID, s, seen[text])
			seen[text] = s
			require.Less(t, len(drawn.Body), 45_000, "%s %s", c.ID, s)
		}
	}
	none, err := Draw("form.dbh", "seen", "light")
	require.NoError(t, err)
	require.Nil(t, none)
}

var (
	titles  = regexp.MustCompile(`<title>.*?</title>`)
	paths   = regexp.MustCompile(` d="([^"]*)"`)
	boxes   = regexp.MustCompile(`viewBox="(\S+) (\S+) (\S+) (\S+)"`)
	decimal = regexp.MustCompile(`-?\d*\.?\d+`)
)

// TestStatesDiffer: one and the same individual looks otherwise with another state, for
// several individuals. (That two bark textures differ more than two trees of one do is
// tested where they are drawn.)
func TestStatesDiffer(t *testing.T) {
	t.Parallel()
	f := floratest.Shipped(t)
	for _, id := range []string{"bud.shape", "bud.stance", "bud.tip", "bud.scales", "scar.shape", "twig.arrangement",
		"form.crown", "form.habit", "form.limbs", "fruit.kind", "ground.leaf"} {
		states := f.Character(id).StateIDs()
		for seed := range uint64(3) {
			marks := map[string]map[string]int{}
			for _, s := range states {
				tree := sample(id, s)
				tree.Seed = seed
				drawn, err := draw(tree, id, s, "light")
				require.NoError(t, err)
				marks[s] = places(t, drawn.Body)
			}
			for i, a := range states {
				for _, b := range states[:i] {
					require.Greater(t, apart(marks[a], marks[b]), 0.04, "%s: %s and %s", id, a, b)
				}
			}
		}
	}
}

// places counts where a tile has ink, in a grid of 16 by 16.
func places(t *testing.T, svg []byte) map[string]int {
	t.Helper()
	box := [4]float64{}
	for i, text := range boxes.FindSubmatch(svg)[1:] {
		x, err := strconv.ParseFloat(string(text), 64)
		require.NoError(t, err)
		box[i] = x
	}
	out := map[string]int{}
	for _, m := range paths.FindAllSubmatch(svg, -1) {
		n := decimal.FindAll(bytes.ReplaceAll(m[1], []byte("-"), []byte(" -")), -1)
		for i := 0; i+1 < len(n); i += 2 {
			x, _ := strconv.ParseFloat(string(n[i]), 64)
			y, _ := strconv.ParseFloat(string(n[i+1]), 64)
			u, v := math.Floor(16*(x-box[0])/box[2]), math.Floor(16*(y-box[1])/box[3])
			if u >= 0 && u < 16 && v >= 0 && v < 16 {
				out[fmt.Sprint(u, v)]++
			}
		}
	}
	return out
}

// apart is the share of places in which two differ.
func apart(a, b map[string]int) float64 {
	differ, all := 0.0, 0.0
	for k, n := range a {
		differ += math.Abs(float64(n - b[k]))
		all += float64(n + b[k])
	}
	for k, n := range b {
		if a[k] == 0 {
			differ += float64(n)
			all += float64(n)
		}
	}
	return differ / all
}
