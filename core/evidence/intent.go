package evidence

import (
	"slices"
	"strings"
	"sync"

	"corpulan/core/corpus"
	"corpulan/core/language"
	"corpulan/core/message"
	"corpulan/core/reading"
	"corpulan/core/text"
)

// The intents, after Broder (2002) with the trade's "commercial" between
// informational and transactional.
const (
	informational = "informational"
	commercial    = "commercial"
	transactional = "transactional"
	navigational  = "navigational"
)

// titles are the phrases of titles that tell what a page is for, in all languages
// we read; see language.Title.
type titles struct{ buying, comparing, explaining, guiding, stepping *text.Phrases }

var titlePhrases = sync.OnceValue(func() *titles {
	var all language.Title
	for l := range language.Each {
		t := l.Title
		all.Buying, all.Comparing, all.Explaining = append(all.Buying, t.Buying...), append(all.Comparing, t.Comparing...), append(all.Explaining, t.Explaining...)
		all.Guiding, all.Stepping = append(all.Guiding, t.Guiding...), append(all.Stepping, t.Stepping...)
	}
	return &titles{text.NewPhrases(all.Buying...), text.NewPhrases(all.Comparing...), text.NewPhrases(all.Explaining...), text.NewPhrases(all.Guiding...), text.NewPhrases(all.Stepping...)}
})

// intent gives each page one voice, shared out by the weight of its signals,
// and the results page one more where it offers anything; listing counts the things that pages list.
func intent(f *corpus.Field, related []string, asked []string, listing map[int]int) []Share {
	return shares(f, func(rank int, d *corpus.Doc) []vote {
		votes := intentVotes(d.Reading)
		if n := listing[rank]; n >= fewestOfList {
			votes = append(votes, vote{commercial, message.Of("lists %d things to choose from", n), 2})
		}
		return votes
	}, resultsPageVotes(related, asked))
}

func intentVotes(r *reading.Reading) []vote {
	var votes []vote
	says := func(kind string, weight float64, says message.Message) {
		votes = append(votes, vote{kind, says, weight})
	}
	titled := func(kind string, phrases *text.Phrases, weight float64) {
		if w := phrases.Find(r.Title); w != "" {
			if w == "?" {
				says(kind, weight, "the title asks a question")
			} else {
				says(kind, weight, inTitle(w))
			}
		}
	}
	switch r.Kind {
	case reading.Home:
		return []vote{{navigational, "the first page of a site", 1}}
	case reading.Product, reading.Category:
		says(transactional, 3, builtAs(string(r.Kind)+" page"))
	case reading.Comparison:
		says(commercial, 2, "built as a comparison")
	case reading.Article, reading.List, reading.Forum, reading.Video:
		says(informational, 1, builtAs(string(r.Kind)))
	}
	title := titlePhrases()
	titled(transactional, title.buying, 2)
	titled(commercial, title.comparing, 2)
	titled(informational, title.explaining, 2)
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

// inTitle says which phrase of a title speaks for something.
func inTitle(phrase string) message.Message {
	return message.Of("the title says “%s”", strings.ToLower(phrase))
}

// builtAs says what a page is built as: "a list".
func builtAs(noun string) message.Message {
	return message.Of("built as %v", message.Message(withArticle(noun)))
}

func withArticle(noun string) string {
	if noun == "" {
		return noun // of a page that is of none
	}
	if strings.ContainsAny(noun[:1], "aeiou") {
		return "an " + noun
	}
	return "a " + noun
}

// resultsPageVotes are what the results page itself offers.
func resultsPageVotes(related, asked []string) []vote {
	var votes []vote
	title := titlePhrases()
	if len(asked) > 0 {
		votes = append(votes, vote{informational, message.Of("the results page lists %d questions", len(asked)), 1})
	}
	for _, s := range []struct {
		kind    string
		what    message.Message
		phrases *text.Phrases
	}{{transactional, "buy", title.buying}, {commercial, "compare", title.comparing}, {informational, "ask or explain", title.explaining}} {
		n := 0
		for _, q := range related {
			if s.phrases.Find(q) != "" {
				n++
			}
		}
		if n > 0 {
			votes = append(votes, vote{s.kind, message.Of("%d of %d related searches %v", n, len(related), s.what), float64(n) / float64(len(related))})
		}
	}
	return votes
}
