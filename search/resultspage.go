package search

import (
	"bytes"
	"net/url"
	"slices"
	"strings"

	"corpulan/core/address"
	"corpulan/core/language"
	"corpulan/core/message"
	"corpulan/core/text"

	"golang.org/x/net/html"
)

// ParseResultsPage reads a results page as a browser saved it, of any engine,
// by its structure alone. Results are the largest family of links that lead to
// other sites from the same kind of place and look like titles. Related
// searches are links of the engine's own whose text is what they search for.
// Questions are short blocks that ask.
func ParseResultsPage(page []byte) (*Results, error) {
	root, err := html.Parse(bytes.NewReader(page))
	if err != nil {
		return nil, message.Errorf("this page cannot be read: %v", err)
	}
	p := &resultsPage{own: ownHost(root), seen: map[string]bool{}}
	p.walk(root)
	family := p.largestFamily()
	family = family[:min(len(family), MaxResults)]
	if len(family) < 3 {
		return nil, message.Errorf("no list of results was found on this page")
	}
	res := &Results{Related: p.related}
	around := boxes(family)
	for _, l := range family {
		if slices.ContainsFunc(res.Items, func(it Item) bool { return address.Same(it.URL, l.to) }) {
			continue
		}
		res.Items = append(res.Items, Item{Rank: len(res.Items) + 1, URL: l.to, Title: l.title, Snippet: around.snippet(l)})
	}
	for _, q := range p.questions {
		if !slices.ContainsFunc(res.Items, func(it Item) bool { return strings.Contains(it.Title, q) || strings.Contains(it.Snippet, q) }) {
			res.Asked = append(res.Asked, q)
		}
	}
	return res, nil
}

// A results page is read for so many results, and for so many questions,
// related searches or suggestions; none shows more.
const (
	MaxResults = 200
	MaxOffered = 200
	maxLinks   = 5000 // that are looked at
)

// resultsPage is what a walk over the page collects.
type resultsPage struct {
	own       string // the engine's host, empty where all its links are relative
	links     []resultLink
	related   []string
	questions []string
	seen      map[string]bool // of both
}

// resultLink is a link to another site that may be a result's title.
type resultLink struct {
	node   *html.Node
	to     string
	title  string
	family string // the kind of place it stands in: tags and classes up to four levels
}

// ownHost is the host the page says it is from: its base or canonical address,
// else the one that its forms send to.
func ownHost(root *html.Node) string {
	for n := range root.Descendants() {
		if n.Type != html.ElementNode {
			continue
		}
		address := ""
		switch {
		case n.Data == "base":
			address = attribute(n, "href")
		case n.Data == "link" && attribute(n, "rel") == "canonical":
			address = attribute(n, "href")
		case n.Data == "form":
			address = attribute(n, "action")
		}
		if u, err := url.Parse(address); err == nil && u.Host != "" {
			return strings.TrimPrefix(u.Hostname(), "www.")
		}
	}
	return ""
}

func attribute(n *html.Node, name string) string {
	for _, a := range n.Attr {
		if a.Key == name {
			return a.Val
		}
	}
	return ""
}

func (p *resultsPage) walk(root *html.Node) {
	for n := range root.Descendants() {
		if n.Type != html.ElementNode {
			continue
		}
		if n.Data == "a" {
			p.link(n)
		}
		if len(p.questions) >= MaxOffered {
			continue
		}
		if asks := ownText(n); asks != "" && !p.seen[asks] && language.For("en").IsQuestion(asks) {
			p.seen[asks] = true
			p.questions = append(p.questions, asks)
		}
	}
}

// link sorts a link into results and related searches.
func (p *resultsPage) link(n *html.Node) {
	u, err := url.Parse(strings.TrimSpace(attribute(n, "href")))
	if err != nil {
		return
	}
	title := linkTitle(n)
	if p.isOwn(u) {
		wrapped := unwrap(u)
		if wrapped == "" {
			p.relatedLink(u, title)
			return
		}
		if u, err = url.Parse(wrapped); err != nil || p.isOwn(u) {
			return
		}
	}
	if text.CountWords(title) < 2 {
		return
	}
	if len(p.links) >= maxLinks {
		return
	}
	u.Fragment = ""
	p.links = append(p.links, resultLink{n, u.String(), title, familyOf(n)})
}

