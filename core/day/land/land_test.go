package land

import (
	"encoding/json"
	"fmt"
	"math"
	"testing"

	"github.com/paulmach/orb"
	"github.com/stretchr/testify/require"

	"palethicket/core/day/tour"
)

// Lantern Creek runs from west to east, 100 m north of the origin, from −500 to 500.
func at(x, y float64) orb.Point {
	return orb.Point{-90.63 + x/metresPerDegree/math.Cos(43.57*math.Pi/180), 43.57 + y/metresPerDegree}
}

func feature(kind, extra string, geometry orb.Geometry, shape string) string {
	text, _ := json.Marshal(geometry)
	return fmt.Sprintf(`{"type":"Feature","properties":{"kind":%q%s},"geometry":{"type":%q,"coordinates":%s}}`, kind, extra, shape, text)
}

func terrain(features ...string) []json.RawMessage {
	all := ""
	for i, f := range features {
		if i > 0 {
			all += ","
		}
		all += f
	}
	return []json.RawMessage{json.RawMessage(`{"type":"FeatureCollection","features":[` + all + `]}`)}
}

var creek = feature("stream", "", orb.LineString{at(-500, 100), at(0, 100), at(500, 100)}, "LineString")

func TestStreams(t *testing.T) {
	south, north, far := at(0, 0), at(0, 200), at(60, 0)
	walk := func(features ...string) *Places {
		l, err := Read(terrain(features...))
		require.NoError(t, err)
		return l.Between([]orb.Point{south, north, far}, 1)
	}
	straight := walk().Way(0, 1)
	require.InDelta(t, 200, straight.Metres, 0.5)
	round := walk(creek).Way(0, 1) // round one of its ends
	require.True(t, round.Over)
	require.InDelta(t, 2*math.Hypot(505, 100), round.Metres, 8)
	ford := walk(creek, feature("ford", "", at(-200, 100), "Point"))
	require.InDelta(t, 2*math.Hypot(200, 100), ford.Way(0, 1).Metres, 8)
	require.InDelta(t, 297, ford.Way(0, 1).First.Bearing, 2) // to the ford first
	track := walk(creek, feature("track", "", orb.LineString{at(50, -50), at(50, 300)}, "LineString"))
	require.InDelta(t, 2*math.Hypot(50, 100), track.Way(0, 1).Metres, 8)
	require.False(t, track.Way(0, 2).Over)
	require.InDelta(t, tour.Minutes(60, 0, tour.Footing{Snow: 1}), track.Way(0, 2).Minutes, 0.01)
}

// TestNoWay: a tree within a ring of water is never reached.
func TestNoWay(t *testing.T) {
	moat := feature("stream", "", orb.LineString{at(-50, -50), at(50, -50), at(50, 50), at(-50, 50), at(-50, -50)}, "LineString")
	l, err := Read(terrain(moat))
	require.NoError(t, err)
	p := l.Between([]orb.Point{at(0, 0), at(200, 0)}, 1)
	require.True(t, math.IsInf(p.Way(0, 1).Minutes, 1))
}

func TestHeightsAndSnow(t *testing.T) {
	l, err := Read(terrain(
		feature("contour", `,"elevation_m":300`, orb.LineString{at(0, -100), at(0, 0), at(0, 100)}, "LineString"),
		feature("contour", `,"elevation_m":310`, orb.LineString{at(100, -100), at(100, 0), at(100, 100)}, "LineString"),
		feature("gate", `,"name":"West gate"`, at(-20, 0), "Point")))
	require.NoError(t, err)
	require.InDelta(t, 305, l.Height(at(50, 0)), 0.1)
	require.Equal(t, "West gate", l.Gates[0].Name)
	p := []orb.Point{at(0, 0), at(100, 0)}
	bare, deep := l.Between(p, 1).Way(0, 1), l.Between(p, 1.8).Way(0, 1)
	require.InDelta(t, 1.8, deep.Minutes/bare.Minutes, 1e-9)
	require.Greater(t, bare.Minutes, l.Between(p, 1).Way(1, 0).Minutes) // up is slower than down
}
