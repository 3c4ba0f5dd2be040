// Package reading turns the bytes of one page into a Reading: what its author
// wrote, section by section, without what the site put around it. It is pure:
// the same bytes give the same reading, byte for byte.
//
// The way of a page:
//
//   - decode.go, xhtml.go, limits.go, parse.go  bytes to a tree, whatever they are
//   - meta.go, structured.go   what the page says of itself
//   - content.go               where the author's text stands, and what is cut
//   - furniture.go             what elements are furniture, by tag, role and class
//   - second.go, judge.go      a second extractor, and who is right of the two
//   - cutheadings.go           sections that the site put up, by their headings
//   - headings.go, cards.go    which elements are headings, bold lines included; names of wares on cards
//   - writer.go                the walk that writes sections
//   - patterns.go, lines.go    lines and headings that sites put there, by their words
//   - links.go, media.go, tally.go  what is counted beside the text
//   - tables.go, marked.go, items.go  tables; names set off from what is said of them; things of structured data
//   - struck.go                what was left out, and why
//   - questions.go, sketch.go, outline.go  what is asked; near-duplicates; the tree of headings
//   - kind.go, barrier.go, aside.go  what kind of page it is, what stands before it,
//     why it had better not count
package reading

import (
	"fmt"
	"iter"
	"strings"

	"corpulan/core/address"
	"corpulan/core/markup"
	"corpulan/core/message"
	"corpulan/core/text"

	"golang.org/x/net/html"
)

// Engine is the version of the rules in this package. It rises whenever a
// reading of the same bytes would come out differently, so that what an older
// engine read can be told apart and read again.
const Engine = 11

// Page is what is read: bytes as they were fetched or handed in.
type Page struct {
	URL         string // absolute, or empty for a file of unknown origin
	ContentType string // the HTTP header, or empty
	Body        []byte
}

// Reading is what was read out of one page.
type Reading struct {
	Engine      int            `json:"engine"`
	URL         string         `json:"url"`
	Title       string         `json:"title"`
	Description string         `json:"description"`
	Canonical   string         `json:"canonical,omitempty"`
	SiteName    string         `json:"site_name,omitempty"`
	Language    string         `json:"language"` // ISO 639-1: declared, else detected
	Detected    string         `json:"detected_language,omitempty"`
	Published   string         `json:"published"` // YYYY-MM-DD
	Modified    string         `json:"modified,omitempty"`
	Author      string         `json:"author,omitempty"`
	Kind        Kind           `json:"kind"`
	KindSignals []message.Kept `json:"kind_signals"`
	DataTypes   []string       `json:"data_types"`        // schema.org types of its structured data
	Barrier     message.Kept   `json:"barrier,omitempty"` // what stands between the reader and the content
	Flags       []message.Kept `json:"flags,omitempty"`   // what is odd about the page and bears on its figures

	Counts      Counts           `json:"counts"`
	Readability text.Readability `json:"readability"`
	StopShare   float64          `json:"stop_share"` // of the words, 0 to 1; 0 where the language's stop words are not known
	Paragraphs  Paragraphs       `json:"paragraphs"`
	Headings    []Heading        `json:"headings"`
	Sections    []Section        `json:"sections"` // the opening first, level 0
	Struck      []Struck         `json:"struck"`
	StruckLines []Struck         `json:"struck_lines,omitempty"` // lines of text, the first hundred
	LeftOut     []LeftOut        `json:"left_out,omitempty"`     // what else of the page is not its content, by kind
	Questions   []string         `json:"questions"`
	FAQ         []Pair           `json:"faq"`
	HowTo       []string         `json:"how_to,omitempty"` // the steps of HowTo markup
	ImageTexts  []string         `json:"image_texts"`      // alternative texts and captions of the content's images
	Links       []Link           `json:"links"`
	Code        map[string]int   `json:"code,omitempty"`  // what is set as code, keys or variables within sentences, and how often
	Named       []Named          `json:"named,omitempty"` // what its structured data names
	Tables      []Table          `json:"tables,omitempty"`
	Marked      []Marked         `json:"marked,omitempty"` // names set off from what is said of them
	Items       []Item           `json:"items,omitempty"`  // things that its structured data describe
	Sketch      []uint64         `json:"sketch"`           // by which near-duplicates are found; see Resemblance
}

