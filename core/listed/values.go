package listed

import (
	"cmp"
	"math"
	"regexp"
	"strconv"
	"strings"
	"unicode/utf8"

	"corpulan/core/language"
	"corpulan/core/text"
)

// currencies are signs and names of money with their codes of ISO 4217, the longer before what they hold. "kr" is the
// krone of the language. Signs from Unicode's CLDR.
var currencies = []struct{ sign, code string }{{"US$", "USD"}, {"$US", "USD"}, {"A$", "AUD"}, {"C$", "CAD"}, {"CA$", "CAD"}, {"AU$", "AUD"}, {"NZ$", "NZD"}, {"R$", "BRL"}, {"JP¥", "JPY"}, {"CN¥", "CNY"},
	{"£GB", "GBP"}, {"UK£", "GBP"}, {"£", "GBP"}, {"€", "EUR"}, {"$", "USD"}, {"¥", "JPY"}, {"₹", "INR"}, {"zł", "PLN"}, {"Kč", "CZK"}, {"CHF", "CHF"}, {"Fr.", "CHF"}, {"EUR", "EUR"}, {"GBP", "GBP"}, {"USD", "USD"},
	{"SEK", "SEK"}, {"NOK", "NOK"}, {"DKK", "DKK"}, {"PLN", "PLN"}, {"JPY", "JPY"}, {"CAD", "CAD"}, {"AUD", "AUD"}, {"BRL", "BRL"}, {"MXN", "MXN"}, {"CNY", "CNY"}, {"INR", "INR"},
	{"euros", "EUR"}, {"euro", "EUR"}, {"Euro", "EUR"}, {"dollars", "USD"}, {"dollar", "USD"}, {"Dollar", "USD"}, {"dólares", "USD"}, {"reais", "BRL"}, {"kronor", "SEK"}, {"kr", "SEK"}}

// money is the first amount of money of a text; free things cost 0.
func (f *finder) money(s string) (Price, bool) {
	list := f.amounts(s)
	if len(list) > 0 {
		return list[0], true
	}
	if f.Language.IsLabel(language.LabelFree, s) {
		return Price{Text: s}, true
	}
	return Price{}, false
}

// amounts are the amounts of money of a text, in their order: numbers with a sign before them or behind, and ranges of two.
func (f *finder) amounts(s string) (list []Price) {
	for i := 0; i < len(s); i++ {
		if !isDigit(s[i]) {
			continue
		}
		from := i
		low, end := numberAt(s, i)
		i = end - 1
		begin, code := signBefore(s, from)
		if code == "" && from > 0 && isLetter(s[from-1]) {
			continue // "K40"
		}
		stop, behind := signBehind(s, end)
		p := Price{Amount: low}
		if next, high, ok := rangeTo(s, stop); ok && high > low {
			after, more := signBehind(s, next)
			if code != "" || behind != "" || more != "" {
				p.To, stop = high, after
				behind = cmp.Or(behind, more)
			}
		}
		if p.Currency = cmp.Or(code, behind); p.Currency == "" {
			continue
		}
		p.Text = strings.TrimSpace(s[begin:stop])
		list = append(list, p)
		i = stop - 1
	}
	return list
}

// rangeWords stand between the two amounts of a range.
var rangeWords = []string{"-", "–", "—", "to", "bis", "à", "a", "tot", "até", "till"}

// rangeTo reads the second amount of a range behind the first.
func rangeTo(s string, at int) (end int, amount float64, ok bool) {
	rest := strings.TrimLeft(s[at:], spaces)
	for _, w := range rangeWords {
		after, found := strings.CutPrefix(rest, w)
		if !found {
			continue
		}
		after = strings.TrimLeft(after, spaces)
		for _, c := range currencies {
			if number, signed := strings.CutPrefix(after, c.sign); signed {
				after = strings.TrimLeft(number, spaces)
				break
			}
		}
		if after == "" || !isDigit(after[0]) {
			return 0, 0, false
		}
		from := len(s) - len(after)
		n, end := numberAt(s, from)
		return end, n, true
	}
	return 0, 0, false
}

// spaces may stand between a number and its sign.
const spaces = " \u00a0\u202f"

