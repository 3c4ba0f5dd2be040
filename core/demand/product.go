package demand

import (
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"corpulan/core/language"
	"corpulan/core/lexicon"
	"corpulan/core/text"
)

// Bounds of the names of products. Our own; measured on testdata/products.tsv.
const (
	shortestCoined = 4    // letters of a word that a maker may have coined
	longestMaker   = 3    // words before a model's number
	ofMatter       = 0.08 // share of a list's queries above which a word is of their matter
	mostlyNumbered = 50   // per cent of the queries with a maker's name that have a model's number behind it
)

// versions are what makers put behind the name of a model. Common practice, no published source.
var versions = strings.Fields("pro plus max mini lite ultra air se xl ii iii iv evo neo classic premium comfort")

// products tells the queries of a list that name a product and ask nothing else: "halvark beacon 600".
type products struct {
	lang     *language.Language
	asked    *text.Phrases  // what is asked of things: to compare or buy them
	in       map[string]int // queries of the list with a word
	numbered map[string]int // of them, those with a model's number soon behind it
	of       int            // queries of the list
	models   map[string]bool
}

// productsOf finds the models that a list names: what stands before a query's model number when its first word is
// coined, "halvark beacon", and what a query asks to compare or buy where another has a number behind it.
func productsOf(list []Keyword, lang *language.Language) *products {
	p := &products{lang: lang, asked: text.NewPhrases(slices.Concat(lang.Title.Buying, lang.Title.Comparing)...), in: map[string]int{}, numbered: map[string]int{}, of: len(list), models: map[string]bool{}}
	queries := make([][]string, len(list))
	for i, k := range list {
		queries[i] = wordsOf(k.Text)
		for n, w := range queries[i] {
			if slices.Contains(queries[i][:n], w) {
				continue
			}
			p.in[w]++
			if slices.ContainsFunc(queries[i][n+1:min(len(queries[i]), n+1+longestMaker)], func(w string) bool { return isModelNumber(w, longestMaker) }) {
				p.numbered[w]++
			}
		}
	}
	compared := map[string]bool{}
	for _, q := range queries {
		if bare := p.withoutAsking(q); len(bare) > 1 && len(bare) < len(q) {
			compared[strings.Join(bare, " ")] = true
		}
	}
	for _, q := range queries {
		bare := p.withoutAsking(q)
		at := slices.IndexFunc(bare, hasDigit)
		if at < 1 || at > longestMaker || !isModelNumber(bare[at], at) {
			continue
		}
		model := strings.Join(bare[:at], " ")
		if p.isCoined(bare[0]) || at == len(bare)-1 && compared[model] {
			p.models[model] = true
		}
	}
	for m := range p.models { // "notice kelvian" is what is asked of "kelvian"
		for _, behind, ok := strings.Cut(m, " "); ok; _, behind, ok = strings.Cut(behind, " ") {
			if p.models[behind] {
				delete(p.models, m)
			}
		}
	}
	return p
}

// wordsOf are the words of a query, folded, joined ones whole.
func wordsOf(query string) []string { return strings.Fields(text.Fold(query)) }

// names tells a query that names a product, and asks nothing of it that has an answer.
func (p *products) names(query string) bool {
	words := p.withoutAsking(wordsOf(query))
	for n := min(longestMaker, len(words)); n > 0; n-- {
		if p.models[strings.Join(words[:n], " ")] && (n > 1 || len(words) > 1) {
			return !slices.ContainsFunc(words[n:], p.asksMore)
		}
	}
	return false
}

// asksMore tells a word behind a model's name that says neither which version, nor what kind of thing it is, nor what else there is.
func (p *products) asksMore(w string) bool {
	return !hasDigit(w) && !slices.Contains(strings.Fields(p.lang.Or), w) && !slices.Contains(versions, w) && !p.isOfMatter(w) && !p.isCoined(w)
}

func (p *products) isOfMatter(w string) bool {
	return float64(p.in[w]) > max(1, ofMatter*float64(p.of))
}

// isCoined tells a word that neither the language nor the matter of the list has.
func (p *products) isCoined(w string) bool {
	if utf8.RuneCountInString(w) < shortestCoined || hasDigit(w) || mostlyNumbered*p.in[w] > p.numbered[w]*100 || p.lang.Rank(w) > 0 {
		return false
	}
	if _, isPlace := lexicon.PlaceNamed(w); isPlace {
		return false
	}
	if p.lang.Senses {
		_, known := lexicon.English(w)
		return !known
	}
	return !p.lang.EndsAsNoun(w) && !p.lang.EndsAsVerb(w)
}

// withoutAsking is a query without the words at its ends that ask to compare or buy.
func (p *products) withoutAsking(words []string) []string {
	for len(words) > 0 && p.asked.Match(words[0]) {
		words = words[1:]
	}
	for len(words) > 0 && p.asked.Match(words[len(words)-1]) {
		words = words[:len(words)-1]
	}
	return words
}

func hasDigit(w string) bool { return strings.ContainsFunc(w, unicode.IsDigit) }

// isModelNumber tells what makers number models by, behind so many words: letters before digits, "x40", or behind two words digits
// alone, "600"; no year, and no measure, "45mm".
func isModelNumber(w string, behind int) bool {
	if digits := strings.TrimLeftFunc(w, unicode.IsLetter); digits != w {
		return strings.TrimFunc(digits, unicode.IsDigit) == ""
	}
	return behind > 1 && strings.TrimFunc(w, unicode.IsDigit) == "" && len(w) < len("2026")+1
}
