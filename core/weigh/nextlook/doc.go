// Package nextlook works out the value of a look not yet taken: the expected
// information, in bits, of scoring one more character.
//
// The expected information is the mutual information of hypothesis and answer,
// I = H(posterior) - Σ P(answer)·H(posterior | answer). Lindley 1956, "On a
// Measure of the Information Provided by an Experiment", Ann. Math. Stat. 27.
//
//	nextlook.go     expected information
//	table.go        answers worked out beforehand, by look and by hypothesis
package nextlook
