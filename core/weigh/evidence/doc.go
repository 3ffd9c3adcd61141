// Package evidence turns partial looks at one leafless tree into likelihoods.
//
// A forester looks at things that are meant to be the tree: its trunk, a twig
// pulled down, a twig lying under it. Each [Look] holds a few scores made on
// one thing, each [Score] may be wrong, and the whole look may be of a
// stranger: another tree of the same wood. A [Model] holds what the taxa of
// one pool say of each character, laid out so that one score is one pass over
// the taxa.
//
// Notation used in the comments: t is a taxon, o a score, q_t(o) the chance
// (or density) of o if the thing looked at is t, share(t) the taxon's part of
// the wood, b(o) the wood's own mix of answers, a a look's chance of belonging
// to the tree, e a score's error rate.
//
//	evidence.go     characters, values, taxa and scores
//	model.go        taxa laid out for weighing
//	likelihood.go   what one score says; look.go what a look says
//	outcome.go      every answer a character can get, and its chance
package evidence
