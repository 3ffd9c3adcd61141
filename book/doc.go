// Package book is the stand book at work: what the command, the server and the
// device all do. It joins the core, which knows the trade, to the store, which
// knows the file, and has no HTTP in it. What it takes and gives are shapes of its
// own, so that neither the core's nor the store's are sent anywhere.
//
//	book.go         a book opened, its flora with its lists, what it was served with
//	press.go        the one way for a press: read, check, weigh once, write, answer
//	entry.go        an entry as it is sent, and as the log keeps it
//	tree.go         trees started, scored, moved, undone; a tree as it is shown
//	place.go        what is said of visits, tracts, stands and lists; boundary.go GeoJSON
//	meet.go         what one book tells another
//	result.go       what a weighing comes to, with its words
//	standing.go     where a tree stands in lists; weigh.go all of them brought up to date
//	list.go         lists of trees, the worklist and its calendar
//	stand.go        stands, tracts and visits; the map; composition.go what grows in them
//	story.go        how a tree came to be called what it is
//	question.go     what is asked of a tree beyond that: compare, why not, key walk
//	photo.go        photographs
//	import.go       files read in, shown, put in; undo_import.go undone, taken out;
//	                mapping.go how it is read, asked.go what it leaves open, again.go trees
//	                that were set aside, bring.go many trees at once; export.go files written
//	report.go       a report gathered
//	crew.go         who may sign in
//	flora.go        pages of the flora; lists.go a book's own lists
//	errors.go       what callers tell apart
//	length.go       lengths as people write them
//	vocabulary.go   the characters and words that a page needs to know once
package book
