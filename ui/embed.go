// Package ui holds the pages as Vite builds them, so that they are part of the program.
package ui

import (
	"embed"
	"io/fs"
)

//go:embed all:dist
var dist embed.FS

// Pages has admin/ and public/, each with an index.html.
func Pages() fs.FS {
	pages, err := fs.Sub(dist, "dist")
	if err != nil {
		panic(err) // the folder is named in the line above
	}
	return pages
}
