package reading

import (
	"regexp"
	"slices"
	"strings"

	"corpulan/core/message"

	"corpulan/core/markup"

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
	linksOfDirectory = 25
)

var price = regexp.MustCompile(`[£$€]\s?\d+([.,]\d\d)?\b|\b\d+([.,]\d\d)?\s?[€£]`)

var (
	listTitle       = regexp.MustCompile(`(?i)^(the )?(top |best )?\d{1,3}\s+\S+|\b(best|top)\b.*\b(of|for|in) \d{4}\b|^(the )?best \S+|\b\d{1,2} (best|tips|ways|things|ideas|reasons|rules)\b`)
	comparisonTitle = regexp.MustCompile(`(?i)\b(vs\.?|versus|compared|comparison)\b`)
	forumAddress    = regexp.MustCompile(`(?i)(^|[/.])(forums?|threads?|viewtopic|showthread|discussion|community|topic|t)[/.]`)
)

// kindOf decides the kind of page and names the signals that decided.
func kindOf(d *document, r *Reading) (Kind, []message.Kept) {
	signals := func(list ...message.Message) (kept []message.Kept) {
		for _, m := range list {
			kept = append(kept, m.Keep())
		}
		return kept
	}
	inData := func(t string) message.Message { return message.Of("structured data says %s", t) }
	long := message.Of("%d words", r.Counts.Words)
	words := r.Counts.Words
	has := func(types ...string) string {
		for _, t := range types {
			if slices.Contains(r.DataTypes, t) {
				return t
			}
		}
		return ""
	}
	prices := priced(d)
	path, host := d.base.Path(), d.base.Host()
	switch {
	case has("DiscussionForumPosting", "QAPage") != "":
		return Forum, signals(inData(has("DiscussionForumPosting", "QAPage")))
	case host != "" && forumAddress.MatchString(host+path+"/") && repliesIn(d) >= 2:
		return Forum, signals("the address is a discussion's", message.Of("%d replies", repliesIn(d)))
	case has("VideoObject") != "" && words < 2*thinWords:
		return Video, signals(inData("VideoObject"), long)
	case r.Counts.Videos > 0 && words < thinWords:
		return Video, signals("a video", long)
	case (path == "/" || path == "") && host != "":
		return Home, signals("the address is the site's first page")
	case has("CollectionPage", "ProductCollection", "OfferCatalog") != "":
		return Category, signals(inData(has("CollectionPage", "ProductCollection", "OfferCatalog")))
	case prices >= pricesOfCategory && words < 100+12*prices:
		return Category, signals(message.Of("%d prices", prices), long)
	case r.Counts.ExternalLinks >= linksOfDirectory && words < 15*r.Counts.ExternalLinks:
		return Directory, signals(message.Of("%d links to other sites", r.Counts.ExternalLinks), long)
	case words < thinWords:
		return Thin, signals(long)
	case has("Product") != "" && has("Article", "BlogPosting", "NewsArticle", "HowTo") == "" && words < 600:
		return Product, signals(inData("Product"))
	case comparisonTitle.MatchString(r.Title):
		return Comparison, signals("the title compares")
	case listTitle.MatchString(r.Title) && len(r.Headings) >= 4:
		return List, signals("the title promises a list", message.Of("%d headings", len(r.Headings)))
	}
	list := []message.Message{message.Of("%d words under %d headings", words, len(r.Headings))}
	if t := has("Article", "BlogPosting", "NewsArticle", "TechArticle", "HowTo"); t != "" {
		list = append(list, inData(t))
	}
	return Article, signals(list...)
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
