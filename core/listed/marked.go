package listed

import (
	"cmp"
	"slices"
	"strings"

	"corpulan/core/language"
	"corpulan/core/reading"
	"corpulan/core/text"
)

// marked are the lists of things that the cards, definitions and items of a page are.
func (f *finder) marked(page int) (found []list) {
	r := f.Docs[page].Reading
	listing := f.isListTitle(r)
	for from := 0; from < len(r.Marked); {
		to := from + 1
		for to < len(r.Marked) && r.Marked[to].List == r.Marked[from].List {
			to++
		}
		if l := f.boxes(page, r.Marked[from:to], listing); len(l.entries) > 0 {
			found = append(found, l)
		}
		from = to
	}
	return found
}

var byMark = map[reading.MarkedBy]By{reading.MarkedCard: ByCard, reading.MarkedTerm: ByDefinition, reading.MarkedItem: ByItem}

// boxes are the names of one box with what stands beside them: things, if most are named and most have a price or a verdict
// or the page promises the best.
func (f *finder) boxes(page int, marked []reading.Marked, listing bool) list {
	l := list{}
	named, told := 0, 0
	badges := badged(marked)
	for _, m := range marked {
		h := f.read(m.Name)
		e := entry{page: page, Place: Place{Rank: f.Ranks[page], Section: m.Section, By: byMark[m.Kind], Name: h.name, Verdict: h.verdict, URL: m.URL}}
		if e.Name == "" || h.named == noName {
			continue
		}
		p := saying{finder: f, e: &e, section: m.Section}
		p.prices(h.price)
		for n, line := range m.Lines {
			p.box(line, m.Kind, badges && n == 0)
		}
		if h.named >= surely {
			named++
		}
		if len(e.Prices) > 0 || len(e.Attributes) > 0 || f.tellsVerdict(e.Verdict) {
			told++
		}
		e.Position = len(l.entries) + 1
		l.entries = append(l.entries, e)
	}
	for i := range l.entries {
		l.entries[i].Of = len(l.entries)
	}
	n := len(marked)
	l.sure = named >= fewestListed && float64(named) >= mostNamed*float64(n) && (2*told > n || listing)
	return l
}

// badged tells whether most cards begin with a few words of no sentence: "Editor's choice".
func badged(cards []reading.Marked) bool {
	const longest = 4 // words; our own
	n := 0
	for _, c := range cards {
		if c.Kind == reading.MarkedCard && len(c.Lines) > 1 && text.CountWords(c.Lines[0]) <= longest && !strings.ContainsAny(c.Lines[0], "0123456789.:") {
			n++
		}
	}
	return 2*n > len(cards)
}

// box takes a line of a card, a definition or an item.
func (p *saying) box(line string, kind reading.MarkedBy, badge bool) {
	line = strings.TrimSpace(strings.TrimLeft(line, " :–—-,"))
	if line == "" || p.Language.IsLabel(language.LabelPressed, line) {
		return
	}
	if badge {
		p.e.Verdict = cmp.Or(p.e.Verdict, line)
		return
	}
	if pairs := p.pairs(line); len(pairs) > 0 && p.labelOf(pairs[0].label) != "" {
		for _, x := range pairs {
			p.pair(x)
		}
		return
	}
	if inner, after, ok := strings.Cut(strings.TrimPrefix(line, "("), ")"); ok && strings.HasPrefix(line, "(") {
		if _, isMoney := p.money(inner); isMoney {
			p.prices(inner)
			line = strings.TrimSpace(strings.TrimLeft(after, " :–—-,"))
		}
	}
	if line == "" {
		return
	}
	p.prices(line)
	p.short(line)
	if kind != reading.MarkedCard || text.CountWords(line) <= longestVerdict {
		p.clause(line)
	}
	for _, s := range p.Language.Sentences(line) {
		p.judge(s.Of(line))
	}
}

// longestClause is how many words the first clause of an item has at most to be its verdict. Our own.
const longestClause = 8

