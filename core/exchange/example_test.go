package exchange_test

import (
	"fmt"
	"log"

	"palethicket/core/exchange"
	"palethicket/core/flora"
	files "palethicket/flora"
)

// A file is read as it stands, then its columns are mapped to fields.
func ExampleRead() {
	f, err := flora.Load(files.Files)
	if err != nil {
		log.Fatal(err)
	}
	sheet, err := exchange.Read(
		"old-survey.csv",
		[]byte("Tag;Plot;Latitude;Longitude\nP-1;Old pasture;43,561;-90,63\nP-2;Old pasture;435;-90,63\n"),
	)
	if err != nil {
		log.Fatal(err)
	}
	m := sheet.GuessMapping()
	m.Tract, m.Date = "Lantern Creek watershed forest", "2026-11-17"
	lines, err := sheet.Lines(m, f)
	if err != nil {
		log.Fatal(err)
	}
	for l := range lines {
		fmt.Println(l.At, l.Tree.Tag, l.Tree.Stand, l.Problems)
	}
	// Output:
	// line 2 P-1 Old pasture []
	// line 3 P-2 Old pasture [latitude 435 is off the globe; see whether latitude and longitude are the wrong way round]
}
