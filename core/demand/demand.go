// Package demand turns lists of search queries, with what is known of them, into groups that
// are each worth a page.
//
//   - demand.go   keywords and their figures
//   - number.go   figures as people write them
//   - columns.go  which column of a table holds what
//   - list.go     a table as keywords; the same query twice is one
//   - likeness.go how alike two queries are: by shared results, by words; meaning.go  words near
//     each other; compounds.go  words that are two
//   - graph.go    a list compared once, parted at any width
//   - group.go    groups, their names and sums; intent.go  what their searches want; product.go which of them name a product
//   - hand.go     what a person moved, joined, named or threw out
//   - out.go      what is worth no page, and why; spelling.go  words that are misspelled, and other languages
//   - curve.go    clicks by position; own.go  where a site stands, pages that rival each other
//   - standing.go how well pages are placed for keywords; standpoints.go the places that is made of
//   - searched.go  searched against found
//   - slate.go    the pages to write; network.go  the links between them
package demand

import "encoding/json"

// Figure is a number that may not be known.
type Figure struct {
	Value float64
	Known bool
}

// Of is a figure that is known.
func Of(v float64) Figure { return Figure{v, true} }

// MarshalJSON writes the number, null where it is not known.
func (f Figure) MarshalJSON() ([]byte, error) {
	if !f.Known {
		return []byte("null"), nil
	}
	return json.Marshal(f.Value)
}

// UnmarshalJSON is MarshalJSON turned round.
func (f *Figure) UnmarshalJSON(b []byte) error {
	if string(b) == "null" {
		*f = Figure{}
		return nil
	}
	f.Known = true
	return json.Unmarshal(b, &f.Value)
}

// Keyword is a search query with what a list says of it.
type Keyword struct {
	Text        string   `json:"keyword"`
	Volume      Figure   `json:"volume"`      // searches a month
	Difficulty  Figure   `json:"difficulty"`  // 0 to 100
	Cost        Figure   `json:"cost"`        // of a click, in the list's currency
	Competition Figure   `json:"competition"` // among advertisers, 0 to 1
	Position    Figure   `json:"position"`    // of a page of ours, 1 and up
	Clicks      Figure   `json:"clicks"`
	Impressions Figure   `json:"impressions"`
	Address     string   `json:"address,omitempty"`   // of a page of ours
	Trend       []Figure `json:"trend,omitempty"`     // searches by month, the oldest first
	Until       string   `json:"until,omitempty"`     // the last month of Trend, as 2026-10; empty where nobody says
	Spellings   []string `json:"spellings,omitempty"` // the same query as the list also writes it
	Places      []Place  `json:"places,omitempty"`    // where pages of ours stand for it; none where Address is all that is known
}

// Place is where a page of ours stands for a query.
type Place struct {
	Address     string `json:"address"`
	Position    Figure `json:"position"`
	Clicks      Figure `json:"clicks"`
	Impressions Figure `json:"impressions"`
}

// Searches is the volume, 0 where it is not known.
func (k Keyword) Searches() float64 { return k.Volume.Value }
