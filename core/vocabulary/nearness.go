package vocabulary

import (
	"maps"
	"slices"

	"corpulan/core/corpus"
)

// nearness is how near the pages of a field, and their sections, are to the keyword.
type nearness struct {
	pages    []float64   // 0 to 1
	sections [][]float64 // 0 to 1, by page
	all      float64     // sum of pages
}

// What a stem of the keyword adds to a page where it stands: our own weights.
const (
	inTitle   = 1.0
	inHeading = 0.75
	inBody    = 0.5
	farPage   = 0.1 // what a page without a stem of the keyword still weighs
)

func nearnessOf(f *corpus.Field) *nearness {
	n := &nearness{pages: make([]float64, len(f.Docs)), sections: make([][]float64, len(f.Docs))}
	stems := slices.Sorted(maps.Keys(f.KeywordStems()))
	for i, d := range f.Docs {
		if len(stems) == 0 {
			n.pages[i] = 1
			n.all++
			continue
		}
		title := map[string]bool{}
		for _, s := range f.Language.ContentStems(d.Reading.Title) {
			title[s] = true
		}
		headed := map[string]bool{}
		for _, s := range d.Sentences {
			if !s.Heading {
				continue
			}
			for _, t := range s.Tokens {
				headed[t.Stem] = true
			}
		}
		n.sections[i] = make([]float64, len(d.Sections))
		for j, section := range d.Sections {
			for _, s := range stems {
				if section[s] > 0 {
					n.sections[i][j] += 1 / float64(len(stems))
				}
			}
		}
		for _, s := range stems {
			weight := 0.0
			switch {
			case title[s]:
				weight = inTitle
			case headed[s]:
				weight = inHeading
			case inAny(d.Sections, s):
				weight = inBody
			}
			n.pages[i] += weight / float64(len(stems))
		}
		n.pages[i] = max(n.pages[i], farPage)
		n.all += n.pages[i]
	}
	return n
}

func inAny(sections []map[string]int, stem string) bool {
	for _, s := range sections {
		if s[stem] > 0 {
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
