package language

import (
	"embed"
	"slices"
	"strings"
	"unicode"

	"corpulan/core/text"
)

// Label is what a column, a line or a short heading says about the things of a list.
type Label string

// The labels of lists of things, and the words that praise or blame.
const (
	LabelPrice    Label = "price"
	LabelFree     Label = "free" // what costs nothing
	LabelPros     Label = "pros"
	LabelCons     Label = "cons"
	LabelVerdict  Label = "verdict"  // for whom or for what a thing is
	LabelPosition Label = "position" // in a list that is counted
	LabelPressed  Label = "pressed"  // what leads to a shop
	LabelRating   Label = "rating"
	LabelName     Label = "name"
	LabelNone     Label = "none"     // a cell that says nothing
	LabelPraise   Label = "praise"   // words and phrases within a sentence
	LabelBlame    Label = "blame"    // the same
	labelMeasured Label = "measured" // what units tell by themselves

	labelRecommends Label = "recommends" // words by which a thing is recommended or not: "best for children"
	labelBest       Label = "best"       // of them, those that a title promises
	labelPicks      Label = "picks"      // what a section is called that goes through the things of a list
)

// One file a language, a line a label, its ways between bars. Common usage, put together by us.
//
//go:embed listing/*.txt
var listingLists embed.FS

// listing is what a language says about things of a list.
type listing struct {
	picks    string                        // see NameOfPicks
	labels   map[Label]map[string]bool     // as asLabel has them
	phrases  map[Label]map[string][]phrase // by their first word
	measured map[string]string             // what a unit tells, by the unit folded
}

type phrase []string

func (k *known) readListing() listing {
	l := listing{labels: map[Label]map[string]bool{}, phrases: map[Label]map[string][]phrase{}, measured: map[string]string{}}
	list, err := listingLists.ReadFile("listing/" + k.Code + ".txt")
	if err != nil {
		return l // a language without a list
	}
	for line := range strings.Lines(string(list)) {
		name, ways, ok := strings.Cut(strings.TrimSpace(line), " = ")
		if !ok {
			panic("language: no label in " + line)
		}
		label := Label(name)
		if label == labelPicks {
			l.picks = ways
			continue
		}
		l.labels[label], l.phrases[label] = map[string]bool{}, map[string][]phrase{}
		for way := range strings.SplitSeq(ways, "|") {
			if label == labelMeasured {
				called, units, _ := strings.Cut(way, ":")
				for u := range strings.FieldsSeq(units) {
					l.measured[text.Fold(u)] = strings.TrimSpace(called)
				}
				continue
			}
			l.labels[label][asLabel(way)] = true
			if words := k.wordsOf(way); len(words) > 0 {
				l.phrases[label][words[0]] = append(l.phrases[label][words[0]], words)
			}
		}
	}
	return l
}

// asLabel is a label in small letters, without marks at its ends and what stands in brackets.
func asLabel(s string) string {
	if i := strings.IndexAny(s, "(["); i > 0 {
		s = s[:i]
	}
	s = strings.Join(strings.Fields(foldLine(strings.ReplaceAll(s, "’", "'"))), " ")
	trimmed := strings.TrimFunc(s, func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) && r != '#' && r != '+' })
	if trimmed == "" {
		return s
	}
	return trimmed
}

// IsLabel tells a text that is one of a label's ways, and no more.
func (k *known) IsLabel(l Label, s string) bool {
	const longest = 60 // bytes; our own
	return len(s) <= longest && k.listing().labels[l][asLabel(s)]
}

// Cues counts the words and phrases of a label that a sentence has, each once.
func (k *known) Cues(l Label, sentence string) (n int) {
	by := k.listing().phrases[l]
	words := k.wordsOf(sentence)
	var seen []string
	for i, w := range words {
		for _, p := range by[w] {
			if i+len(p) <= len(words) && slices.Equal(words[i:i+len(p)], p) && !slices.Contains(seen, strings.Join(p, " ")) {
				seen = append(seen, strings.Join(p, " "))
				n++
			}
		}
	}
	return n
}

// TellsVerdict tells a folded word by which a thing is recommended or not.
func (k *known) TellsVerdict(folded string) bool { return k.listing().labels[labelRecommends][folded] }

// TellsBest tells a word by which a title promises a list of the best.
func (k *known) TellsBest(word string) bool {
	return k.listing().labels[labelBest][text.Fold(word)]
}

// NamesAll tells a heading that has all content words of one of some names.
func (l *Language) NamesAll(heading string, names []string) bool {
	have := l.ContentStems(heading)
	return slices.ContainsFunc(names, func(name string) bool {
		want := l.ContentStems(name)
		return len(want) > 0 && !slices.ContainsFunc(want, func(s string) bool { return !slices.Contains(have, s) })
	})
}

// NameOfPicks is what a section is called that goes through the things of a list; "" in a language without rules.
func (k *known) NameOfPicks() string { return k.listing().picks }

// Measured is what a unit tells by itself, "weight" of grams; "" where it can be of many things.
func (k *known) Measured(unit string) string { return k.listing().measured[text.Fold(unit)] }
