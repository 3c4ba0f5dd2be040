package reading

import (
	"regexp"
	"slices"
	"strings"
	"unicode/utf8"

	"corpulan/core/language"
	"corpulan/core/markup"
	"corpulan/core/message"
	"corpulan/core/text"

	"golang.org/x/net/html"
)

// Kind is what sort of page it is.
type Kind string

// The kinds of page.
const (
	Article    Kind = "article"
	List       Kind = "list"
	Comparison Kind = "comparison"
	Product    Kind = "product"
	Category   Kind = "category"
	Forum      Kind = "forum"
	Video      Kind = "video"
	Directory  Kind = "directory"
	Home       Kind = "home"
	Reference  Kind = "reference" // looked up and not read: a manual page, a listing of functions, an index
	Thin       Kind = "thin"
	Source     Kind = "source" // a text that did not rank, read beside the field
)

// thinWords is the length under which a page says too little to be compared
// with others. Common practice, no published source.
const thinWords = 150

// How many prices make a shop's list, and how many links to other sites make a
// directory, where little else is said. Our own figures.
const (
	pricesOfCategory = 8
	cardsOfCategory  = 5
	linksOfDirectory = 25
)

var price = regexp.MustCompile(`[£$€]\s?\d+([.,]\d\d)?\b|\b\d+([.,]\d\d)?\s?[€£]`)

var (
	listTitle       = regexp.MustCompile(`(?i)^(the )?(top |best )?\d{1,3}\s+\S+|\b(best|top)\b.*\b(of|for|in) \d{4}\b|^(the )?best \S+|\b\d{1,2} (best|tips|ways|things|ideas|reasons|rules)\b`)
	comparisonTitle = regexp.MustCompile(`(?i)\b(vs\.?|versus|compared|comparison)\b`)
	forumAddress    = regexp.MustCompile(`(?i)(^|[/.])(forums?|threads?|viewtopic|showthread|discussion|community|topic|t)[/.]`)
)

// kindOf decides the kind of page and names the signals that decided: what a page is besides an
// article says more than its text, what lacks text is none of its forms.
func kindOf(d *document, r *Reading) (Kind, []message.Kept) {
	for _, decide := range []func(*document, *Reading) (Kind, []message.Message){discussion, film, listing, reference, form} {
		if kind, signals := decide(d, r); kind != "" {
			return kind, kept(signals)
		}
	}
	list := []message.Message{message.Of("%d words under %d headings", r.Counts.Words, len(r.Headings))}
	if t := r.dataType("Article", "BlogPosting", "NewsArticle", "TechArticle", "HowTo"); t != "" {
		list = append(list, inData(t))
	}
	return Article, kept(list)
}

func kept(list []message.Message) (kept []message.Kept) {
	for _, m := range list {
		kept = append(kept, m.Keep())
	}
	return kept
}

func inData(t string) message.Message { return message.Of("structured data says %s", t) }

func inWords(r *Reading) message.Message { return message.Of("%d words", r.Counts.Words) }

// dataType is the first of some types that the page's structured data have.
func (r *Reading) dataType(types ...string) string {
	for _, t := range types {
		if slices.Contains(r.DataTypes, t) {
			return t
		}
	}
	return ""
}

// discussion tells a forum.
func discussion(d *document, r *Reading) (Kind, []message.Message) {
	if t := r.dataType("DiscussionForumPosting", "QAPage"); t != "" {
		return Forum, []message.Message{inData(t)}
	}
	if host := d.base.Host(); host != "" && forumAddress.MatchString(host+d.base.Path()+"/") {
		if n := repliesIn(d); n >= 2 {
			return Forum, []message.Message{"the address is a discussion's", message.Of("%d replies", n)}
		}
	}
	return "", nil
}

// film tells a page that is about a video more than text.
func film(_ *document, r *Reading) (Kind, []message.Message) {
	switch words := r.Counts.Words; {
	case r.dataType("VideoObject") != "" && words < 2*thinWords:
		return Video, []message.Message{inData("VideoObject"), inWords(r)}
	case r.Counts.Videos > 0 && words < thinWords:
		return Video, []message.Message{"a video", inWords(r)}
	}
	return "", nil
}

// listing tells the pages that lead to others, and those that say too little. Figures are our own.
func listing(d *document, r *Reading) (Kind, []message.Message) {
	words, links, prices := r.Counts.Words, r.Counts.ExternalLinks, priced(d)
	category := r.dataType("CollectionPage", "ProductCollection", "OfferCatalog")
	path := d.base.Path()
	switch {
	case (path == "/" || path == "") && d.base.Host() != "" && !r.isEssay():
		return Home, []message.Message{"the address is the site's first page"}
	case category != "":
		return Category, []message.Message{inData(category)}
	case prices >= pricesOfCategory && words < 100+12*prices:
		return Category, []message.Message{message.Of("%d prices", prices), inWords(r)}
	case r.cards() >= cardsOfCategory && words < 100+12*r.cards():
		return Category, []message.Message{message.Of("%d cards with a price", r.cards()), inWords(r)}
	case links >= linksOfDirectory && words < 15*links:
		return Directory, []message.Message{message.Of("%d links to other sites", links), inWords(r)}
	case words < thinWords:
		return Thin, []message.Message{inWords(r)}
	}
	return "", nil
}

