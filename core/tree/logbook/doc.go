// Package logbook keeps a tree's record as a log: looks opened, scores made and
// withdrawn, facts set, names given. Entries are added, never changed. A [Log]
// holds them in order with what stands after them, the [State].
//
// Entries are ordered by their ids, which are ULIDs made where the entry was
// made, so that logs written by two people or two machines merge by union.
//
//	logbook.go      entries, the log and the state after it; position.go a place on earth
//	check.go        what an entry must be to be added
//	undo.go         the entries that undo one
//	words.go        what is said of an entry
package logbook
