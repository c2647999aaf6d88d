// Package web carries the built web part inside the binary.
package web

import "embed"

// Dist is what `npm run build` made; before that it holds nothing to serve.
//
//go:embed all:dist
var Dist embed.FS
