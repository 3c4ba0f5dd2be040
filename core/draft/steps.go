package draft

import (
	"encoding/json"
	"fmt"
	"reflect"
	"slices"
	"unicode/utf16"
)

// Step is one change of a draft as its editor makes it: those of ProseMirror's transform module, in
// its JSON. Places are counted as it counts them: each node but a text begins and ends with a place,
// one without content has a single one, and a text has as many as it has UTF-16 code units.
type Step struct {
	Type      string          `json:"stepType"`
	From      int             `json:"from"`
	To        int             `json:"to"`
	GapFrom   int             `json:"gapFrom"`
	GapTo     int             `json:"gapTo"`
	Insert    int             `json:"insert"`
	Slice     *Slice          `json:"slice"`
	Structure bool            `json:"structure"`
	Mark      *Mark           `json:"mark"`
	Steps     []Step          `json:"steps"` // of a set of marks
	Pos       int             `json:"pos"`
	Attr      string          `json:"attr"`
	Value     json.RawMessage `json:"value"`
}

// MarshalJSON writes what a step of its type has, and no more.
func (s Step) MarshalJSON() ([]byte, error) {
	has := map[string]any{"stepType": s.Type}
	switch s.Type {
	case replaceStep, aroundStep:
		has["from"], has["to"] = s.From, s.To
		if s.Type == aroundStep {
			has["gapFrom"], has["gapTo"], has["insert"] = s.GapFrom, s.GapTo, s.Insert
		}
		if s.Slice != nil {
			has["slice"] = s.Slice
		}
		if s.Structure {
			has["structure"] = true
		}
	case addMark, removeMark:
		has["mark"], has["from"], has["to"] = s.Mark, s.From, s.To
	case markSet:
		has["steps"] = s.Steps
	case attrStep:
		has["pos"], has["attr"], has["value"] = s.Pos, s.Attr, s.Value
	case docAttrStep:
		has["attr"], has["value"] = s.Attr, s.Value
	}
	return json.Marshal(has)
}

// Slice is a part of a draft that is cut out of the nodes around it: some are open where it begins and
// where it ends.
type Slice struct {
	Content   []*Node `json:"content"`
	OpenStart int     `json:"openStart,omitempty"`
	OpenEnd   int     `json:"openEnd,omitempty"`
}

// The types of steps.
const (
	replaceStep = "replace"
	aroundStep  = "replaceAround"
	addMark     = "addMark"
	removeMark  = "removeMark"
	markSet     = "markSet"
	attrStep    = "attr"
	docAttrStep = "docAttr"
)

// ParseStep reads a step and checks it against the schema: what its nodes and marks may not have is
// left out, as Parse does; a step of another type is ErrMalformed.
func ParseStep(b []byte) (Step, error) {
	var s Step
	if err := json.Unmarshal(b, &s); err != nil {
		return s, fmt.Errorf("%w: %w", ErrMalformed, err)
	}
	return s, s.check(0)
}

func (s *Step) check(depth int) error {
	switch s.Type {
	case replaceStep, aroundStep:
		if s.Slice == nil {
			return nil
		}
		nodes := 0
		for _, n := range s.Slice.Content {
			if n == nil {
				return fmt.Errorf("%w: a step with an empty node", ErrMalformed)
			}
			if err := n.cleanAll(0, &nodes); err != nil {
				return err
			}
		}
	case addMark, removeMark:
		if s.Mark == nil || len(cleanMarks([]Mark{*s.Mark})) == 0 {
			return fmt.Errorf("%w: a mark that no draft has", ErrMalformed)
		}
		s.Mark = &cleanMarks([]Mark{*s.Mark})[0]
	case markSet:
		for i := range s.Steps {
			if x := &s.Steps[i]; depth > 0 || x.Type != addMark && x.Type != removeMark {
				return fmt.Errorf("%w: a set of marks with something else", ErrMalformed)
			} else if err := x.check(depth + 1); err != nil {
				return err
			}
		}
	case attrStep, docAttrStep:
	default:
		return fmt.Errorf("%w: a step of type %q", ErrMalformed, s.Type)
	}
	return nil
}

// cleanAll cleans a node and all below it, wherever it may stand.
func (n *Node) cleanAll(depth int, nodes *int) error {
	*nodes++
	if *nodes > maxNodes || depth > deepest {
		return ErrTooLarge
	}
	if err := n.clean(); err != nil {
		return err
	}
	for _, ch := range n.Content {
		if ch == nil {
			return fmt.Errorf("%w: an empty node", ErrMalformed)
		}
		if err := ch.cleanAll(depth+1, nodes); err != nil {
			return err
		}
	}
	return nil
}

