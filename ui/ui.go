// Package ui embeds the built pages, or a page that says how to build them.
package ui

import (
	"embed"
	"io/fs"
)

//go:embed all:build
var built embed.FS

//go:embed placeholder
var placeholder embed.FS

// Files gives the built pages; without a build, a page that says so.
func Files() fs.FS {
	if sub, err := fs.Sub(built, "build/app"); err == nil {
		if _, err := fs.Stat(sub, "index.html"); err == nil {
			return sub
		}
	}
	sub, err := fs.Sub(placeholder, "placeholder")
	if err != nil {
		return built
	}
	return sub
}
