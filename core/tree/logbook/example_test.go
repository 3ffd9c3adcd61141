package logbook_test

import (
	"fmt"

	"palethicket/core/tree/logbook"
	"palethicket/core/tree/record"
)

// A log is only added to: a score that is withdrawn stays in it, and stands no more.
func ExampleLog() {
	l := logbook.NewLog([]logbook.Entry{
		{ID: "01KA0000000000000000000001", Kind: logbook.KindLook, From: "tree"},
		{ID: "01KA0000000000000000000002", Kind: logbook.KindScore, Look: "01KA0000000000000000000001",
			Score: &record.Score{Character: "bark.texture", States: []string{"warty-ridges"}}},
	})
	fmt.Println(len(l.Entries), len(l.Looks[0].Scores))
	l.Add(logbook.Entry{ID: "01KA0000000000000000000003", Kind: logbook.KindWithdraw, Entry: "01KA0000000000000000000002"})
	fmt.Println(len(l.Entries), len(l.Looks[0].Scores))
	// Output:
	// 2 1
	// 3 0
}
