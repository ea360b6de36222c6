// Package demo holds the demo site: Ternholm Ferries, an invented ferry line.
package demo

import (
	"embed"
	"io/fs"
)

//go:embed all:ternholm
var files embed.FS

// Files is the demo site as a shelf folder.
func Files() fs.FS {
	sub, err := fs.Sub(files, "ternholm")
	if err != nil {
		return files
	}
	return sub
}