// piece is a stretch of a draft laid out flat: a node that begins or ends, one without content, or a
// text.
type piece struct {
	kind  pieceKind
	node  *Node // of its type, attributes and marks; what is below it is in other pieces
	units []uint16
}

type pieceKind int

const (
	begins pieceKind = iota
	ends
	single
	texts
)

func (p piece) size() int {
	if p.kind == texts {
		return len(p.units)
	}
	return 1
}

func leaf(kind string) bool { return kind == Rule || kind == Image || kind == Break }

// flat lays nodes out.
func flat(nodes []*Node, to []piece) []piece {
	for _, n := range nodes {
		bare := &Node{Type: n.Type, Attrs: n.Attrs, Marks: n.Marks}
		switch {
		case n.Type == Text:
			to = append(to, piece{texts, bare, utf16.Encode([]rune(n.Text))})
		case leaf(n.Type):
			to = append(to, piece{single, bare, nil})
		default:
			to = append(flat(n.Content, append(to, piece{begins, bare, nil})), piece{ends, bare, nil})
		}
	}
	return to
}

// raised makes nodes of pieces: what begins first ends last, texts of the same marks are one.
func raised(pieces []piece) ([]*Node, error) {
	root := &Node{}
	open := []*Node{root}
	for _, p := range pieces {
		at := open[len(open)-1]
		n := &Node{Type: p.node.Type, Attrs: p.node.Attrs, Marks: p.node.Marks}
		switch p.kind {
		case begins:
			at.Content, open = append(at.Content, n), append(open, n)
		case ends:
			if len(open) == 1 {
				return nil, fmt.Errorf("%w: a step that ends more than it begins", ErrMalformed)
			}
			open = open[:len(open)-1]
		case single:
			at.Content = append(at.Content, n)
		case texts:
			if n.Text = string(utf16.Decode(p.units)); n.Text == "" {
				continue
			}
			if k := len(at.Content) - 1; k >= 0 && at.Content[k].Type == Text && sameMarks(at.Content[k].Marks, n.Marks) {
				at.Content[k].Text += n.Text
				continue
			}
			at.Content = append(at.Content, n)
		}
		if len(open) > deepest {
			return nil, ErrTooLarge
		}
	}
	if len(open) > 1 {
		return nil, fmt.Errorf("%w: a step that begins more than it ends", ErrMalformed)
	}
	return root.Content, nil
}

// cut parts pieces at places, ascending, so that each lies between two of them; it returns the numbers
// of the pieces that begin there.
func cut(pieces []piece, at ...int) ([]piece, []int, error) {
	var numbers []int
	place, i := 0, 0
	for _, want := range at {
		for ; i < len(pieces) && place+pieces[i].size() <= want; i++ {
			place += pieces[i].size()
		}
		if want < place || i == len(pieces) && want > place {
			return nil, nil, fmt.Errorf("%w: a step at a place that is not there", ErrMalformed)
		}
		if in := want - place; in > 0 { // within a text
			p := pieces[i]
			pieces = slices.Concat(pieces[:i], []piece{{texts, p.node, p.units[:in]}, {texts, p.node, p.units[in:]}}, pieces[i+1:])
			place, i = want, i+1
		}
		numbers = append(numbers, i)
	}
	return pieces, numbers, nil
}

// pieces are those of a slice, without the beginnings and ends of what is open.
func (s *Slice) pieces() ([]piece, error) {
	if s == nil {
		return nil, nil
	}
	all := flat(s.Content, nil)
	if s.OpenStart < 0 || s.OpenEnd < 0 || s.OpenStart > len(all) || s.OpenEnd > len(all)-s.OpenStart {
		return nil, fmt.Errorf("%w: a slice that is open deeper than it is", ErrMalformed)
	}
	for i := range s.OpenStart {
		if all[i].kind != begins {
			return nil, fmt.Errorf("%w: a slice that is open where nothing begins", ErrMalformed)
		}
	}
	for i := range s.OpenEnd {
		if all[len(all)-1-i].kind != ends {
			return nil, fmt.Errorf("%w: a slice that is open where nothing ends", ErrMalformed)
		}
	}
	return all[s.OpenStart : len(all)-s.OpenEnd], nil
}

