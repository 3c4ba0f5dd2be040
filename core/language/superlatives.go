package language

import (
	"strings"
	"unicode/utf8"

	"corpulan/core/text"
)

// Superlative is how a language says that nothing goes beyond. The lists are our own, from memory.
type Superlative struct {
	Words   string // that are superlatives by themselves, with or without an article: "best"
	Raising string // words that make one of the word behind them, in what begins with an article: "the most reliable", "la loción más suave"
	Endings string // of words that are superlatives behind an article: "der wärmste"
	After   string // the articles
}

// superlative is a Superlative made ready.
type superlative struct {
	words, raising, after map[string]bool
	endings               []string
}

func (s Superlative) ready() superlative {
	return superlative{Set(s.Words), Set(s.Raising), Set(s.After), strings.Fields(text.Fold(s.Endings))}
}

// How many letters a word has at least that is a superlative by its ending, and how many words before it the article may
// stand. Our own: "der beste" is listed, "der erste" and "das Fenster" are none.
const (
	shortestRaised = 7
	articleWithin  = 2
)

// Superlatives are the places of a sentence, from and to, where something is said to go beyond all others. Words are folded; capital tells
// which begin with a capital, since nouns that do are none.
func (l *Language) Superlatives(words []string, capital func(i int) bool) (places [][2]int) {
	s := l.superlative
	article := func(i, within int) bool {
		for k := max(i-within, 0); k < i; k++ {
			if s.after[words[k]] {
				return true
			}
		}
		return false
	}
	for i, w := range words {
		switch {
		case s.words[w]:
			places = append(places, [2]int{i, i + 1})
		case s.raising[w] && i+1 < len(words) && !l.Stop(words[i+1]) && article(i, articleWithin):
			places = append(places, [2]int{i, i + 2})
		case article(i, 1) && s.raised(w) && !l.numbers[w] && !capital(i):
			places = append(places, [2]int{i, i + 1})
		}
	}
	return places
}

func (s superlative) raised(w string) bool {
	if utf8.RuneCountInString(w) < shortestRaised {
		return false
	}
	for _, e := range s.endings {
		if strings.HasSuffix(w, e) {
			return true
		}
	}
	return false
}
