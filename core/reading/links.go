package reading

import (
	"path"
	"slices"
	"strings"

	"corpulan/core/address"
	"corpulan/core/markup"

	"golang.org/x/net/html"
)

// link notes an address the content links to, the first time it does.
func (w *writer) link(n *html.Node) {
	href := strings.TrimSpace(markup.Attr(n, "href"))
	if href == "" || strings.HasPrefix(href, "#") {
		return
	}
	to := w.doc.base.Resolve(href)
	if !to.Web() {
		return
	}
	url := to.Page()
	if url == "" || w.links[url] || w.tally.linked[url] || !w.doc.base.Missing() && url == w.doc.base.Page() {
		return
	}
	if w.tally.linked == nil {
		w.tally.linked = map[string]bool{}
	}
	w.tally.linked[url] = true
	external := to.Site() != "" && to.Site() != w.doc.base.Site()
	rel := relOf(n)
	w.tally.links = append(w.tally.links, Link{URL: url, Text: shortText(markup.Text(n), 200), External: external, Rel: rel})
	if strings.Contains(rel, "sponsored") {
		w.tally.counts.PaidLinks++
	}
	if leadsToFile(to) {
		w.tally.counts.FileLinks++
	}
	if external {
		w.tally.counts.ExternalLinks++
	} else {
		w.tally.counts.InternalLinks++
	}
}

// relOf keeps of a link's rel what search engines are told by it.
func relOf(n *html.Node) string {
	var kept []string
	for _, r := range strings.Fields(strings.ToLower(markup.Attr(n, "rel"))) {
		if (r == "nofollow" || r == "sponsored" || r == "ugc") && !slices.Contains(kept, r) {
			kept = append(kept, r)
		}
	}
	return strings.Join(kept, " ")
}

// leadsToFile tells a link to a document or an archive from one to a page.
func leadsToFile(a address.Address) bool {
	switch strings.ToLower(path.Ext(a.Path())) {
	case ".pdf", ".doc", ".docx", ".xls", ".xlsx", ".ppt", ".pptx", ".odt", ".ods", ".csv", ".zip", ".gpx", ".epub", ".mp3":
		return true
	}
	return false
}
