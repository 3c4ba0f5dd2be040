package main

import (
	"cmp"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"

	"corpulan/core/lexicon"
)

// listsBeside finds the word lists and dictionaries that lie beside the program, and hands the lists
// to the core: in the folder that is named, by a setting or CORPULAN_LISTS, else in `lists` beside the program, one
// above it, in share/corpulan one above it, or where one is.
func listsBeside(named string) (fs.FS, error) {
	places := []string{cmp.Or(named, os.Getenv("CORPULAN_LISTS"))}
	if places[0] == "" {
		places = []string{"lists"}
		if at, err := os.Executable(); err == nil {
			at = filepath.Dir(at)
			places = []string{filepath.Join(at, "lists"), filepath.Join(at, "..", "lists"), filepath.Join(at, "..", "share", "corpulan", "lists"), "lists"}
		}
	}
	for _, place := range places {
		if _, err := os.Stat(place); errors.Is(err, fs.ErrNotExist) {
			continue
		}
		lists := os.DirFS(place)
		if err := lexicon.Beside(lists); err != nil {
			return nil, fmt.Errorf("the word lists in %s: %w", place, err)
		}
		return lists, nil
	}
	return nil, fmt.Errorf("the word lists are nowhere: they come with the program in the folder lists; CORPULAN_LISTS names it, or it lies in %s", strings.Join(places, ", "))
}
