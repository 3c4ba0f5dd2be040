package reading

import (
	"maps"
	"slices"
	"strconv"
	"strings"

	"corpulan/core/markup"

	"golang.org/x/net/html"
)

// Item is a thing that structured data describe: a Product and the like, what an ItemList lists, what a Review is of.
type Item struct {
	Name       string     `json:"name"`
	Type       string     `json:"type,omitempty"`     // of schema.org
	Position   int        `json:"position,omitempty"` // in its list, from 1
	List       int        `json:"list,omitempty"`     // those of one ItemList have one number
	Price      string     `json:"price,omitempty"`    // as it is written; the lower of two
	Upper      string     `json:"upper,omitempty"`    // the higher of two
	Currency   string     `json:"currency,omitempty"` // ISO 4217
	Rating     float64    `json:"rating,omitempty"`   // out of Best
	Best       float64    `json:"best,omitempty"`
	Ratings    int        `json:"ratings,omitempty"` // how many people gave one
	URL        string     `json:"url,omitempty"`
	Award      string     `json:"award,omitempty"`
	Praise     []string   `json:"praise,omitempty"`
	Criticism  []string   `json:"criticism,omitempty"`
	Properties []Property `json:"properties,omitempty"`
}

// Property is what structured data say of an item under a name.
type Property struct {
	Name  string `json:"name"`
	Value string `json:"value"`
	Unit  string `json:"unit,omitempty"`
}

// Bounds of items, our own.
const (
	maxItems      = 600
	maxProperties = 40
	longestValue  = 200 // characters
)

// bestRating is the best that a rating can be where nothing else is said, by the standard of schema.org (bestRating).
const bestRating = 5

// noThings are types of schema.org that a list may have and that are no things of their own: pages, steps, questions.
var noThings = map[string]bool{"WebPage": true, "CollectionPage": true, "Article": true, "NewsArticle": true, "BlogPosting": true, "SiteNavigationElement": true, "HowToStep": true,
	"HowToSection": true, "HowToItem": true, "Question": true, "Answer": true, "ImageObject": true, "VideoObject": true, "Comment": true, "BreadcrumbList": true, "WebSite": true}

// describes are types whose items are things by themselves, outside a list as well.
var describes = map[string]bool{"Product": true, "ProductModel": true, "ProductGroup": true, "IndividualProduct": true, "Vehicle": true, "Car": true, "SoftwareApplication": true, "WebApplication": true, "MobileApplication": true,
	"VideoGame": true, "TouristAttraction": true, "LandmarksOrHistoricalBuildings": true, "Hotel": true, "Restaurant": true, "Museum": true, "Park": true, "Campground": true}

// describe reads the things that a value of JSON-LD, or what microdata say, describes.
func (s *structured) describe(v any, depth int) {
	if depth > deepestData || len(s.items) >= maxItems {
		return
	}
	switch v := v.(type) {
	case []any:
		for _, e := range v {
			s.describe(e, depth+1)
		}
	case map[string]any:
		types := typesOf(v)
		switch {
		case slices.Contains(types, "BreadcrumbList"):
			return
		case slices.Contains(types, "ItemList") || slices.Contains(types, "OfferCatalog"):
			s.list(v)
			return
		case slices.ContainsFunc(types, func(t string) bool { return describes[t] }):
			s.addItem(itemOf(v))
			return
		case slices.ContainsFunc(types, func(t string) bool { return strings.HasSuffix(t, "Review") }):
			if of, ok := v["itemReviewed"].(map[string]any); ok {
				x := itemOf(of)
				x.reviewed(v)
				s.addItem(x)
				return
			}
		}
		for _, k := range slices.Sorted(maps.Keys(v)) {
			switch v[k].(type) {
			case map[string]any, []any:
				s.describe(v[k], depth+1)
			}
		}
	}
}

// list reads an ItemList, whose elements are ListItems, the things themselves or their names.
func (s *structured) list(v map[string]any) {
	number := 1
	for _, x := range s.items {
		number = max(number, x.List+1)
	}
	for n, e := range listOf(v["itemListElement"]) {
		x := Item{Position: n + 1}
		switch e := e.(type) {
		case string:
			x.Name = e
		case map[string]any:
			at := int(numberOf(e["position"]))
			thing := e
			if of, ok := e["item"].(map[string]any); ok && slices.Contains(typesOf(e), "ListItem") {
				thing = of
			} else if of, ok := e["itemOffered"].(map[string]any); ok {
				thing = of
			}
			x = itemOf(thing)
			if x.Name == "" {
				x.Name = textOf(e["name"])
			}
			if x.URL == "" {
				x.URL = addressOf(e)
			}
			x.Position = n + 1
			if at > 0 && at <= maxItems {
				x.Position = at
			}
		}
		x.List = number
		s.addItem(x)
	}
}

