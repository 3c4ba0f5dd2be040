package brief

import (
	"cmp"
	"slices"

	"corpulan/core/evidence"
	"corpulan/core/points"
	"corpulan/core/text"
)

// Stood is a section of an outline by hand as it stood when a person made the outline theirs. From
// then on newer evidence adds to it, and takes nothing from it: what no page has any more stands with
// a mark.
type Stood struct {
	Heading   string       `json:"heading"`
	Words     int          `json:"words"` // of its budget, sub-sections included: its part of whatever the whole is to have
	Points    []StoodPoint `json:"points,omitempty"`
	Questions []string     `json:"questions,omitempty"`
	Terms     []string     `json:"terms,omitempty"`
}

// StoodPoint is a point of such a section.
type StoodPoint struct {
	Key  string `json:"key"`
	Text string `json:"text"` // a page's words
	Rank int    `json:"rank"` // of that page
}

// stoodAs is a section as it stands.
func stoodAs(s *Section) *Stood {
	x := &Stood{Heading: s.Heading, Words: s.Words, Questions: slices.Clone(s.Questions), Terms: slices.Clone(s.Terms)}
	for _, p := range s.Points {
		x.Points = append(x.Points, StoodPoint{p.Key, p.Text, p.Rank})
	}
	return x
}

// as lets a section stand as it stood: its heading, its budget, and its points that nobody dropped,
// those that somebody adopted since behind them. found are the points of its theme today.
func (x *Stood) as(n *node, e *evidence.Evidence, found []points.Point, c Choices) {
	if n.Heading = x.Heading; x.Words > 0 { // none of what was folded
		n.length = float64(x.Words)
	}
	list := []Point{}
	has := map[string]bool{}
	for _, p := range x.Points {
		has[p.Key] = true
		if c.State(PointKind, p.Key) == Dropped {
			n.Struck++
			continue
		}
		out := Point{Key: p.Key, Text: p.Text, Rank: p.Rank, Sources: []int{}, Gone: true}
		if now, ok := pointToday(e, p.Key); ok {
			out = pointOf(now, c)
			out.Text, out.Edited = p.Text, false
		}
		if own := c.Points[p.Key]; own != "" {
			out.Text, out.Edited = own, own != p.Text
		}
		list = append(list, out)
	}
	for _, p := range found {
		if !has[p.Key] && c.State(PointKind, p.Key) == Adopted {
			list = append(list, pointOf(p, c))
		}
	}
	n.Points = list
}

func pointToday(e *evidence.Evidence, key string) (points.Point, bool) {
	for _, of := range e.Points {
		for _, p := range of.Points {
			if p.Key == key {
				return p, true
			}
		}
	}
	return points.Point{}, false
}

// pointOf is a point as the field has it, in the words that a person gave it where one did.
func pointOf(p points.Point, c Choices) Point {
	out := Point{Key: p.Key, Text: p.Text, Rank: p.Rank, Sources: p.Ranks, Chosen: c.chose(PointKind, p.Key) || c.Points[p.Key] != ""}
	for _, d := range p.Disputed {
		for _, v := range d.Values {
			out.Disputed = append(out.Disputed, v.Text)
		}
	}
	if own := c.Points[p.Key]; own != "" {
		out.Text, out.Edited = own, own != p.Text
	}
	return out
}

// stoodUnder finds the section of an outline by hand that a finding stood under, by its words; nil for
// none.
func (b *Brief) stoodUnder(c Choices, of func(*Stood) []string) func(words string) *Section {
	if c.Outline == nil {
		return func(string) *Section { return nil }
	}
	key, at := b.keyOfWords(), map[string]*Section{}
	each(b.Outline, func(s *Section) {
		if x := c.Sections[s.Key].Stood; x != nil {
			for _, t := range of(x) {
				if at[key(t)] == nil {
					at[key(t)] = s
				}
			}
		}
	})
	return func(words string) *Section { return at[key(words)] }
}

// keyOfWords tells the same words in other forms by one key.
func (b *Brief) keyOfWords() func(words string) string {
	lang := langOf(b)
	return func(words string) string { return cmp.Or(lang.PhraseKey(words), text.Fold(words)) }
}

// keepStood puts what stood under the sections of an outline by hand back where newer evidence, and
// not a person, has taken it away, and in the order in which it stood.
func (b *Brief) keepStood(c Choices, k Kind, of func(*Stood) []string, at func(*Section) *[]string) {
	if c.Outline == nil {
		return
	}
	key := b.keyOfWords()
	placed, dropped := map[string]bool{}, map[string]bool{} // placed elsewhere, by hand or by its words
	each(b.Outline, func(s *Section) {
		for _, t := range *at(s) {
			placed[key(t)] = true
		}
	})
	for _, m := range c.Marks {
		if m.Kind == k && m.State == Dropped {
			dropped[key(m.Text)] = true
		}
	}
	each(b.Outline, func(s *Section) {
		x := c.Sections[s.Key].Stood
		if x == nil {
			return
		}
		list, stood := *at(s), map[string]int{}
		for i, t := range of(x) {
			if !placed[key(t)] && !dropped[key(t)] {
				list = append(list, t)
			}
			if _, twice := stood[key(t)]; !twice {
				stood[key(t)] = i
			}
		}
		place := func(words string) int {
			if i, ok := stood[key(words)]; ok {
				return i
			}
			return len(of(x))
		}
		slices.SortStableFunc(list, func(a, b string) int { return place(a) - place(b) })
		*at(s) = list
	})
}
