package calibration_test

import (
	"encoding/xml"
	"errors"
	"io"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/proof/calibration"
)

// aReport has one tenth that came true as said and one that did not.
func aReport() calibration.Report {
	r := calibration.Report{Specimens: 1000, First: 700, InCredible: 950}
	r.Tenths[5] = calibration.Tenth{N: 1000, Sum: 500, True: 560}
	r.Tenths[9] = calibration.Tenth{N: 1000, Sum: 950, True: 955}
	return r
}

func TestReportSaysWhichTenthFailed(t *testing.T) {
	var text strings.Builder
	require.NoError(t, aReport().WriteText(&text))
	require.Contains(t, text.String(), "1000 drawn specimens. First place: 70.0 %. In the credible set: 95.0 %.")
	require.Contains(t, text.String(), "| 0.5 to 0.6 | 1000 | 0.5000 | 0.5600 | 0.4")
	lines := strings.Split(strings.TrimSpace(text.String()), "\n")
	require.True(t, strings.HasSuffix(lines[len(lines)-2], "| **outside** |"), lines[len(lines)-2])
	require.True(t, strings.HasSuffix(lines[len(lines)-1], "| within |"), lines[len(lines)-1])
}

// TestPlotIsSVG reads the plot back and finds a point for each tenth that has
// specimens, at what was said and what came true.
func TestPlotIsSVG(t *testing.T) {
	var svg strings.Builder
	require.NoError(t, aReport().WritePlot(&svg))
	var circles []map[string]string
	d := xml.NewDecoder(strings.NewReader(svg.String()))
	for {
		token, err := d.Token()
		if errors.Is(err, io.EOF) {
			break
		}
		require.NoError(t, err)
		if e, ok := token.(xml.StartElement); ok && e.Name.Local == "circle" {
			at := map[string]string{}
			for _, a := range e.Attr {
				at[a.Name.Local] = a.Value
			}
			circles = append(circles, at)
		}
	}
	require.Len(t, circles, 2)
	require.Equal(t, []string{"250.00", "226.00"}, []string{circles[0]["cx"], circles[0]["cy"]}) // 50+0.5·400 and 50+0.44·400
}