// addItem keeps a thing with a name; what a page says of one in two places is joined.
func (s *structured) addItem(x Item) {
	x.Name = markup.Collapse(stripTags(x.Name))
	if x.Name == "" || len(x.Name) > longestMarked || strings.Contains(x.Name, "://") || noThings[x.Type] || len(s.items) >= maxItems {
		return
	}
	for i := range s.items {
		y := &s.items[i]
		if y.Name != x.Name {
			continue
		}
		if y.Price == "" {
			y.Price, y.Upper, y.Currency = x.Price, x.Upper, x.Currency
		}
		if y.Rating == 0 {
			y.Rating, y.Best, y.Ratings = x.Rating, x.Best, x.Ratings
		}
		if y.List == 0 {
			y.List, y.Position = x.List, x.Position
		}
		if y.Type == "" || y.Type == "ListItem" {
			y.Type = x.Type
		}
		if len(y.Properties) == 0 {
			y.Properties = x.Properties
		}
		return
	}
	s.items = append(s.items, x)
}

// itemOf reads a thing.
func itemOf(v map[string]any) Item {
	x := Item{Name: textOf(v["name"]), URL: addressOf(v), Award: shortText(textOf(v["award"]), longestValue)}
	if t := typesOf(v); len(t) > 0 {
		x.Type = t[0]
	}
	for _, o := range listOf(v["offers"]) {
		if o, ok := o.(map[string]any); ok && x.Price == "" {
			x.offered(o)
		}
	}
	if r, ok := v["aggregateRating"].(map[string]any); ok {
		x.rated(r)
	}
	for _, r := range listOf(v["review"]) {
		if r, ok := r.(map[string]any); ok {
			x.reviewed(r)
		}
	}
	x.noted(v)
	for _, p := range listOf(v["additionalProperty"]) {
		if p, ok := p.(map[string]any); ok {
			x.addProperty(textOf(p["name"]), p)
		}
	}
	for _, name := range []string{"weight", "width", "height", "depth", "size"} {
		if p, ok := v[name].(map[string]any); ok {
			x.addProperty(name, p)
		}
	}
	return x
}

func (x *Item) addProperty(name string, v map[string]any) {
	value := textOf(v["value"])
	if name == "" || value == "" || len(value) > longestValue || len(x.Properties) >= maxProperties {
		return
	}
	unit := textOf(v["unitText"])
	if unit == "" {
		unit = unitByCode[strings.ToUpper(textOf(v["unitCode"]))]
	}
	x.Properties = append(x.Properties, Property{name, value, unit})
}

// unitByCode are common codes of UN/CEFACT Recommendation 20, which schema.org asks for.
var unitByCode = map[string]string{"GRM": "g", "KGM": "kg", "LBR": "lb", "ONZ": "oz", "MMT": "mm", "CMT": "cm", "MTR": "m", "INH": "in", "LTR": "l", "MLT": "ml", "HUR": "h", "MIN": "min",
	"SEC": "s", "WTT": "W", "VLT": "V", "2N": "dB", "LUM": "lumens", "LUX": "lux", "CEL": "°C", "KMH": "km/h", "BAR": "bar"}

func (x *Item) offered(o map[string]any) {
	x.Currency = textOf(o["priceCurrency"])
	if x.Price = textOf(o["price"]); x.Price == "" {
		x.Price, x.Upper = textOf(o["lowPrice"]), textOf(o["highPrice"])
	}
	if spec, ok := o["priceSpecification"].(map[string]any); ok && x.Price == "" {
		x.Price = textOf(spec["price"])
		if x.Currency == "" {
			x.Currency = textOf(spec["priceCurrency"])
		}
	}
	if x.Upper == x.Price {
		x.Upper = ""
	}
}

