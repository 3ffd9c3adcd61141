// Package report writes a report on a tract or a stand, as a web page that stands
// by itself and as PDF.
//
//	html.go         the page; pdf.go the PDF
//	tables.go       what both say; drawing.go the map
package report
