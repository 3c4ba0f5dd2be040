package demand

import (
	"math"
	"strings"

	"corpulan/core/address"
	"corpulan/core/corpus"
	"corpulan/core/language"
	"corpulan/core/message"
	"corpulan/core/says"
	"corpulan/core/stats"
)

// Standing is how well a page is placed for a keyword: a weighted sum of places, each 0 to 1.
type Standing struct {
	Score    float64 `json:"score"` // 0 to 1
	Title    float64 `json:"title"`
	H1       float64 `json:"h1"`
	Headings float64 `json:"headings"`
	Address  float64 `json:"address"`
	Opening  float64 `json:"opening"`
	Body     float64 `json:"body"`     // how often its words are used, against the pages that use them
	Answered float64 `json:"answered"` // a section says what it asks, at length
	Section  string  `json:"section"`  // the heading of that section
	At       int     `json:"-"`        // its number in the reading
}

// What each place weighs. Our own; they come to 1.
const (
	ofTitle    = 0.25
	ofH1       = 0.15
	ofHeadings = 0.15
	ofAddress  = 0.05
	ofOpening  = 0.10
	ofBody     = 0.15
	ofAnswered = 0.15
)

// Part is what one place gives to a standing.
type Part struct {
	Where  message.Message // title, H1, headings, address, opening words, body or answered
	Weight float64         // the weights come to 1
	Score  float64         // 0 to 1
}

// Parts are what a standing is the sum of.
func (s Standing) Parts() []Part {
	return []Part{{"title", ofTitle, s.Title}, {"H1", ofH1, s.H1}, {"headings", ofHeadings, s.Headings}, {"address", ofAddress, s.Address},
		{"opening words", ofOpening, s.Opening}, {"body", ofBody, s.Body}, {"answered", ofAnswered, s.Answered}}
}

// placed is a page made ready for many keywords.
type placed struct {
	title, h1, address, opening map[string]bool
	headings                    []map[string]bool
	uses                        map[string]int
	words                       float64
}

// well is from which score a page is placed well. Our own.
const well = 0.5

// Row is one keyword against all pages.
type Row struct {
	Keyword Keyword    `json:"keyword"`
	Pages   []Standing `json:"pages"`
	Best    float64    `json:"best"`
	Well    int        `json:"well"` // pages that are placed well
	Opening bool       `json:"opening"`
}

// StandingOf sets keywords against pages. A keyword is an opening where nobody is placed well
// though it is asked no less than the median of those given; where no volume is known, where
// nobody is placed well.
func StandingOf(list []Keyword, docs []*corpus.Doc, market string) []Row {
	lang := language.For(market)
	pages, ranked := make([]placed, len(docs)), make([]corpus.RankedPage, len(docs))
	for i, d := range docs {
		pages[i], ranked[i] = placedOf(d, lang), corpus.RankedPage{Rank: i + 1, Doc: d}
	}
	texts := says.In(corpus.NewField(ranked, market, ""), nil)
	var volumes []float64
	for _, k := range list {
		if k.Volume.Known {
			volumes = append(volumes, k.Volume.Value)
		}
	}
	much := median(volumes)
	rows := make([]Row, len(list))
	for i, k := range list {
		want := stemsOf(lang, k.Text)
		r := Row{Keyword: k, Pages: make([]Standing, len(pages))}
		rates := make([]float64, len(pages))
		var using []float64
		for j := range pages {
			if rates[j] = pages[j].rate(want); rates[j] > 0 {
				using = append(using, rates[j])
			}
		}
		answers := make([]says.Answer, len(pages))
		for _, a := range texts.Answers(says.Ask(lang, k.Text)) {
			answers[a.Rank-1] = a
		}
		usual := stats.RangeOf(using).Median
		for j := range pages {
			body := 0.0
			if usual > 0 {
				body = math.Min(1, rates[j]/usual)
			}
			s := pages[j].standing(want, body, answers[j])
			r.Pages[j] = s
			r.Best = math.Max(r.Best, s.Score)
			if s.Score >= well {
				r.Well++
			}
		}
		r.Opening = len(pages) > 0 && r.Well == 0 && (!much.Known || k.Volume.Value >= much.Value)
		rows[i] = r
	}
	return rows
}

func placedOf(d *corpus.Doc, lang *language.Language) placed {
	set := func(s string) map[string]bool {
		m := map[string]bool{}
		for _, x := range lang.ContentStems(s) {
			m[x] = true
		}
		return m
	}
	r := d.Reading
	p := placed{title: set(r.Title), address: set(spaced(address.Parse(r.URL).Path())), opening: map[string]bool{}, h1: map[string]bool{}, uses: map[string]int{}, words: math.Max(1, float64(d.Words))}
	top, _ := r.TitleSection()
	for i, s := range r.Sections {
		switch {
		case s.Heading == "":
		case i == top:
			p.h1 = set(s.Heading)
		default:
			p.headings = append(p.headings, set(s.Heading))
		}
	}
	for _, s := range d.Sentences {
		for _, t := range s.Tokens {
			if t.Stop {
				continue
			}
			p.uses[t.Stem]++
			if s.Opening && !s.Heading {
				p.opening[t.Stem] = true
			}
		}
	}
	return p
}

// spaced is the path of an address as words.
func spaced(path string) string {
	return strings.NewReplacer("/", " ", "-", " ", "_", " ", ".", " ", "+", " ").Replace(path)
}

// holds is how much of what is wanted stands in a place: the square of the share of stems, so
// that half of them says little. Our own.
func holds(place map[string]bool, want []string) float64 {
	if len(want) == 0 {
		return 0
	}
	n := 0
	for _, w := range want {
		if place[w] {
			n++
		}
	}
	share := float64(n) / float64(len(want))
	return share * share
}

// rate is how often a page uses the words of a keyword, a thousand words: that of its rarest,
// since all are needed.
func (p *placed) rate(want []string) float64 {
	if len(want) == 0 {
		return 0
	}
	least := math.Inf(1)
	for _, w := range want {
		least = math.Min(least, float64(p.uses[w]))
	}
	return 1000 * least / p.words
}

// enoughWords is how many words a section has that says enough of a keyword. Common practice:
// an answer box takes 40 to 60 words of prose, no published source.
const enoughWords = 40

func (p *placed) standing(want []string, body float64, answer says.Answer) Standing {
	s := Standing{Title: holds(p.title, want), H1: holds(p.h1, want), Address: holds(p.address, want), Opening: holds(p.opening, want), Body: body}
	for _, h := range p.headings {
		s.Headings = math.Max(s.Headings, holds(h, want))
	}
	s.Answered, s.Section, s.At = math.Min(1, float64(answer.Words)/enoughWords), answer.Heading, answer.Section
	for _, p := range s.Parts() {
		s.Score += p.Weight * p.Score
	}
	return s
}
