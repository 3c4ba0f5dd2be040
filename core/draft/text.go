package draft

import (
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/reading"
)

// Read makes a draft ready to be measured: as the page at an address, in a language. All that
// stands in it is the author's.
func (n *Node) Read(url, language string) *corpus.Doc {
	return corpus.Prepare(n.Reading(url, language), language)
}

// Reading is what is read out of a draft. An empty language is found out.
func (n *Node) Reading(url, language string) *reading.Reading {
	return reading.ReadText(reading.Text{URL: url, Title: n.Title(), Description: n.Description(), Language: language, Body: n.tree()})
}

// Block is a textblock of a draft: a paragraph, a heading or code, by its number in the order
// of the text. The editor counts them alike.
type Block struct {
	Number  int
	Text    string // breaks as line ends
	Heading int    // its level; 0 for none
	Kind    byte   // reading.LineParagraph and so on
	Links   []Run  // stretches of it that lead somewhere
}

// Run is a stretch of a block with its link.
type Run struct {
	From, To int // bytes of the block's text
	Href     string
}

// Blocks are the textblocks of a draft.
func (n *Node) Blocks() []Block {
	var list []Block
	var visit func(n *Node, kind byte)
	visit = func(n *Node, kind byte) {
		switch n.Type {
		case Quote:
			kind = reading.LineQuote
		case ListItem:
			if kind != reading.LineQuote {
				kind = reading.LineItem
			}
		case Cell, HeadingCell:
			kind = reading.LineCell
		}
		if n.Textblock() {
			b := Block{Number: len(list), Kind: kind}
			if n.Type == Heading {
				b.Heading = n.Level()
			}
			if n.Type == Code {
				b.Kind = reading.LineCode
			}
			var s strings.Builder
			for _, ch := range n.Content {
				from := s.Len()
				s.WriteString(ch.Plain())
				for _, m := range ch.Marks {
					if m.Type == Link && m.Attrs != nil {
						b.Links = append(b.Links, Run{from, s.Len(), m.Attrs.Href})
					}
				}
			}
			b.Text = s.String()
			list = append(list, b)
			return
		}
		for _, ch := range n.Content {
			visit(ch, kind)
		}
	}
	visit(n, reading.LineParagraph)
	return list
}

// FromReading is the text of a page of which only its reading is kept: headings, paragraphs,
// items, quotations; a cell of a table is a paragraph, and no link is left.
func FromReading(r *reading.Reading) *Node {
	doc := &Node{Type: Doc, Attrs: &Attrs{Title: Clean(r.Title), Description: Clean(r.Description)}}
	paragraph := func(s string) *Node {
		return &Node{Type: Paragraph, Content: []*Node{{Type: Text, Text: Clean(s)}}}
	}
	for _, s := range r.Sections {
		if s.Heading != "" {
			h := paragraph(s.Heading)
			h.Type, h.Attrs = Heading, &Attrs{Level: min(max(s.Level, 1), deepestLevel)}
			doc.Content = append(doc.Content, h)
		}
		var list *Node
		for kind, line := range s.Blocks() {
			p := paragraph(line)
			switch kind {
			case reading.LineItem:
				if list == nil {
					list = &Node{Type: Bullets}
					doc.Content = append(doc.Content, list)
				}
				list.Content = append(list.Content, &Node{Type: ListItem, Content: []*Node{p}})
				continue
			case reading.LineQuote:
				p = &Node{Type: Quote, Content: []*Node{p}}
			case reading.LineCode:
				p.Type = Code
			}
			list = nil
			doc.Content = append(doc.Content, p)
		}
	}
	if len(doc.Content) == 0 {
		return New()
	}
	return doc
}

// Outline is a draft with the headings of an outline and nothing below them.
func Outline(headings []reading.Heading) *Node {
	doc := &Node{Type: Doc}
	for _, h := range headings {
		doc.Content = append(doc.Content, &Node{Type: Heading, Attrs: &Attrs{Level: min(max(h.Level, 1), deepestLevel)}, Content: []*Node{{Type: Text, Text: Clean(h.Text)}}}, &Node{Type: Paragraph})
	}
	return doc
}
