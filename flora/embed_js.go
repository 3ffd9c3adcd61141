// Package flora carries the flora's files inside the binary.
package flora

import "embed"

// Files holds every YAML file of the flora, and beside it its parsed form, which
// make ui makes.
//
//go:embed *.yaml *.yaml.parsed
var Files embed.FS
