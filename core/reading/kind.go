package reading

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

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
func kindOf(d *document, r *Reading) (Kind, []string) {
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
		return Forum, []string{"structured data says " + has("DiscussionForumPosting", "QAPage")}
	case host != "" && forumAddress.MatchString(host+path+"/") && repliesIn(d) >= 2:
		return Forum, []string{"the address is a discussion's", fmt.Sprintf("%d replies", repliesIn(d))}
	case has("VideoObject") != "" && words < 2*thinWords:
		return Video, []string{"structured data says VideoObject", fmt.Sprintf("%d words", words)}
	case r.Counts.Videos > 0 && words < thinWords:
		return Video, []string{"a video", fmt.Sprintf("%d words", words)}
	case (path == "/" || path == "") && host != "":
		return Home, []string{"the address is the site's first page"}
	case has("CollectionPage", "ProductCollection", "OfferCatalog") != "":
		return Category, []string{"structured data says " + has("CollectionPage", "ProductCollection", "OfferCatalog")}
	case prices >= pricesOfCategory && words < 100+12*prices:
		return Category, []string{fmt.Sprintf("%d prices", prices), fmt.Sprintf("%d words", words)}
	case r.Counts.ExternalLinks >= linksOfDirectory && words < 15*r.Counts.ExternalLinks:
		return Directory, []string{fmt.Sprintf("%d links to other sites", r.Counts.ExternalLinks), fmt.Sprintf("%d words", words)}
	case words < thinWords:
		return Thin, []string{fmt.Sprintf("%d words", words)}
	case has("Product") != "" && has("Article", "BlogPosting", "NewsArticle", "HowTo") == "" && words < 600:
		return Product, []string{"structured data says Product"}
	case comparisonTitle.MatchString(r.Title):
		return Comparison, []string{"the title compares"}
	case listTitle.MatchString(r.Title) && len(r.Headings) >= 4:
		return List, []string{"the title promises a list", fmt.Sprintf("%d headings", len(r.Headings))}
	}
	signals := []string{fmt.Sprintf("%d words under %d headings", words, len(r.Headings))}
	if t := has("Article", "BlogPosting", "NewsArticle", "TechArticle", "HowTo"); t != "" {
		signals = append(signals, "structured data says "+t)
	}
	return Article, signals
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
