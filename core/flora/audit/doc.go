// Package audit looks a flora over for what a person who knows the trees would
// want to correct: too little known of a taxon, values that look unintended,
// pairs that nothing separates, look-alikes without a line. What cannot be read
// at all is refused by [flora.Load] before.
//
//	audit.go        what to correct, and what is known of how much
//	picture.go      the coverage as a picture
package audit
