// Package looks says how many looks, and how many minutes, it takes to name a tree: by the
// next look that the program names, by the fixed orders that practitioners keep to, and at
// random; on specimens drawn from the flora, of which looks are misread and some are of
// another tree.
//
//	looks.go        specimens, and how they are gone through
//	orders.go       what is looked at next
//	report.go       the report
package looks
