package brief

import (
	"cmp"
	"slices"
	"strconv"
	"strings"

	"corpulan/core/evidence"
	"corpulan/core/language"
	"corpulan/core/listed"
)

// Pick is a thing that the page is to list, in the order chosen.
type Pick struct {
	Key       string      `json:"key"`
	Name      string      `json:"name"`
	Pages     int         `json:"pages"`
	Of        int         `json:"of"`
	Sources   []int       `json:"sources"`
	Verdict   string      `json:"verdict"` // as most pages have it, or as a person wrote it
	Edited    bool        `json:"edited,omitempty"`
	Price     string      `json:"price,omitempty"` // as a range over the pages
	Values    []PickValue `json:"values"`          // by the criteria of the brief, in their order
	Praise    []Quote     `json:"praise"`
	Criticism []Quote     `json:"criticism"`
	Gone      bool        `json:"gone,omitempty"` // no kept page lists it any more
}

// PickValue is what pages give for a thing by one criterion; empty where none does.
type PickValue struct {
	Criterion string `json:"criterion"` // its key
	Text      string `json:"text"`
	Sources   []int  `json:"sources"`
	Differs   bool   `json:"differs,omitempty"` // pages give different values
}

// Quote is a sentence of a page.
type Quote struct {
	Text string `json:"text"`
	Rank int    `json:"rank"`
}

// Criterion is a column of the table in which the picks are compared.
type Criterion struct {
	Key   string `json:"key"`
	Name  string `json:"name"`
	Unit  string `json:"unit,omitempty"`
	Pages int    `json:"pages"`
}

// How many things are proposed, how many columns compare them, and how many sentences are quoted of one; how many make a list
// that a title may count. Our own.
const (
	maxPicks      = 10
	wordsOfPick   = 50 // of the page, for each
	maxCompared   = 6
	maxQuotes     = 2
	fewestCounted = 3
)

// listsThings tells a kind of page that goes through things.
func (t Template) listsThings() bool {
	key := strings.TrimPrefix(t.Key, OwnTemplate)
	return key == "list" || key == "comparison"
}

// takePicks are the things that a person adopted, and in a field of lists those that several pages name.
func (b *Brief) takePicks(e *evidence.Evidence, c Choices, t Template) {
	b.Picks, b.Criteria = []Pick{}, []Criterion{}
	proposing := t.listsThings() && e.IsOfLists()
	most := min(maxPicks, max(b.Words.Target/wordsOfPick, fewestCounted))
	have := map[string]bool{}
	proposed := 0
	var things []listed.Thing
	for _, x := range e.Listed {
		have[x.Key] = true
		propose := proposing && evidence.Shared(x) && proposed < most
		if propose {
			proposed++
		}
		if picked(c, ThingKind, x.Key, propose) {
			things = append(things, x)
		}
	}
	b.takeCriteria(e, things)
	for _, x := range things {
		b.Picks = append(b.Picks, b.pickOf(e, x, c))
	}
	for _, m := range gone(c, ThingKind, func(m Mark) bool { return have[m.Key] }) {
		p := Pick{Key: m.Key, Name: m.Text, Of: len(e.Sources), Sources: []int{}, Praise: []Quote{}, Criticism: []Quote{}, Values: []PickValue{}, Gone: !strings.HasPrefix(m.Key, OwnPrefix)}
		p.Verdict, p.Edited = c.verdictOf(m.Key, "")
		for _, x := range b.Criteria {
			p.Values = append(p.Values, PickValue{Criterion: x.Key, Sources: []int{}})
		}
		b.Picks = append(b.Picks, p)
	}
}

// orderPicks puts the things into the order that a person gave them; the others behind.
func (b *Brief) orderPicks(c Choices) {
	at := map[string]int{}
	for i, key := range c.PicksOrder {
		at[key] = i + 1
	}
	slices.SortStableFunc(b.Picks, func(x, y Pick) int {
		return cmp.Compare(cmp.Or(at[x.Key], len(at)+1), cmp.Or(at[y.Key], len(at)+1))
	})
}

