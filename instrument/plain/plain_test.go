package plain

import (
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/measure"
)

func TestReadings(t *testing.T) {
	for line, want := range map[string]Reading{
		"D 34.2 cm\r\n":     {Kind: "diameter", Text: "34.2 cm"},
		Write("D 34.3 cm"):  {Kind: "diameter", Text: "34.3 cm"},
		"D 13.5 in":         {Kind: "diameter", Text: "13.5 in"},
		"H 21.7 m":          {Kind: "height", Text: "21.7 m"},
		"R 32.1 m 38.2 deg": {Kind: "range", Text: "32.1 m", Angle: "38.2 deg"},
		"R 105 ft -8 %":     {Kind: "range", Text: "105 ft", Angle: "-8 %"},
	} {
		got, err := Read(line)
		require.NoError(t, err, line)
		require.Equal(t, want, *got)
	}
}

func TestRefused(t *testing.T) {
	for line, says := range map[string]string{
		"":                   "no reading",
		"OK":                 "no reading",
		"X 1 m":              "no reading",
		"D 34.2":             "no unit",
		"D 34.2 parsec":      "not a unit",
		"D 34.2 m":           "look at the unit",
		"H 21.7 mm":          "look at the unit",
		"H 21.7 m 3":         "more than one",
		"R 32.1 m":           "no angle",
		"R 32.1 m 98 deg":    "upright",
		"R 32.1 m 38.2 grad": "not a slope",
		"D a pencil":         "no reading",
		"D -3 cm":            "no reading",
		"D 34.2 cm*00":       "checksum",
		"D 34.2 cm*":         "checksum",
	} {
		_, err := Read(line)
		require.ErrorContains(t, err, says, line)
	}
}

// TestDamage: of 10 000 damaged lines with checksums what is taken is what was sent.
func TestDamage(t *testing.T) {
	rng := rand.New(rand.NewPCG(3, 3))
	whole := []string{Write("D 34.2 cm"), Write("H 21.7 m"), Write("R 32.1 m 38.2 deg")}
	for range 10_000 {
		line := []byte(whole[rng.IntN(len(whole))])
		switch rng.IntN(3) {
		case 0:
			line = line[:rng.IntN(len(line))]
		case 1:
			line[rng.IntN(len(line))] = byte(rng.IntN(256))
		default:
			at := rng.IntN(len(line))
			line = append(line[:at:at], whole[rng.IntN(len(whole))]...)
		}
		if r, err := Read(string(line)); err == nil && strings.Contains(string(line), "*") {
			require.Contains(t, []string{"34.2 cm", "21.7 m", "32.1 m"}, r.Text, "%q", line)
		}
	}
}

func holds(t *testing.T, r *Reading) {
	t.Helper()
	long, err := measure.Metres(r.Text)
	require.NoError(t, err)
	most := map[string]float64{"diameter": 5, "height": 130, "range": 1500}[r.Kind]
	require.Len(t, long, 1)
	require.LessOrEqual(t, long[0], most)
	require.Greater(t, long[0], 0.0)
}

func FuzzRead(f *testing.F) {
	f.Add("R 32.1 m 38.2 deg")
	f.Add("D 34.2 cm")
	f.Fuzz(func(t *testing.T, line string) {
		if r, err := Read(line); err == nil {
			holds(t, r)
		}
	})
}
