// Package lists holds the word lists that lie beside the program, for tests: importing it hands
// them over. The program reads the same files from disk and never imports it, so that none of them
// becomes a part of it. SOURCES.md names their sources and licences; dictionaries/ holds those of
// the spelling check, which `make assets` packs.
package lists

import (
	"embed"

	"corpulan/core/lexicon"
)

//go:embed *.tsv *.txt classes common
var files embed.FS

func init() {
	if err := lexicon.Beside(files); err != nil {
		panic(err) // they are embedded
	}
}
