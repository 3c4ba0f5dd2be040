package reading

import (
	"bytes"

	"golang.org/x/net/html"
	"golang.org/x/net/html/atom"
)

// A browser's parser opens formatting elements again that a page left open
// (HTML Standard, 13.2.4.3): 440 different <b> before 7,000 paragraphs are three
// million elements, of 50 kB of source. It also compares the attributes of such
// elements pair by pair, and those of every further <body> with the first's.
// limitFormatting bounds this before the page is parsed, in one pass over its tokens. Pages
// that people wrote go through untouched.

// formatting are the elements that are opened again; <a> and <nobr> close
// themselves.
var formatting = map[atom.Atom]bool{atom.B: true, atom.Big: true, atom.Code: true, atom.Em: true, atom.Font: true, atom.I: true, atom.S: true,
	atom.Small: true, atom.Strike: true, atom.Strong: true, atom.Tt: true, atom.U: true, atom.Nobr: true, atom.A: true}

// Bounds of limitFormatting, our own: beyond all that pages of the web have, and such that
// a page up to them costs no more than its length.
const (
	maxReopened   = 200_000 // elements opened again by a page, about, and one more for every four bytes
	maxAttributes = 200     // of one element; formatting ones have fewer
	maxOfFormat   = 16
	maxBodies     = 8 // <html> and <body> start tags
	longTag       = 200
)

// limitFormatting gives a page back as it is, or without the tags that would make parsing
// it cost out of all proportion to its length.
func limitFormatting(page []byte) []byte {
	t := formattingLimiter{reopenable: map[string]int{}}
	t.scan(page)
	if t.reopened <= maxReopened+len(page)/4 && !t.wide && t.bodies <= maxBodies {
		return page
	}
	return strip(page, t.reopened > maxReopened+len(page)/4)
}

// formattingLimiter reckons, from above, how many elements the parser opens again: with
// every token as many as are then open and were not closed in good order. Of the
// same tag with the same attributes the parser itself keeps three.
type formattingLimiter struct {
	stack      []openTag
	reopenable map[string]int // start tags left open, as they are written
	left       int            // of them, at most three of each kind
	reopened   int
	bodies     int
	wide       bool // a tag with more attributes than any author writes
}

type openTag struct {
	name   atom.Atom
	key    string // of a formatting element, as it is written
	counts bool   // it is among left
}

// deepestKept is how much of the stack is kept: what nests deeper is refused by
// the parser anyway.
// Our own.
const deepestKept = 2000

func (t *formattingLimiter) scan(page []byte) {
	z := html.NewTokenizer(bytes.NewReader(page))
	for {
		switch z.Next() {
		case html.ErrorToken:
			return
		case html.TextToken:
			t.reopened += t.left
		case html.StartTagToken, html.SelfClosingTagToken:
			raw := z.Raw()
			written := len(raw)
			key := ""
			name, more := z.TagName()
			a := atom.Lookup(name)
			if formatting[a] {
				key = string(raw)
			}
			if written > longTag && more {
				n := countAttributes(z)
				t.wide = t.wide || n > maxAttributes || formatting[a] && n > maxOfFormat
			}
			if a == atom.Html || a == atom.Body {
				t.bodies++
			}
			t.reopened += t.left
			if void[string(name)] {
				continue
			}
			tag := openTag{name: a, key: key}
			if key != "" {
				t.reopenable[key]++
				if tag.counts = t.reopenable[key] <= 3; tag.counts {
					t.left++
				}
			}
			if len(t.stack) < deepestKept {
				t.stack = append(t.stack, tag)
			}
		case html.EndTagToken:
			name, _ := z.TagName()
			a := atom.Lookup(name)
			top := len(t.stack) - 1
			if top < 0 {
				continue
			}
			if t.stack[top].name == a && a != 0 {
				t.close(t.stack[top])
				t.stack = t.stack[:top]
				continue
			}
			// Not in good order: what stands between stays open for all we know.
			for i := top; i >= 0 && i > top-20; i-- {
				if t.stack[i].name == a && !formatting[a] {
					t.stack = t.stack[:i]
					break
				}
			}
		}
	}
}

// close takes a formatting element that was closed in good order off the reckoning.
func (t *formattingLimiter) close(tag openTag) {
	if tag.key == "" {
		return
	}
	t.reopenable[tag.key]--
	if tag.counts {
		t.left--
	}
}

func countAttributes(z *html.Tokenizer) int {
	n := 0
	for {
		key, _, more := z.TagAttr()
		if len(key) > 0 {
			n++
		}
		if !more {
			return n
		}
	}
}

// strip takes out of a page what limitFormatting found: the formatting elements, if there
// are too many of them, attributes beyond the bounds, and further bodies. All
// text stays.
func strip(page []byte, format bool) []byte {
	var out bytes.Buffer
	bodies := 0
	z := html.NewTokenizer(bytes.NewReader(page))
	for {
		tt := z.Next()
		raw := z.Raw()
		switch tt {
		case html.ErrorToken:
			return out.Bytes()
		case html.StartTagToken, html.SelfClosingTagToken:
			tag := append([]byte{}, raw...)
			name, more := z.TagName()
			a := atom.Lookup(name)
			if a == atom.Html || a == atom.Body {
				if bodies++; bodies > maxBodies {
					continue
				}
			}
			if format && formatting[a] && a != atom.A {
				continue
			}
			if len(tag) > longTag && more {
				tag = narrow(z, string(name), formatting[a])
			}
			out.Write(tag)
		case html.EndTagToken:
			tag := append([]byte{}, raw...)
			name, _ := z.TagName()
			if a := atom.Lookup(name); format && formatting[a] && a != atom.A {
				continue
			}
			out.Write(tag)
		default:
			out.Write(raw)
		}
	}
}

// narrow writes a start tag with no more attributes than are bounded.
func narrow(z *html.Tokenizer, name string, format bool) []byte {
	most := maxAttributes
	if format {
		most = maxOfFormat
	}
	token := html.Token{Type: html.StartTagToken, Data: name, DataAtom: atom.Lookup([]byte(name))}
	for {
		key, value, more := z.TagAttr()
		if len(key) > 0 && len(token.Attr) < most {
			token.Attr = append(token.Attr, html.Attribute{Key: string(key), Val: string(value)})
		}
		if !more {
			return []byte(token.String())
		}
	}
}
