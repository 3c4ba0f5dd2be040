package standin

import (
	"encoding/json"
	"encoding/xml"
	"net/http"
	"strconv"
)

// rss is an OpenSearch 1.1 response in RSS 2.0.
type rss struct {
	XMLName   xml.Name `xml:"rss"`
	Version   string   `xml:"version,attr"`
	Search    string   `xml:"xmlns:opensearch,attr"`
	Questions string   `xml:"xmlns:asked,attr"`
	Channel   channel  `xml:"channel"`
}

type channel struct {
	Title   string   `xml:"title"`
	Total   int      `xml:"opensearch:totalResults"`
	Start   int      `xml:"opensearch:startIndex"`
	PerPage int      `xml:"opensearch:itemsPerPage"`
	Queries []query  `xml:"opensearch:Query"`
	Asked   []string `xml:"asked:question"`
	Items   []item   `xml:"item"`
}

type query struct {
	Role  string `xml:"role,attr"`
	Terms string `xml:"searchTerms,attr"`
}

type item struct {
	Title       string `xml:"title"`
	Link        string `xml:"link"`
	Description string `xml:"description"`
}

func (w *Web) serveSearch(rw http.ResponseWriter, r *http.Request) {
	keyword := r.URL.Query().Get("q")
	count, err := strconv.Atoi(r.URL.Query().Get("count"))
	if err != nil || count < 1 {
		count = 10
	}
	out := rss{Version: "2.0", Search: "http://a9.com/-/spec/opensearch/1.1/", Questions: "urn:corpulan:results:1",
		Channel: channel{Title: "Stand-in search: " + keyword, Start: 1, Queries: []query{{"request", keyword}}}}
	p, ok := w.find(keyword)
	if !ok {
		p, ok = w.answer(keyword)
	}
	if ok {
		for _, q := range p.Related {
			out.Channel.Queries = append(out.Channel.Queries, query{"related", q})
		}
		out.Channel.Asked = p.Questions
		out.Channel.Total = len(p.Results)
		for _, res := range p.Results[:min(count, len(p.Results))] {
			out.Channel.Items = append(out.Channel.Items, item{res.Title, "http://" + res.Path, res.Snippet})
		}
	}
	out.Channel.PerPage = len(out.Channel.Items)
	rw.Header().Set("Content-Type", "application/rss+xml; charset=utf-8")
	_, _ = rw.Write([]byte(xml.Header))
	_ = xml.NewEncoder(rw).Encode(out) // the connection is gone if this fails
}

func (w *Web) serveSuggestions(rw http.ResponseWriter, r *http.Request) {
	keyword := r.URL.Query().Get("q")
	completions := w.complete(keyword)
	if p, ok := w.find(keyword); ok {
		completions = p.Suggestions
	}
	rw.Header().Set("Content-Type", "application/x-suggestions+json")
	_ = json.NewEncoder(rw).Encode([]any{keyword, completions})
}
