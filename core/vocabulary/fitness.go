package vocabulary

import (
	"strings"

	"corpulan/core/message"

	"corpulan/core/corpus"
	"corpulan/core/text"
)

// Why a phrase of the field is out by default.
const (
	isSite     = "the name of a site"
	isOffice   = "the name of an organisation"
	isDate     = "a date"
	isUnit     = "a unit"
	isVerb     = "rather a verb"
	isFragment = "rather part of a phrase"
	isMeasure  = "a measure of something"
	isIgnored  = "ignored by the house lexicon"
)

// flagTerms marks what is out by default: names of the sites themselves, words no more
// frequent here than in general language, and what the field does not use as a term.
// 6.63 is the critical value of G² for p < .01 (Rayson & Garside 2000).
func flagTerms(terms []Term, list []*merged, f *corpus.Field) {
	sites, lang, keyword := f.SiteNames(), f.Language, f.KeywordStems()
	general := message.Of("general %v", message.Named(lang.Code))
	for i := range terms {
		t := &terms[i]
		if t.IsKeyword {
			continue
		}
		switch {
		case sites[t.Key] || sites[strings.ReplaceAll(t.Key, " ", "")]:
			t.Flag = isSite
		case t.Words > 1 && list[i].isNamed() && lang.EndsOrganisation(text.Fold(t.Text[strings.LastIndexByte(t.Text, ' ')+1:])):
			t.Flag = isOffice
		case t.Words == 1 && lang.InCalendar(text.Fold(t.Text)):
			t.Flag = isDate
		case t.Words == 1 && lang.IsUnit(text.Fold(t.Text)):
			t.Flag = isUnit
		case t.Words == 1 && lang.IsGeneral(t.Key) && !keyword[t.Key]:
			t.Flag = general
		case lang.IsRead() && (t.G2 < 6.63 || t.LogRatio < 1):
			t.Flag = general
		default:
			t.Flag = unfit(t, list[i], f)
		}
	}
}

// Bounds of fitness, our own; docs/evaluation.md measures what comes of them.
const (
	leastNoun    = 0.45 // share of a word's uses as a noun, to be a term by itself or to end one
	strongNoun   = 0.25 // the same of a word far beyond general language
	far          = 5    // bits
	mostVerb     = 0.6  // of the first word of a phrase that no determiner begins
	leastListed  = 0.4  // of what is known of a word before the field is read
	verbSense    = 0.15 // of what a dictionary knows of a word that may be the verb of "tyres grip"
	leastBare    = 0.2  // share of a word's pages where it stands outside longer phrases, two at least
	mostMeasures = 0.5  // of its uses as a noun with "of" after it
	rareWord     = 6.25 // in a million words: rank 16,000 of a language
)

// unfit tells why a phrase is no term in the company that the field gives its words.
func unfit(t *Term, m *merged, f *corpus.Field) message.Message {
	forms, lang := m.forms(), f.Language
	switch {
	case len(forms) == 0 || !lang.IsRead():
		return ""
	case len(forms) == 1:
		return unfitWord(t, m, f)
	}
	first, last := forms[0], forms[len(forms)-1]
	begin, end := f.ClassOf(lang.Bare(first)), f.ClassOf(lang.Bare(last)) // "pneus d'hiver"
	switch {
	case lang.IsUnit(first):
		return isFragment
	case lang.NounsHaveCapitals:
	case lang.AdjectivesFollow:
		if begin.Noun < leastNoun || end.Verb > mostVerb {
			return isFragment
		}
		if lang.EndsAsVerb(last) && lang.Links(forms[len(forms)-2]) && f.DistributionOf(last).Heads == 0 {
			return isVerb // "moyen d'éviter"
		}
	case end.Noun < leastNoun:
		return isFragment
	case lang.Senses && isPlural(forms[len(forms)-2]) && f.Prior(last).Verb > verbSense: // what stands before a noun is singular
		return isVerb
	case lang.Links(forms[1]) && isMeasureOf(f.DistributionOf(first)):
		return isMeasure
	}
	begun, count, whole := 0, 0, 0
	for _, u := range m.uses {
		if u == nil {
			continue
		}
		begun += u.Begun
		count += u.Count
		for _, s := range u.Surfaces {
			if i := strings.IndexAny(s.Text, " -"); i > 0 && s.Text[i] == '-' {
				whole += s.Count // "full-length mudguards"
			}
		}
	}
	if lang.Qualifies(first) && 2*whole < count && 4*begun < count {
		return isFragment
	}
	if begin.Verb > mostVerb && begun == 0 || lang.Senses && strings.HasSuffix(first, "ing") && f.Prior(first).Verb > mostVerb {
		return isVerb // "adjusting colours"
	}
	return ""
}

// isPlural tells an English noun in the plural, by its form.
func isPlural(form string) bool {
	return len(form) > 3 && strings.HasSuffix(form, "s") && !strings.HasSuffix(form, "ss") && !strings.HasSuffix(form, "us") && !strings.HasSuffix(form, "is")
}

func isMeasureOf(c corpus.Distribution) bool {
	return c.Measures > 2 && float64(c.Measures) > mostMeasures*float64(c.Heads)
}

// unfitWord is unfit for a single word, by all its forms.
func unfitWord(t *Term, m *merged, f *corpus.Field) message.Message {
	lang := f.Language
	bare, headed := 0, 0
	for _, u := range m.uses {
		if u == nil {
			continue
		}
		if u.Bare > 0 {
			bare++
		}
		if u.Headings > 0 {
			headed++
		}
	}
	var noun, verb, adjective, all, listed float64
	var company corpus.Distribution
	for _, w := range m.wordForms() {
		class, weight := f.ClassOf(w.Text), float64(w.Count)
		noun, verb, adjective, all = noun+weight*class.Noun, verb+weight*class.Verb, adjective+weight*class.Adjective, all+weight
		company.Add(f.DistributionOf(w.Text))
		listed += weight * f.Prior(w.Text).Noun
	}
	rare := generalFrequency(m, lang) < rareWord
	isNoun := noun >= leastNoun*all || t.LogRatio >= far && noun >= strongNoun*all && (lang.Senses || listed >= leastListed*all)
	switch {
	case lang.NounsHaveCapitals:
		if company.Smalls > company.Capitals {
			return isVerb
		}
	case !isNoun && verb > adjective:
		// A trade's verb is a term where the field makes it a heading or a step.
		if t.LogRatio < far || headed < 2 && (company.Leads < 2 || !lang.Senses) {
			return isVerb
		}
	case !isNoun && (!rare || !lang.Senses && listed < leastListed*all): // only English has a list that tells rare adjectives
		return isFragment
	case !lang.AdjectivesFollow && isMeasureOf(company):
		return isMeasure
	// Whether the words beside it make a longer phrase only a dictionary can tell.
	case lang.Senses && !rare && (bare < 2 || float64(bare) < leastBare*float64(t.Pages)):
		return isFragment
	}
	return ""
}
