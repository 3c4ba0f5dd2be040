package points

import (
	"slices"
	"strconv"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/language"
	"corpulan/core/stats"
)

// Spread is what pages say of one figure: the same unit, and values that do not meet.
type Spread struct {
	Unit   string  `json:"unit"`
	Values []Value `json:"values"`
}

// Value is one page's figure, as it is written.
type Value struct {
	Rank int     `json:"rank"`
	Text string  `json:"text"`
	From float64 `json:"from"`
	To   float64 `json:"to"`
}

// figure is a number, or a range of two, with its unit.
type figure struct {
	unit, text string
	from, to   float64
}

// figuresIn finds the figures of a sentence that have a unit: a word of the language's
// units, a unit of a trade in small letters after the number, or a sign of money, of
// percent or of degrees.
func figuresIn(s *corpus.Sentence, lang *language.Language) []figure {
	var list []figure
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
		list = append(list, figure{unit, strings.TrimSpace(s.Text[begin:stop]), from, to})
	}
	return list
}

func number(s string) (float64, bool) {
	n, err := strconv.ParseFloat(strings.ReplaceAll(s, ",", ""), 64)
	return n, err == nil
}

func isDash(s string) bool { return slices.Contains([]string{"-", "–", "—"}, strings.TrimSpace(s)) }

// isShort tells a unit of a trade ("psi", "lux") by its form.
func isShort(t corpus.Token) bool {
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
		if strings.HasSuffix(s, sign) {
			return sign
		}
	}
	return ""
}

// sameThing is how alike two sentences must be for their figures to be of one thing.
// Our own.
const sameThing = 0.5

// disputed finds units for which two pages of a group give figures that do not meet.
func disputed(f *corpus.Field, group []sentence) []Spread {
	byUnit := map[string][]Value{}
	var units []string
	for _, s := range group {
		seen := map[string]bool{}
		for _, x := range s.figures {
			if seen[x.unit] { // two figures of one sentence are of two things
				delete(byUnit, x.unit)
				continue
			}
			seen[x.unit] = true
			if byUnit[x.unit] == nil {
				units = append(units, x.unit)
			}
			byUnit[x.unit] = append(byUnit[x.unit], Value{f.Ranks[s.doc], x.text, x.from, x.to})
		}
	}
	alike := map[[2]int]bool{}
	for _, a := range group {
		for _, b := range group {
			if stats.Cosine(a.vector, b.vector) >= sameThing {
				alike[[2]int{f.Ranks[a.doc], f.Ranks[b.doc]}] = true
			}
		}
	}
	var list []Spread
	for _, unit := range slices.Compact(slices.Sorted(slices.Values(units))) {
		values := byUnit[unit]
		for i, a := range values {
			if slices.ContainsFunc(values[:i], func(b Value) bool {
				return b.Rank != a.Rank && alike[[2]int{b.Rank, a.Rank}] && (a.From > b.To || b.From > a.To)
			}) {
				list = append(list, Spread{unit, values})
				break
			}
		}
	}
	return list
}
