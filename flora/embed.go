//go:build !js

// Package flora carries the flora's files inside the binary.
package flora

import "embed"

// Files holds every YAML file of the flora.
//
//go:embed *.yaml
var Files embed.FS