// numberAt reads the number that begins at a byte, as any language writes it: groups of three digits between points, commas,
// apostrophes or spaces, and one or two decimals behind the last point or comma.
func numberAt(s string, from int) (value float64, end int) {
	digits := func(at int) int {
		n := at
		for n < len(s) && isDigit(s[n]) {
			n++
		}
		return n
	}
	end = digits(from)
	first := end - from
	whole, decimals := s[from:end], ""
	for end < len(s) {
		sign, width := utf8.DecodeRuneInString(s[end:])
		if !strings.ContainsRune(".,'’"+spaces, sign) {
			break
		}
		next := digits(end + width)
		n := next - end - width
		switch {
		case n == 3 && first <= 3 && decimals == "":
			whole += s[end+width : next]
		case (n == 1 || n == 2) && (sign == '.' || sign == ','):
			decimals = s[end+width : next]
		case n == 0 && (sign == '.' || sign == ','): // "89.–"
			if dash, width2 := utf8.DecodeRuneInString(s[end+width:]); strings.ContainsRune("-–—", dash) {
				end += width + width2
			}
			next = -1
		default:
			next = -1
		}
		if next < 0 {
			break
		}
		end = next
		if decimals != "" {
			break
		}
	}
	value, _ = strconv.ParseFloat(whole+"."+decimals+"0", 64) // digits
	return value, end
}

// signBefore is the code of the sign before a number, and where it begins; the number itself where there is none.
func signBefore(s string, at int) (begin int, code string) {
	before := strings.TrimRight(s[:at], spaces)
	for _, c := range currencies {
		if rest, ok := strings.CutSuffix(before, c.sign); ok && (!isLetter(c.sign[0]) || rest == "" || !isLetter(rest[len(rest)-1])) {
			return len(rest), c.code
		}
	}
	return at, ""
}

// signBehind is the code of the sign behind a number, and where it ends; the end of the number where there is none.
func signBehind(s string, at int) (end int, code string) {
	rest := strings.TrimLeft(s[at:], spaces)
	for _, c := range currencies {
		after, ok := strings.CutPrefix(rest, c.sign)
		if !ok || isLetter(c.sign[len(c.sign)-1]) && after != "" && (isLetter(after[0]) || isDigit(after[0])) || after != "" && isDigit(after[0]) {
			continue
		}
		return len(s) - len(after), c.code
	}
	return at, ""
}

func isDigit(b byte) bool  { return b >= '0' && b <= '9' }
func isLetter(b byte) bool { return b >= 'a' && b <= 'z' || b >= 'A' && b <= 'Z' }

// amountOf is the first number of a text, as structured data give a price: "55.00", "36,00 EUR".
func amountOf(s string) (float64, bool) {
	i := strings.IndexAny(s, "0123456789")
	if i < 0 {
		return 0, false
	}
	n, _ := numberAt(s, i)
	return n, true
}

// value is what a cell or a line gives for an attribute: a number with its unit, else a few words.
type value struct{ value, unit string }

var (
	quantity = regexp.MustCompile(`^(?:[~≈<>≤≥+±]|ca\.?|circa|about|approx\.?|etwa|up to|bis zu|environ|unos|circa|cirka)?\s*(\d[\d.,'’\x{00a0}\x{202f}]*(?: \d{3})*(?:\s?[-–—]\s?\d[\d.,]*)?)\s*(.*)$`)
	duration = regexp.MustCompile(`^(?i)(\d+)\s*(?:h|hr|hrs|hours?|std\.?|stunden?|heures?|horas?|ore|uur|timmar)\.?\s*(?:and|und|et|y|e|en|och)?\s*(\d{1,2})\s*(?:min\.?|mins|minutes?|minuten|minutos|minuti|minuter|m|')?$`)
)

// pounds reads a weight of pounds and ounces.
var pounds = regexp.MustCompile(`^(?i)(\d+)\s*(?:lbs?|pounds?)\.?,?\s*(\d{1,2}(?:\.\d+)?)\s*(?:oz|ounces?)\.?$`)

// ouncesOfPound are how many there are in one (International Yard and Pound Agreement, 1959). Source: the agreement.
const ouncesOfPound = 16

// ticks are the signs for yes and for no, as one of each.
var ticks = map[string]string{"✓": "✓", "✔": "✓", "✔️": "✓", "✅": "✓", "☑": "✓", "✗": "✗", "✘": "✗", "✖": "✗", "❌": "✗", "✕": "✗", "×": "✗"}

