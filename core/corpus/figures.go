package corpus

import (
	"slices"
	"strconv"
	"strings"

	"corpulan/core/language"
)

// Figure is a number with its unit, or a range of two.
type Figure struct {
	Unit     string // its stem, or its sign
	Per      string // stem of the unit that it is counted by, as in "15 litres a day"
	Text     string // as it is written
	From, To float64
	Token    int // at which it begins
	Money    bool
	Of       string // of a number without a unit: stem of the word that it stands before; empty for none
}

// Figures finds the figures of a sentence that have a unit: a word of the language's
// units, a unit of a trade in small letters after the number, or a sign of money, of
// percent or of degrees.
func (s *Sentence) Figures(lang *language.Language) (list []Figure) {
	for _, f := range s.Numbers(lang) {
		if f.Unit != "" {
			list = append(list, f)
		}
	}
	return list
}

// Numbers are the figures of a sentence, and the numbers that have no unit.
func (s *Sentence) Numbers(lang *language.Language) []Figure {
	var list []Figure
	for i := 0; i < len(s.Tokens); i++ {
		from, ok := number(s.textOf(i), lang)
		if !s.Tokens[i].Number || !ok {
			continue
		}
		start := i
		from, i = s.fractionFrom(i, from, lang)
		var to float64
		to, i = s.rangeFrom(i, from, lang)
		begin := s.Tokens[start].Start
		unit, stop := s.unitAfter(i, lang)
		if unit == "" {
			unit, begin = signBefore(s.Text[:begin])
		}
		if unit == "" {
			list = append(list, Figure{Text: s.Text[begin:s.Tokens[i].End], From: from, To: to, Token: start, Of: s.wordAfter(i)})
			continue
		}
		if strings.HasSuffix(s.Text[:begin], "-") || strings.HasSuffix(s.Text[:begin], "−") {
			from, to = -max(from, to), -min(from, to)
			begin = strings.LastIndexAny(s.Text[:begin], "-−")
		}
		list = append(list, Figure{unit, s.perAfter(stop, lang), strings.TrimSpace(s.Text[begin:stop]), from, to, start, isMoney(unit), ""})
	}
	return list
}

// wordAfter is the stem of the word that stands directly behind a token; empty for a function word, a number or none.
func (s *Sentence) wordAfter(i int) string {
	if i+1 >= len(s.Tokens) || s.Tokens[i+1].Stop || s.Tokens[i+1].Number || s.Tokens[i+1].Broken {
		return ""
	}
	return s.Tokens[i+1].Stem
}

// perWords is in how many words what a figure is counted by is said: "in a year". Our own.
const perWords = 3

// perAfter is the unit by which a figure that ends at a byte is counted: "a day", "per week", "al día".
func (s *Sentence) perAfter(at int, lang *language.Language) string {
	for i, t := range s.Tokens {
		if t.Start < at {
			continue
		}
		for k, t := range s.Tokens[i:min(i+perWords, len(s.Tokens))] {
			if k > 0 && !t.Broken && lang.IsUnit(t.Folded) {
				return t.Stem
			}
			if !t.Stop && t.Folded != "per" && t.Folded != "pro" {
				return ""
			}
		}
		return ""
	}
	return ""
}

// textOf is a token as it is written.
func (s *Sentence) textOf(i int) string { return s.Text[s.Tokens[i].Start:s.Tokens[i].End] }

// fractionFrom is the fraction that a number begins, "3/4", and its last token; the number itself if it
// begins none.
func (s *Sentence) fractionFrom(i int, from float64, lang *language.Language) (value float64, end int) {
	if toks := s.Tokens; i+1 < len(toks) && toks[i+1].Number && s.Text[toks[i].End:toks[i+1].Start] == "/" {
		if n, ok := number(s.textOf(i+1), lang); ok && n > 0 {
			return from / n, i + 1
		}
	}
	return from, i
}

