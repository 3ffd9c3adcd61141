// Package fit says how surprising the looks at a tree are if the leading taxon
// is right: the sum of the log scores, Σ ln q_t(o), set against the same sum
// over specimens drawn from that taxon. A look of a drawn specimen is a
// stranger's with the chance that the look has; what is asked of a specimen is
// what was scored on the tree. The tail share is a Monte Carlo p-value, Barnard
// 1963, J. R. Stat. Soc. B 25:294.
//
//	fit.go          the judge
//	answers.go      what is asked of a drawn specimen
//	odd.go          how odd a tree is, without drawing, for a taxon or for whichever of several
package fit
