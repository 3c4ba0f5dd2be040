// Package draft is a writer's text as a tree, the one form that the editor, the files of
// writers and the measures of fit have in common.
//
//   - draft.go   the tree, and what it may hold
//   - parse.go   the tree from the editor's JSON, checked
//   - html.go, lines.go  the tree from HTML: its blocks, and the text within them
//   - writer.go  the tree as HTML
//   - steps.go   changes of it, as its editor makes them
//   - text.go    the tree as a text to be measured, and its blocks with their places
package draft

// The types of nodes. Their names are those of the editor's schema.
const (
	Doc         = "doc"
	Paragraph   = "paragraph"
	Heading     = "heading"
	Quote       = "blockquote"
	Bullets     = "bullet_list"
	Numbers     = "ordered_list"
	ListItem    = "list_item"
	Code        = "code_block"
	Rule        = "horizontal_rule"
	Image       = "image"
	Break       = "hard_break"
	Text        = "text"
	Table       = "table"
	Row         = "table_row"
	Cell        = "table_cell"
	HeadingCell = "table_header"
)

// The types of marks.
const (
	Link   = "link"
	Em     = "em"
	Strong = "strong"
	Mono   = "code"
)

// Node is a part of a draft: its blocks, or the text and marks within one.
type Node struct {
	Type    string  `json:"type"`
	Attrs   *Attrs  `json:"attrs,omitempty"`
	Content []*Node `json:"content,omitempty"`
	Text    string  `json:"text,omitempty"`
	Marks   []Mark  `json:"marks,omitempty"`
}

// Mark is what a stretch of text is besides itself.
type Mark struct {
	Type  string `json:"type"`
	Attrs *Attrs `json:"attrs,omitempty"`
}

// Attrs are the attributes of nodes and marks, each used by the types it is named with.
type Attrs struct {
	Title       string `json:"title,omitempty"`       // doc: the title tag
	Description string `json:"description,omitempty"` // doc: the meta description
	Level       int    `json:"level,omitempty"`       // heading: 1 to 6
	Order       int    `json:"order,omitempty"`       // ordered_list: its first number
	Src         string `json:"src,omitempty"`         // image
	Alt         string `json:"alt,omitempty"`         // image
	Href        string `json:"href,omitempty"`        // link
	Cite        string `json:"cite,omitempty"`        // blockquote: where the words stand
	Colspan     int    `json:"colspan,omitempty"`     // cells
	Rowspan     int    `json:"rowspan,omitempty"`
}

// New is a draft with nothing in it.
func New() *Node {
	return &Node{Type: Doc, Content: []*Node{{Type: Paragraph}}}
}

// attrs are a node's, never nil.
func (n *Node) attrs() Attrs {
	if n.Attrs == nil {
		return Attrs{}
	}
	return *n.Attrs
}

// Title and Description are those of the page a draft is to be.
func (n *Node) Title() string { return n.attrs().Title }

// Description is the meta description.
func (n *Node) Description() string { return n.attrs().Description }

// Level is a heading's, 1 to 6.
func (n *Node) Level() int { return min(max(n.attrs().Level, 1), deepestLevel) }

// deepestLevel is that of headings in the HTML Living Standard, section 4.3.6.
const deepestLevel = 6

// Empty tells a draft without a word or a picture.
func (n *Node) Empty() bool {
	if n.Type == Text && n.Text != "" || n.Type == Image {
		return false
	}
	for _, ch := range n.Content {
		if !ch.Empty() {
			return false
		}
	}
	return true
}

// Textblock tells a node that holds text and marks, and no blocks.
func (n *Node) Textblock() bool {
	return n.Type == Paragraph || n.Type == Heading || n.Type == Code
}

// Plain is the text below a node as it stands, breaks as line ends.
func (n *Node) Plain() string {
	switch n.Type {
	case Text:
		return n.Text
	case Break:
		return "\n"
	}
	s := ""
	for _, ch := range n.Content {
		s += ch.Plain()
	}
	return s
}

// Each goes over a node and all below it, in order; it stops when visit says so.
func (n *Node) Each(visit func(*Node) bool) bool {
	if !visit(n) {
		return false
	}
	for _, ch := range n.Content {
		if !ch.Each(visit) {
			return false
		}
	}
	return true
}
