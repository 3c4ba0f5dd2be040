package field

import (
	"context"
	"fmt"
	"html/template"
	"net/http"
	"net/url"
	"slices"
	"strconv"

	"corpulan/core/brief"
	"corpulan/core/corpus"
	"corpulan/core/network"
	"corpulan/core/themes"
	"corpulan/web/draw"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

// networkBody is the terms of a field that stand together, drawn and as a table.
type networkBody struct {
	*kit.Analysis
	Query   networkQuery
	Drawing template.HTML
	Net     *network.Network
	Rows    []networkRow
	Names   []string     // of the communities
	Hidden  []kit.Option // terms that are left out, by key
	Queries int          // that are searched near the keyword
	First   int          // ranks that lead
	Enough  bool         // there are leaders and followers to tell apart
}

// networkQuery is what is asked for, by the address.
type networkQuery struct {
	Show   string // "field", "searched" or "both"
	Who    string // "" for all pages, "leaders" or "followers"
	Within network.Within
	Terms  int
	Hide   []string
}

// networkRow is a term in the table.
type networkRow struct {
	network.Node
	Lead  string // the name of its community; empty for none
	With  []networkNear
	In    bool
	Study int64
}

type networkNear struct {
	Text  string
	Joint int
	Pages int
}

// usualTerms is how many terms are drawn unless others are asked for. Our own.
const usualTerms = 50

func networkQueryOf(v url.Values) networkQuery {
	q := networkQuery{Show: v.Get("show"), Who: v.Get("who"), Within: network.Within(v.Get("within")), Terms: usualTerms, Hide: v["hide"]}
	if q.Show != "searched" && q.Show != "both" {
		q.Show = "field"
	}
	if q.Who != "leaders" && q.Who != "followers" {
		q.Who = ""
	}
	if q.Within != network.Section {
		q.Within = network.Sentence
	}
	if n, err := strconv.Atoi(v.Get("terms")); err == nil && n >= network.FewestNodes && n <= network.MaxNodes {
		q.Terms = n
	}
	q.Hide = q.Hide[:min(len(q.Hide), network.MaxNodes)]
	return q
}

// path is the network with what is asked of it, and one term more hidden, or none ("-").
func (q networkQuery) path(study int64, hide string) string {
	v := url.Values{}
	for name, value := range map[string]string{"show": q.Show, "who": q.Who, "within": string(q.Within), "terms": strconv.Itoa(q.Terms)} {
		if value != "" {
			v.Set(name, value)
		}
	}
	for _, h := range q.Hide {
		if hide != "-" {
			v.Add("hide", h)
		}
	}
	if hide != "" && hide != "-" {
		v.Add("hide", hide)
	}
	return fmt.Sprintf("/studies/%d/network?%s", study, v.Encode())
}

// Hide is the network without a term.
func (b networkBody) Hide(key string) string { return b.Query.path(b.Study.ID, key) }

// ShowAll is the network with nothing hidden.
func (b networkBody) ShowAll() string { return b.Query.path(b.Study.ID, "-") }

func (s *handlers) networkBody(c *gin.Context) (b networkBody, err error) {
	ctx := c.Request.Context()
	an, err := s.Analyse(c)
	if err != nil {
		return b, err
	}
	b = networkBody{Analysis: an, Query: networkQueryOf(kit.PageQuery(c)), First: an.Evidence.Contrast.First, Enough: an.Evidence.Contrast.Enough}
	hidden := map[string]bool{}
	for _, h := range b.Query.Hide {
		hidden[h] = true
	}
	for _, t := range an.Evidence.Terms {
		if hidden[t.Key] {
			b.Hidden = append(b.Hidden, kit.Option{Value: t.Key, Name: t.Text})
		}
	}
	pages := slices.DeleteFunc(slices.Clone(an.Pages), func(p corpus.RankedPage) bool {
		return b.Query.Who == "leaders" && p.Rank > b.First || b.Query.Who == "followers" && p.Rank <= b.First
	})
	field, err := network.Of(ctx, pages, an.Study.Language, an.Evidence.Terms, b.Query.Terms, b.Query.Within, hidden)
	if err != nil {
		return b, err
	}
	b.Net = field
	if b.Query.Show != "field" {
		near, _, err := s.Demander.QueriesNear(ctx, s.Scope(c), an.Analysis)
		if err != nil {
			return b, err
		}
		b.Queries = len(near)
		queries := make([]network.Query, len(near))
		for i, k := range near {
			queries[i] = network.Query{Text: k.Text, Volume: 1}
			if k.Volume.Known {
				queries[i].Volume = k.Volume.Value
			}
		}
		searched := network.OfQueries(field, queries, an.Study.Language, an.Study.Keyword)
		b.Net = searched
		if b.Query.Show == "both" {
			b.Net = network.Over(field, searched)
		}
	}
	b.Net.Lay(draw.NetworkLabel)
	taken := map[string]bool{}
	for _, t := range an.Brief.Terms {
		taken[t.Key] = true
	}
	w := s.Tongue(c)
	b.Drawing = draw.Terms(an.In, b.Net, len(an.Pages), func(n network.Node) draw.NetworkNode {
		to := draw.NetworkNode{Adopted: taken[n.Key]}
		if n.Field {
			to.Href = string(kit.SourcesPath(an.Study.ID, string(brief.TermKind), n.Key))
			to.Get = to.Href
		}
		return to
	}, func(n network.Node) string {
		said := n.Text + ", " + w.Counted(n.Pages, "page")
		if taken[n.Key] {
			said += ", " + w.Say("in the brief")
		}
		return said
	})
	if b.Names, err = communityNames(ctx, an, b.Net); err != nil {
		return b, err
	}
	for i, n := range b.Net.Nodes {
		row := networkRow{Node: n, In: taken[n.Key], Study: an.Study.ID}
		if n.Community >= 0 {
			row.Lead = b.Names[n.Community]
		}
		for _, l := range b.Net.Near(i) {
			other := l.A
			if other == i {
				other = l.B
			}
			row.With = append(row.With, networkNear{b.Net.Nodes[other].Text, l.Joint, l.Pages})
		}
		b.Rows = append(b.Rows, row)
	}
	return b, nil
}

// communityNames are what the communities are called: by the theme that most uses of their terms
// stand in, else by the term that leads.
func communityNames(ctx context.Context, an *kit.Analysis, n *network.Network) ([]string, error) {
	groups := make([][][]string, len(n.Communities))
	names := make([]string, len(n.Communities))
	for c, g := range n.Communities {
		names[c] = n.Nodes[g.Lead].Text
		for _, i := range g.Nodes {
			groups[c] = append(groups[c], n.Nodes[i].Keys)
		}
	}
	found, err := themes.Naming(ctx, an.Pages, an.Study.Language, an.Evidence.Themes, groups)
	for c, t := range found {
		if t >= 0 {
			names[c] = an.Evidence.Themes[t].Label
		}
	}
	return names, err
}

// networkPlace shows which terms stand together.
func (s *handlers) networkPlace(c *gin.Context) {
	b, err := s.networkBody(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	s.Page(c, http.StatusOK, "network", s.InStudy(c, "network", b))
}

// networkChanged draws the place anew after something was done.
func (s *handlers) networkChanged(c *gin.Context, n kit.Notice) {
	body, err := s.networkBody(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	s.Redrawn(c, "#network", "network-changed", kit.Changed[networkBody]{Body: body, Notice: n})
}
