package reading

import (
	"encoding/json"
	"maps"
	"slices"
	"strings"

	"corpulan/core/markup"

	"golang.org/x/net/html"
)

// structured is what the page says of itself in JSON-LD and microdata, in the
// vocabulary of schema.org.
type structured struct {
	types               []string
	faq                 []Pair
	howTo               []string
	published, modified string
	author              string
	paid                bool // the page says that it is not free to read
	named               []Named
	items               []Item
}

// apply adds to the reading what its head did not say.
func (s structured) apply(r *Reading) {
	if len(s.types) > 0 {
		r.DataTypes = s.types
	}
	r.FAQ = append(r.FAQ, s.faq...)
	r.HowTo = s.howTo
	r.Named, r.Items = s.named, s.items
	setDate(&r.Published, s.published)
	setDate(&r.Modified, s.modified)
	if r.Author == "" {
		r.Author = s.author
	}
}

func readStructured(d *document) structured {
	var s structured
	for n := range d.root.Descendants() {
		if n.Type != html.ElementNode {
			continue
		}
		if n.Data == "script" && strings.Contains(strings.ToLower(markup.Attr(n, "type")), "ld+json") {
			var v any
			// Broken JSON-LD is common; it says nothing then.
			if json.Unmarshal([]byte(strings.TrimSpace(rawText(n))), &v) == nil {
				s.jsonLD(v, 0)
				s.describe(v, 0)
			}
		}
		if markup.HasAttr(n, "itemscope") {
			t := markup.Attr(n, "itemtype")
			s.addType(t[strings.LastIndexByte(t, '/')+1:])
			if !markup.HasAttr(n, "itemprop") {
				s.describe(microdata(n, 0), 0)
			}
			if strings.HasSuffix(t, "/Question") && hasAncestorType(n, "/FAQPage") {
				s.addPair(itemText(n, "name"), itemText(n, "text"))
			}
		}
	}
	slices.Sort(s.types)
	return s
}

func hasAncestorType(n *html.Node, suffix string) bool {
	for a := n.Parent; a != nil; a = a.Parent {
		if strings.HasSuffix(markup.Attr(a, "itemtype"), suffix) {
			return true
		}
	}
	return false
}

func itemText(n *html.Node, prop string) string {
	for d := range n.Descendants() {
		if d.Type == html.ElementNode && markup.Attr(d, "itemprop") == prop {
			return markup.Text(d)
		}
	}
	return ""
}

func (s *structured) addType(t string) {
	const most = 100 // different types; no honest page has as many
	if t != "" && len(s.types) < most && !slices.Contains(s.types, t) {
		s.types = append(s.types, t)
	}
}

func (s *structured) addPair(question, answer string) {
	question, answer = markup.Collapse(stripTags(question)), markup.Collapse(stripTags(answer))
	if question == "" || len(s.faq) >= maxQuestions || slices.ContainsFunc(s.faq, func(p Pair) bool { return p.Question == question }) {
		return
	}
	s.faq = append(s.faq, Pair{question, answer})
}

// addStep notes a step of HowTo markup by its name, or by its text where it has none.
func (s *structured) addStep(v map[string]any) {
	const most = 100
	step, _ := v["name"].(string)
	if strings.TrimSpace(step) == "" {
		step, _ = v["text"].(string)
	}
	if step = shortText(markup.Collapse(stripTags(step)), 300); step != "" && len(s.howTo) < most {
		s.howTo = append(s.howTo, step)
	}
}

// stripTags takes the markup out of a string; answers in JSON-LD often carry HTML.
func stripTags(v string) string {
	if !strings.ContainsAny(v, "<&") {
		return v
	}
	root, err := html.Parse(strings.NewReader(v))
	if err != nil {
		return v
	}
	return markup.Text(root)
}

// deepestData is how deep structured data are looked into. Our own.
const deepestData = 32

