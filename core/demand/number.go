package demand

import (
	"math"
	"regexp"
	"strconv"
	"strings"
	"unicode"
)

// ParseCount is ParseFigure for what is counted: a point before three digits marks thousands
// there ("1.900", "100 – 1.000"), since nobody searches nine tenths of a time.
func ParseCount(s string) Figure { return parse(s, '.') }

// ParseFigure reads a figure as lists write them: "1,234", "1.234,5", "12 %", "€0,45", "1.2K",
// and ranges such as "10 – 100" or "1K–10K", of which it takes the geometric mean, since they
// go by powers of ten. What is none ("-", "n/a") is not known.
func ParseFigure(s string) Figure { return parse(s, 0) }

// parse is ParseFigure where it is known which sign marks thousands, 0 for what is not known.
func parse(s string, thousands byte) Figure {
	s = strings.TrimSpace(s)
	for _, dash := range []string{"–", "—", " - ", "−", " to ", " bis "} {
		if from, to, ok := strings.Cut(s, dash); ok {
			return between(parse(from, thousands), parse(to, thousands))
		}
	}
	if from, to, ok := strings.Cut(s, "-"); ok && from != "" && unicode.IsDigit(rune(from[len(from)-1])) {
		return between(parse(from, thousands), parse(to, thousands))
	}
	s = strings.Map(func(r rune) rune {
		switch {
		case unicode.IsSpace(r), unicode.Is(unicode.Sc, r), r == '%', r == '\'', r == '’', r == '<', r == '>', r == '+', r == '~':
			return -1
		}
		return r
	}, strings.ToLower(s))
	times := 1.0
	for end, by := range map[string]float64{"k": 1000, "m": 1_000_000, "tsd": 1000, "mio": 1_000_000} {
		if rest, ok := strings.CutSuffix(strings.TrimSuffix(s, "."), end); ok && rest != "" {
			s, times = rest, by
		}
	}
	if thousands != 0 && strings.IndexByte(s, thousands) >= 0 && marksThousands(s, thousands) {
		s = strings.ReplaceAll(s, string(thousands), "")
	}
	s = plainNumber(s)
	v, err := strconv.ParseFloat(s, 64)
	if err != nil || math.IsNaN(v) || math.IsInf(v, 0) {
		return Figure{}
	}
	return Of(v * times)
}

// Numbers that say which sign of theirs is the decimal one: "0,45" and "1.234,5", or "0.45" and "1,234.5".
var (
	commaDecimal = regexp.MustCompile(`\d,\d{1,2}(\D|$)|\d\.\d{3},\d`)
	pointDecimal = regexp.MustCompile(`\d\.\d{1,2}([^\d.]|$)|\d,\d{3}\.\d`)
)

// thousandsIn tells by the cells of a column, or of a table, which sign marks thousands in it: most cells that say so decide; 0 where
// none does, or as many say one as the other.
func thousandsIn(cells []string) byte {
	points, commas := 0, 0 // as the decimal sign
	for _, c := range cells {
		if len(c) > longestFigure {
			continue
		}
		if pointDecimal.MatchString(c) {
			points++
		}
		if commaDecimal.MatchString(c) {
			commas++
		}
	}
	switch {
	case commas > points:
		return '.'
	case points > commas:
		return ','
	}
	return 0
}

// longestFigure is how long a cell with a figure is at most, in bytes. Our own: "£ 1.000,00 – £ 10.000,00".
const longestFigure = 40

// between is a range's geometric mean; of one from nought the half of its end.
func between(a, b Figure) Figure {
	switch {
	case !a.Known || !b.Known:
		return Figure{}
	case a.Value <= 0:
		return Of(b.Value / 2)
	}
	return Of(math.Sqrt(a.Value * b.Value))
}

// groupOf is how many digits a mark of thousands stands before. As in all of CLDR's locales but
// the Indian ones, from memory.
const groupOf = 3

// plainNumber writes a number with a point and no marks of thousands. Of a point and a comma
// the last is the decimal one; one alone is a mark of thousands where three digits follow it
// each time.
func plainNumber(s string) string {
	point, comma := strings.LastIndexByte(s, '.'), strings.LastIndexByte(s, ',')
	switch {
	case point >= 0 && comma > point:
		return strings.Replace(strings.ReplaceAll(s, ".", ""), ",", ".", 1)
	case comma >= 0 && point > comma:
		return strings.ReplaceAll(s, ",", "")
	case comma >= 0:
		if marksThousands(s, ',') {
			return strings.ReplaceAll(s, ",", "")
		}
		return strings.Replace(s, ",", ".", 1)
	case strings.Count(s, ".") > 1 && marksThousands(s, '.'):
		return strings.ReplaceAll(s, ".", "")
	}
	return s
}

func marksThousands(s string, mark byte) bool {
	parts := strings.Split(s, string(mark))
	if len(parts[0]) == 0 || len(parts[0]) > groupOf || parts[0] == "0" {
		return false
	}
	for _, p := range parts[1:] {
		if len(p) != groupOf || strings.Trim(p, "0123456789") != "" {
			return false
		}
	}
	return true
}