// Named is a thing that the page's structured data names, with its schema.org type.
type Named struct {
	Name string `json:"name"`
	Type string `json:"type"`
}

// How much of what is set as code is kept: different pieces, and bytes of one. Our own.
const (
	maxCode     = 500
	longestCode = 60
)

func (r *Reading) addCode(piece string) {
	piece = markup.Collapse(piece)
	if piece == "" || len(piece) > longestCode || len(r.Code) >= maxCode && r.Code[piece] == 0 {
		return
	}
	if r.Code == nil {
		r.Code = map[string]int{}
	}
	r.Code[piece]++
}

// Counts are taken over the main content alone.
type Counts struct {
	Words         int `json:"words"` // headings included
	Characters    int `json:"characters"`
	Sentences     int `json:"sentences"`
	Paragraphs    int `json:"paragraphs"`
	Images        int `json:"images"` // without icons, avatars and trackers
	Videos        int `json:"videos"`
	Embeds        int `json:"embeds"` // frames that show something else than a video
	Tables        int `json:"tables"`
	Lists         int `json:"lists"`
	InternalLinks int `json:"internal_links"` // unique addresses
	ExternalLinks int `json:"external_links"` // unique addresses
	PaidLinks     int `json:"paid_links"`     // of both, those marked as sponsored
	FileLinks     int `json:"file_links"`     // of both, those that lead to a file
}

// Paragraphs tells how long the paragraphs are, in words.
type Paragraphs struct {
	Median  int `json:"median"`
	Longest int `json:"longest"`
	Long    int `json:"long"` // how many have more than LongParagraph words
}

// LongParagraph is the length in words from which a paragraph is hard to scan:
// eight to ten lines of about twelve words. Common practice, no published source.
const LongParagraph = 100

// Heading is a heading the author wrote.
type Heading struct {
	Level    int    `json:"level"` // 1 to 6, as the author set it
	Depth    int    `json:"depth"` // 1 and up, in the tree of headings, without the levels that were skipped
	Text     string `json:"text"`
	Words    int    `json:"words"`              // of the section's own text, sub-sections not counted
	Inferred bool   `json:"inferred,omitempty"` // a line in bold, on a page without headings
	Card     bool   `json:"card,omitempty"`     // the name of a ware on a card, one of several with a price each
}

// Section is a heading with the text up to the next heading. Section i+1
// stands under Headings[i]; section 0 is the opening, before any heading.
type Section struct {
	Level   int    `json:"level"`
	Depth   int    `json:"depth"` // as Heading.Depth; 0 for the opening
	Heading string `json:"heading"`
	Text    string `json:"text"` // one block of the page a line
	// Lines holds one letter for each line of Text, saying what the block was.
	Lines  string `json:"lines"`
	Words  int    `json:"words"`
	Offset int    `json:"offset"` // words of the content before this section
}

// The letters of Section.Lines.
const (
	LineParagraph  = 'p'
	LineItem       = 'l'
	LineCell       = 't'
	LineCode       = 'c'
	LineQuote      = 'q'
	LineDefinition = 'd'
	LineCaption    = 'f'
)

// Blocks gives the blocks of the section's text in their order, each with what it
// was on the page (LineParagraph and so on).
func (s Section) Blocks() iter.Seq2[byte, string] {
	return func(yield func(byte, string) bool) {
		n := 0
		for line := range strings.SplitSeq(s.Text, "\n") {
			kind := byte(LineParagraph)
			if n < len(s.Lines) {
				kind = s.Lines[n]
			}
			n++
			if line != "" && !yield(kind, line) {
				return
			}
		}
	}
}

// Struck is a heading, or a line, that is not the author's, and why it was left out.
type Struck struct {
	Text   string `json:"text"`
	Reason string `json:"reason"`
}

// LeftOut is how much text of a kind was left out.
type LeftOut struct {
	What  string `json:"what"`
	Words int    `json:"words"` // about: reckoned at five letters a word
}