// jsonLD reads a value of JSON-LD and all within it.
func (s *structured) jsonLD(v any, depth int) {
	if depth > deepestData {
		return
	}
	switch v := v.(type) {
	case []any:
		for _, e := range v {
			s.jsonLD(e, depth+1)
		}
	case map[string]any:
		s.node(v)
		for _, k := range slices.Sorted(maps.Keys(v)) { // a map has no order; the reading must
			switch v[k].(type) {
			case map[string]any, []any:
				s.jsonLD(v[k], depth+1)
			}
		}
	}
}

// node reads what a node object of JSON-LD says itself.
func (s *structured) node(v map[string]any) {
	types := stringsOf(v["@type"])
	for _, t := range types {
		s.addType(strings.TrimPrefix(strings.TrimPrefix(t, "https://schema.org/"), "http://schema.org/"))
	}
	name, _ := v["name"].(string)
	if slices.Contains(types, "Question") {
		answer := ""
		if a, ok := v["acceptedAnswer"].(map[string]any); ok {
			answer, _ = a["text"].(string)
		}
		if name != "" && answer != "" {
			s.addPair(name, answer)
		}
	}
	if slices.Contains(types, "HowToStep") {
		s.addStep(v)
	}
	if name != "" {
		s.addNamed(name, types)
	}
	if isNotFree(v["isAccessibleForFree"]) && slices.ContainsFunc(types, isArticleType) {
		s.paid = true
	}
	if p, _ := v["datePublished"].(string); s.published == "" {
		s.published = p
	}
	if m, _ := v["dateModified"].(string); s.modified == "" {
		s.modified = m
	}
	if s.author == "" && v["headline"] != nil {
		s.author = authorName(v["author"])
	}
}

// isNotFree reads a Boolean of schema.org that says false, which many write as text.
func isNotFree(v any) bool {
	switch free := v.(type) {
	case bool:
		return !free
	case string:
		return strings.EqualFold(free, "false")
	}
	return false
}

// addNamed keeps the name of a thing; names of pages, questions, steps and the like are
// text.
func (s *structured) addNamed(name string, types []string) {
	const most = 100 // our own
	name = markup.Collapse(stripTags(name))
	if name == "" || len(name) > 100 || len(s.named) >= most {
		return
	}
	for _, t := range types {
		t = t[strings.LastIndexByte(t, '/')+1:]
		if named := (Named{name, t}); namesAThing[t] && !slices.Contains(s.named, named) {
			s.named = append(s.named, named)
		}
	}
}

// namesAThing are types of schema.org whose name is one of a person, a house, a ware, a
// place, an event or a work.
var namesAThing = map[string]bool{"Person": true, "Organization": true, "NewsMediaOrganization": true, "Corporation": true, "LocalBusiness": true, "Store": true,
	"EducationalOrganization": true, "GovernmentOrganization": true, "NGO": true, "SportsOrganization": true, "Product": true, "ProductModel": true, "Vehicle": true,
	"SoftwareApplication": true, "MobileApplication": true, "Brand": true, "Place": true, "City": true, "Country": true, "LandmarksOrHistoricalBuildings": true, "Park": true,
	"TouristAttraction": true, "Event": true, "Festival": true, "SportsEvent": true, "Book": true, "Movie": true, "MusicRecording": true, "TVSeries": true, "Legislation": true}

func isArticleType(t string) bool { return strings.HasSuffix(t, "Article") || t == "BlogPosting" }

func stringsOf(v any) []string {
	switch v := v.(type) {
	case string:
		return []string{v}
	case []any:
		var all []string
		for _, e := range v {
			if t, ok := e.(string); ok {
				all = append(all, t)
			}
		}
		return all
	}
	return nil
}

func authorName(v any) string {
	switch v := v.(type) {
	case string:
		return v
	case []any:
		if len(v) > 0 {
			return authorName(v[0])
		}
	case map[string]any:
		name, _ := v["name"].(string)
		return name
	}
	return ""
}
