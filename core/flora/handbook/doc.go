// Package handbook writes the flora as pages to read: a taxon with what to look
// for in the order of work, and a character with the trees that show each of
// its states.
//
//	handbook.go     a taxon as a page
//	list.go         taxa by what they show; a character as a page
//	compare.go      taxa side by side; plate.go what to draw them from
package handbook
