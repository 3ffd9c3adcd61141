package marked

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"
)

// TestRead: on a picture of 4000 × 3000, a rule of 20 mm over 1000 pixels, and what lies beside it.
func TestRead(t *testing.T) {
	px := func(x, y float64) Point { return Point{x / 4000, y / 3000} }
	p := &Picture{Wide: 4000, High: 3000, Known: 20,
		Lines: [][2]Point{{px(100, 100), px(1100, 100)}, {px(200, 200), px(200, 550)}, {px(0, 0), px(300, 400)}},
		Bends: [][3]Point{{px(1000, 1000), px(2000, 1000), px(2000, 300)}, {px(1000, 1000), px(2000, 1000), px(2700, 300)}}}
	lines, bends, err := p.Read()
	require.NoError(t, err)
	require.Equal(t, Value{20, 0}, lines[0])
	require.InDelta(t, 7, lines[1].Value, 1e-9)
	require.InDelta(t, 10, lines[2].Value, 1e-9)
	require.InDelta(t, 90, bends[0].Value, 1e-9)
	require.InDelta(t, 135, bends[1].Value, 1e-9)
	p.Known = 0
	lines, _, err = p.Read()
	require.NoError(t, err)
	require.Empty(t, lines)
	p.Known, p.Lines = 20, [][2]Point{{px(100, 100), px(120, 100)}}
	_, _, err = p.Read()
	require.ErrorIs(t, err, ErrShort)
}

// TestErrors: presses that are off as they are said to be give readings that vary as is said.
func TestErrors(t *testing.T) {
	rng := rand.New(rand.NewPCG(1, 2))
	press := func(x, y float64) Point {
		return Point{(x + rng.NormFloat64()*2) / 1000, (y + rng.NormFloat64()*2) / 1000}
	}
	var seen []float64
	var said Value
	for range 20_000 {
		tilt := 1 + rng.NormFloat64()*slant
		p := &Picture{
			Wide:  1000,
			High:  1000,
			Known: 50,
			Lines: [][2]Point{{press(100, 100), press(600, 100)}, {press(200, 300), press(200, 300+200*tilt)}},
		}
		lines, _, err := p.Read()
		require.NoError(t, err)
		seen, said = append(seen, lines[1].Value), lines[1]
	}
	mean, sq := 0.0, 0.0
	for _, x := range seen {
		mean += x / float64(len(seen))
	}
	for _, x := range seen {
		sq += (x - mean) * (x - mean) / float64(len(seen))
	}
	require.InDelta(t, 20, mean, 0.05)
	require.InEpsilon(t, math.Sqrt(sq), said.SD, 0.08)
}
