package answer_test

import (
	"fmt"
	"log"

	"palethicket/core/flora"
	"palethicket/core/tree/answer"
	"palethicket/core/tree/record"
	files "palethicket/flora"
)

func ExampleEngine_Identify() {
	f, err := flora.Load(files.Files)
	if err != nil {
		log.Fatal(err)
	}
	rec := &record.Record{ID: "LC-1", Looks: []record.Look{{From: "tree", Scores: []record.Score{
		{Character: "bark.texture", States: []string{"warty-ridges"}, Certainty: "sure"},
		{Character: "twig.pith", States: []string{"chambered"}, Certainty: "sure"},
	}}}}
	res, err := answer.NewEngine(f).Identify(rec, answer.Usual)
	if err != nil {
		log.Fatal(err)
	}
	fmt.Println(res.Named.Rank, res.Named.Words)
	// Output: species common hackberry
}
