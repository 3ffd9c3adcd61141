// Package flora holds what is known of each tree in winter: the characters
// that can be scored, the taxa, and what every taxon shows of each character.
//
// The files are YAML meant to be read and corrected by a forester; the format
// is described in docs/flora-format.md. [Load] reads a directory of them and
// names the file and line of everything that is wrong. [Flora.Pool] lays a
// region's taxa out for scoring.
//
//	flora.go        the flora, its characters and states; taxon.go its taxa
//	load.go         from YAML, with file and line of what is wrong; value.go what a cell may say
//	pool.go         the taxa of a region or list, laid out for weighing
//	list.go         lists of one's own; cautions.go what is dangerous about a tree
//	nearest.go      the word that a mistyped one was meant to be
package flora
