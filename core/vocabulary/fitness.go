package vocabulary

import (
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/lexicon"
	"corpulan/core/message"
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
func flagTerms(terms []Term, list []*merged, f *corpus.Field) {
	_, total := f.Sizes()
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
		case lang.IsRead() && isOrdinary(t, list[i], total, lang):
			t.Flag = general
		default:
			t.Flag = unfit(t, list[i], f)
		}
	}
}

// Bounds of fitness, our own; docs/evaluation.md measures what comes of them.
const (
	minNoun     = 0.45 // share of a word's uses as a noun, to be a term by itself or to end one
	strongNoun  = 0.25 // the same of a word far beyond general language
	far         = 5    // bits
	maxVerb     = 0.6  // of the first word of a phrase that no determiner begins
	minListed   = 0.4  // of what is known of a word before the field is read
	verbSense   = 0.15 // of what a dictionary knows of a word that may be the verb of "tyres grip"
	minBare     = 0.2  // share of a word's pages where it stands outside longer phrases, two at least
	maxMeasures = 0.5  // of its uses as a noun with "of" after it
	rareWord    = 6.25 // in a million words: rank 16,000 of a language
)

// unfit tells why a phrase is no term in the company that the field gives its words.
func unfit(t *Term, m *merged, f *corpus.Field) message.Message {
	forms := m.forms()
	switch {
	case len(forms) == 0 || !f.Language.IsRead():
		return ""
	case len(forms) == 1:
		return unfitWord(t, m, f)
	case isFixed(t.Text, f):
		return ""
	}
	if why := unfitEnds(forms, f); why != "" {
		return why
	}
	return unfitOpening(forms[0], m, f)
}

// isFixed tells a shape that is one word to those who use it, whatever its parts are alone: "O-ring", "VG-10",
// "quarter-turn"; no adjective such as "well-known", and none that only begins with one.
func isFixed(s string, f *corpus.Field) bool {
	parts := strings.Split(s, "-")
	if strings.Contains(s, " ") || len(parts) != 2 {
		return false
	}
	first, last := text.Fold(parts[0]), text.Fold(parts[1])
	if last != "" && last[0] >= '0' && last[0] <= '9' || len(first) == 1 {
		return true
	}
	return f.Language.Senses && f.Prior(first).Noun >= minNoun && f.Prior(last).Noun > 0 && !f.Language.Qualifies(first)
}

// unfitEnds tells why a phrase is none by its first word and its last.
func unfitEnds(forms []string, f *corpus.Field) message.Message {
	lang, first, last := f.Language, forms[0], forms[len(forms)-1]
	begin, end := f.ClassOf(lang.Bare(first)), f.ClassOf(lang.Bare(last)) // "pneus d'hiver"
	switch {
	case lang.IsUnit(first), lang.IsShare(first) && lang.Links(forms[1]): // "mitad del skimmer"
		return isFragment
	case slices.ContainsFunc(forms, lang.InCalendar):
		return isDate // "finales de octubre"
	case lang.NounsHaveCapitals:
	case lang.AdjectivesFollow:
		if begin.Noun < minNoun || end.Verb > maxVerb {
			return isFragment
		}
		if lang.EndsAsVerb(last) && lang.Links(forms[len(forms)-2]) && f.DistributionOf(last).Heads == 0 {
			return isVerb // "moyen d'éviter"
		}
	case end.Noun < minNoun:
		return isFragment
	case lang.Senses && isPlural(forms[len(forms)-2]) && f.Prior(last).Verb > verbSense: // what stands before a noun is singular
		return isVerb
	case lang.Links(forms[1]) && isMeasureOf(f.DistributionOf(first)):
		return isMeasure
	}
	return ""
}

// unfitOpening tells why a phrase is none by how the field uses what opens it: an adjective that
// qualifies anything, or a verb that no determiner makes a noun.
func unfitOpening(first string, m *merged, f *corpus.Field) message.Message {
	begun, the, count, whole := 0, 0, 0, 0
	for _, u := range m.uses {
		if u == nil {
			continue
		}
		begun += u.Begun
		the += u.The
		count += u.Count
		for _, s := range u.Surfaces {
			if i := strings.IndexAny(s.Text, " -"); i > 0 && s.Text[i] == '-' {
				whole += s.Count // "full-length mudguards"
			}
		}
	}
	if f.Language.Qualifies(first) && 2*whole < count && 4*begun < count {
		return isFragment
	}
	if f.ClassOf(f.Language.Bare(first)).Verb > maxVerb && begun == 0 || f.Language.Senses && strings.HasSuffix(first, "ing") && f.Prior(first).Verb > maxVerb && 4*the < count {
		return isVerb // "adjusting colours"
	}
	return ""
}

