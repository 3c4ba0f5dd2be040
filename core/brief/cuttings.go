package brief

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"slices"
	"strings"
)

// Cutting is a passage, a question or a figure kept from a page with its source, for the
// writer. It stands by itself: what becomes of the page changes nothing in it.
type Cutting struct {
	ID      string `json:"id"`
	Kind    string `json:"kind"` // "passage", "question" or "figure"
	Text    string `json:"text"`
	URL     string `json:"url"`   // of the page; empty for the results page
	Title   string `json:"title"` // of the page
	Rank    int    `json:"rank"`  // when it was taken; 0 for the results page
	Heading string `json:"heading,omitempty"`
	Date    string `json:"date"` // when the page was captured, YYYY-MM-DD

	Note    string `json:"note,omitempty"`    // a person's
	Section string `json:"section,omitempty"` // heading of the section it stands under
	Key     string `json:"-"`                 // of that section
}

// MaxCuttings is how many a brief holds. Our own.
const MaxCuttings = 300

// CuttingID names a cutting by its page and its words, so that the same taken twice is one.
func CuttingID(url, text string) string {
	h := sha256.Sum256([]byte(url + "\x00" + strings.Join(strings.Fields(text), " ")))
	return hex.EncodeToString(h[:8])
}

// CuttingOrder are the numbers of the cuttings as a person has them.
func (c Choices) CuttingOrder() []string {
	var order []string
	for _, id := range c.CuttingsOrder {
		if c.Cuttings[id].Cutting != nil && !slices.Contains(order, id) {
			order = append(order, id)
		}
	}
	return order
}

// Cut is the edits that keep a cutting, behind those there are.
func (c Choices) Cut(x Cutting) ([]Edit, error) {
	order := c.CuttingOrder()
	if slices.Contains(order, x.ID) {
		return nil, nil
	}
	x.Note, x.Section, x.Key = "", "", ""
	text, err := json.Marshal(x)
	if err != nil {
		return nil, err
	}
	kept := string(text)
	lines := strings.Join(append(order, x.ID), "\n")
	return []Edit{c.Write(CuttingPrefix+x.ID, &kept, nil), c.Write(FieldCuttings, &lines, nil)}, nil
}

// RemoveCutting is the edits that take a cutting out, with its note.
func (c Choices) RemoveCutting(id string) []Edit {
	order := slices.DeleteFunc(c.CuttingOrder(), func(x string) bool { return x == id })
	lines := strings.Join(order, "\n")
	return busy([]Edit{c.Write(CuttingPrefix+id, nil, nil), c.Write(CuttingNotePrefix+id, nil, nil), c.Write(CuttingAtPrefix+id, nil, nil), c.Write(FieldCuttings, &lines, nil)})
}

// MoveCutting is the edits that move a cutting up or down among those beside it: under the
// same section, or under none.
func (c Choices) MoveCutting(id string, up bool) []Edit {
	order := c.CuttingOrder()
	at, step := slices.Index(order, id), 1
	if up {
		step = -1
	}
	if at < 0 {
		return nil
	}
	for to := at + step; to >= 0 && to < len(order); to += step {
		if textOf(c.Cuttings[order[to]].Section) == textOf(c.Cuttings[id].Section) {
			order[at], order[to] = order[to], order[at]
			lines := strings.Join(order, "\n")
			return []Edit{c.Write(FieldCuttings, &lines, nil)}
		}
	}
	return nil
}

// cuttings are those that were kept, in their order; each is put under its section, if that is
// in the outline.
func (b *Brief) cuttings(c Choices) {
	b.Cuttings = []Cutting{}
	for _, id := range c.CuttingOrder() {
		cut := c.Cuttings[id]
		x := *cut.Cutting
		x.ID, x.Note, x.Key = id, textOf(cut.Note), textOf(cut.Section)
		each(b.Outline, func(s *Section) {
			if s.Key == x.Key && x.Key != "" {
				x.Section = s.Heading
				s.Cuttings = append(s.Cuttings, x)
			}
		})
		if x.Section == "" {
			x.Key = ""
		}
		b.Cuttings = append(b.Cuttings, x)
	}
}
