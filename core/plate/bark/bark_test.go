package bark

import (
	"bytes"
	"image/png"
	"math"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/plate"
)

func tree(texture string, seed uint64) *plate.Tree {
	return &plate.Tree{Name: "Acer", Seed: seed, Age: "mature", Build: plate.OrdinaryBuild, Shows: plate.Shows{
		"bark.texture": {State: texture}, "bark.color": {State: "mid-grey"}, "form.dbh": {Value: 70}, "bark.furrow-depth": {Value: 10}}}
}

func surveyed(t *plate.Tree) *piece {
	p := newPiece(t, Breast, Width, Height)
	p.survey()
	return p
}

// low says whether a place lies in a furrow.
func (p *piece) low(col, row int) bool { return p.height(col, row) < 0.45*p.depth }

// crossings counts how often furrows are entered along lines, for 100 mm.
func crossings(p *piece, along bool) float64 {
	n, mm := 0, 0.0
	for line := 20; line < 380; line += 6 {
		steps := Width - 80
		if along {
			steps = Height - 40
		}
		was := false
		for i := range steps {
			col, row := 40+i, line
			if along {
				col, row = line, 20+i
			}
			is := p.low(col, row)
			if is && !was {
				n++
			}
			was = is
		}
		mm += float64(steps) * p.scale
	}
	return 100 * float64(n) / mm
}

// TestRidges: ridges are as wide and as long as was asked, and furrows take a share of the
// bark that is common of such bark.
func TestRidges(t *testing.T) {
	t.Parallel()
	for _, texture := range []string{"long-ridges", "mesh-ridges", "rough-furrows"} {
		narrow, broad := tree(texture, 1), tree(texture, 1)
		narrow.Build.RidgeWidth, broad.Build.RidgeWidth = 14, 28
		ratio := crossings(surveyed(narrow), false) / crossings(surveyed(broad), false)
		require.InDelta(t, 2, ratio, 0.6, "%s: half as wide, twice as many", texture)

		short, long := tree(texture, 1), tree(texture, 1)
		short.Shows["bark.ridge-run"], long.Shows["bark.ridge-run"] = plate.Shown{Value: 7}, plate.Shown{Value: 15}
		require.Greater(t, crossings(surveyed(short), true), 1.25*crossings(surveyed(long), true), "%s: shorter, more ends", texture)

		share := 0.0
		p := surveyed(tree(texture, 2))
		for row := range Height {
			for col := range Width {
				if p.low(col, row) {
					share += 1.0 / (Width * Height)
				}
			}
		}
		require.InDelta(t, 0.35, share, 0.25, "%s: furrows", texture)
	}
}

// features are what a picture looks like, whatever its single places are: how rough it is
// across and along at several widths, how light, and how much of each colour shows.
func features(t *plate.Tree) []float64 {
	p := newPiece(t, Breast, Width, Height)
	p.survey()
	p.shade()
	var out []float64
	for _, step := range []int{1, 4, 12, 30} {
		across, along, n := 0.0, 0.0, 0.0
		for row := 0; row+step < Height; row += 3 {
			for col := 60; col+step < Width-60; col += 3 {
				across += math.Abs(p.light[row*Width+col+step] - p.light[row*Width+col])
				along += math.Abs(p.light[(row+step)*Width+col] - p.light[row*Width+col])
				n++
			}
		}
		out = append(out, 8*across/n, 8*along/n)
	}
	light, under, pale := 0.0, 0.0, 0.0
	for i, s := range p.spots {
		light, under, pale = light+p.light[i], under+s.under, pale+s.pale
	}
	n := float64(len(p.spots))
	return append(out, 3*light/n, 3*under/n, 3*pale/n)
}

func apart(a, b []float64) float64 {
	sum := 0.0
	for i := range a {
		sum += (a[i] - b[i]) * (a[i] - b[i])
	}
	return math.Sqrt(sum)
}

var textures = []string{"smooth", "dash-banded", "papery-curls", "shredding-strips", "long-loose-plates", "one-edge-plates", "small-scales",
	"square-blocks", "mottled-patches", "mesh-ridges", "long-ridges", "flat-ridges", "rough-furrows", "warty-ridges", "sinewy"}

// TestTexturesDiffer: two textures look less alike than two trees of one texture do.
func TestTexturesDiffer(t *testing.T) {
	if testing.Short() {
		t.Skip("make nightly runs it")
	}
	t.Parallel()
	one, other := map[string][]float64{}, map[string][]float64{}
	for _, s := range textures {
		one[s], other[s] = features(tree(s, 1)), features(tree(s, 2))
	}
	for i, a := range textures {
		for _, b := range textures[:i] {
			within := math.Max(apart(one[a], other[a]), apart(one[b], other[b]))
			require.Greater(t, apart(one[a], one[b]), within, "%s and %s", a, b)
		}
	}
}

// TestPicture: the same tree gives the same bytes, of the size that is drawn; a slim stem
// is drawn slim.
func TestPicture(t *testing.T) {
	t.Parallel()
	for _, s := range textures {
		body, err := Draw(tree(s, 0), Breast)
		require.NoError(t, err)
		again, err := Draw(tree(s, 0), Breast)
		require.NoError(t, err)
		require.Equal(t, body, again, s)
		require.Less(t, len(body), 180_000, s)
		img, err := png.Decode(bytes.NewReader(body))
		require.NoError(t, err)
		require.Equal(t, Width, img.Bounds().Dx())
	}
	slim := tree("smooth", 0)
	slim.Shows["form.dbh"] = plate.Shown{Value: 5}
	body, err := Draw(slim, Breast)
	require.NoError(t, err)
	img, err := png.Decode(bytes.NewReader(body))
	require.NoError(t, err)
	_, _, _, alpha := img.At(2, 100).RGBA()
	require.Zero(t, alpha, "beside the stem there is nothing")
	small, err := Swatch(tree("sinewy", 0), Breast)
	require.NoError(t, err)
	require.Less(t, len(small), 25_000)
}
