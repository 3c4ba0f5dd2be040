package lexicon

import (
	"embed"
	"fmt"
	"io/fs"
	"sync/atomic"
)

// The lists whose licences ask that what is made of them be given on alike are no part of the
// program: they lie beside it, as data, and are handed over when it starts. See lists/SOURCES.md.

//go:embed data
var embedded embed.FS

var beside atomic.Pointer[fs.FS]

// Names are the lists that lie beside the program.
func Names() []string {
	return []string{"countries.tsv", "kinds.tsv", "titles.txt", "classes/es.tsv", "classes/fr.tsv", "classes/it.tsv", "classes/pt.tsv", "classes/sv.tsv",
		"common/de.txt", "common/es.txt", "common/fr.txt", "common/it.txt", "common/nl.txt", "common/pt.txt", "common/sv.txt"}
}

// Beside hands the lists over that lie beside the program; it fails, and takes none, where one is
// missing. It is called once, before anything else of the core.
func Beside(lists fs.FS) error {
	for _, name := range Names() {
		if _, err := fs.Stat(lists, name); err != nil {
			return fmt.Errorf("a word list is missing: %w", err)
		}
	}
	beside.Store(&lists)
	return nil
}

// read is a list, of the program's own or beside it.
func read(name string) string {
	b, err := embedded.ReadFile("data/" + name)
	if err != nil {
		lists := beside.Load()
		if lists == nil {
			panic("lexicon: " + name + " lies beside the program, and Beside was not called")
		}
		b, err = fs.ReadFile(*lists, name)
	}
	if err != nil {
		panic("lexicon: " + err.Error()) // Beside has seen it
	}
	return string(b)
}
