// Package listed finds the things that pages list or recommend under names of their own (products, places, programs,
// plants, services, methods), what pages say of each, and by which measures they compare them.
//
//   - listed.go    things, from all that lists them
//   - headings.go  lists that headings are
//   - shape.go     a heading read as one of a list: number, name, verdict, price
//   - tables.go    lists that tables are, things in rows or in columns
//   - marked.go    cards, definitions, items with a bold beginning; structured data
//   - values.go    amounts of money, figures with a unit
//   - units.go     units and what they are of
//   - labels.go    what lines tell under a label: "Price: £69 | Weight: 168 g"
//   - said.go      what is said of a thing: price, figures, praise and criticism
//   - names.go     which names are of one thing
//   - mentions.go  things of a list that other pages name
//   - criteria.go  by what pages compare
package listed

import (
	"cmp"
	"math"
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/house"
	"corpulan/core/language"
)

// Thing is something that pages list under its name.
type Thing struct {
	Key        string      `json:"key"`
	Name       string      `json:"name"`     // as most pages write it, the longest of them
	Variants   []string    `json:"variants"` // all ways in which it is written
	Pages      int         `json:"pages"`
	Ranks      []int       `json:"ranks"`      // of the pages, ascending
	Positions  []int       `json:"positions"`  // in the list of each of them; 0 where it is only named
	Verdicts   []string    `json:"verdicts"`   // as they are written, one a page
	Prices     []Price     `json:"prices"`     // in rank order
	Attributes []Attribute `json:"attributes"` // in rank order
	Ratings    []Rating    `json:"ratings,omitempty"`
	Praise     []string    `json:"praise"`
	Criticism  []string    `json:"criticism"`
	Links      []string    `json:"links,omitempty"`   // addresses it leads to
	Differs    []string    `json:"differs,omitempty"` // what pages give differently: PriceDiffers, names of attributes
	Places     []Place     `json:"places"`            // one a page, in rank order
}

// PriceDiffers stands in Thing.Differs for its price.
const PriceDiffers = "price"

// Place is what one page says of a thing.
type Place struct {
	Rank       int         `json:"rank"`
	Section    int         `json:"section"`
	Position   int         `json:"position"` // in the page's list, from 1; 0 where the page only names it
	Of         int         `json:"of"`       // how many that list has
	By         By          `json:"by"`
	Name       string      `json:"name"` // as it is written there
	Verdict    string      `json:"verdict,omitempty"`
	Use        string      `json:"use,omitempty"` // key of the criterion that the verdict names
	Prices     []Price     `json:"prices,omitempty"`
	Attributes []Attribute `json:"attributes,omitempty"`
	Rating     *Rating     `json:"rating,omitempty"`
	Praise     []Said      `json:"praise,omitempty"`
	Criticism  []Said      `json:"criticism,omitempty"`
	URL        string      `json:"url,omitempty"`  // that the page leads to
	Text       string      `json:"text,omitempty"` // the sentence, where it is only named
}

// By is how a page lists a thing.
type By string

// The ways in which things are listed, in the order in which a page's own order is taken from them.
const (
	ByHeading    By = "heading"
	ByCard       By = "card"
	ByRow        By = "table"
	ByItem       By = "item"
	ByDefinition By = "definition"
	ByData       By = "structured data"
	ByMention    By = "named"
)

var order = []By{ByHeading, ByCard, ByRow, ByItem, ByDefinition, ByData, ByMention}

// Price is an amount of money, or a range of two.
type Price struct {
	Amount   float64 `json:"amount"`
	To       float64 `json:"to,omitempty"`
	Currency string  `json:"currency"` // ISO 4217; empty where the page does not say; free things have 0
	Rank     int     `json:"rank"`
	Section  int     `json:"section"`
	Text     string  `json:"text"` // as it is written
}

// Attribute is a value that a page gives for a thing.
type Attribute struct {
	Key     string `json:"key"`  // of the criterion
	Name    string `json:"name"` // as the page calls it
	Value   string `json:"value"`
	Unit    string `json:"unit,omitempty"`
	Rank    int    `json:"rank"`
	Section int    `json:"section"`
	Text    string `json:"text"` // as it is written
}

