package evidence

import (
	"strings"
	"unicode"
	"unicode/utf8"

	"corpulan/core/corpus"
	"corpulan/core/lexicon"
	"corpulan/core/stats"
	"corpulan/core/text"
)

// Titles are how the pages of a field make their titles.
type Titles struct {
	Characters stats.Range  `json:"characters"`
	Pixels     stats.Range  `json:"pixels"`
	Traits     []TitleTrait `json:"traits"`
	Year       int          `json:"year,omitempty"` // the latest that a title or a date of a page has
}

// TitleTrait is something that titles have, with the pages whose titles do.
type TitleTrait struct {
	Trait   string `json:"trait"`
	Says    string `json:"says"`
	Sources []int  `json:"sources"`
}

// titleSize is the size of the letters of a title among results, in pixels of Arial.
// Common practice, no published source.
const titleSize = 20

// Pixels is how wide a title is among results.
func Pixels(title string) int {
	sum := 0
	for _, r := range title {
		sum += lexicon.Width(r)
	}
	return (sum*titleSize + 500) / 1000 // rounded: by a list of thousandths, our own choice
}

// Share is how many of the titles have a trait, 0 to 1.
func (t Titles) Share(trait string, pages int) float64 {
	for _, x := range t.Traits {
		if x.Trait == trait {
			return float64(len(x.Sources)) / float64(max(pages, 1))
		}
	}
	return 0
}

// traits are what is told of a title, in the order they are shown.
var traits = []struct{ name, says string }{
	{"first", "begins with the keyword"}, {"keyword", "has the keyword, later"}, {"guide", "promises a guide"}, {"steps", "promises steps"}, {"number", "has a number"},
	{"year", "has a year"}, {"question", "asks"}, {"brackets", "has brackets"}, {"colon", "is in two parts"}, {"site", "ends with the site's name"},
}

func titlesOf(f *corpus.Field) Titles {
	t := Titles{Traits: []TitleTrait{}}
	with := map[string][]int{}
	var characters, pixels []float64
	want := f.Language.ContentStems(f.Keyword)
	for i, d := range f.Docs {
		for _, date := range []string{d.Reading.Published, d.Reading.Modified} {
			t.Year = max(t.Year, yearIn(date))
		}
		title := strings.TrimSpace(d.Reading.Title)
		if title == "" {
			continue
		}
		t.Year = max(t.Year, yearIn(title))
		characters = append(characters, float64(utf8.RuneCountInString(title)))
		pixels = append(pixels, float64(Pixels(title)))
		own, site := d.WithoutSite(title)
		for _, trait := range traitsOf(f, own, want) {
			with[trait] = append(with[trait], f.Ranks[i])
		}
		if site {
			with["site"] = append(with["site"], f.Ranks[i])
		}
	}
	t.Characters, t.Pixels = stats.RangeOf(characters), stats.RangeOf(pixels)
	for _, x := range traits {
		if len(with[x.name]) > 0 {
			t.Traits = append(t.Traits, TitleTrait{x.name, x.says, with[x.name]})
		}
	}
	return t
}

func traitsOf(f *corpus.Field, title string, keyword []string) []string {
	var list []string
	if at := placeOf(f.Language.ContentStems(title), keyword); at == 0 {
		list = append(list, "first")
	} else if at > 0 {
		list = append(list, "keyword")
	}
	rules := f.Language.Title
	if text.NewPhrases(within(rules.Guiding)...).Match(title) {
		list = append(list, "guide")
	}
	if text.NewPhrases(within(rules.Stepping)...).Match(title) {
		list = append(list, "steps")
	}
	year := yearIn(title)
	for _, w := range strings.FieldsFunc(title, func(r rune) bool { return !unicode.IsDigit(r) }) {
		if len(w) < 4 || year == 0 {
			list = append(list, "number")
			break
		}
	}
	if year > 0 {
		list = append(list, "year")
	}
	if _, asks := f.Language.KindOfQuestion(title); asks || strings.Contains(title, "?") {
		list = append(list, "question")
	}
	if strings.ContainsAny(title, "([") {
		list = append(list, "brackets")
	}
	if strings.Contains(title, ": ") || strings.Contains(title, " – ") || strings.Contains(title, " — ") || strings.Contains(title, " - ") || strings.Contains(title, " : ") {
		list = append(list, "colon")
	}
	return list
}

// within makes phrases that match wherever they stand.
func within(phrases []string) []string {
	var list []string
	for _, p := range phrases {
		list = append(list, p, "* "+p, p+" *", "* "+p+" *")
	}
	return list
}

// placeOf is where the first stem of a keyword stands among those of a title that has
// them all; -1 where it does not.
func placeOf(have, want []string) int {
	first := -1
	for _, w := range want {
		at := -1
		for i, h := range have {
			if h == w {
				at = i
				break
			}
		}
		if at < 0 {
			return -1
		}
		if first < 0 || at < first {
			first = at
		}
	}
	return first
}

// yearIn is the latest year of our age in a text, 0 where there is none.
func yearIn(s string) int {
	latest := 0
	for _, w := range strings.FieldsFunc(s, func(r rune) bool { return !unicode.IsDigit(r) }) {
		if len(w) == 4 && (strings.HasPrefix(w, "19") || strings.HasPrefix(w, "20")) {
			n := 0
			for _, r := range w {
				n = 10*n + int(r-'0')
			}
			latest = max(latest, n)
		}
	}
	return latest
}
