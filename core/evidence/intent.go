package evidence

import (
	"cmp"
	"fmt"
	"regexp"
	"slices"
	"strings"

	"corpulan/core/reading"
)

// Share is how much of the field serves one intent or has one form.
type Share struct {
	Kind    string   `json:"kind"`
	Share   float64  `json:"share"` // 0 to 1; the shares of a field add up to 1
	Signals []Signal `json:"signals"`
	Sources []int    `json:"sources"` // ranks of the pages that lean to it most
}

// Signal is what speaks for a share, and on which pages.
type Signal struct {
	Says    string `json:"says"`
	Sources []int  `json:"sources"` // ranks; empty for the results page itself
}

// vote is one signal of one page.
type vote struct {
	kind, says string
	weight     float64
}

// The intents, after Broder (2002) with the trade's "commercial" between
// informational and transactional.
const (
	informational = "informational"
	commercial    = "commercial"
	transactional = "transactional"
	navigational  = "navigational"
)

var (
	buying     = regexp.MustCompile(`(?i)\b(buy|shop|sale|prices?|order|deals?|in stock|free delivery|kaufen|acheter|comprar|kopen|köpa)\b`)
	comparing  = regexp.MustCompile(`(?i)\b(best|top \d+|review(s|ed)?|vs\.?|versus|compared|comparison|test|vergleich|comparatif|comparativa|confronto)\b`)
	explaining = regexp.MustCompile(`(?i)\b(how|what|why|when|which|guide|tips?|ideas|explained|tutorial|checklist|step by step|rules|facts|anleitung|ratgeber|tipps|wie|guía|cómo|comment|consigli|come|gids)\b|\?`)
	guiding    = regexp.MustCompile(`(?i)\b(guide|handbook|complete|everything|explained|basics|beginners?|ratgeber|guía|guida|gids)\b`)
	stepping   = regexp.MustCompile(`(?i)\b(how to|step by step|in \d+ steps|anleitung|tutorial|cómo|comment|come)\b`)
)

// intent gives each page one voice, shared out by the weight of its signals,
// and the results page one more where it offers anything.
func (f *field) intent(related []string, asked []string) []Share {
	return f.shares(func(d *Doc) []vote { return intentVotes(d.Reading) }, resultsPageVotes(related, asked))
}

func intentVotes(r *reading.Reading) []vote {
	var votes []vote
	says := func(kind string, weight float64, format string, v ...any) {
		votes = append(votes, vote{kind, fmt.Sprintf(format, v...), weight})
	}
	inTitle := func(kind string, re *regexp.Regexp, weight float64) {
		if w := strings.TrimSpace(re.FindString(r.Title)); w != "" {
			if w == "?" {
				says(kind, weight, "the title asks a question")
			} else {
				says(kind, weight, "the title says “%s”", strings.ToLower(w))
			}
		}
	}
	switch r.Kind {
	case reading.Home:
		return []vote{{navigational, "the first page of a site", 1}}
	case reading.Product, reading.Category:
		says(transactional, 3, "built as %s", withArticle(string(r.Kind)+" page"))
	case reading.Comparison:
		says(commercial, 2, "built as a comparison")
	case reading.Article, reading.List, reading.Forum, reading.Video:
		says(informational, 1, "built as %s", withArticle(string(r.Kind)))
	}
	inTitle(transactional, buying, 2)
	inTitle(commercial, comparing, 2)
	inTitle(informational, explaining, 2)
	if len(r.FAQ) > 0 || slices.Contains(r.DataTypes, "FAQPage") {
		says(informational, 0.5, "structured data holds questions and answers")
	}
	if len(r.HowTo) > 0 || slices.Contains(r.DataTypes, "HowTo") {
		says(informational, 0.5, "structured data holds steps")
	}
	if slices.Contains(r.DataTypes, "Product") || slices.Contains(r.DataTypes, "Offer") {
		says(commercial, 1, "structured data holds products")
	}
	if r.Counts.PaidLinks > 0 {
		says(commercial, 1, "links marked as sponsored")
	}
	return votes
}

func withArticle(noun string) string {
	if strings.ContainsAny(noun[:1], "aeiou") {
		return "an " + noun
	}
	return "a " + noun
}