// rangeFrom is the greater end of a range that a number begins, "10 to 15" or "10-15", and its
// token; the number itself if it begins none.
func (s *Sentence) rangeFrom(i int, from float64, lang *language.Language) (to float64, end int) {
	switch toks := s.Tokens; {
	case i+2 < len(toks) && toks[i+1].Stop && toks[i+2].Number:
		end = i + 2
	case i+1 < len(toks) && toks[i+1].Number && isDash(s.Text[toks[i].End:toks[i+1].Start]):
		end = i + 1
	default:
		return from, i
	}
	if n, ok := number(s.textOf(end), lang); ok && n >= from {
		return n, end
	}
	return from, i
}

// unitAfter is the unit after a number, with what it is divided by ("18 km/h"), and where it
// ends; the end of the number if there is none.
func (s *Sentence) unitAfter(i int, lang *language.Language) (unit string, stop int) {
	stop = s.Tokens[i].End
	if unit = signAfter(s.Text[stop:]); unit != "" {
		stop += strings.Index(s.Text[stop:], unit) + len(unit)
	} else if next := i + 1; next < len(s.Tokens) && !s.Tokens[next].Broken && (lang.IsUnit(s.Tokens[next].Folded) || isShort(s.Tokens[next])) {
		unit, stop = s.Tokens[next].Stem, s.Tokens[next].End
	}
	if unit == "" {
		return "", stop
	}
	per := perUnit(s.Text[stop:])
	return unit + per, stop + len(per)
}

// number is the value of a number as a language writes it: "1,200.5", elsewhere than in English
// "1.200,5"; a point before three digits at the end divides thousands there.
func number(s string, lang *language.Language) (float64, bool) {
	if lang.PointOfDecimals {
		s = strings.ReplaceAll(s, ",", "")
	} else {
		if whole, digits, found := strings.Cut(s, ","); found || thousands(s) {
			s = strings.ReplaceAll(whole, ".", "")
			if found {
				s += "." + digits
			}
		}
	}
	n, err := strconv.ParseFloat(s, 64)
	return n, err == nil
}

// thousands tells a number whose points all stand before three digits.
func thousands(s string) bool {
	parts := strings.Split(s, ".")
	return len(parts) > 1 && !slices.ContainsFunc(parts[1:], func(p string) bool { return len(p) != 3 })
}

func isDash(s string) bool { return slices.Contains([]string{"-", "–", "—"}, strings.TrimSpace(s)) }

// perUnit is what a unit is divided by: the "/h" of "km/h".
func perUnit(rest string) string {
	const longest = 4 // bytes with the slash; our own
	if !strings.HasPrefix(rest, "/") {
		return ""
	}
	end := 1
	for end < len(rest) && (rest[end] >= 'a' && rest[end] <= 'z' || rest[end] >= '0' && rest[end] <= '9' && end > 1) {
		end++
	}
	if end == 1 || end > longest {
		return ""
	}
	return rest[:end]
}

// isShort tells a unit of a trade ("psi", "lux") by its form.
func isShort(t Token) bool {
	const longest = 3 // letters; our own
	return !t.Stop && !t.Capital && !t.Number && len(t.Folded) >= 2 && len(t.Folded) <= longest
}

func signAfter(s string) string {
	for _, sign := range []string{"%", " %", "°C", " °C", "°F", " °F", "°", " €", "€"} {
		if strings.HasPrefix(s, sign) {
			return strings.TrimSpace(sign)
		}
	}
	return ""
}

// signBefore is the sign of money that a text ends with, "€" or "€ ", and where it stands; the end of
// the text if there is none.
func signBefore(s string) (sign string, at int) {
	for _, sign := range []string{"£", "$", "€"} {
		before, ok := strings.CutSuffix(strings.TrimRight(s, " \u00a0\u202f"), sign)
		// '$1' in quotation marks is a variable of a program
		if ok && !strings.HasSuffix(before, "'") && !strings.HasSuffix(before, `"`) {
			return sign, len(before)
		}
	}
	return "", len(s)
}

func isMoney(unit string) bool {
	return slices.Contains([]string{"£", "$", "€", "euro", "dollar", "usd", "eur", "gbp", "chf"}, unit)
}