// rated reads a rating that can be true: none above the best.
func (x *Item) rated(r map[string]any) {
	rating, best := numberOf(r["ratingValue"]), numberOf(r["bestRating"])
	if best == 0 {
		best = bestRating
	}
	if rating <= 0 || rating > best {
		return
	}
	x.Rating, x.Best = rating, best
	x.Ratings = int(max(numberOf(r["ratingCount"]), numberOf(r["reviewCount"])))
}

// reviewed reads what a review says of the thing.
func (x *Item) reviewed(r map[string]any) {
	if rating, ok := r["reviewRating"].(map[string]any); ok && x.Rating == 0 {
		x.rated(rating)
		x.Ratings = 0
	}
	x.noted(r)
}

// noted reads schema.org's lists of what is good and what is bad.
func (x *Item) noted(v map[string]any) {
	const most = 20 // our own
	for name, into := range map[string]*[]string{"positiveNotes": &x.Praise, "negativeNotes": &x.Criticism} {
		notes := listOf(v[name])
		if of, ok := v[name].(map[string]any); ok {
			notes = listOf(of["itemListElement"])
		}
		for _, n := range notes {
			said := textOf(n)
			if m, ok := n.(map[string]any); ok {
				said = textOf(m["name"])
			}
			if said != "" && len(*into) < most && !slices.Contains(*into, said) {
				*into = append(*into, shortText(said, longestSaid))
			}
		}
	}
}

func typesOf(v map[string]any) []string {
	types := stringsOf(v["@type"])
	for i, t := range types {
		types[i] = t[strings.LastIndexByte(t, '/')+1:]
	}
	return types
}

func listOf(v any) []any {
	switch v := v.(type) {
	case nil:
		return nil
	case []any:
		return v
	}
	return []any{v}
}

// textOf is a text or a number as structured data have them.
func textOf(v any) string {
	switch v := v.(type) {
	case string:
		return markup.Collapse(stripTags(v))
	case float64:
		return strconv.FormatFloat(v, 'f', -1, 64)
	case []any:
		if len(v) > 0 {
			return textOf(v[0])
		}
	}
	return ""
}

func numberOf(v any) float64 {
	n, _ := strconv.ParseFloat(strings.ReplaceAll(textOf(v), ",", "."), 64) // what is none counts as 0
	return n
}

// addressOf is the address that a thing is described at.
func addressOf(v map[string]any) string {
	for _, name := range []string{"url", "@id"} {
		if s, _ := v[name].(string); strings.HasPrefix(s, "https://") || strings.HasPrefix(s, "http://") {
			return s
		}
	}
	for _, o := range listOf(v["offers"]) {
		if o, ok := o.(map[string]any); ok {
			if s, _ := o["url"].(string); strings.HasPrefix(s, "http") {
				return s
			}
		}
	}
	return ""
}

// microdata brings an element with itemscope into the form of JSON-LD.
func microdata(n *html.Node, depth int) map[string]any {
	t := markup.Attr(n, "itemtype")
	v := map[string]any{"@type": t[strings.LastIndexByte(t, '/')+1:]}
	if depth > deepestData {
		return v
	}
	add := func(name string, value any) {
		if old, ok := v[name]; ok {
			v[name] = append(listOf(old), value)
		} else {
			v[name] = value
		}
	}
	var walk func(*html.Node)
	walk = func(n *html.Node) {
		for ch := n.FirstChild; ch != nil; ch = ch.NextSibling {
			if ch.Type != html.ElementNode {
				continue
			}
			scope := markup.HasAttr(ch, "itemscope")
			if prop := markup.Attr(ch, "itemprop"); prop != "" {
				var value any = propertyText(ch)
				if scope {
					value = microdata(ch, depth+1)
				}
				for name := range strings.FieldsSeq(prop) {
					add(name, value)
				}
			}
			if !scope {
				walk(ch)
			}
		}
	}
	walk(n)
	return v
}

// propertyText is the value of an element with itemprop (HTML Standard, 5.2.4).
func propertyText(n *html.Node) string {
	for _, attr := range map[string][]string{"meta": {"content"}, "a": {"href"}, "link": {"href"}, "img": {"src"}, "data": {"value"}, "meter": {"value"}, "time": {"datetime"}}[n.Data] {
		if s := markup.Attr(n, attr); s != "" {
			return s
		}
	}
	if s := markup.Attr(n, "content"); s != "" {
		return s
	}
	return markup.Text(n)
}
