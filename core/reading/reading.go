// Package reading turns the bytes of one page into a Reading: what its author
// wrote, section by section, without what the site put around it. It is pure:
// the same bytes give the same reading, byte for byte.
package reading

import (
	"errors"
	"fmt"
	"strings"

	"corpulan/core/text"

	"golang.org/x/net/html"
)

// Engine is the version of the rules in this package. It rises whenever a
// reading of the same bytes would come out differently, so that what an older
// engine read can be told apart and read again.
const Engine = 2

// Page is what is read: bytes as they were fetched or handed in.
type Page struct {
	URL         string // absolute, or empty for a file of unknown origin
	ContentType string // the HTTP header, or empty
	Body        []byte
}

// Reading is what was read out of one page.
type Reading struct {
	Engine      int      `json:"engine"`
	URL         string   `json:"url"`
	Title       string   `json:"title"`
	Description string   `json:"description"`
	Canonical   string   `json:"canonical,omitempty"`
	SiteName    string   `json:"site_name,omitempty"`
	Language    string   `json:"language"` // ISO 639-1: declared, else detected
	Detected    string   `json:"detected_language,omitempty"`
	Published   string   `json:"published"` // YYYY-MM-DD
	Modified    string   `json:"modified,omitempty"`
	Author      string   `json:"author,omitempty"`
	Kind        Kind     `json:"kind"`
	KindSignals []string `json:"kind_signals"`
	DataTypes   []string `json:"data_types"`        // schema.org types of its structured data
	Barrier     string   `json:"barrier,omitempty"` // what stands between the reader and the content

	Counts      Counts           `json:"counts"`
	Readability text.Readability `json:"readability"`
	Headings    []Heading        `json:"headings"`
	Sections    []Section        `json:"sections"` // the opening first, level 0
	Struck      []Struck         `json:"struck"`
	Questions   []string         `json:"questions"`
	FAQ         []Pair           `json:"faq"`
	Links       []Link           `json:"links"`
	Sketch      []uint64         `json:"sketch"` // by which near-duplicates are found; see Resemblance
}

// Counts are taken over the main content alone.
type Counts struct {
	Words         int `json:"words"` // headings included
	Characters    int `json:"characters"`
	Sentences     int `json:"sentences"`
	Paragraphs    int `json:"paragraphs"`
	Images        int `json:"images"` // without icons, avatars and trackers
	Videos        int `json:"videos"`
	Tables        int `json:"tables"`
	Lists         int `json:"lists"`
	InternalLinks int `json:"internal_links"` // unique addresses
	ExternalLinks int `json:"external_links"` // unique addresses
}

// Heading is a heading the author wrote.
type Heading struct {
	Level int    `json:"level"` // 1 to 6
	Text  string `json:"text"`
	Words int    `json:"words"` // of the section's own text, sub-sections not counted
}

// Section is a heading with the text up to the next heading. Section i+1
// stands under Headings[i]; section 0 is the opening, before any heading.
type Section struct {
	Level   int    `json:"level"`
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

// Struck is a heading that is not the author's, and why it was left out.
type Struck struct {
	Text   string `json:"text"`
	Reason string `json:"reason"`
}

// Pair is a question with its answer from FAQ markup.
type Pair struct {
	Question string `json:"question"`
	Answer   string `json:"answer"`
}

// Link is an address the content links to, once per address.
type Link struct {
	URL      string `json:"url"`
	Text     string `json:"text"`
	External bool   `json:"external"`
}

// Errors a page can be refused with; test with errors.Is.
var (
	ErrEmpty   = errors.New("the page is empty")
	ErrNotHTML = errors.New("this is not an HTML page")
)

// Read reads one page. It fails with ErrEmpty or ErrNotHTML; any HTML, however
// broken, gives a reading.
func Read(p Page) (*Reading, error) { return readWith(p, secondOpinion) }

// ReadFirstAlone reads a page without the second extractor. It is there to
// measure what the second adds.
func ReadFirstAlone(p Page) (*Reading, error) {
	return readWith(p, func(*document) opinion { return nil })
}

func readWith(p Page, ask func(*document) opinion) (*Reading, error) {
	if len(strings.TrimSpace(string(p.Body[:min(len(p.Body), 512)]))) == 0 && len(strings.TrimSpace(string(p.Body))) == 0 {
		return nil, ErrEmpty
	}
	if what := notHTML(p.Body, p.ContentType); what != "" {
		return nil, fmt.Errorf("%w: it looks like %s", ErrNotHTML, what)
	}
	root, err := parse(decode(p.Body, p.ContentType))
	if err != nil {
		return nil, fmt.Errorf("parsing HTML: %w", err)
	}
	d := newDocument(root, p.URL)
	r := &Reading{Engine: Engine, URL: p.URL, KindSignals: []string{}, DataTypes: []string{},
		Headings: []Heading{}, Sections: []Section{}, Struck: []Struck{}, Questions: []string{}, FAQ: []Pair{}, Links: []Link{}}
	readMeta(d, r)
	data := readStructured(d)
	data.apply(r)
	readContent(d, r, ask(d))
	finishLanguage(r)
	readQuestions(r)
	r.Kind, r.KindSignals = kindOf(d, r)
	r.Barrier = barrierOf(r, !data.paid)
	return r, nil
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
	base address
}

func newDocument(root *html.Node, url string) *document {
	d := &document{root: root, base: parseAddress(url)}
	d.html = firstElement(root, "html")
	d.body = firstElement(root, "body")
	if d.body == nil { // a frameset has none
		d.body = root
	}
	if b := firstElement(root, "base"); b != nil {
		if href := attr(b, "href"); href != "" {
			d.base = d.base.resolve(href)
		}
	}
	return d
}
