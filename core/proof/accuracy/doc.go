// Package accuracy says how often trees come out right: partial specimens
// written from handbooks, and specimens drawn from the flora itself.
//
//	accuracy.go     cases, and how each comes out
//	report.go       the report
package accuracy
