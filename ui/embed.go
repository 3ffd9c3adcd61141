// Package ui carries the built interface inside the binary, or, where it was
// not built, a page that says how to build it.
package ui

import (
	"embed"
	"io/fs"
	"testing/fstest"
)

// files holds dist/ when it was built, and always dist-placeholder.html.
//
//go:embed all:dist*
var files embed.FS

// Pages gives the interface's files, with index.html at the top.
func Pages() (fs.FS, error) {
	if _, err := fs.Stat(files, "dist/index.html"); err == nil {
		return fs.Sub(files, "dist")
	}
	page, err := files.ReadFile("dist-placeholder.html")
	return fstest.MapFS{"index.html": {Data: page}}, err
}
