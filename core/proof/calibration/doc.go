// Package calibration asks whether posteriors come true as often as they say:
// specimens are drawn from the model, ranked, and every posterior is set
// against whether it was right. Dawid 1982, "The Well-Calibrated Bayesian",
// J. Am. Stat. Assoc. 77:605.
//
//	calibration.go  specimens drawn, ranked and counted by tenths
//	report.go       the table and the plot
package calibration