// mostMoved bounds the pieces that all steps of one save may move, some two seconds; looking at a node
// takes as long as moving costOfChecking pieces. Our own: the editor sends 1,000 steps at once, and a
// text of 150,000 words has some 30,000 pieces.
const (
	mostMoved      = 50_000_000
	costOfChecking = 50
)

// Places is how many places the content of a draft has.
func (n *Node) Places() (places int) {
	for _, p := range flat(n.Content, nil) {
		places += p.size()
	}
	return places
}

// Apply is the draft after some steps. One that leads to what no draft may be is ErrMalformed; the draft
// itself is left as it is.
func (n *Node) Apply(steps []Step) (*Node, error) {
	if len(steps) == 0 {
		return n, nil
	}
	to := &Node{Type: Doc, Attrs: n.Attrs}
	pieces := flat(n.Content, nil)
	moved := 0
	for i := range steps {
		if moved += len(pieces); moved > mostMoved {
			return nil, ErrTooLarge
		}
		whole := i == len(steps)-1
		var err error
		if pieces, err = to.step(pieces, &steps[i], &whole); err != nil {
			return nil, err
		}
		if !whole {
			continue
		}
		// Each has to lead to a draft, for that is what others make of it.
		if to.Content, err = raised(pieces); err != nil {
			return nil, err
		}
		nodes := 0
		if err := to.check(0, &nodes); err != nil {
			return nil, err
		}
		if moved += costOfChecking * nodes; moved > mostMoved {
			return nil, ErrTooLarge
		}
		pieces = flat(to.Content, nil)
	}
	if to.amiss() > n.amiss() {
		return nil, fmt.Errorf("%w: an item or a line of code that is none", ErrMalformed)
	}
	return to, nil
}

// amiss counts what the editor's schema does not have and a draft that was taken in may have: items
// that do not begin with a paragraph, and marks in code.
func (n *Node) amiss() int {
	count := 0
	n.Each(func(x *Node) bool {
		if x.Type == ListItem && (len(x.Content) == 0 || x.Content[0].Type != Paragraph) {
			count++
		}
		if x.Type == Code && slices.ContainsFunc(x.Content, func(t *Node) bool { return len(t.Marks) > 0 }) {
			count++
		}
		return true
	})
	return count
}

// joined puts lists of pieces together, texts of the same marks that meet as one: as many pieces as
// before stand for a paragraph, however much is typed into it.
func joined(lists ...[]piece) []piece {
	n := 0
	for _, list := range lists {
		n += len(list)
	}
	out := make([]piece, 0, n)
	for _, list := range lists {
		for len(list) > 0 && len(out) > 0 {
			last := &out[len(out)-1]
			if last.kind != texts || list[0].kind != texts || !sameMarks(last.node.Marks, list[0].node.Marks) {
				break
			}
			last.units = slices.Concat(last.units, list[0].units)
			list = list[1:]
		}
		out = append(out, list...)
	}
	return out
}

// withinText tells that pieces are texts and breaks, and no node begins or ends in them.
func withinText(lists ...[]piece) bool {
	for _, list := range lists {
		if slices.ContainsFunc(list, func(p piece) bool { return p.kind != texts && p.node.Type != Break }) {
			return false
		}
	}
	return true
}

// inTextblock tells that what comes behind some pieces is in a paragraph or a heading: what takes texts
// and breaks.
func inTextblock(before []piece) bool {
	for _, p := range slices.Backward(before) {
		if p.kind != texts && p.node.Type != Break {
			return p.kind == begins && (p.node.Type == Paragraph || p.node.Type == Heading)
		}
	}
	return false
}