// Rating is a mark that a page gives, or its visitors.
type Rating struct {
	Value float64 `json:"value"`
	Of    float64 `json:"of"`
	Count int     `json:"count,omitempty"` // of the visitors
	Rank  int     `json:"rank"`
}

// Said is a sentence or an item of a page.
type Said struct {
	Section int    `json:"section"`
	Text    string `json:"text"`
}

// Listed is what a field lists, and by what it compares.
type Listed struct {
	Things   []Thing
	Criteria []Criterion
	Sections map[[2]int]bool // by rank and section: those that are about one thing, or hold a list
}

type finder struct {
	*corpus.Field
	taught *house.Lexicon
	noted  map[string]bool // keys of names of lists that are sure

	known  map[string]heading        // that were read, since pages list the same
	labels map[string]language.Label // that were looked up
}

// entry is one thing in one list of a page.
type entry struct {
	Place
	page int
}

// list is what one page lists in one place.
type list struct {
	entries []entry
	sure    bool // it is a list of things by itself
}

// Find finds the things that the pages of a field list, those of most pages first, and the criteria. What is taught says which
// names are one thing, how it is called, and which is none.
func Find(f *corpus.Field, taught *house.Lexicon) Listed {
	x := finder{f, taught, map[string]bool{}, map[string]heading{}, map[string]language.Label{}}
	var lists, doubtful []list
	for i := range f.Docs {
		for _, l := range slices.Concat(x.headings(i), x.tables(i), x.marked(i), x.lines(i), x.items(i)) {
			if l.sure {
				lists = append(lists, l)
				for _, e := range l.entries {
					x.noted[keyOf(e.Name)] = true
				}
			} else {
				doubtful = append(doubtful, l)
			}
		}
	}
	for _, l := range doubtful {
		if l = x.recognised(l); len(l.entries) > 0 {
			lists = append(lists, l)
		}
	}
	things := x.join(lists)
	x.mentions(things)
	for i := range things {
		things[i].sum()
	}
	slices.SortStableFunc(things, func(a, b Thing) int {
		return cmp.Or(cmp.Compare(b.Pages, a.Pages), cmp.Compare(a.Places[0].Rank, b.Places[0].Rank), cmp.Compare(a.Places[0].Position, b.Places[0].Position), strings.Compare(a.Key, b.Key))
	})
	criteria := x.criteria(things)
	for i := range things {
		things[i].compare()
	}
	return Listed{things, criteria, x.sections(lists)}
}

// How many of a list that is none by itself are known from others, at least. Our own.
const (
	fewestKnown = 2
	mostlyKnown = 0.5
)

// recognised is what is left of a list that is none by itself: the things that other pages list, if they are most of it.
func (f *finder) recognised(l list) list {
	known := slices.DeleteFunc(slices.Clone(l.entries), func(e entry) bool { return !f.noted[keyOf(e.Name)] })
	if len(known) < fewestKnown || float64(len(known)) < mostlyKnown*float64(len(l.entries)) {
		return list{}
	}
	return list{entries: known}
}

// sections are those that are about one thing of a list, with what stands under them, and those that hold a list.
func (f *finder) sections(lists []list) map[[2]int]bool {
	at := map[[2]int]bool{}
	for _, l := range lists {
		for _, e := range l.entries {
			from, to := e.Section, e.Section+1
			if e.By == ByHeading {
				from, to = f.below(e.page, e.Section)
			} else if e.By == ByData || len(l.entries) < fewestListed {
				continue
			}
			for n := from; n < to; n++ {
				at[[2]int{e.Rank, n}] = true
			}
		}
	}
	return at
}

