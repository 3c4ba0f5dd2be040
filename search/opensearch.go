package search

import (
	"context"
	"encoding/json"
	"encoding/xml"
	"errors"
	"io"
	"net/http"
	"net/url"
	"os"
	"strconv"
	"strings"

	"corpulan/core/message"
)

// OpenSearch asks an engine that speaks OpenSearch 1.1 with RSS or Atom
// responses, and OpenSearch Suggestions for suggestions.
type OpenSearch struct {
	// Template is the engine's URL template with {searchTerms}, {count},
	// {language} and {country}; a "?" inside the braces marks an optional one.
	Template string
	// Suggest is the template for suggestions; empty for an engine without.
	Suggest string
	Client  *http.Client
}

// largestFeed is how much of an engine's answer is read.
const largestFeed = 8 << 20

// ErrNoEngine says that there is nobody to ask.
var ErrNoEngine = message.Errorf("no search engine is set here: an owner names one in Set-up; results and pages can be brought without one")

// Search implements Provider. ErrNoEngine without a template.
func (o OpenSearch) Search(ctx context.Context, q Query) (*Results, error) {
	if o.Template == "" {
		return nil, ErrNoEngine
	}
	body, err := o.get(ctx, o.Template, q)
	if err != nil {
		return nil, message.Errorf("asking the search engine: %v", err)
	}
	res, err := ParseFeed(body)
	if err != nil {
		return nil, message.Errorf("reading the search engine's answer: %v", err)
	}
	if len(res.Items) > q.Count {
		res.Items = res.Items[:q.Count]
	}
	if o.Suggest != "" {
		// Suggestions are an extra: without them the study is as good.
		if body, err := o.get(ctx, o.Suggest, q); err == nil {
			res.Suggestions, _ = ParseSuggestions(body)
		}
	}
	return res, nil
}

func (o OpenSearch) get(ctx context.Context, template string, q Query) ([]byte, error) {
	address := fill(template, map[string]string{"searchTerms": q.Keyword, "count": strconv.Itoa(q.Count), "language": q.Language, "country": q.Country})
	req, err := http.NewRequestWithContext(ctx, http.MethodGet, address, nil)
	if err != nil {
		return nil, WithoutAddress(err)
	}
	req.Header.Set("User-Agent", UserAgent)
	resp, err := o.Client.Do(req)
	if err != nil {
		return nil, WithoutAddress(err)
	}
	defer resp.Body.Close()
	if resp.StatusCode != http.StatusOK {
		return nil, message.Errorf("it answered %s", resp.Status)
	}
	body, err := io.ReadAll(io.LimitReader(resp.Body, largestFeed))
	return body, WithoutAddress(err)
}

// WithoutAddress takes the engine's address out of an error: it may hold a key,
// and errors are shown and logged.
func WithoutAddress(err error) error {
	var at *url.Error
	for errors.As(err, &at) {
		err = at.Err
	}
	var parse *url.Error
	switch {
	case err == nil:
		return nil
	case errors.As(err, &parse), strings.Contains(err.Error(), "://"): // an address that another error has put into its words
		return message.Errorf("its address cannot be asked")
	case os.IsTimeout(err):
		return message.Errorf("it did not answer in time")
	}
	return err
}

func fill(template string, values map[string]string) string {
	for name, v := range values {
		template = strings.ReplaceAll(template, "{"+name+"}", url.QueryEscape(v))
		template = strings.ReplaceAll(template, "{"+name+"?}", url.QueryEscape(v))
	}
	return template
}

type feed struct {
	XMLName xml.Name
	Channel struct {
		Items []struct {
			Title       string `xml:"title"`
			Link        string `xml:"link"`
			Description string `xml:"description"`
		} `xml:"item"`
		extras
	} `xml:"channel"`
	Entries []struct {
		Title string `xml:"title"`
		Links []struct {
			Href string `xml:"href,attr"`
			Rel  string `xml:"rel,attr"`
		} `xml:"link"`
		Summary string `xml:"summary"`
		Content string `xml:"content"`
	} `xml:"entry"`
	extras
}

// extras stand beside the results. OpenSearch has no element for the questions
// a results page shows; they come in a namespace of our own.
type extras struct {
	Queries []struct {
		Role  string `xml:"role,attr"`
		Terms string `xml:"searchTerms,attr"`
	} `xml:"http://a9.com/-/spec/opensearch/1.1/ Query"`
	Questions []string `xml:"urn:corpulan:results:1 question"`
}

// ParseFeed reads an OpenSearch response in RSS 2.0 or Atom. Results without
// a web address are left out; ranks count from 1 in the feed's order.
func ParseFeed(body []byte) (*Results, error) {
	var f feed
	if err := xml.Unmarshal(body, &f); err != nil {
		return nil, message.Errorf("this is no RSS or Atom feed: %v", err)
	}
	res := &Results{}
	have := map[string]bool{}
	add := func(title, link, snippet string) {
		link = strings.TrimSpace(link)
		if u, err := url.Parse(link); err != nil || u.Host == "" || u.Scheme != "http" && u.Scheme != "https" || have[link] || len(res.Items) >= MaxResults {
			return
		}
		have[link] = true
		res.Items = append(res.Items, Item{Rank: len(res.Items) + 1, URL: link, Title: oneLine(title), Snippet: oneLine(snippet)})
	}
	more := f.extras
	switch f.XMLName.Local {
	case "rss":
		for _, it := range f.Channel.Items {
			add(it.Title, it.Link, it.Description)
		}
		more = f.Channel.extras
	case "feed":
		for _, e := range f.Entries {
			link := ""
			for _, l := range e.Links {
				if l.Rel == "" || l.Rel == "alternate" {
					link = l.Href
					break
				}
			}
			snippet := e.Summary
			if snippet == "" {
				snippet = e.Content
			}
			add(e.Title, link, snippet)
		}
	default:
		return nil, message.Errorf("this is no RSS or Atom feed but <%s>", f.XMLName.Local)
	}
	for _, q := range more.Queries {
		if q.Role == "related" && q.Terms != "" && len(res.Related) < MaxOffered {
			res.Related = append(res.Related, oneLine(q.Terms))
		}
	}
	for _, q := range more.Questions {
		if q = oneLine(q); q != "" && len(res.Asked) < MaxOffered {
			res.Asked = append(res.Asked, q)
		}
	}
	return res, nil
}

// ParseSuggestions reads OpenSearch Suggestions: ["query", ["completion", ...], ...].
func ParseSuggestions(body []byte) ([]string, error) {
	var parts []json.RawMessage
	if err := json.Unmarshal(body, &parts); err != nil {
		return nil, message.Errorf("these are no suggestions: %v", err)
	}
	if len(parts) < 2 {
		return nil, message.Errorf("these are no suggestions: the list of completions is missing")
	}
	var list []string
	if err := json.Unmarshal(parts[1], &list); err != nil {
		return nil, message.Errorf("these are no suggestions: %v", err)
	}
	return list[:min(len(list), MaxOffered)], nil
}

func oneLine(s string) string { return strings.Join(strings.Fields(s), " ") }
