package record_test

import (
	"fmt"
	"log"

	"palethicket/core/flora"
	"palethicket/core/tree/record"
	files "palethicket/flora"
)

// What is wrong with a record is said of every field at once.
func ExampleResolve() {
	f, err := flora.Load(files.Files)
	if err != nil {
		log.Fatal(err)
	}
	rec := &record.Record{Looks: []record.Look{{From: "tree", Scores: []record.Score{
		{Character: "bark.texture", States: []string{"warty-rigdes"}},
		{Character: "twig.pith", States: []string{"chambered"}},
	}}}}
	_, err = record.Resolve(f, rec)
	fmt.Println(err)
	rec.Looks[0].Scores[0].States[0] = "warty-ridges"
	reading, err := record.Resolve(f, rec)
	fmt.Println(len(reading.Looks[0].Scores), err)
	// Output:
	// looks[0].scores[0].states[0]: bark.texture: unknown state "warty-rigdes"; did you mean "warty-ridges"?
	// 2 <nil>
}
