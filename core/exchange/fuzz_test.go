package exchange_test

import (
	"errors"
	"io"
	"testing"

	"github.com/stretchr/testify/require"

	"palethicket/core/exchange"
	"palethicket/core/flora/floratest"
	"palethicket/core/foreign"
)

// fuzz reads whatever comes as a file of one kind: it is refused, or its lines are trees
// that a book can take. A reader that broke is one to be mended.
func fuzz(f *testing.F, name string, seeds ...[]byte) {
	for _, s := range seeds {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, file []byte) {
		sheet, err := exchange.Read(name, file)
		var damaged *foreign.Damaged
		if errors.As(err, &damaged) {
			t.Fatalf("%v\n%s", damaged.Panic, damaged.Stack)
		}
		if err != nil {
			return
		}
		lines, err := sheet.Lines(sheet.GuessMapping(), floratest.Shipped(t))
		if err != nil {
			return
		}
		for l := range lines {
			if len(l.Problems) > 0 {
				continue
			}
			_, log, err := l.Tree.Log()
			require.NoError(t, err)
			for i := range log {
				require.NoError(t, log[i].Check())
			}
		}
	})
}

func FuzzCSV(f *testing.F) {
	fuzz(f, "t.csv", written(f, "csv", trees()), []byte("Tag;Plot\n\"A\n1\";'=x\n"), []byte("\xef\xbb\xbftag\tdbh (in)\n1\t7,5\n"))
}

func FuzzXLSX(f *testing.F) {
	fuzz(
		f,
		"t.xlsx",
		written(f, "xlsx", trees()),
		workbook(f, text(sheetHead+`<row r="1"><c r="A1" t="s"><v>9</v></c></row></sheetData></worksheet>`)),
	)
}

func FuzzGPX(f *testing.F) {
	fuzz(f, "t.gpx", written(f, "gpx", trees()), []byte(`<gpx><trk/><wpt lat="x"><name><b/></name></wpt></gpx>`))
}

func FuzzGeoJSON(f *testing.F) {
	fuzz(f, "t.geojson", written(f, "geojson", trees()), []byte(`{"features":[null,{"geometry":{"type":"Point","coordinates":[1]}}]}`))
}

func FuzzRecords(f *testing.F) {
	fuzz(f, "t.json", written(f, "json", trees()), []byte(`{"records":[{"id":"A","looks":[{"scores":[{"nodes":1}]}],"x":{"y":1}}]}`))
}

func FuzzArchive(f *testing.F) {
	fuzz(f, "t.zip", written(f, "dwca", trees()), archive(f, 3, func(w io.Writer) { _, _ = io.WriteString(w, "id\n1,2,3\n") }))
}
