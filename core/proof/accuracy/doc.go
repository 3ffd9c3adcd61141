// Package accuracy says how often trees come out right: partial specimens
// written from handbooks, and specimens drawn from the flora itself.
//
//	accuracy.go     cases, and how each comes out
//	beside.go       how they come out among fewer trees
//	without.go      how they come out with their own tree off the list
//	report.go       the report
package accuracy