// resultsPageVotes are what the results page itself offers.
func resultsPageVotes(related, asked []string) []vote {
	var votes []vote
	if len(asked) > 0 {
		votes = append(votes, vote{informational, fmt.Sprintf("the results page lists %d questions", len(asked)), 1})
	}
	for _, s := range []struct {
		kind, what string
		re         *regexp.Regexp
	}{{transactional, "buy", buying}, {commercial, "compare", comparing}, {informational, "ask or explain", explaining}} {
		n := 0
		for _, q := range related {
			if s.re.MatchString(q) {
				n++
			}
		}
		if n > 0 {
			votes = append(votes, vote{s.kind, fmt.Sprintf("%d of %d related searches %s", n, len(related), s.what), float64(n) / float64(len(related))})
		}
	}
	return votes
}

// forms gives each page one voice for how it is made.
func (f *field) forms() []Share {
	return f.shares(func(d *Doc) []vote { return []vote{formOf(d.Reading)} }, nil)
}

// formOf is the form of a page: what a writer would be asked to write.
func formOf(r *reading.Reading) vote {
	asking := 0
	for _, h := range r.Headings {
		if strings.HasSuffix(h.Text, "?") {
			asking++
		}
	}
	switch r.Kind {
	case reading.List:
		return vote{"list", "the title promises a list, and headings keep it", 1}
	case reading.Comparison:
		return vote{"comparison", "the title compares", 1}
	case reading.Article:
	default:
		return vote{string(r.Kind), "built as " + withArticle(string(r.Kind)), 1}
	}
	switch {
	case len(r.HowTo) > 0 || slices.Contains(r.DataTypes, "HowTo"):
		return vote{"steps", "structured data holds steps", 1}
	case stepping.MatchString(r.Title):
		return vote{"steps", "the title says “" + strings.ToLower(stepping.FindString(r.Title)) + "”", 1}
	case len(r.Headings) >= 4 && 2*asking >= len(r.Headings):
		return vote{"questions and answers", "at least half of the headings ask", 1}
	case guiding.MatchString(r.Title):
		return vote{"guide", "the title says “" + strings.ToLower(guiding.FindString(r.Title)) + "”", 1}
	case len(r.Headings) >= 7:
		return vote{"guide", "an article of seven headings and more", 1}
	}
	return vote{"article", "running text under fewer than seven headings", 1}
}

// shares adds up the voices of the pages, and of what speaks for none of them.
func (f *field) shares(votes func(*Doc) []vote, beside []vote) []Share {
	by := map[string]*Share{}
	total := 0.0
	cast := func(list []vote, rank int) {
		whole := 0.0
		for _, v := range list {
			whole += v.weight
		}
		if whole == 0 {
			return
		}
		total++
		mine := map[string]float64{}
		for _, v := range list {
			s := by[v.kind]
			if s == nil {
				s = &Share{Kind: v.kind, Sources: []int{}}
				by[v.kind] = s
			}
			s.Share += v.weight / whole
			mine[v.kind] += v.weight
			s.signal(v.says, rank)
		}
		if rank > 0 {
			best := list[0].kind
			for _, v := range list {
				if mine[v.kind] > mine[best] {
					best = v.kind
				}
			}
			by[best].Sources = append(by[best].Sources, rank)
		}
	}
	for i, d := range f.docs {
		cast(votes(d), f.ranks[i])
	}
	if len(f.docs) > 0 {
		cast(beside, 0)
	}
	list := []Share{}
	for _, s := range by {
		s.Share /= total
		slices.SortStableFunc(s.Signals, func(a, b Signal) int { return len(b.Sources) - len(a.Sources) })
		list = append(list, *s)
	}
	slices.SortFunc(list, func(a, b Share) int {
		return cmp.Or(cmp.Compare(b.Share, a.Share), strings.Compare(a.Kind, b.Kind))
	})
	return list
}

// signal notes what speaks for a share; rank 0 is the results page.
func (s *Share) signal(says string, rank int) {
	i := slices.IndexFunc(s.Signals, func(g Signal) bool { return g.Says == says })
	if i < 0 {
		i = len(s.Signals)
		s.Signals = append(s.Signals, Signal{Says: says, Sources: []int{}})
	}
	if rank > 0 {
		s.Signals[i].Sources = append(s.Signals[i].Sources, rank)
	}
}
