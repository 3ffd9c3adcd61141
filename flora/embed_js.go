// Package flora carries the flora inside the binary.
package flora

import "embed"

// Files holds those files of the flora that are read as they are.
//
//go:embed phenology.yaml
var Files embed.FS

// Frozen is the flora as the command's flora freeze writes it, for a browser, where
// reading the files takes long.
//
//go:embed frozen
var Frozen []byte
