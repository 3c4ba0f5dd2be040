package reading

import (
	"strings"
	"time"

	"corpulan/core/text"

	"golang.org/x/net/html"
)

// readMeta reads what the head of the page says about it.
func readMeta(d *document, r *Reading) {
	meta := map[string]string{}
	for n := range d.root.Descendants() {
		if n.Type != html.ElementNode {
			continue
		}
		switch n.Data {
		case "title":
			// Not the <title> of an inline SVG.
			if r.Title == "" && !hasAncestor(n, "svg", "body") {
				r.Title = collapse(rawText(n))
			}
		case "meta":
			name := strings.ToLower(attr(n, "name") + attr(n, "property") + attr(n, "itemprop") + attr(n, "http-equiv"))
			if _, had := meta[name]; !had && name != "" {
				meta[name] = collapse(attr(n, "content"))
			}
		case "link":
			if strings.EqualFold(attr(n, "rel"), "canonical") && r.Canonical == "" {
				r.Canonical = d.base.resolve(attr(n, "href")).withoutFragment()
			}
		case "time":
			prop := strings.ToLower(attr(n, "itemprop") + " " + attr(n, "class"))
			if hasAttr(n, "pubdate") || strings.Contains(prop, "publi") {
				setDate(&r.Published, attr(n, "datetime"))
			} else if strings.Contains(prop, "modif") || strings.Contains(prop, "updat") {
				setDate(&r.Modified, attr(n, "datetime"))
			}
		}
	}
	first := func(names ...string) string {
		for _, n := range names {
			if meta[n] != "" {
				return meta[n]
			}
		}
		return ""
	}
	if r.Title == "" {
		r.Title = first("og:title", "twitter:title")
	}
	if r.Title == "" {
		if h1 := firstElement(d.body, "h1"); h1 != nil {
			r.Title = headingText(h1)
		}
	}
	r.Description = first("description", "og:description", "twitter:description")
	r.SiteName = first("og:site_name", "application-name")
	r.Author = first("author", "article:author", "dc.creator")
	if strings.HasPrefix(r.Author, "http") {
		r.Author = ""
	}
	setDate(&r.Published, first("article:published_time", "datepublished", "date", "dc.date", "pubdate", "publish-date"))
	setDate(&r.Modified, first("article:modified_time", "og:updated_time", "datemodified", "last-modified"))
	if d.html != nil {
		r.Language = knownTag(attr(d.html, "lang"))
		if r.Language == "" {
			r.Language = knownTag(attr(d.html, "xml:lang"))
		}
	}
	if r.Language == "" {
		r.Language = knownTag(first("content-language", "language", "og:locale"))
	}
}

// knownTag gives the primary language of a tag, empty if it is no language tag.
func knownTag(tag string) string {
	base := text.BaseLanguage(tag)
	if len(base) < 2 || len(base) > 3 {
		return ""
	}
	return base
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

// setDate keeps the first date that can be read, as YYYY-MM-DD.
func setDate(to *string, s string) {
	if *to != "" || s == "" {
		return
	}
	for _, layout := range []string{time.RFC3339, "2006-01-02T15:04:05-0700", "2006-01-02T15:04:05", "2006-01-02T15:04Z07:00", "2006-01-02T15:04", "2006-01-02 15:04:05", "2006-01-02", "2006/01/02",
		"January 2, 2006", "2 January 2006", "Jan 2, 2006", time.RFC1123, time.RFC1123Z} {
		if t, err := time.Parse(layout, s); err == nil {
			*to = t.Format("2006-01-02")
			return
		}
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
	r.Detected = text.Detect(b.String())
	if r.Language == "" {
		r.Language = r.Detected
	}
	if !mayBeEnglish(r.Language) {
		r.Readability = text.Readability{} // the formulas are for English alone
	}
}
