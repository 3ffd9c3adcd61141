// Package exchange reads and writes trees in open formats: tables as CSV and
// XLSX, GeoJSON (RFC 7946), GPX 1.1, the project's field record, and Darwin Core
// Archives (TDWG, "Darwin Core Text Guide").
//
// Reading goes in two steps. [Read] makes a [Sheet] of any file: columns and
// lines as they stand in it. [Sheet.Lines] reads the lines as trees under a
// mapping of columns to fields, and says of each what is wrong with it.
//
//	exchange.go     trees as files have them, and the formats
//	sheet.go        any file as a sheet; zip.go what is unpacked, and how much of it
//	fields.go       what a column can hold; lines.go lines as trees; scores.go cells as scores
//	log.go          a tree of a file as a log
//	geojson.go      GeoJSON; gpx.go GPX; records.go field records
//	dwca.go         Darwin Core Archives out; dwca_read.go in
package exchange
