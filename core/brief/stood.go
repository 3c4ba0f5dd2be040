package brief

import (
	"slices"
	"strings"

	"corpulan/core/evidence"
	"corpulan/core/points"
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

// standsUnder is the section of an outline by hand that a finding stood under, by its words; nil for
// none.
func (b *Brief) standsUnder(c Choices, words string, of func(*Stood) []string) (at *Section) {
	if c.Outline == nil {
		return nil
	}
	each(b.Outline, func(s *Section) {
		if x := c.Sections[s.Key].Stood; at == nil && x != nil && slices.ContainsFunc(of(x), func(t string) bool { return b.sameWords(t, words) }) {
			at = s
		}
	})
	return at
}

func (b *Brief) sameWords(x, y string) bool {
	return strings.EqualFold(x, y) || langOf(b).PhraseKey(x) == langOf(b).PhraseKey(y)
}

// keepStood puts what stood under the sections of an outline by hand back where newer evidence, and
// not a person, has taken it away, and in the order in which it stood.
func (b *Brief) keepStood(c Choices, k Kind, of func(*Stood) []string, at func(*Section) *[]string) {
	if c.Outline == nil {
		return
	}
	placed := map[string]bool{} // elsewhere, by hand or by its words
	each(b.Outline, func(s *Section) {
		for _, t := range *at(s) {
			placed[langOf(b).PhraseKey(t)] = true
		}
	})
	dropped := func(words string) bool {
		return slices.ContainsFunc(c.Marks, func(m Mark) bool { return m.Kind == k && m.State == Dropped && b.sameWords(m.Text, words) })
	}
	each(b.Outline, func(s *Section) {
		x := c.Sections[s.Key].Stood
		if x == nil {
			return
		}
		list, stood := *at(s), of(x)
		for _, t := range stood {
			if !placed[langOf(b).PhraseKey(t)] && !dropped(t) {
				list = append(list, t)
			}
		}
		place := func(words string) int {
			if i := slices.IndexFunc(stood, func(t string) bool { return b.sameWords(t, words) }); i >= 0 {
				return i
			}
			return len(stood)
		}
		slices.SortStableFunc(list, func(a, b string) int { return place(a) - place(b) })
		*at(s) = list
	})
}
