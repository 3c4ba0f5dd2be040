package vocabulary

import (
	"maps"
	"slices"
	"strings"

	"corpulan/core/corpus"
)

// nearness is how near the pages of a field, and their sections, are to the keyword.
type nearness struct {
	pages    []float64   // 0 to 1
	sections [][]float64 // 0 to 1, by page
	all      float64     // sum of pages
}

// What a stem of the keyword adds to a page where it stands; the square of the mean is
// the page's weight. Our own.
const (
	inTitle   = 1.0
	inHeading = 0.75
	inBody    = 0.5
	farPage   = 0.1 // what a page without a stem of the keyword still weighs
)

func nearnessOf(f *corpus.Field) *nearness {
	n := &nearness{pages: make([]float64, len(f.Docs)), sections: make([][]float64, len(f.Docs))}
	stems := slices.Sorted(maps.Keys(f.KeywordStems()))
	each := 1 / float64(max(len(stems), 1))
	for i, d := range f.Docs {
		if len(stems) == 0 {
			n.pages[i] = 1
			n.all++
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
		n.sections[i] = make([]float64, len(d.Sections))
		for _, stem := range stems {
			weight := 0.0
			for j, section := range d.Sections {
				if hasKin(section, stem) {
					n.sections[i][j] += each
					weight = max(weight, inBody)
				}
				if hasKin(headed[j], stem) {
					weight = max(weight, inHeading)
				}
			}
			for _, s := range f.Language.ContentStems(d.Reading.Title) {
				if isKin(s, stem) {
					weight = inTitle
				}
			}
			n.pages[i] += weight * each
		}
		n.pages[i] = max(n.pages[i]*n.pages[i], farPage)
		n.all += n.pages[i]
	}
	return n
}

// leastKin is how many letters two stems share at least to be kin. Our own.
const leastKin = 4

// isKin tells whether a stem begins with the keyword's: "storag" with "store", and
// in languages that join words "fahrradschloss" with "fahrrad".
func isKin(stem, keyword string) bool {
	root := strings.TrimSuffix(keyword, "e")
	return stem == keyword || len(root) >= leastKin && strings.HasPrefix(stem, root)
}

func hasKin[V any](stems map[string]V, keyword string) bool {
	if _, ok := stems[keyword]; ok {
		return true
	}
	for s := range stems {
		if isKin(s, keyword) {
			return true
		}
	}
	return false
}

// shareOf is the share of the field that uses a term, each page weighing as it is near.
func (n *nearness) shareOf(m *merged) float64 {
	sum := 0.0
	for i, u := range m.uses {
		if u != nil {
			sum += n.pages[i]
		}
	}
	return sum / n.all
}

// of is how near a term is to the keyword: the mean over the sections it stands in of
// the share of the keyword's stems that stand there too.
func (n *nearness) of(m *merged) float64 {
	sum, count := 0.0, 0
	for i, u := range m.uses {
		if u == nil {
			continue
		}
		for _, j := range u.Sections {
			if n.sections[i] == nil {
				return 0
			}
			sum += n.sections[i][j]
			count++
		}
	}
	if count == 0 {
		return 0
	}
	return sum / float64(count)
}
