// Package ranking weighs looks against a pool of taxa: the posterior, which
// looks belong to the tree, how far the evidence carries a name, what speaks
// for one taxon over another and what to check again.
//
// A [Ranker] holds the buffers; a [Verdict] is its result.
//
//	ranking.go      verdicts, weights of evidence and flips
//	naming.go       sums by genus and group, and how far to name
package ranking
