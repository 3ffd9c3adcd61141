package demo

import (
	"math"
	"testing"

	"github.com/paulmach/orb"
	"github.com/paulmach/orb/geo"
	"github.com/stretchr/testify/require"
	"go.yaml.in/yaml/v3"
)

func lantern(t *testing.T) *woods {
	t.Helper()
	var w woods
	require.NoError(t, yaml.Unmarshal(woodsFile, &w))
	require.NoError(t, w.read())
	return &w
}

// TestFrame: a kilometre of the frame is a kilometre on the globe, as orb's own
// formula for the distance has it.
func TestFrame(t *testing.T) {
	t.Parallel()
	w := lantern(t)
	here := w.Origin.point(metres{0, 0})
	require.InDelta(t, 1000, geo.DistanceHaversine(here, w.Origin.point(metres{1000, 0})), 2)
	require.InDelta(t, 1000, geo.DistanceHaversine(here, w.Origin.point(metres{0, 1000})), 2)
}

// TestContours: every point of a contour has its height, and it gets higher away
// from the creek.
func TestContours(t *testing.T) {
	t.Parallel()
	w := lantern(t)
	land := terrain{[][]metres{w.Creek, w.SideCreek}}
	require.Less(t, land.height(w.Creek[3]), land.height(metres{w.Creek[3][0], w.Creek[3][1] - 300}))
	flat := frame{Lon: 0, Lat: 0}
	seen := 0
	for _, f := range land.contours(flat, 1500, 1060).Features {
		level := f.Properties["elevation_m"].(float64)
		for _, line := range f.Geometry.(orb.MultiLineString) {
			for _, p := range line {
				back := metres{p[0] * earthRadius * math.Pi / 180, p[1] * earthRadius * math.Pi / 180}
				require.InDelta(t, level, land.height(back), 3, "between the corners of a cell it is taken as straight")
				seen++
			}
		}
	}
	require.Greater(t, seen, 1000)
}

// TestTreesStandInTheirStands draws places in each stand.
func TestTreesStandInTheirStands(t *testing.T) {
	t.Parallel()
	w := lantern(t)
	n := uint64(1)
	random := func() float64 { // a little generator of its own: Park and Miller 1988
		n = n * 48271 % 2147483647
		return float64(n) / 2147483647
	}
	for _, s := range w.Stands {
		area := orb.Ring{}
		for _, m := range append(s.Boundary, s.Boundary[0]) {
			area = append(area, m)
		}
		for range 50 {
			m, err := s.within(random)
			require.NoError(t, err)
			require.True(t, area.Bound().Contains(orb.Point(m)))
		}
	}
	thin := stand{Name: "a line", Boundary: []metres{{0, 0}, {100, 100}, {0, 0}}}
	_, err := thin.within(random)
	require.ErrorContains(t, err, "no room")
}

// TestFilesAgree: every kind of tree of a stand's mix is on the tract's list, and
// every stand of the trees written by hand is on the ground.
func TestFilesAgree(t *testing.T) {
	t.Parallel()
	w := lantern(t)
	var list struct {
		Taxa map[string]string `yaml:"taxa"`
	}
	require.NoError(t, yaml.Unmarshal(treesHere, &list))
	trees := 15
	for _, s := range w.Stands {
		for taxon := range s.Mix {
			require.Contains(t, list.Taxa, taxon, s.Name)
		}
		trees += s.Trees
	}
	require.Equal(t, 400, trees)
	var fo forest
	require.NoError(t, yaml.Unmarshal(scenario, &fo))
	for _, tree := range fo.Trees {
		require.NotNil(t, w.stand(tree.Stand), tree.Tag)
	}
	require.Equal(t, 5, w.firstWinter())
}

func TestSignificant(t *testing.T) {
	t.Parallel()
	for x, want := range map[float64]float64{6.4312: 6.4, 14.71: 15, 0.0333: 0.033, 127: 130, 0: 0} {
		require.InDelta(t, want, significant(x), 1e-12)
	}
}
