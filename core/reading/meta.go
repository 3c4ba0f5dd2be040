package reading

import (
	"cmp"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"corpulan/core/language"
	"corpulan/core/markup"
	"corpulan/core/text"

	"github.com/itlightning/dateparse"
	"golang.org/x/net/html"
)

// readMeta reads what the head of the page says about it.
func readMeta(d *document, r *Reading) {
	said := metaSaid{}
	for n := range d.root.Descendants() {
		if n.Type == html.ElementNode {
			said.note(d, n, r)
		}
	}
	if r.Title == "" {
		r.Title = said.first("og:title", "twitter:title")
	}
	if r.Title == "" {
		if h1 := markup.First(d.body, "h1"); h1 != nil {
			r.Title = headingText(h1)
		}
	}
	r.Description = said.first("description", "og:description", "twitter:description")
	r.SiteName = said.first("og:site_name", "application-name")
	if author := said.first("author", "article:author", "dc.creator"); author != "" && !strings.HasPrefix(author, "http") {
		r.Author = author
	}
	setDate(&r.Published, said.first("article:published_time", "datepublished", "date", "dc.date", "pubdate", "publish-date"))
	setDate(&r.Modified, said.first("article:modified_time", "og:updated_time", "datemodified", "last-modified"))
	if d.html != nil {
		r.Language = cmp.Or(knownTag(markup.Attr(d.html, "lang")), knownTag(markup.Attr(d.html, "xml:lang")))
	}
	if r.Language == "" {
		r.Language = knownTag(said.first("content-language", "language", "og:locale"))
	}
}

// metaSaid is what the meta elements say, by their names in small letters; the first of a name
// counts.
type metaSaid map[string]string

func (said metaSaid) first(names ...string) string {
	for _, n := range names {
		if said[n] != "" {
			return said[n]
		}
	}
	return ""
}

// note reads what an element says about the page.
func (said metaSaid) note(d *document, n *html.Node, r *Reading) {
	switch n.Data {
	case "title":
		// Not the <title> of an inline SVG.
		if r.Title == "" && !markup.HasAncestor(n, "svg", "body") {
			r.Title = markup.Collapse(rawText(n))
		}
	case "meta":
		name := strings.ToLower(markup.Attr(n, "name") + markup.Attr(n, "property") + markup.Attr(n, "itemprop") + markup.Attr(n, "http-equiv"))
		if _, had := said[name]; !had && name != "" {
			said[name] = markup.Collapse(markup.Attr(n, "content"))
		}
	case "link":
		if strings.EqualFold(markup.Attr(n, "rel"), "canonical") && r.Canonical == "" {
			r.Canonical = d.base.Resolve(markup.Attr(n, "href")).Page()
		}
	case "a", "span", "div", "p":
		noteAuthor(n, r)
	case "time":
		prop := strings.ToLower(markup.Attr(n, "itemprop") + " " + markup.Attr(n, "class"))
		if markup.HasAttr(n, "pubdate") || strings.Contains(prop, "publi") {
			setDate(&r.Published, markup.Attr(n, "datetime"))
		} else if strings.Contains(prop, "modif") || strings.Contains(prop, "updat") {
			setDate(&r.Modified, markup.Attr(n, "datetime"))
		}
	}
}

// noteAuthor takes the author from a link or a name that is marked as one.
func noteAuthor(n *html.Node, r *Reading) {
	if r.Author != "" || !slices.Contains(strings.Fields(strings.ToLower(markup.Attr(n, "rel"))), "author") && markup.Attr(n, "itemprop") != "author" {
		return
	}
	const longest = 60 // bytes
	name := markup.Text(n)
	if by := itemText(n, "name"); by != "" {
		name = by
	}
	if name != "" && len(name) <= longest && !strings.Contains(name, "http") {
		r.Author = name
	}
}

// visibleDate reads the date that a line shows to readers; empty if it shows
// none, or one that can be read two ways (3/4/2026).
func visibleDate(line string) string {
	line = strings.ToLower(line)
	if m := isoDate.FindStringSubmatch(line); m != nil {
		return asDate(m[1], m[2], m[3])
	}
	if m := dottedDate.FindStringSubmatch(line); m != nil {
		return asDate(m[3], m[2], m[1])
	}
	if m := dayMonthYear.FindStringSubmatch(line); m != nil {
		return asDate(m[3], month(m[2]), m[1])
	}
	if m := monthDayYear.FindStringSubmatch(line); m != nil {
		return asDate(m[3], month(m[1]), m[2])
	}
	return ""
}

var (
	isoDate      = regexp.MustCompile(`\b(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})\b`)
	dottedDate   = regexp.MustCompile(`\b(\d{1,2})\.(\d{1,2})\.(\d{4})\b`)
	dayMonthYear = regexp.MustCompile(`\b(\d{1,2})(?:st|nd|rd|th|\.|º|er)?(?: de)? (\p{L}{3,})\.?,?(?: de)? (\d{4})\b`)
	monthDayYear = regexp.MustCompile(`\b(\p{L}{3,})\.? (\d{1,2})(?:st|nd|rd|th)?,? (\d{4})\b`)
)

func month(name string) string { return strconv.Itoa(language.Month(name)) }

func asDate(year, month, day string) string {
	t, err := time.Parse("2006-1-2", year+"-"+strings.TrimLeft(month, "0")+"-"+strings.TrimLeft(day, "0"))
	if err != nil || t.Year() < 1990 {
		return ""
	}
	return t.Format("2006-01-02")
}

// knownTag gives the primary language of a tag, empty if it is no language tag.
func knownTag(tag string) string {
	if !language.Known(tag) {
		return ""
	}
	return language.Base(tag)
}

func rawText(n *html.Node) string {
	var b strings.Builder
	for ch := n.FirstChild; ch != nil; ch = ch.NextSibling {
		if ch.Type == html.TextNode {
			b.WriteString(ch.Data)
		}
	}
	return b.String()
}

// shortestDate is that of a day, as 20260303.
// Our own.
const shortestDate = 8

// setDate keeps the first date that can be read, as YYYY-MM-DD; one that can be
// read two ways (3/4/2026) is none.
func setDate(to *string, s string) {
	if s = strings.TrimSpace(s); *to != "" || len(s) < shortestDate {
		return
	}
	if t, err := dateparse.ParseStrict(s); err == nil && t.Year() > 0 && t.Year() <= 9999 {
		*to = t.Format("2006-01-02")
	}
}

// finishLanguage detects the language of the text and lets it stand in where
// the page declares none.
func finishLanguage(r *Reading) {
	var b strings.Builder
	for _, s := range r.Sections {
		b.WriteString(s.Text)
		b.WriteByte('\n')
		if b.Len() > 6000 {
			break
		}
	}
	r.Detected = language.Detect(b.String())
	if r.Language == "" {
		r.Language = r.Detected
	}
	if e, _ := language.EaseOf(r.Language); e.Formula != r.Readability.Formula {
		r.Readability = text.Readability{} // it was counted as a text of another language
	}
}
