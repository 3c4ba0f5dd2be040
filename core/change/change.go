// Package change compares two gatherings of one study: who came, went, rose and fell; what the
// pages that are in both say differently; and which terms, themes and questions the field took
// up or let go.
//
//   - change.go    two gatherings, and what moved between them
//   - pages.go     which page of one gathering is which of the other
//   - findings.go  terms, themes and questions of both fields, counted in each
//   - least.go     the smallest change worth showing
//   - text.go      two versions of a page: sentences added, cut, rewritten, moved
//   - sections.go  the same by sections
//   - proposals.go what that asks of a brief
//   - studies.go   two studies side by side
//   - words.go     two versions of a sentence, word by word
package change

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/evidence"
	"corpulan/core/house"
	"corpulan/core/message"
	"corpulan/core/stats"
	"corpulan/core/text"
)

// Result is one page of a gathering.
type Result struct {
	Rank  int
	URL   string
	Also  []string // other addresses of the page: where it led to, what it calls itself
	Title string
	Added bool        // by a person: it did not rank
	Doc   *corpus.Doc // nil where the page could not be read
	Kept  bool        // counts into the field, if it was read
}

// Gathering is one run of collecting.
type Gathering struct {
	Results []Result // in rank order
	Asked   []string // questions of the results page
	Related []string // related searches
}

// Input is what is compared.
type Input struct {
	Keyword, Language string        // of the study, as the documents were prepared
	House             []house.Entry // what the publication has taught
	Before, After     Gathering
}

// Rank is a place among the results; 0, in JSON null, for none.
type Rank int

// MarshalJSON writes a rank, or null for none.
func (r Rank) MarshalJSON() ([]byte, error) {
	if r == 0 {
		return []byte("null"), nil
	}
	return fmt.Appendf(nil, "%d", int(r)), nil
}

// How something moved.
type How string

// The ways. Pages go up and down, findings rise and fall.
const (
	New    How = "new"
	Gone   How = "gone"
	Up     How = "up"
	Down   How = "down"
	Risen  How = "risen"
	Fallen How = "fallen"
	Same   How = "same"
)

// Movement is what changed between two gatherings.
type Movement struct {
	Keyword   string            `json:"keyword"`
	Language  string            `json:"language"`
	Ranks     []Place           `json:"ranks"` // as they now are, then those that are gone
	Pages     []PageChange      `json:"pages"` // that were read both times
	Words     Words             `json:"words"`
	Terms     []Finding         `json:"terms"`
	Themes    []Finding         `json:"themes"`
	Questions []Finding         `json:"questions"`
	Listed    []Finding         `json:"listed"`  // things that pages list
	Asked     OnResults         `json:"asked"`   // by the results page
	Related   OnResults         `json:"related"` // searches
	Notes     []message.Message `json:"notes"`   // what was left out of the comparison, and why
}

// Place is where a page stood and stands.
type Place struct {
	URL    string `json:"url"`
	Was    string `json:"was,omitempty"` // its address before, where that has changed
	Title  string `json:"title"`
	How    How    `json:"how"`
	Before Rank   `json:"before"`
	After  Rank   `json:"after"`
}

// Words is how long kept pages are, outliers left out.
type Words struct {
	Before stats.Range `json:"before"`
	After  stats.Range `json:"after"`
}

// OnResults is a list of the results page, before and after.
type OnResults struct {
	New  []string `json:"new"`
	Gone []string `json:"gone"`
}

// Finding is a term, a theme, a question or a listed thing that pages took up or let go.
type Finding struct {
	Key      string  `json:"key"`
	Text     string  `json:"text"`
	How      How     `json:"how"`
	Before   int     `json:"before"` // pages that have it
	OfBefore int     `json:"of_before"`
	After    int     `json:"after"`
	OfAfter  int     `json:"of_after"`
	Least    float64 `json:"least"`     // of the change of its share, whichever page is left out
	RanksWas []int   `json:"ranks_was"` // of the pages that had it
	Ranks    []int   `json:"ranks"`     // of the pages that have it
	Results  bool    `json:"results,omitempty"`
	PlaceWas float64 `json:"place_was,omitempty"` // of a listed thing: median of its places in the lists that had it
	Place    float64 `json:"place,omitempty"`
	// Made is what tells which finding of either gathering it is: stems of a term, headings of a
	// theme, wordings of a question, names of a thing.
	Made []string `json:"made,omitempty"`
}

