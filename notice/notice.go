// Package notice names what the program is made of and ships with, each with its licence.
// NOTICE.txt is made by `make notice` from the Go modules that are linked, the npm packages that
// are bundled, the fonts and the data; a test finds what is missing in it.
package notice

import _ "embed"

//go:embed NOTICE.txt
var text string

// Text is the notice, as plain text.
func Text() string { return text }
