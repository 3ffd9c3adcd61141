// Package store keeps a book in one SQLite file. It is the only package that knows
// SQL, and it knows nothing of what the book decides: it never calls back.
//
// Many read and one writes. A [Store] reads the book as it is then, a [Snapshot] as it
// was at one moment, and a [Tx] writes all of a change or nothing of it.
//
//	store.go        opening, reading and writing; statements.go statements kept ready
//	log.go          the log, in its order; upgrade.go what a book from an older program lacks
//	trees.go        trees; visits.go visits
//	standing.go     where each tree stands; sums.go what they add up to; query.go lists and searches;
//	                alike.go trees weighed as one; stand_cache.go what they ask for again and again
//	stands.go       stands and tracts; photos.go photographs, whose files lie beside the book
//	imports.go      files read in, settings; lists.go lists of one's own; accounts.go the crew;
//	                devices.go what may send for them
//	backup.go       copies, checks, reading a book that is in use; full.go what the disk says
package store