// add puts what a page says of the thing beside what it says elsewhere: the list it orders by is the first of order.
func (t *Thing) add(e entry) {
	i := slices.IndexFunc(t.Places, func(p Place) bool { return p.Rank == e.Rank })
	if i < 0 {
		t.Places = append(t.Places, e.Place)
		return
	}
	p := &t.Places[i]
	first, second := *p, e.Place
	if slices.Index(order, second.By) < slices.Index(order, first.By) {
		first, second = second, first
	}
	first.Verdict = cmp.Or(first.Verdict, second.Verdict)
	first.URL = cmp.Or(first.URL, second.URL)
	if len(first.Prices) == 0 {
		first.Prices = second.Prices
	}
	if first.Rating == nil {
		first.Rating = second.Rating
	}
	for _, a := range second.Attributes {
		if !slices.ContainsFunc(first.Attributes, func(b Attribute) bool { return a.Name == b.Name || a.Value == b.Value && a.Unit == b.Unit }) {
			first.Attributes = append(slices.Clip(first.Attributes), a)
		}
	}
	first.Praise, first.Criticism = together(first.Praise, second.Praise), together(first.Criticism, second.Criticism)
	*p = first
}

func together(a, b []Said) []Said {
	for _, s := range b {
		if !slices.ContainsFunc(a, func(x Said) bool { return x.Text == s.Text }) {
			a = append(slices.Clip(a), s)
		}
	}
	return a
}

// sum fills what is told of all its places together.
func (t *Thing) sum() {
	slices.SortStableFunc(t.Places, func(a, b Place) int { return cmp.Compare(a.Rank, b.Rank) })
	t.Pages = len(t.Places)
	t.Verdicts, t.Prices, t.Attributes, t.Praise, t.Criticism = []string{}, []Price{}, []Attribute{}, []string{}, []string{}
	once := func(list []string, s string) []string {
		if s == "" || slices.Contains(list, s) {
			return list
		}
		return append(list, s)
	}
	for _, p := range t.Places {
		t.Ranks, t.Positions = append(t.Ranks, p.Rank), append(t.Positions, p.Position)
		t.Variants, t.Links = once(t.Variants, p.Name), once(t.Links, p.URL)
		if !slices.ContainsFunc(t.Verdicts, func(v string) bool { return strings.EqualFold(v, p.Verdict) }) {
			t.Verdicts = once(t.Verdicts, p.Verdict)
		}
		t.Prices = append(t.Prices, p.Prices...)
		if p.Rating != nil {
			t.Ratings = append(t.Ratings, *p.Rating)
		}
		for _, s := range p.Praise {
			t.Praise = once(t.Praise, s.Text)
		}
		for _, s := range p.Criticism {
			t.Criticism = once(t.Criticism, s.Text)
		}
	}
}

// How far values of one thing may lie apart before pages are said to differ, as a share of the least. Our own.
const (
	samePrice = 0.02
	sameValue = 0.02
)

// compare notes what pages give differently. The attributes have their keys by now.
func (t *Thing) compare() {
	t.Attributes = []Attribute{}
	for _, p := range t.Places {
		t.Attributes = append(t.Attributes, p.Attributes...)
	}
	byCurrency := map[string][]Price{}
	for _, p := range t.Prices {
		byCurrency[p.Currency] = append(byCurrency[p.Currency], p)
	}
	for _, prices := range byCurrency {
		least, most := math.Inf(1), math.Inf(-1)
		for _, p := range prices {
			least, most = min(least, max(p.Amount, p.To)), max(most, p.Amount)
		}
		if most > least*(1+samePrice) && !slices.Contains(t.Differs, PriceDiffers) {
			t.Differs = append(t.Differs, PriceDiffers)
		}
	}
	byKey := map[string][]Attribute{}
	var keys []string
	for _, a := range t.Attributes {
		if byKey[a.Key] == nil {
			keys = append(keys, a.Key)
		}
		byKey[a.Key] = append(byKey[a.Key], a)
	}
	for _, k := range keys {
		if list := byKey[k]; k != "" && slices.ContainsFunc(list[1:], func(a Attribute) bool { return !agree(list[0], a) }) {
			t.Differs = append(t.Differs, k)
		}
	}
}
