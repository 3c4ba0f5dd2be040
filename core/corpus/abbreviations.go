package corpus

import (
	"strings"
	"unicode"

	"corpulan/core/language"
)

// findAbbreviations notes the abbreviations that the page explains: "bottom bracket
// (BB)", by the algorithm of Schwartz & Hearst (2003), "A simple algorithm for
// identifying abbreviation definitions in biomedical text".
func (d *Doc) findAbbreviations(lang *language.Language) {
	for _, s := range d.Sentences {
		open := strings.IndexByte(s.Text, '(')
		for open > 0 {
			shut := strings.IndexByte(s.Text[open:], ')')
			if shut < 0 {
				break
			}
			short, before := strings.TrimSpace(s.Text[open+1:open+shut]), strings.TrimSpace(s.Text[:open])
			if isShortForm(short) {
				if long := LongForm(short, lastWords(before, longestForm(short))); long != "" {
					d.abbreviate(lang, short, long)
				}
			}
			next := strings.IndexByte(s.Text[open+1:], '(')
			if next < 0 {
				break
			}
			open += 1 + next
		}
	}
}

func (d *Doc) abbreviate(lang *language.Language, short, long string) {
	from, to := lang.PhraseKey(short), lang.PhraseKey(long)
	if from == "" || to == "" || from == to {
		return
	}
	if d.Abbreviations == nil {
		d.Abbreviations, d.LongForms = map[string]string{}, map[string]string{}
	}
	d.LongForms[from] = long
	d.Abbreviations[from] = to
}

// isShortForm: one word of two to ten letters and figures, two of them capitals. The
// bounds are those of Schwartz & Hearst (2003), but for the capitals: our own.
func isShortForm(s string) bool {
	letters, capitals := 0, 0
	for _, r := range s {
		switch {
		case unicode.IsUpper(r):
			capitals++
			letters++
		case unicode.IsLetter(r) || unicode.IsDigit(r):
			letters++
		case r != '-' && r != '.':
			return false
		}
	}
	return capitals >= 2 && letters >= 2 && letters <= 10
}

// longestForm is how many words a long form has at most (Schwartz & Hearst 2003).
func longestForm(short string) int { return min(len(short)+5, 2*len(short)) }

func lastWords(s string, n int) string {
	words := strings.Fields(s)
	return strings.Join(words[max(0, len(words)-n):], " ")
}

// LongForm is the shortest end of a text whose letters give the short form in order,
// the first at the beginning of a word; "" where there is none. It is
// findBestLongForm of Schwartz & Hearst (2003).
func LongForm(short, before string) string {
	text := []rune(before)
	s, l := lowered([]rune(short)), lowered(text)
	at := len(l) - 1
	for i := len(s) - 1; i >= 0; i-- {
		if !unicode.IsLetter(s[i]) && !unicode.IsDigit(s[i]) {
			continue
		}
		for at >= 0 && l[at] != s[i] || i == 0 && at > 0 && (unicode.IsLetter(l[at-1]) || unicode.IsDigit(l[at-1])) {
			at--
		}
		if at < 0 {
			return ""
		}
		at--
	}
	// The long form begins with the word that the first letter stands in.
	begin := at + 1
	for begin > 0 && l[begin-1] != ' ' {
		begin--
	}
	long := strings.TrimSpace(string(text[begin:]))
	if !strings.ContainsAny(long, " -") || strings.EqualFold(long, short) {
		return ""
	}
	return long
}

// lowered is small letters one for one, which strings.ToLower is not ("İ").
func lowered(runes []rune) []rune {
	small := make([]rune, len(runes))
	for i, r := range runes {
		small[i] = unicode.ToLower(r)
	}
	return small
}
