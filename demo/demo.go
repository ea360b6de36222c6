// Package demo holds the demo site: Ternholm Ferries, an invented ferry line.
package demo

import (
	"embed"
	"io/fs"
)

// Name is the name under which the demo site is opened.
const Name = "ternholm"

//go:embed all:ternholm
var files embed.FS

// Files is the demo site as a shelf folder.
func Files() fs.FS {
	sub, err := fs.Sub(files, Name)
	if err != nil {
		return files
	}
	return sub
}
