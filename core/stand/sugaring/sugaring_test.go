package sugaring

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

func TestTaps(t *testing.T) {
	trees := []Tree{
		{Tag: "thin", Diameter: 20, Names: map[string]float64{"Acer saccharum": 0.9, "Acer rubrum": 0.1}},
		{Tag: "one", Diameter: 30, Names: map[string]float64{"Acer saccharum": 0.5, "Acer nigrum": 0.4, "Quercus rubra": 0.1}},
		{Tag: "two", Diameter: 50, Names: map[string]float64{"Acer saccharum": 1}},
		{Tag: "red", Diameter: 50, Names: map[string]float64{"Acer rubrum": 1}},
		{Tag: "sick", Diameter: 50, Failing: true, Names: map[string]float64{"Acer saccharum": 1}},
		{Tag: "bare", Names: map[string]float64{"Acer saccharum": 1}},
		{Tag: "oak", Diameter: 50, Names: map[string]float64{"Quercus rubra": 1}},
	}
	maples, taps := Of(trees, func(taxon string) bool { return strings.HasPrefix(taxon, "Acer ") })
	require.InDelta(t, 2+0.9, taps, 1e-9)
	require.Len(t, maples, 6)
	by := map[string]Maple{}
	for _, m := range maples {
		by[m.Tag] = m
	}
	require.Equal(
		t,
		[]int{0, 1, 2, 2, 0, 0},
		[]int{by["thin"].Taps, by["one"].Taps, by["two"].Taps, by["red"].Taps, by["sick"].Taps, by["bare"].Taps},
	)
	require.Zero(t, by["red"].Sugar)
	require.Equal(t, "two", maples[0].Tag[:3])
	require.Contains(t, by["bare"].Why, "not measured")
}
