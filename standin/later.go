package standin

import (
	"slices"
	"strings"
	"sync"
)

// later is what three weeks change: for the keywords that have moved on, results pages and pages
// are those of later/, where there are such.
type later struct {
	mu    sync.Mutex
	pages []page
	moved [][]string // the keywords that have, by their words
}

// MoveOn lets three weeks pass for a keyword: its ranks have moved then, and some of its pages
// were rewritten.
func (w *Web) MoveOn(keyword string) {
	w.later.mu.Lock()
	defer w.later.mu.Unlock()
	w.later.moved = append(w.later.moved, words(keyword))
}

// indexOf are the results pages that hold for a keyword.
func (w *Web) indexOf(keyword []string) []page {
	w.later.mu.Lock()
	defer w.later.mu.Unlock()
	if slices.ContainsFunc(w.later.moved, func(m []string) bool { return slices.Equal(m, keyword) }) {
		return slices.Concat(w.later.pages, w.pages)
	}
	return w.pages
}

// movedOn tells whether an address is among the results of a keyword that has moved on.
func (w *Web) movedOn(path string) bool {
	w.later.mu.Lock()
	defer w.later.mu.Unlock()
	for _, p := range w.later.pages {
		if !slices.ContainsFunc(w.later.moved, func(m []string) bool { return slices.Equal(m, words(p.Keyword)) }) {
			continue
		}
		if slices.ContainsFunc(p.Results, func(r result) bool { return strings.TrimSuffix(r.Path, "/") == strings.TrimSuffix(path, "/") }) {
			return true
		}
	}
	return false
}