// step is the pieces after a step; those of a doc's attributes change the doc. whole becomes true where
// more than the text of a paragraph was changed.
func (n *Node) step(pieces []piece, s *Step, whole *bool) ([]piece, error) {
	switch s.Type {
	case replaceStep:
		into, err := s.Slice.pieces()
		if err != nil {
			return nil, err
		}
		pieces, at, err := cut(pieces, s.From, s.To)
		if err != nil {
			return nil, err
		}
		if !withinText(pieces[at[0]:at[1]], into) || !inTextblock(pieces[:at[0]]) {
			*whole = true
		}
		if *whole { // they are made anew
			return slices.Concat(pieces[:at[0]], into, pieces[at[1]:]), nil
		}
		return joined(pieces[:at[0]], into, pieces[at[1]:]), nil
	case aroundStep:
		*whole = true
		into, err := s.Slice.pieces()
		if err != nil {
			return nil, err
		}
		pieces, at, err := cut(pieces, s.From, s.GapFrom, s.GapTo, s.To)
		if err != nil {
			return nil, err
		}
		into, in, err := cut(into, s.Insert)
		if err != nil {
			return nil, err
		}
		gap := pieces[at[1]:at[2]]
		if _, err := raised(gap); err != nil { // it is whole
			return nil, err
		}
		return slices.Concat(pieces[:at[0]], into[:in[0]], gap, into[in[0]:], pieces[at[3]:]), nil
	case addMark, removeMark:
		return marked(pieces, s)
	case markSet:
		var err error
		for i := range s.Steps {
			if pieces, err = marked(pieces, &s.Steps[i]); err != nil {
				return nil, err
			}
		}
		return pieces, nil
	case attrStep:
		pieces, at, err := cut(pieces, s.Pos)
		if err != nil {
			return nil, err
		}
		if at[0] == len(pieces) || pieces[at[0]].kind != begins && pieces[at[0]].kind != single {
			return nil, fmt.Errorf("%w: an attribute of no node", ErrMalformed)
		}
		p := &pieces[at[0]]
		p.node, err = p.node.with(s)
		return pieces, err
	case docAttrStep:
		to, err := (&Node{Type: Doc, Attrs: n.Attrs}).with(s)
		if err == nil {
			n.Attrs = to.Attrs
		}
		return pieces, err
	}
	return nil, fmt.Errorf("%w: a step of type %q", ErrMalformed, s.Type)
}

// attributes are those of each type, and how each is read.
var attributes = map[string]map[string]func(*Attrs) any{
	Doc:         {"title": func(a *Attrs) any { return &a.Title }, "description": func(a *Attrs) any { return &a.Description }},
	Heading:     {"level": func(a *Attrs) any { return &a.Level }},
	Numbers:     {"order": func(a *Attrs) any { return &a.Order }},
	Image:       {"src": func(a *Attrs) any { return &a.Src }, "alt": func(a *Attrs) any { return &a.Alt }},
	Quote:       {"cite": func(a *Attrs) any { return &a.Cite }},
	Cell:        {"colspan": func(a *Attrs) any { return &a.Colspan }, "rowspan": func(a *Attrs) any { return &a.Rowspan }},
	HeadingCell: {"colspan": func(a *Attrs) any { return &a.Colspan }, "rowspan": func(a *Attrs) any { return &a.Rowspan }},
}

// with is a node with the value that a step gives an attribute; where that may not be, the step has the
// one that is instead.
func (n *Node) with(s *Step) (*Node, error) {
	at := attributes[n.Type][s.Attr]
	if at == nil {
		return nil, fmt.Errorf("%w: a %s has no %q", ErrMalformed, n.Type, s.Attr)
	}
	a := n.attrs()
	if err := json.Unmarshal(s.Value, at(&a)); err != nil {
		return nil, fmt.Errorf("%w: %w", ErrMalformed, err)
	}
	to := &Node{Type: n.Type, Attrs: &a, Marks: n.Marks}
	if err := to.clean(); err != nil {
		return nil, err
	}
	is := to.attrs()
	value, err := json.Marshal(at(&is))
	s.Value = value
	return to, err
}

// markOrder is that of the editor's schema.
var markOrder = []string{Link, Strong, Em, Mono}

// marked puts a mark onto the texts and breaks of a stretch, or takes it away.
func marked(pieces []piece, s *Step) ([]piece, error) {
	pieces, at, err := cut(pieces, s.From, s.To)
	if err != nil {
		return nil, err
	}
	pieces = slices.Clone(pieces)
	inCode := false
	for i, p := range pieces {
		if p.node.Type == Code {
			inCode = p.kind == begins
		}
		if i < at[0] || i >= at[1] || p.kind != texts && p.node.Type != Break || inCode && s.Type == addMark {
			continue
		}
		marks := slices.DeleteFunc(slices.Clone(p.node.Marks), func(m Mark) bool {
			if s.Type == addMark {
				return m.Type == s.Mark.Type
			}
			return reflect.DeepEqual(m, *s.Mark)
		})
		if s.Type == addMark {
			marks = append(marks, *s.Mark)
			slices.SortStableFunc(marks, func(a, b Mark) int {
				return slices.Index(markOrder, a.Type) - slices.Index(markOrder, b.Type)
			})
		}
		pieces[i].node = &Node{Type: p.node.Type, Attrs: p.node.Attrs, Marks: marks}
	}
	return pieces, nil
}