// takeCriteria are the measures by which the picks can be compared, those of most pages first, the price before all.
func (b *Brief) takeCriteria(e *evidence.Evidence, things []listed.Thing) {
	for _, x := range e.Criteria {
		if x.Kind == listed.Use || len(b.Criteria) == maxCompared || len(things) == 0 {
			continue
		}
		b.Criteria = append(b.Criteria, Criterion{x.Key, x.Name, x.Unit, x.Pages})
	}
	slices.SortStableFunc(b.Criteria, func(x, y Criterion) int {
		return cmp.Compare(behindPrice(x), behindPrice(y))
	})
	for i := range b.Criteria {
		if x := &b.Criteria[i]; x.Key == listed.CostsKey {
			x.Name = capitalise(b.say("price"))
		}
	}
}

func behindPrice(x Criterion) int {
	if x.Key == listed.CostsKey {
		return 0
	}
	return 1
}

func (c Choices) verdictOf(key, proposed string) (text string, typed bool) {
	if s, ok := c.Picks[key]; ok {
		return s, true
	}
	return proposed, false
}

// Verdict is the verdict on a thing as the brief has it, or would have it.
func (b Brief) Verdict(e *evidence.Evidence, key string) string {
	for _, p := range b.Picks {
		if p.Key == key {
			return p.Verdict
		}
	}
	for _, t := range e.Listed {
		if t.Key == key && len(t.Verdicts) > 0 {
			return t.Verdicts[0]
		}
	}
	return ""
}

// pickOf is a thing as the brief has it.
func (b *Brief) pickOf(e *evidence.Evidence, x listed.Thing, c Choices) Pick {
	p := Pick{Key: x.Key, Name: x.Name, Pages: x.Pages, Of: len(e.Sources), Sources: x.Ranks, Praise: []Quote{}, Criticism: []Quote{}, Values: []PickValue{}}
	if len(x.Verdicts) > 0 {
		p.Verdict = x.Verdicts[0]
	}
	p.Verdict, p.Edited = c.verdictOf(x.Key, p.Verdict)
	for _, at := range x.Places {
		p.Praise, p.Criticism = quote(p.Praise, at.Praise, at.Rank), quote(p.Criticism, at.Criticism, at.Rank)
	}
	for _, k := range b.Criteria {
		v := PickValue{Criterion: k.Key, Sources: []int{}, Differs: slices.Contains(x.Differs, k.Key)}
		if k.Key == listed.CostsKey {
			v.Text, v.Sources = PriceOf(x, language.For(b.Language))
			p.Price = v.Text
		} else {
			v.Text, v.Sources = ValueOf(x, k.Key, language.For(b.Language))
		}
		p.Values = append(p.Values, v)
	}
	return p
}

// quote adds what a page says to what is quoted, each once and few.
func quote(list []Quote, said []listed.Said, rank int) []Quote {
	for _, s := range said {
		same := func(q Quote) bool {
			return strings.EqualFold(strings.TrimRight(q.Text, ".!"), strings.TrimRight(s.Text, ".!"))
		}
		if len(list) < maxQuotes && !slices.ContainsFunc(list, same) {
			list = append(list, Quote{s.Text, rank})
		}
	}
	return list
}

// PriceOf is the price of a thing over the pages, a range in each currency, and the ranks that give one.
func PriceOf(x listed.Thing, lang *language.Language) (text string, ranks []int) {
	ranks = []int{}
	type spread struct {
		low, high listed.Price
	}
	var order []string
	by := map[string]*spread{}
	for _, p := range x.Prices {
		if !slices.Contains(ranks, p.Rank) {
			ranks = append(ranks, p.Rank)
		}
		s := by[p.Currency]
		if s == nil {
			order = append(order, p.Currency)
			by[p.Currency] = &spread{p, p}
			continue
		}
		if p.Amount < s.low.Amount {
			s.low = p
		}
		if max(p.Amount, p.To) > max(s.high.Amount, s.high.To) {
			s.high = p
		}
	}
	var parts []string
	for _, currency := range order {
		s := by[currency]
		one := amountIn(s.low.Amount, currency, lang)
		if top := max(s.high.Amount, s.high.To); top > s.low.Amount {
			one += "–" + amountIn(top, currency, lang)
		} else if s.low.Amount == 0 {
			one = s.low.Text
		}
		parts = append(parts, one)
	}
	return strings.Join(parts, ", "), ranks
}