func (p *resultsPage) isOwn(u *url.URL) bool {
	host := strings.TrimPrefix(strings.ToLower(u.Hostname()), "www.")
	return host == "" || u.Scheme != "http" && u.Scheme != "https" || p.own != "" && (host == p.own || strings.HasSuffix(host, "."+p.own))
}

// unwrap finds the address that an engine's redirect leads to.
func unwrap(u *url.URL) string {
	var found []string
	for _, values := range u.Query() {
		for _, v := range values {
			if strings.HasPrefix(v, "http://") || strings.HasPrefix(v, "https://") {
				found = append(found, v)
			}
		}
	}
	if len(found) == 0 {
		return ""
	}
	return slices.Min(found) // a map has no order; the answer must
}

// relatedLink notes a link whose text is the search it makes.
func (p *resultsPage) relatedLink(u *url.URL, title string) {
	if text.CountWords(title) < 2 || p.seen["related "+title] || len(p.related) >= MaxOffered {
		return
	}
	for _, values := range u.Query() {
		for _, v := range values {
			if strings.EqualFold(oneLine(v), title) {
				p.seen["related "+title] = true
				p.related = append(p.related, title)
				return
			}
		}
	}
}

// linkTitle is the text of the heading in a link, or of the link.
func linkTitle(n *html.Node) string {
	for d := range n.Descendants() {
		if d.Type == html.ElementNode && len(d.Data) == 2 && d.Data[0] == 'h' && d.Data[1] >= '1' && d.Data[1] <= '6' {
			return shortText(d, longestTitle)
		}
	}
	return shortText(n, longestTitle)
}

// Bounds on what a results page shows of one result, in bytes.
const (
	longestTitle   = 500
	longestAsked   = 160
	longestSnippet = 2000
)

// shortText is the text of a node in one line, or its beginning.
func shortText(n *html.Node, most int) string {
	var b strings.Builder
	for d := range n.Descendants() {
		if d.Type == html.TextNode && d.Parent.Data != "script" && d.Parent.Data != "style" {
			b.WriteString(d.Data[:min(len(d.Data), most)])
			b.WriteByte(' ')
			if b.Len() > 2*most {
				break
			}
		}
	}
	return oneLine(strings.ToValidUTF8(b.String(), ""))
}

// ownText is the text of an element that holds only text and inline markup.
func ownText(n *html.Node) string {
	switch n.Data {
	case "script", "style", "html", "body", "head", "title":
		return ""
	}
	for d := range n.Descendants() {
		if d.Type == html.ElementNode && d.Data != "span" && d.Data != "b" && d.Data != "em" && d.Data != "strong" && d.Data != "i" {
			return ""
		}
	}
	if t := shortText(n, longestAsked); len(t) < longestAsked {
		return t
	}
	return ""
}

func familyOf(n *html.Node) string {
	var path []string
	for range 4 {
		if n == nil || n.Type != html.ElementNode {
			break
		}
		class, _, _ := strings.Cut(attribute(n, "class"), " ")
		path = append(path, n.Data+"."+class)
		n = n.Parent
	}
	return strings.Join(path, "<")
}

// largestFamily is the family of links with the most different hosts.
func (p *resultsPage) largestFamily() []resultLink {
	families := map[string][]resultLink{}
	var order []string
	for _, l := range p.links {
		if families[l.family] == nil {
			order = append(order, l.family)
		}
		families[l.family] = append(families[l.family], l)
	}
	best, most := "", 0
	for _, f := range order {
		hosts := map[string]bool{}
		for _, l := range families[f] {
			if u, err := url.Parse(l.to); err == nil {
				hosts[u.Host] = true
			}
		}
		if len(hosts) > most {
			best, most = f, len(hosts)
		}
	}
	return families[best]
}

// results are the results of a page with how many of them every element holds.
type results map[*html.Node]int

func boxes(family []resultLink) results {
	r := results{}
	for _, l := range family {
		for n := l.node; n != nil; n = n.Parent {
			r[n]++
		}
	}
	return r
}

// snippet is the text round a result's link: of the largest element that holds
// no other result.
func (r results) snippet(l resultLink) string {
	box := l.node
	for box.Parent != nil && box.Parent.Data != "body" && r[box.Parent] == 1 {
		box = box.Parent
	}
	snippet := oneLine(strings.Replace(shortText(box, longestSnippet), l.title, "", 1))
	if r := []rune(snippet); len(r) > 400 {
		snippet = string(r[:400])
	}
	return snippet
}