// clause takes the first sentence of an item, or its first clause, as its verdict: one that says for whom or for what it
// is, or what it is.
func (p *saying) clause(line string) {
	if p.e.Verdict != "" {
		return
	}
	sentences := p.Language.Sentences(line)
	if len(sentences) == 0 {
		return
	}
	said := strings.TrimRight(sentences[0].Of(line), ".!")
	for _, end := range []string{". ", ", "} { // no sentence ends before a figure: "Small. 900 lumens"
		said, _, _ = strings.Cut(said, end)
	}
	words := strings.Fields(said)
	if len(words) == 0 || text.CountWords(said) > longestClause || strings.ContainsAny(said, "0123456789") {
		return
	}
	first := text.Fold(words[0])
	if p.tellsVerdict(said) || p.Language.IsPreposition(first) || p.Language.IsDeterminer(first) {
		p.e.Verdict = said
	}
}

// things are types of schema.org whose items a page describes as things whatever their names.
var things = []string{"Product", "ProductModel", "ProductGroup", "Vehicle", "Car", "SoftwareApplication", "WebApplication", "MobileApplication", "VideoGame", "TouristAttraction", "LandmarksOrHistoricalBuildings",
	"Hotel", "Restaurant", "Museum", "Park", "Campground", "LocalBusiness", "Place", "Book", "Movie", "Service", "Beach", "Store", "CafeOrCoffeeShop", "BarOrPub"}

// items are the lists of things that the structured data of a page describe.
func (f *finder) items(page int) (found []list) {
	byList := map[int][]reading.Item{}
	var numbers []int
	for _, x := range f.Docs[page].Reading.Items {
		if byList[x.List] == nil {
			numbers = append(numbers, x.List)
		}
		byList[x.List] = append(byList[x.List], x)
	}
	for _, n := range numbers {
		l := list{}
		named, typed := 0, 0
		for _, x := range byList[n] {
			h := f.read(x.Name)
			// Many pages call themselves a Product for the sake of stars; one that is sold has a price, or a review.
			isThing := slices.Contains(things, x.Type) && (x.List > 0 || x.Price != "" || x.Rating > 0 && x.Ratings == 0)
			if h.name == "" || h.named == noName && !isThing || text.CountWords(h.name) > longestName+2 {
				continue
			}
			if isThing {
				typed++
			}
			if h.named >= surely {
				named++
			}
			l.entries = append(l.entries, f.entryOf(page, x, h))
		}
		for i := range l.entries {
			l.entries[i].Of = len(l.entries)
		}
		l.sure = 2*typed > len(byList[n]) || f.inTitle(page, l.entries) || named >= fewestListed && float64(named) >= mostNamed*float64(len(byList[n]))
		if len(l.entries) > 0 {
			found = append(found, l)
		}
	}
	return found
}

func (f *finder) entryOf(page int, x reading.Item, h heading) entry {
	e := entry{page: page, Place: Place{Rank: f.Ranks[page], Position: x.Position, By: ByData, Name: h.name, Verdict: cmp.Or(h.verdict, x.Award), URL: x.URL}}
	if amount, ok := amountOf(x.Price); ok {
		p := Price{Amount: amount, Currency: x.Currency, Rank: e.Rank, Text: strings.TrimSpace(x.Price + " " + x.Currency)}
		if to, ok := amountOf(x.Upper); ok && to > amount {
			p.To, p.Text = to, x.Price+"–"+x.Upper+" "+x.Currency
		}
		e.Prices = []Price{p}
	}
	if x.Rating > 0 {
		e.Rating = &Rating{x.Rating, x.Best, x.Ratings, e.Rank}
	}
	p := saying{finder: f, e: &e}
	for _, prop := range x.Properties {
		p.attribute(prop.Name, strings.TrimSpace(prop.Value+" "+prop.Unit))
	}
	for _, s := range x.Praise {
		p.say(language.LabelPros, s, mostListed)
	}
	for _, s := range x.Criticism {
		p.say(language.LabelCons, s, mostListed)
	}
	return e
}
