// Package docs holds what is written for teachers, and the pictures of the program beside it: the
// pages of Help are these files.
package docs

import "embed"

// Help are the pages, help/*.md; the first line of each is its title.
//
//go:embed help/*.md
var Help embed.FS

// Pictures are screenshots/*.png.
//
//go:embed screenshots/*.png
var Pictures embed.FS
