package demand

import (
	"cmp"
	"maps"
	"math"
	"slices"

	"corpulan/core/address"
	"corpulan/core/message"
)

// Own is where a site of ours stands for one group.
type Own struct {
	Key      string          `json:"key"`      // of the group
	Name     string          `json:"name"`     // of the group
	Page     string          `json:"page"`     // that stands for it: for a fifth of its queries or the most searched; empty for none
	Position Figure          `json:"position"` // its mean, weighed by impressions where they are known, else by volume
	Queries  int             `json:"queries"`  // of the group, that it stands for
	Clicks   Figure          `json:"clicks"`   // counted, a month or whatever the list covers, of all our pages
	Now      Figure          `json:"now"`      // clicks a month by the curve, at the positions of its queries
	AtThree  Figure          `json:"at_three"` // clicks a month by the curve, were it third for all queries
	Gain     Figure          `json:"gain"`     // the difference, never below nought
	Rivals   []Rival         `json:"rivals"`   // other own pages that stand for the group
	Advice   message.Message `json:"advice"`   // about rivals; empty where there are none
	Shared   []string        `json:"shared"`   // queries that more than one of our pages stand for
}

// Rival is an own page that stands for the group of another one.
type Rival struct {
	Page     string  `json:"page"`
	Position Figure  `json:"position"`
	Queries  int     `json:"queries"`
	Clicks   Figure  `json:"clicks"`
	Text     float64 `json:"text"` // share of its text that stands in the other page word for word; as the caller measured it
}

// When two own pages are rivals. Our own.
const (
	farthest    = 50  // beyond this position a page stands for nothing
	fewestQuery = 2   // queries that a rival stands for at the least; one where the group has one
	itsShare    = 0.2 // of the group's queries, that a page stands for to stand for the group
)

// OwnOf tells where a site of ours stands for a group. text gives the share of a page's text
// that another one has word for word; nil where nobody has measured.
func OwnOf(g Group, curve Curve, text func(a, b string) float64) Own {
	if curve == nil {
		curve = DefaultCurve()
	}
	o := Own{Key: g.Key, Name: g.Name, Rivals: []Rival{}, Shared: []string{}}
	type page struct {
		url                      string
		position, weight, clicks float64
		counted                  bool
		queries                  []int
		at                       map[int]float64 // position by query
	}
	pages := map[string]*page{}
	for i, k := range g.Keywords {
		standing := 0
		for _, p := range k.Places {
			if p.Position.Known && p.Position.Value > farthest {
				continue
			}
			key := address.Parse(p.Address).Key()
			x := pages[key]
			if x == nil {
				x = &page{url: p.Address, at: map[int]float64{}}
				pages[key] = x
			}
			standing++
			x.queries = append(x.queries, i)
			if p.Position.Known {
				w := 1 + math.Max(p.Impressions.Value, k.Volume.Value)
				x.position += w * p.Position.Value
				x.weight += w
				x.at[i] = p.Position.Value
			}
			if p.Clicks.Known {
				x.clicks, x.counted = x.clicks+p.Clicks.Value, true
				o.Clicks = Of(o.Clicks.Value + p.Clicks.Value)
			}
		}
		if standing > 1 {
			o.Shared = append(o.Shared, k.Text)
		}
		if k.Volume.Known {
			o.AtThree = Of(o.AtThree.Value + k.Volume.Value*curve.At(aimed))
		}
	}
	mean := func(p *page) Figure {
		if p.weight == 0 {
			return Figure{}
		}
		return Of(p.position / p.weight)
	}
	list := slices.SortedFunc(maps.Values(pages), func(a, b *page) int {
		return cmp.Or(cmp.Compare(b.clicks, a.clicks), cmp.Compare(len(b.queries), len(a.queries)), cmp.Compare(mean(a).Value, mean(b).Value), cmp.Compare(a.url, b.url))
	})
	if o.AtThree.Known {
		o.AtThree = Of(math.Round(o.AtThree.Value))
	}
	if len(list) == 0 {
		o.Gain = o.AtThree
		return o
	}
	enough := func(p *page, fewest int) bool {
		return len(p.queries) >= min(fewest, len(g.Keywords)) && float64(len(p.queries)) >= itsShare*float64(len(g.Keywords))
	}
	at := slices.IndexFunc(list, func(p *page) bool { return enough(p, 1) || slices.Contains(p.queries, 0) })
	if at < 0 { // by chance for one query or another, and for none that matters
		o.Gain = o.AtThree
		return o
	}
	best := list[at]
	list = slices.Delete(list, at, at+1)
	o.Page, o.Position, o.Queries = best.url, mean(best), len(best.queries)
	if o.AtThree.Known {
		now, gain := 0.0, 0.0
		for i, k := range g.Keywords {
			at, stands := best.at[i]
			clicks := 0.0
			if stands {
				clicks = k.Volume.Value * curve.At(at)
			}
			now += clicks
			gain += math.Max(0, k.Volume.Value*curve.At(aimed)-clicks)
		}
		o.Now, o.Gain = Of(math.Round(now)), Of(math.Round(gain))
	}
	for _, p := range list {
		if !enough(p, fewestQuery) {
			continue
		}
		r := Rival{Page: p.url, Position: mean(p), Queries: len(p.queries), Clicks: Figure{p.clicks, p.counted}}
		if text != nil {
			r.Text = text(p.url, best.url)
		}
		o.Rivals = append(o.Rivals, r)
	}
	o.Advice = o.advise(len(g.Keywords))
	return o
}

// alike is the share of text from which two pages say the same. Our own.
const alike = 0.3

func (o *Own) advise(queries int) message.Message {
	if len(o.Rivals) == 0 {
		return ""
	}
	r := o.Rivals[0]
	switch {
	case r.Text >= alike:
		return message.Of("Join them: %.0f %% of the other's text stands in the first already. Keep the first address and let the other lead to it.", 100*r.Text)
	case len(o.Shared) > 0:
		return message.Of("Join them, or give each its own matter: both stand for %d of %d queries. Take into the first what only the other says, and let its address lead there.", len(o.Shared), queries)
	}
	return "Look at both: they stand for one page's worth of queries between them. Join them unless each answers another question."
}

// WithResults adds the places of our own pages in results pages: those of a site, at the rank
// where they stand. What a list says of a page goes before.
func WithResults(list []Keyword, results Results, site string) []Keyword {
	host := address.Parse(site).Site()
	if host == "" || len(results) == 0 {
		return list
	}
	out := slices.Clone(list)
	for i, k := range out {
		for rank, u := range results[Same(k.Text)] {
			a := address.Parse(u)
			if a.Site() != host || slices.ContainsFunc(k.Places, func(p Place) bool { return address.Same(p.Address, u) }) {
				continue
			}
			out[i].Places = append(slices.Clone(out[i].Places), Place{Address: u, Position: Of(float64(rank + 1))})
		}
	}
	return out
}