// longestUnit is how many words of a cell may follow its number and still be its unit. Our own.
const longestUnit = 2

// valueOf reads a cell or the end of a line; false where it says nothing.
func (f *finder) valueOf(s string) (value, bool) {
	s = strings.Trim(strings.TrimSpace(s), "*.;,")
	if sign := ticks[s]; sign != "" {
		return value{value: sign}, true
	}
	if !text.HasWord(s) || f.Language.IsLabel(language.LabelNone, s) && !f.isWord(s) {
		return value{}, false
	}
	if m := duration.FindStringSubmatch(s); m != nil {
		hours, _ := strconv.Atoi(m[1]) // digits, by the pattern
		minutes, _ := strconv.Atoi(m[2])
		return value{strconv.Itoa(60*hours + minutes), "min"}, true
	}
	if m := pounds.FindStringSubmatch(s); m != nil {
		whole, _ := strconv.Atoi(m[1]) // digits, by the pattern
		rest, _ := strconv.ParseFloat(m[2], 64)
		return value{strconv.FormatFloat(float64(ouncesOfPound*whole)+rest, 'f', -1, 64), "oz"}, true
	}
	if m := quantity.FindStringSubmatch(s); m != nil && text.CountWords(m[2]) <= longestUnit && !strings.ContainsAny(m[2], "0123456789") {
		return value{f.plain(m[1]), strings.Trim(m[2], " .,;()")}, true
	}
	return value{value: s}, true
}

// isWord tells "none" and the like, which say something of what a thing has not.
func (f *finder) isWord(s string) bool {
	folded := text.Fold(s)
	return len(folded) > 3 && f.Language.Rank(folded) > 0 && f.Language.Stop(folded)
}

// plain writes a number with a point for its decimals and nothing between its thousands.
func (f *finder) plain(s string) string {
	parts := strings.FieldsFunc(s, func(r rune) bool { return strings.ContainsRune("-–—", r) })
	for i, p := range parts {
		p = strings.TrimSpace(p)
		p = strings.NewReplacer(" ", "", "'", "", "’", "", "\u00a0", "", "\u202f", "").Replace(p)
		p = strings.TrimRight(p, ".,")
		decimals, thousands := ".", ","
		if !f.Language.PointOfDecimals {
			decimals, thousands = ",", "."
		}
		switch n := strings.Count(p, thousands); {
		case n == 1 && !strings.Contains(p, decimals) && len(p)-strings.Index(p, thousands) != 4:
			p = strings.Replace(p, thousands, ".", 1) // the other way of writing
		default:
			p = strings.ReplaceAll(strings.ReplaceAll(p, thousands, ""), decimals, ".")
		}
		parts[i] = p
	}
	return strings.Join(parts, "–")
}

// agree tells whether two values of one attribute are the same: numbers of one unit that hardly differ, else words.
func agree(a, b Attribute) bool {
	from, to, oneUnit, one := inBase(a)
	from2, to2, twoUnit, two := inBase(b)
	if !one || !two {
		return one != two || strings.EqualFold(a.Value, b.Value)
	}
	if oneUnit != twoUnit {
		return true // not to be compared
	}
	return from <= to2*(1+sameValue) && from2 <= to*(1+sameValue) || math.Abs(from-from2) <= sameValue*max(math.Abs(from), math.Abs(from2))
}

// inBase is a value as a range in its base unit.
func inBase(a Attribute) (from, to float64, unit string, ok bool) {
	low, high, isRange := strings.Cut(a.Value, "–")
	from, err := strconv.ParseFloat(low, 64)
	if err != nil {
		return 0, 0, "", false
	}
	to = from
	if isRange {
		if to, err = strconv.ParseFloat(high, 64); err != nil {
			return 0, 0, "", false
		}
	}
	folded := text.Fold(a.Unit)
	if b, known := measures()[folded]; known {
		return from * b.times, to * b.times, b.base, true
	}
	return from, to, folded, true
}

// Base is a number in its base unit, for comparing and drawing; false for what is none.
func (a Attribute) Base() (amount float64, unit string, ok bool) {
	from, to, unit, ok := inBase(a)
	return (from + to) / 2, unit, ok
}

// isQuantity tells a value with a number.
func (v value) isQuantity() bool { return v.value != "" && isDigit(v.value[0]) }
