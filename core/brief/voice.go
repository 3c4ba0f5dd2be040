package brief

import (
	"math"
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/language"
	"corpulan/core/message"
	"corpulan/core/reading"
	"corpulan/core/stats"
	"corpulan/core/text"
)

// Voice is how the own pages of a publication speak, as measured on them.
type Voice struct {
	Pages     int
	You       string // what they call the reader; empty where hardly any do
	We        string // what they call themselves
	Sentence  int    // words of the median sentence
	Paragraph int    // and paragraph
}

// When a voice can be told. Our own.
const (
	fewestVoices = 3   // pages
	fewestSaid   = 300 // words of running text
	oftenCalled  = 4.0 // times in a thousand words, from which a page calls somebody so
)

// VoiceOf measures how pages in a language speak; Pages is 0 where they are too few or too short.
func VoiceOf(docs []*corpus.Doc, lang *language.Language) Voice {
	you, formal, we := language.Set(lang.Rules.You), strings.Fields(lang.Rules.YouFormal), language.Set(lang.Rules.We)
	capital := len(formal) > 0 && text.Lower(formal[0]) != formal[0] // "Sie" is told from "sie" within a sentence alone
	words, toYou, toSir, asWe := 0, 0, 0, 0
	var sentences, paragraphs []float64
	pages := 0
	for _, d := range docs {
		before := words
		for _, s := range d.Reading.Sections {
			for kind, block := range s.Blocks() {
				if kind != reading.LineParagraph {
					continue
				}
				n := 0
				for _, span := range lang.Sentences(block) {
					said := span.Of(block)
					at := 0
					text.EachWord(said, func(w text.Span) {
						word := w.Of(said)
						folded := text.Fold(word)
						switch {
						case you[folded]:
							toYou++
						case capital && at > 0 && slices.Contains(formal, word), !capital && slices.Contains(formal, text.Lower(word)):
							toSir++
						case we[folded]:
							asWe++
						}
						at++
					})
					n += at
					if at > 0 {
						sentences = append(sentences, float64(at))
					}
				}
				words += n
				if n > 0 {
					paragraphs = append(paragraphs, float64(n))
				}
			}
		}
		if words > before {
			pages++
		}
	}
	if pages < fewestVoices || words < fewestSaid {
		return Voice{}
	}
	often := func(n int) bool { return 1000*float64(n) >= oftenCalled*float64(words) }
	median := func(x []float64) int { return int(math.Round(stats.RangeOf(x).Median)) }
	v := Voice{Pages: pages, Sentence: median(sentences), Paragraph: median(paragraphs)}
	switch {
	case toSir > toYou && often(toSir):
		v.You = formal[0]
	case often(toYou):
		v.You = strings.Fields(lang.Rules.You)[0]
	}
	if often(asWe) {
		v.We = strings.Fields(lang.Rules.We)[0]
	}
	return v
}

// voice says how the own pages speak, named as measured.
func (b *Brief) voice(v Voice) proposal {
	if v.Pages == 0 {
		return proposal{}
	}
	var says []string
	if v.You != "" {
		says = append(says, b.say("to “%s”", v.You))
	} else {
		says = append(says, b.say("without calling the reader anything"))
	}
	if v.We != "" {
		says = append(says, b.say("speaking as “%s”", v.We))
	}
	says = append(says, b.say("sentences of about %d words", v.Sentence), b.say("paragraphs of about %d words", v.Paragraph))
	return proposal{capitalise(strings.Join(says, ", ")) + ".", message.Of("measured on %v of our own", message.Counted(v.Pages, "page"))}
}
