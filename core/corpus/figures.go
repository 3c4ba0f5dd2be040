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
	Text     string // as it is written
	From, To float64
	Token    int // at which it begins
	Money    bool
}

// Figures finds the figures of a sentence that have a unit: a word of the language's
// units, a unit of a trade in small letters after the number, or a sign of money, of
// percent or of degrees.
func (s *Sentence) Figures(lang *language.Language) []Figure {
	var list []Figure
	for i := 0; i < len(s.Tokens); i++ {
		t := s.Tokens[i]
		from, ok := number(s.Text[t.Start:t.End])
		if !t.Number || !ok {
			continue
		}
		start, to, end := i, from, i
		// "10 to 15", "10-15"
		if i+2 < len(s.Tokens) && s.Tokens[i+1].Stop && s.Tokens[i+2].Number {
			if n, ok := number(s.Text[s.Tokens[i+2].Start:s.Tokens[i+2].End]); ok && n >= from {
				to, end = n, i+2
			}
		} else if i+1 < len(s.Tokens) && s.Tokens[i+1].Number && isDash(s.Text[t.End:s.Tokens[i+1].Start]) {
			if n, ok := number(s.Text[s.Tokens[i+1].Start:s.Tokens[i+1].End]); ok && n >= from {
				to, end = n, i+1
			}
		}
		i = end
		last := s.Tokens[end]
		unit, stop := signAfter(s.Text[last.End:]), last.End
		if unit != "" {
			stop += strings.Index(s.Text[last.End:], unit) + len(unit)
		} else if end+1 < len(s.Tokens) && !s.Tokens[end+1].Broken && (lang.IsUnit(s.Tokens[end+1].Folded) || isShort(s.Tokens[end+1])) {
			unit, stop = s.Tokens[end+1].Stem, s.Tokens[end+1].End
		}
		if unit != "" {
			if per := perUnit(s.Text[stop:]); per != "" { // "18 km/h"
				unit, stop = unit+per, stop+len(per)
			}
		}
		begin := s.Tokens[start].Start
		if sign := signBefore(s.Text[:begin]); sign != "" && unit == "" {
			unit, begin = sign, begin-len(sign)
		}
		if unit == "" {
			continue
		}
		if strings.HasSuffix(s.Text[:begin], "-") || strings.HasSuffix(s.Text[:begin], "−") {
			from, to = -max(from, to), -min(from, to)
			begin = strings.LastIndexAny(s.Text[:begin], "-−")
		}
		list = append(list, Figure{unit, strings.TrimSpace(s.Text[begin:stop]), from, to, start, isMoney(unit)})
	}
	return list
}

func number(s string) (float64, bool) {
	n, err := strconv.ParseFloat(strings.ReplaceAll(s, ",", ""), 64)
	return n, err == nil
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

func signBefore(s string) string {
	for _, sign := range []string{"£", "$", "€"} {
		// '$1' in quotation marks is a variable of a program
		if before, ok := strings.CutSuffix(s, sign); ok && !strings.HasSuffix(before, "'") && !strings.HasSuffix(before, `"`) {
			return sign
		}
	}
	return ""
}

func isMoney(unit string) bool {
	return slices.Contains([]string{"£", "$", "€", "euro", "dollar", "usd", "eur", "gbp", "chf"}, unit)
}