// Compare tells what moved between two gatherings. Its only error is ctx's.
func Compare(ctx context.Context, in Input) (*Movement, error) {
	pairs := match(in.Before.Results, in.After.Results)
	m := &Movement{Keyword: in.Keyword, Language: in.Language, Ranks: []Place{}, Pages: []PageChange{}, Terms: []Finding{}, Themes: []Finding{}, Questions: []Finding{}, Listed: []Finding{}, Notes: []message.Message{}}
	for _, p := range pairs {
		if place, ranked := p.place(); ranked {
			m.Ranks = append(m.Ranks, place)
		}
		if p.before == nil || p.after == nil || p.before.Doc == nil || p.after.Doc == nil {
			continue
		}
		if ctx.Err() != nil {
			return nil, ctx.Err()
		}
		m.Pages = append(m.Pages, p.page())
	}
	j := join(in, pairs)
	m.Notes = append(m.Notes, j.notes...)
	m.Words = Words{j.lengths(func(p *page) *Result { return p.before }), j.lengths(func(p *page) *Result { return p.after })}
	if err := j.findings(ctx, in, m); err != nil {
		return nil, err
	}
	m.Asked, m.Related = onResults(in.Before.Asked, in.After.Asked), onResults(in.Before.Related, in.After.Related)
	return m, nil
}

// lengths is the range of the words of the pages of one side that count.
func (j *joined) lengths(side func(*page) *Result) stats.Range {
	var words, ranks []int
	for i := range j.pages {
		if r := side(&j.pages[i]); r != nil {
			words, ranks = append(words, r.Doc.Reading.Counts.Words), append(ranks, r.Rank)
		}
	}
	return evidence.Lengths(words, ranks).Target
}

// plain is a query or question without what makes no difference: case, spaces, a mark at its end.
func plain(s string) string {
	return text.Fold(strings.TrimRight(strings.Join(strings.Fields(s), " "), "?!. "))
}

// listed tells what is new in a list and what is gone from it.
func onResults(before, after []string) OnResults {
	less := func(from, by []string) []string {
		known := map[string]bool{}
		for _, s := range by {
			known[plain(s)] = true
		}
		left := []string{}
		for _, s := range from {
			if k := plain(s); !known[k] {
				known[k] = true
				left = append(left, s)
			}
		}
		return left
	}
	return OnResults{New: less(after, before), Gone: less(before, after)}
}

// Counted is how many places moved in a way.
func (m *Movement) Counted(how How) int {
	n := 0
	for _, p := range m.Ranks {
		if p.How == how {
			n++
		}
	}
	return n
}

// Rewritten are the pages whose text has changed.
func (m *Movement) Rewritten() []PageChange {
	return slices.DeleteFunc(slices.Clone(m.Pages), func(p PageChange) bool { return !p.Changed() })
}

// Still tells that nothing moved.
func (m *Movement) Still() bool {
	return m.Counted(Same) == len(m.Ranks) && len(m.Rewritten()) == 0 && len(m.Terms)+len(m.Themes)+len(m.Questions)+len(m.Listed)+len(m.Asked.New)+len(m.Asked.Gone)+len(m.Related.New)+len(m.Related.Gone) == 0
}

// Size is about how many bytes the movement takes in memory, for caches to count.
func (m *Movement) Size() int64 {
	n := int64(2000 + 300*len(m.Ranks))
	for _, p := range m.Pages {
		n += 600 + int64(len(p.Sections))*150
		for _, list := range [][]string{p.Added, p.Cut} {
			for _, s := range list {
				n += 16 + int64(len(s))
			}
		}
		for _, r := range p.Rewritten {
			n += 32 + int64(len(r.Before)+len(r.After))
		}
	}
	for _, list := range [][]Finding{m.Terms, m.Themes, m.Questions, m.Listed} {
		for _, f := range list {
			n += 250 + int64(8*(len(f.Ranks)+len(f.RanksWas))+40*len(f.Made))
		}
	}
	return n
}
