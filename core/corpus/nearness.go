package corpus

import (
	"maps"
	"slices"
	"strings"
)

// Nearness is how near the pages of a field, and their sections, are to the keyword.
type Nearness struct {
	Pages    []float64   // 0 to 1
	Sections [][]float64 // 0 to 1, by page; nil where the keyword has no stems
	All      float64     // sum of Pages
}

// What a stem of the keyword adds to a page where it stands; the square of the mean is
// the page's weight. Our own.
const (
	inTitle   = 1.0
	inHeading = 0.75
	inBody    = 0.5
	farPage   = 0.1 // what a page without a stem of the keyword still weighs
)

// Nearness tells how near the pages and sections are to the keyword. It is computed
// once.
func (f *Field) Nearness() *Nearness { return f.near() }

// Share is the share of the field that some pages are, those near the keyword counting
// more; has tells for each page whether it is one.
func (n *Nearness) Share(has func(page int) bool) float64 {
	sum := 0.0
	for i, w := range n.Pages {
		if has(i) {
			sum += w
		}
	}
	return sum / max(n.All, farPage)
}

func nearnessOf(f *Field) *Nearness {
	n := &Nearness{Pages: make([]float64, len(f.Docs)), Sections: make([][]float64, len(f.Docs))}
	stems := slices.Sorted(maps.Keys(f.KeywordStems()))
	each := 1 / float64(max(len(stems), 1))
	for i, d := range f.Docs {
		if len(stems) == 0 {
			n.Pages[i] = 1
			n.All++
			continue
		}
		headed := make([]map[string]bool, len(d.Sections))
		for _, s := range d.Sentences {
			if !s.Heading {
				continue
			}
			if headed[s.Section] == nil {
				headed[s.Section] = map[string]bool{}
			}
			for _, t := range s.Tokens {
				headed[s.Section][t.Stem] = true
			}
		}
		n.Sections[i] = make([]float64, len(d.Sections))
		for _, stem := range stems {
			weight := 0.0
			for j, section := range d.Sections {
				if hasKin(section, stem) {
					n.Sections[i][j] += each
					weight = max(weight, inBody)
				}
				if hasKin(headed[j], stem) {
					weight = max(weight, inHeading)
				}
			}
			for _, s := range f.Language.ContentStems(d.Reading.Title) {
				if IsKin(s, stem) {
					weight = inTitle
				}
			}
			n.Pages[i] += weight * each
		}
		n.Pages[i] = max(n.Pages[i]*n.Pages[i], farPage)
		n.All += n.Pages[i]
	}
	return n
}

// minKin is how many letters two stems share at least to be kin. Our own.
const minKin = 4

// IsKin tells whether a stem begins with the keyword's: "storag" with "store", and
// in languages that join words "fahrradschloss" with "fahrrad".
func IsKin(stem, keyword string) bool {
	root := strings.TrimSuffix(keyword, "e")
	return stem == keyword || len(root) >= minKin && strings.HasPrefix(stem, root)
}

func hasKin[V any](stems map[string]V, keyword string) bool {
	if _, ok := stems[keyword]; ok {
		return true
	}
	for s := range stems {
		if IsKin(s, keyword) {
			return true
		}
	}
	return false
}

// IsOfKeyword tells whether a stem is the keyword's, or kin to one.
func (f *Field) IsOfKeyword(stem string) bool {
	for k := range f.KeywordStems() {
		if IsKin(stem, k) {
			return true
		}
	}
	return false
}