// isPlural tells an English noun in the plural, by its form.
func isPlural(form string) bool {
	return len(form) > 3 && strings.HasSuffix(form, "s") && !strings.HasSuffix(form, "ss") && !strings.HasSuffix(form, "us") && !strings.HasSuffix(form, "is")
}

func isMeasureOf(c corpus.Distribution) bool {
	return c.Measures > 2 && float64(c.Measures) > maxMeasures*float64(c.Heads)
}

// wordUse is what the field shows of a single word, of all its forms together.
type wordUse struct {
	corpus.Distribution
	noun, verb, adjective float64 // uses by part of speech
	all                   float64 // uses
	listed                float64 // uses that a dictionary's share of nouns would make nouns
	bare, headed          int     // pages where it stands outside longer phrases, and in headings
}

func useOf(m *merged, f *corpus.Field) (w wordUse) {
	for _, u := range m.uses {
		if u == nil {
			continue
		}
		if u.Bare > 0 {
			w.bare++
		}
		if u.Headings > 0 {
			w.headed++
		}
	}
	for _, form := range m.wordForms() {
		class, weight := f.ClassOf(form.Text), float64(form.Count)
		w.noun += weight * class.Noun
		w.verb += weight * class.Verb
		w.adjective += weight * class.Adjective
		w.all += weight
		w.listed += weight * f.Prior(form.Text).Noun
		w.Add(f.DistributionOf(form.Text))
	}
	return w
}

// isGerund tells an English word in -ing that the dictionary has as a noun and that the field uses as one: "the
// gland packing".
func isGerund(m *merged, f *corpus.Field) bool {
	forms := m.forms()
	if !f.Language.Senses || !strings.HasSuffix(forms[0], "ing") {
		return false
	}
	w, ok := lexicon.English(forms[0])
	return ok && w.Noun > 0 && f.DistributionOf(forms[0]).Heads > 1
}

// Bounds of acts, our own: what is known of a word before that keeps it from being a verb, and that lets it be one.
const (
	surelyNoun  = 0.8
	perhapsVerb = 0.1
)

// acts tells a word that stands as verbs do, "cepilla las paredes", rather than as nouns: tables know many by their
// endings alone, and those of verbs are those of nouns as well.
func (w *wordUse) acts(known corpus.Class) bool {
	nouns := w.Heads + w.Modifies
	return w.Acts > nouns && known.Noun < surelyNoun || w.Acts > 0 && w.Acts == nouns && known.Verb > perhapsVerb
}

// isNoun tells a word that the field uses as one; special is that it is far beyond general language.
func (w *wordUse) isNoun(special bool) bool {
	return w.noun >= minNoun*w.all || special && w.noun >= strongNoun*w.all
}

// unfitWord is unfit for a single word, by all its forms.
func unfitWord(t *Term, m *merged, f *corpus.Field) message.Message {
	lang, w := f.Language, useOf(m, f)
	rare := generalFrequency(m, lang) < rareWord
	unlisted := !lang.Senses && w.listed < minListed*w.all // only English has a list that tells rare adjectives
	isNoun := w.isNoun(t.LogRatio >= far && !unlisted) || isGerund(m, f)
	switch {
	case lang.NounsHaveCapitals:
		if w.Smalls > w.Capitals {
			return isVerb
		}
	case lang.AdjectivesFollow && w.acts(f.Prior(text.Fold(t.Text))):
		return isVerb
	case !isNoun && w.verb > w.adjective:
		// A trade's verb is a term where the field makes it a heading or a step.
		if t.LogRatio < far || w.headed < 2 && (w.Leads < 2 || !lang.Senses) {
			return isVerb
		}
	case !isNoun && (!rare || unlisted):
		return isFragment
	case !lang.AdjectivesFollow && isMeasureOf(w.Distribution) && !isMixed(t.Text):
		return isMeasure
	// Whether the words beside it make a longer phrase only a dictionary can tell.
	case lang.Senses && !rare && (w.bare < 2 || float64(w.bare) < minBare*float64(t.Pages)):
		return isFragment
	}
	return ""
}