// Pair is a question with its answer, from FAQ markup or from a list of such without any.
type Pair struct {
	Question string `json:"question"`
	Answer   string `json:"answer"`
}

// Link is an address the content links to, once per address.
type Link struct {
	URL      string `json:"url"`
	Text     string `json:"text"`
	External bool   `json:"external"`
	Rel      string `json:"rel,omitempty"` // nofollow, sponsored, ugc
	Section  int    `json:"section,omitempty"`
}

// Errors a page can be refused with; test with errors.Is.
var (
	ErrEmpty   = message.Errorf("the page is empty")
	ErrNotHTML = message.Errorf("this is not an HTML page")
)

// NotHTMLError is an ErrNotHTML that says what the bytes are.
type NotHTMLError struct{ What string } // "a PDF document"

func (e *NotHTMLError) Error() string { return ErrNotHTML.Error() + ": it looks like " + e.What }

// Is makes errors.Is(err, ErrNotHTML) true.
func (e *NotHTMLError) Is(target error) bool { return target == ErrNotHTML }

// Read reads one page. It fails with ErrEmpty or a *NotHTMLError; any HTML, however
// broken, gives a reading.
func Read(p Page) (*Reading, error) { return readWith(p, secondOpinion) }

// ReadFirstAlone reads a page without the second extractor. It is there to
// measure what the second adds.
func ReadFirstAlone(p Page) (*Reading, error) {
	return readWith(p, func(*document) opinion { return nil })
}

func readWith(p Page, ask func(*document) opinion) (*Reading, error) {
	r, _, err := readAll(p, ask)
	return r, err
}

func readAll(p Page, ask func(*document) opinion) (*Reading, *writer, error) {
	if len(strings.TrimSpace(string(p.Body[:min(len(p.Body), 512)]))) == 0 && len(strings.TrimSpace(string(p.Body))) == 0 {
		return nil, nil, ErrEmpty
	}
	if what := notHTML(p.Body, p.ContentType); what != "" {
		return nil, nil, &NotHTMLError{what}
	}
	root, err := parse(limitFormatting(openXHTML(decode(p.Body, p.ContentType))))
	if err != nil {
		return nil, nil, fmt.Errorf("parsing HTML: %w", err)
	}
	d := newDocument(root, p.URL)
	r := newReading(p.URL)
	readMeta(d, r)
	data := readStructured(d)
	data.apply(r)
	w := readContent(d, r, ask(d))
	finishLanguage(r)
	repairLevels(r)
	w.countStopWords()
	readQuestions(r)
	r.Kind, r.KindSignals = kindOf(d, r)
	r.Barrier = barrierOf(d, r, w.weights[d.body].text, !data.paid).Keep()
	r.Flags = flagsOf(r)
	return r, w, nil
}

func newReading(url string) *Reading {
	return &Reading{Engine: Engine, URL: url, KindSignals: []message.Kept{}, DataTypes: []string{},
		Headings: []Heading{}, Sections: []Section{}, Struck: []Struck{}, Questions: []string{}, FAQ: []Pair{}, ImageTexts: []string{}, Links: []Link{}}
}

// Text is the whole content as running text, headings on lines of their own.
func (r *Reading) Text() string {
	var b strings.Builder
	for _, s := range r.Sections {
		for _, part := range []string{s.Heading, s.Text} {
			if part != "" {
				b.WriteString(part)
				b.WriteByte('\n')
			}
		}
	}
	return b.String()
}

// document is a parsed page with what the passes over it share.
type document struct {
	root *html.Node // the document node
	html *html.Node
	body *html.Node
	base address.Address
}

func newDocument(root *html.Node, url string) *document {
	d := &document{root: root, base: address.Parse(url)}
	d.html = markup.First(root, "html")
	d.body = markup.First(root, "body")
	if d.body == nil { // a frameset has none
		d.body = root
	}
	if b := markup.First(root, "base"); b != nil {
		if href := markup.Attr(b, "href"); href != "" {
			d.base = d.base.Resolve(href)
		}
	}
	return d
}
