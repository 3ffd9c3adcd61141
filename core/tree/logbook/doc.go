// Package logbook keeps a tree's record as a log: looks opened, scores made and
// withdrawn, facts set, names given. Entries are added, never changed. A [Log]
// holds them in order with what stands after them, the [State].
//
// Entries are ordered by their stamps, whatever clock made them, so that logs written
// by two people or two machines merge by union. An id says which entry it is.
//
//	logbook.go      entries of trees; places.go entries of visits, tracts, stands, lists
//	log.go          the log in its order; state.go what stands after it
//	check.go        what an entry must be to be added; position.go a place on earth
//	undo.go         what can be undone, and by whom
//	words.go        what is said of an entry
package logbook