// isEssay tells a text that is read from one end to the other, wherever it stands: data that say so, or
// many words and few links among them.
func (r *Reading) isEssay() bool {
	return r.dataType("Article", "BlogPosting", "NewsArticle", "TechArticle", "HowTo") != "" ||
		r.Counts.Words >= wordsOfEssay && wordsALink*(r.Counts.InternalLinks+r.Counts.ExternalLinks) < r.Counts.Words
}

// From how many words a site's first page is an article, and how many a link it has at least. Our own.
const (
	wordsOfEssay = 4 * thinWords
	wordsALink   = 50
)

// cards counts the names on cards with a price.
func (r *Reading) cards() (n int) {
	for _, m := range r.Marked {
		if m.Kind == MarkedCard {
			n++
		}
	}
	return n
}

// What shows a page that is looked up: headings of manual pages, and of functions. Common practice, no published source.
var (
	manualHeadings = language.Set("name synopsis syntax description options parameters arguments compatibility environment files bugs usage exports authors author notes examples example diagnostics")
	signature      = regexp.MustCompile(`^[\w.:~<>*&]+\s?\(.*\)|^\w+(::|->)\w+|^[\w-]+(\.[\w-]+){2,}$|^\w*_\w+$|^(class|function|method|struct|enum|operator|module|package) \S+$|->`)
)

// How many such headings make a reference page, of how many; links within the site make an index where each
// has no more than so many words. Our own figures.
const (
	fewManual     = 3
	fewSignatures = 5
	fewLetters    = 10
	linksOfIndex  = 80
	wordsOfLink   = 5
)

// reference tells a page that is looked up and not read.
func reference(_ *document, r *Reading) (Kind, []message.Message) {
	manual, signatures, letters := 0, 0, 0
	for _, h := range r.Headings {
		word := text.Fold(strings.TrimSpace(h.Text))
		if manualHeadings[word] {
			manual++
		}
		if signature.MatchString(h.Text) {
			signatures++
		}
		if utf8.RuneCountInString(word) == 1 {
			letters++
		}
	}
	synopsis := slices.ContainsFunc(r.Headings, func(h Heading) bool {
		word := text.Fold(h.Text)
		return word == "synopsis" || word == "syntax" || word == "exports"
	})
	switch links := r.Counts.InternalLinks; {
	case synopsis && (manual > fewManual || manual == fewManual && 2*manual >= len(r.Headings)):
		return Reference, []message.Message{message.Of("%d headings of a manual page", manual)}
	case letters >= fewLetters && 2*letters >= len(r.Headings):
		return Reference, []message.Message{message.Of("%d headings are single letters", letters)}
	case signatures >= fewSignatures && 2*signatures >= len(r.Headings):
		return Reference, []message.Message{message.Of("%d headings are signatures", signatures)}
	case links >= linksOfIndex && r.Counts.Words < wordsOfLink*links:
		return Reference, []message.Message{message.Of("%d links within the site", links), inWords(r)}
	}
	return "", nil
}

// form tells the forms of a text that have a name of their own. Figures are our own.
func form(_ *document, r *Reading) (Kind, []message.Message) {
	switch {
	case r.dataType("Product") != "" && r.dataType("Article", "BlogPosting", "NewsArticle", "HowTo") == "" && r.Counts.Words < 600:
		return Product, []message.Message{inData("Product")}
	case comparisonTitle.MatchString(r.Title):
		return Comparison, []message.Message{"the title compares"}
	case listTitle.MatchString(r.Title) && len(r.Headings) >= 4:
		return List, []message.Message{"the title promises a list", message.Of("%d headings", len(r.Headings))}
	}
	return "", nil
}

// priced counts the blocks of the page, furniture included, that are hardly
// more than a price, as in the tiles of a shop.
func priced(d *document) int {
	n := 0
	for e := range d.body.Descendants() {
		if e.Type == html.TextNode && len(e.Data) < 40 && strings.ContainsAny(e.Data, "£$€") && !markup.HidesText(e.Parent.Data) && price.MatchString(e.Data) {
			n++
		}
	}
	return n
}

// repliesIn counts elements that look like one post of a discussion.
func repliesIn(d *document) int {
	n := 0
	for e := range d.body.Descendants() {
		class := markup.Attr(e, "class")
		if class == "" {
			continue
		}
		for _, w := range strings.Fields(strings.ToLower(class)) {
			if w == "post" || w == "reply" || w == "message" || w == "comment" || strings.HasPrefix(w, "post-") && strings.HasSuffix(w, "body") {
				n++
				break
			}
		}
	}
	return n
}
