// Package answer answers a field record: who it could be, how far to name it, which
// looks belong, what to look at next, what to check again, and why, in words that
// every page and file shares.
//
// An [Engine] holds what a flora needs once. [Engine.Weigh] ranks a record, and the
// [Weighing] is asked as much as is wanted; nothing is ranked twice for it.
//
//	answer.go       engines, weighings and results; words.go what is said in them
//	naming.go       how far the tree can be named, and what it probably is
//	next.go         the looks that are worth most; sight.go whether there is an answer; plan.go two looks ahead
//	compare.go      one taxon against another, and why not an expected one
//	walk.go         either/or questions; reweigh.go another prior
//	warn.go         what is odd about the looks; cautions.go what is dangerous about the tree
//	short.go        a result written fast; stream.go many records, in order
package answer