// amountIn writes an amount as the language does.
func amountIn(amount float64, currency string, lang *language.Language) string {
	n := strconv.FormatFloat(amount, 'f', 2, 64)
	n = strings.TrimSuffix(n, ".00")
	if !lang.PointOfDecimals {
		n = strings.ReplaceAll(n, ".", ",")
	}
	sign := map[string]string{"GBP": "£", "EUR": "€", "USD": "$", "SEK": "kr", "JPY": "¥"}[currency]
	switch {
	case sign == "" && currency == "":
		return n
	case sign == "" || !lang.PointOfDecimals:
		return n + " " + cmp.Or(sign, currency)
	}
	return sign + n
}

// ValueOf is what pages give for a thing by a criterion, and their ranks: a range of figures of one unit, else each value once.
func ValueOf(x listed.Thing, criterion string, lang *language.Language) (text string, ranks []int) {
	ranks = []int{}
	var values []string
	var low, high *listed.Attribute
	oneUnit := true
	for _, a := range x.Attributes {
		if a.Key != criterion {
			continue
		}
		if !slices.Contains(ranks, a.Rank) {
			ranks = append(ranks, a.Rank)
		}
		if _, err := strconv.ParseFloat(a.Value, 64); err != nil || low != nil && low.Unit != a.Unit {
			oneUnit = false
		} else if low == nil {
			low, high = &a, &a
		} else if figure(a) < figure(*low) {
			low = &a
		} else if figure(a) > figure(*high) {
			high = &a
		}
		said := strings.TrimSpace(a.Text)
		if a.Unit != "" && strings.Trim(said, "0123456789.,") == "" {
			said += " " + a.Unit
		}
		if !slices.ContainsFunc(values, func(v string) bool { return strings.EqualFold(v, said) }) {
			values = append(values, said)
		}
	}
	if oneUnit && low != nil && low != high {
		text = strings.TrimSpace(low.Value + "–" + high.Value + " " + low.Unit)
		if !lang.PointOfDecimals {
			text = strings.ReplaceAll(text, ".", ",")
		}
		return text, ranks
	}
	return strings.Join(values, "; "), ranks
}

// figure is the number that a value is; 0 for none.
func figure(a listed.Attribute) float64 {
	n, _ := strconv.ParseFloat(a.Value, 64)
	return n
}

// pricesToCheck are the prices of the picks as facts: each with the pages that give it.
func (b *Brief) pricesToCheck(e *evidence.Evidence) (list []Fact) {
	for _, p := range b.Picks {
		i := slices.IndexFunc(e.Listed, func(x listed.Thing) bool { return x.Key == p.Key })
		if i < 0 || len(e.Listed[i].Prices) == 0 {
			continue
		}
		f := Fact{Key: PickPrefix + p.Key, Sources: []int{}, Figures: []string{}}
		var said []string
		for _, price := range e.Listed[i].Prices {
			s := e.Source(price.Rank)
			if s == nil {
				continue
			}
			if !slices.Contains(f.Sources, price.Rank) {
				f.Sources = append(f.Sources, price.Rank)
			}
			f.Figures = append(f.Figures, price.Text)
			one := b.say("%s (rank %d)", price.Text, price.Rank)
			if s.Date != "" {
				one = b.say("%s (rank %d, page of %s)", price.Text, price.Rank, s.Date)
			}
			said = append(said, one)
			if f.URL == "" {
				f.URL, f.Title = s.URL, s.Title
			}
			f.Date = max(f.Date, s.Date)
		}
		f.Text = p.Name + ": " + strings.Join(said, ", ")
		list = append(list, f)
	}
	return list
}

// MovePick is the edit that puts a pick before or behind its neighbour; idle where there is none.
func (c Choices) MovePick(b Brief, key string, by int) []Edit {
	var order []string
	for _, p := range b.Picks {
		order = append(order, p.Key)
	}
	i := slices.Index(order, key)
	if j := i + by; i >= 0 && j >= 0 && j < len(order) {
		order[i], order[j] = order[j], order[i]
	}
	text := strings.Join(order, "\n")
	return busy([]Edit{c.Write(FieldPicks, &text, nil)})
}
