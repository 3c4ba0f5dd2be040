package standin

import (
	"fmt"
	"html"
	"net/http"
	"slices"
	"strings"
)

// Pages that are made of the sections of a matter: which of them, in which order and under
// which heading, with which sentences and in whose words differs from site to site.

// voice is how a site says what all say.
type voice struct {
	words [][2]string // in place of others
	leads []string    // that a section may begin with
}

var voices = []voice{
	{nil, []string{"Let us begin with what matters.", "This is the part that most people skip.", ""}},
	{[][2]string{{"bicycle", "bike"}, {"degrees", "°C"}, {"tyre", "tire"}}, []string{"", "Short answer first.", ""}},
	{[][2]string{{"you ", "riders "}, {"your ", "their "}, {"bicycle", "cycle"}}, []string{"", "", "Members ask this often."}},
	{[][2]string{{"costs", "will set you back"}, {"keeps", "will keep"}, {"takes", "needs"}}, []string{"I was slow to believe this.", "Ask me how I know.", ""}},
	{[][2]string{{"never", "do not ever"}, {"more than", "over"}, {"winter", "the cold season"}}, []string{"", "We tried it.", "The figures are our own."}},
}

// How pages begin and end; %s is the matter's first query. Each site has its own of each.
var (
	openings = []string{"Fourteen years on the road, and the question comes back every October: %s.", "Here is all we know of %s, in five minutes.", "Our club's page on %s, kept by whoever was cold last.", "A reader wrote to ask about %s.",
		"Nobody told me a thing about %s when I began.", "A plain guide to %s for everyday riding.", "The shop bell rings, and somebody wants to talk about %s.", "This is a short page on %s, and it is enough.", "Of all the letters we get, most are on %s.", "Before the frost comes, some thoughts on %s.", "You came here for %s; we will be quick."}
	closings = []string{"Write in if we forgot something.", "Hand it on to a friend who still drives.", "Ring the help line on weekdays.", "The next part follows when the ice allows.", "Looked over in October 2026.", "Questions go to the notice board.", "That is all there is to it."}
)

// about are the title and the snippet of one of a matter's pages.
func (w *Web) about(m *matter, address string) (title, snippet string) {
	host, _, _ := strings.Cut(address, "/")
	for _, p := range w.pages {
		for _, r := range p.Results {
			if r.Path == address {
				return r.Title, r.Snippet
			}
		}
	}
	q := m.queries[number(m.key, host)%min(len(m.queries), 3)].text
	frames := []string{"%s: what works", "%s: the complete guide", "%s, answered", "%s without the fuss", "%s: tips that last all winter", "Our guide to %s"}
	title = fmt.Sprintf(frames[number(host, m.key)%len(frames)], q)
	if len(m.sections) > 0 {
		snippet = m.sections[number(host)%len(m.sections)].sentences[0]
	}
	return strings.ToUpper(title[:1]) + title[1:], snippet
}

// serveWritten answers with a page that is made of a matter's sections, if the address is one.
func (w *Web) serveWritten(rw http.ResponseWriter, host, path string) bool {
	key, ok := strings.CutPrefix(path, "/winter/")
	if !ok {
		return false
	}
	i := slices.IndexFunc(w.matters, func(m matter) bool { return m.key == key })
	if i < 0 || len(w.matters[i].sections) == 0 || !slices.Contains(w.pool(&w.matters[i]), host+path) {
		return false
	}
	rw.Header().Set("Content-Type", "text/html; charset=utf-8")
	_, _ = rw.Write([]byte(w.writeFor(&w.matters[i], host)))
	return true
}

func (w *Web) writeFor(m *matter, host string) string {
	v := voices[number(host)%len(voices)]
	say := func(s string) string {
		for _, x := range v.words {
			s = strings.ReplaceAll(s, x[0], x[1])
		}
		return html.EscapeString(s)
	}
	title, snippet := w.about(m, host+"/winter/"+m.key)
	site := strings.TrimSuffix(host, ".example")
	var b strings.Builder
	fmt.Fprintf(&b, `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>%s | %s</title><meta name="description" content="%s"></head><body>
<header><a href="/">%s</a><nav><ul><li><a href="/winter">Winter</a></li><li><a href="/repairs">Repairs</a></li><li><a href="/about">About us</a></li></ul></nav></header>
<main><article><h1>%s</h1><p>%s %s</p>`, html.EscapeString(title), site, say(snippet), site, html.EscapeString(title), say(fmt.Sprintf(openings[number("opening", host)%len(openings)], m.queries[0].text)), say(m.sections[0].sentences[0]))
	order := make([]int, len(m.sections))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int { return a - b + number(host, m.key, m.sections[a].headings[0])%3 - 1 })
	for n, i := range order {
		s := m.sections[i]
		if number(host, s.headings[0])%4 == 0 && n > 1 {
			continue // each leaves something out
		}
		fmt.Fprintf(&b, "\n<h2>%s</h2>\n<p>", html.EscapeString(s.headings[number(s.headings[0], host)%len(s.headings)]))
		if lead := v.leads[number(host, m.key, s.headings[0])%len(v.leads)]; lead != "" {
			b.WriteString(lead + " ")
		}
		for k, x := range s.sentences {
			if number(host, x)%5 != 0 || k == 0 {
				b.WriteString(say(x) + " ")
			}
		}
		b.WriteString("</p>")
	}
	if number(host, m.key)%3 == 0 {
		b.WriteString("\n<h2>Questions</h2>")
		for _, q := range m.queries {
			if isAsked(q.text) {
				s := m.sections[number(q.text)%len(m.sections)]
				fmt.Fprintf(&b, "\n<h3>%s?</h3>\n<p>%s</p>", html.EscapeString(strings.ToUpper(q.text[:1])+q.text[1:]), say(strings.Join(s.sentences[:2], " ")))
			}
		}
	}
	fmt.Fprintf(&b, "\n<p>%s</p></article></main>\n<footer><p>© 2026 %s. We use cookies to count visits.</p></footer></body></html>\n", say(closings[number("closing", host)%len(closings)]), site)
	return b.String()
}
