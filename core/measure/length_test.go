package measure_test

import (
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/measure"
)

func TestRead(t *testing.T) {
	for text, want := range map[string]measure.Readings{
		"6.5":           {Values: []float64{6.5}},
		"3.":            {Values: []float64{3}},
		"6,5 mm":        {Values: []float64{6.5}, Unit: "mm"},
		"1/4 in":        {Values: []float64{0.25}, Unit: "in"},
		"¼ in":          {Values: []float64{0.25}, Unit: "in"},
		"3 1/2":         {Values: []float64{3.5}},
		"3½\"":          {Values: []float64{3.5}, Unit: "in"},
		"60 ft":         {Values: []float64{60}, Unit: "ft"},
		"5; 6; 5.5 mm":  {Values: []float64{5, 6, 5.5}, Unit: "mm"},
		"5, 6":          {Values: []float64{5, 6}},
		" A pencil ":    {Values: []float64{7}, Unit: "mm", ByEye: true},
		"half a pencil": {Values: []float64{3.5}, Unit: "mm", ByEye: true},
		".25 in":        {Values: []float64{0.25}, Unit: "in"},
		"2 3/8 in":      {Values: []float64{2.375}, Unit: "in"},
		"5 6 7 mm":      {Values: []float64{5, 6, 7}, Unit: "mm"},
		"12,5 13 cm":    {Values: []float64{12.5, 13}, Unit: "cm"},
		"5 ft 6 in":     {Values: []float64{5.5}, Unit: "ft"},
		`5'6"`:          {Values: []float64{5.5}, Unit: "ft"},
		"5’ 6 1/2”":     {Values: []float64{5 + 6.5/12}, Unit: "ft"},
		"6 ft 0 in":     {Values: []float64{6}, Unit: "ft"},
		"1 chain":       {Values: []float64{66}, Unit: "ft"},
		"1.5 chains":    {Values: []float64{99}, Unit: "ft"},
		"twice pencil":  {Values: []float64{14}, Unit: "mm", ByEye: true},
	} {
		got, err := measure.Read(text)
		require.NoError(t, err, text)
		require.Equal(t, want, *got, text)
	}
}

func TestReadSaysWhatIsWrong(t *testing.T) {
	for text, says := range map[string]string{
		"":            "nothing is written",
		"abc":         `"abc" is not a measurement`,
		"6 furlongs":  `"furlongs" is not a unit; use one of mm, cm, m, in, ft`,
		"0":           "not more than nothing",
		"1/0 in":      "not more than nothing",
		"5 mm; 1/4in": "mixes mm and in",
		";":           "no figure",
		"-4":          "not a measurement",
	} {
		_, err := measure.Read(text)
		require.ErrorContains(t, err, says, text)
	}
}

func TestMeanAndSpread(t *testing.T) {
	r, err := measure.Read("5; 6; 5.5")
	require.NoError(t, err)
	require.Equal(t, 5.5, r.Mean())
	require.InDelta(t, 0.5, r.Spread(), 1e-12)
	one, err := measure.Read("6.4321")
	require.NoError(t, err)
	require.Equal(t, 6.43, one.Mean(), "as it is read off")
	require.Zero(t, one.Spread())
}

func TestFactor(t *testing.T) {
	inch, err := measure.Factor("in", "mm")
	require.NoError(t, err)
	require.Equal(t, 25.4, inch, "exactly, since 1959 (US Federal Register, 24 FR 5348)")
	foot, err := measure.Factor("ft", "m")
	require.NoError(t, err)
	require.InDelta(t, 0.3048, foot, 1e-12)
	_, err = measure.Factor("in", "scales")
	require.ErrorContains(t, err, "scales cannot be given in in")
}

func TestIn(t *testing.T) {
	for _, c := range []struct {
		text, taken, to string
		want            float64
		words           string
	}{
		{"60 ft", "m", "m", 18.288, "60 ft = 18.3 m"},
		{"60", "ft", "m", 18.288, "60 ft = 18.3 m"},
		{"18,3", "m", "m", 18.3, "18.3 m"},
		{"12 1/2 in", "cm", "cm", 31.75, "12.5 in = 31.8 cm"},
	} {
		got, words, err := measure.In(c.text, c.taken, c.to)
		require.NoError(t, err, c.text)
		require.InDelta(t, c.want, got, 1e-9, c.text)
		require.Equal(t, c.words, words)
	}
	for _, wrong := range []string{"", "abc", "5; 6", "-4"} {
		_, _, err := measure.In(wrong, "m", "m")
		require.Error(t, err, wrong)
	}
}
