package listed

import (
	"cmp"
	"math"
	"regexp"
	"strconv"
	"strings"
	"sync"

	"corpulan/core/language"
	"corpulan/core/text"
)

// currencies are signs and names of money with their codes of ISO 4217, the longer before what they hold. "kr" is the
// krone of the language. Signs from Unicode's CLDR.
var currencies = []struct{ sign, code string }{{"US$", "USD"}, {"$US", "USD"}, {"A$", "AUD"}, {"C$", "CAD"}, {"CA$", "CAD"}, {"AU$", "AUD"}, {"NZ$", "NZD"}, {"R$", "BRL"}, {"JP¥", "JPY"}, {"CN¥", "CNY"},
	{"£GB", "GBP"}, {"UK£", "GBP"}, {"£", "GBP"}, {"€", "EUR"}, {"$", "USD"}, {"¥", "JPY"}, {"₹", "INR"}, {"zł", "PLN"}, {"Kč", "CZK"}, {"CHF", "CHF"}, {"Fr.", "CHF"}, {"EUR", "EUR"}, {"GBP", "GBP"}, {"USD", "USD"},
	{"SEK", "SEK"}, {"NOK", "NOK"}, {"DKK", "DKK"}, {"PLN", "PLN"}, {"JPY", "JPY"}, {"CAD", "CAD"}, {"AUD", "AUD"}, {"BRL", "BRL"}, {"MXN", "MXN"}, {"CNY", "CNY"}, {"INR", "INR"},
	{"euros", "EUR"}, {"euro", "EUR"}, {"Euro", "EUR"}, {"dollars", "USD"}, {"dollar", "USD"}, {"Dollar", "USD"}, {"dólares", "USD"}, {"reais", "BRL"}, {"kronor", "SEK"}, {"kr", "SEK"}}

const digitsOfMoney = `\d{1,3}(?:[.,'’ \x{00a0}\x{202f}]\d{3})+(?:[.,](?:\d{2}|-|–|—))?|\d+(?:[.,](?:\d{1,2}|-|–|—))?`

var moneyPattern = sync.OnceValue(func() *regexp.Regexp {
	var signs []string
	for _, c := range currencies {
		sign := regexp.QuoteMeta(c.sign)
		if c.sign[len(c.sign)-1] >= 'a' && c.sign[len(c.sign)-1] <= 'z' || c.sign[len(c.sign)-1] >= 'A' && c.sign[len(c.sign)-1] <= 'Z' {
			sign += `\b`
		}
		signs = append(signs, sign)
	}
	sign, number, space := `(?:`+strings.Join(signs, "|")+`)`, `(?:`+digitsOfMoney+`)`, `[ \x{00a0}\x{202f}]?`
	to := space + `(?:-|–|—|to|bis|a|à|tot|até|till)` + space
	return regexp.MustCompile(`(` + sign + `)` + space + `(` + number + `)(?:` + to + `(?:` + sign + space + `)?(` + number + `))?|` +
		`(` + number + `)(?:` + space + sign + `)??(?:` + to + `(` + number + `))?` + space + `(` + sign + `)`)
})

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

// amounts are the amounts of money of a text, in their order.
func (f *finder) amounts(s string) (list []Price) {
	if !strings.ContainsAny(s, "0123456789") {
		return nil
	}
	for _, m := range moneyPattern().FindAllStringSubmatchIndex(s, -1) {
		part := func(n int) string {
			if m[2*n] < 0 {
				return ""
			}
			return s[m[2*n]:m[2*n+1]]
		}
		if m[0] > 0 && (isDigit(s[m[0]-1]) || isLetter(s[m[0]-1])) {
			continue
		}
		from, ok := amountOf(cmp.Or(part(2), part(4)))
		if !ok {
			continue
		}
		p := Price{Amount: from, Currency: currencyOf(cmp.Or(part(1), part(6))), Text: strings.TrimSpace(s[m[0]:m[1]])}
		if to, ok := amountOf(cmp.Or(part(3), part(5))); ok && to > from {
			p.To = to
		}
		list = append(list, p)
	}
	return list
}

func isDigit(b byte) bool  { return b >= '0' && b <= '9' }
func isLetter(b byte) bool { return b >= 'a' && b <= 'z' || b >= 'A' && b <= 'Z' }

func currencyOf(sign string) string {
	for _, c := range currencies {
		if c.sign == sign {
			return c.code
		}
	}
	return ""
}

// amountOf is the value of an amount as any language writes it: the last sign before one or two digits at the end
// divides decimals, others thousands; "89.–" has none.
func amountOf(s string) (float64, bool) {
	s = strings.TrimRight(s, "-–—")
	s = strings.TrimRight(s, ".,")
	i := strings.LastIndexAny(s, ".,")
	if i >= 0 && len(s)-i-1 <= 2 {
		s = onlyDigits(s[:i]) + "." + s[i+1:]
	} else {
		s = onlyDigits(s)
	}
	n, err := strconv.ParseFloat(s, 64)
	return n, err == nil && s != ""
}

func onlyDigits(s string) string {
	return strings.Map(func(r rune) rune {
		if r < '0' || r > '9' {
			return -1
		}
		return r
	}, s)
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

// bases are units by what they are of: the base unit and how many of it they are (SI; the pound and the ounce by the
// International Yard and Pound Agreement of 1959).
var bases = map[string]struct {
	unit  string
	times float64
}{"g": {"g", 1}, "gram": {"g", 1}, "grams": {"g", 1}, "gramm": {"g", 1}, "kg": {"g", 1000}, "kilo": {"g", 1000}, "kilos": {"g", 1000}, "lb": {"g", 453.59237}, "lbs": {"g", 453.59237}, "oz": {"g", 28.349523125},
	"mm": {"mm", 1}, "cm": {"mm", 10}, "m": {"mm", 1000}, "in": {"mm", 25.4}, "inch": {"mm", 25.4}, "inches": {"mm", 25.4}, "zoll": {"mm", 25.4}, "km": {"mm", 1e6},
	"min": {"min", 1}, "minutes": {"min", 1}, "minuten": {"min", 1}, "minutos": {"min", 1}, "h": {"min", 60}, "hour": {"min", 60}, "hours": {"min", 60}, "hrs": {"min", 60}, "std": {"min", 60}, "stunden": {"min", 60}, "heures": {"min", 60}, "horas": {"min", 60}, "ore": {"min", 60}, "uur": {"min", 60}, "timmar": {"min", 60},
	"ml": {"ml", 1}, "cl": {"ml", 10}, "l": {"ml", 1000}, "litre": {"ml", 1000}, "litres": {"ml", 1000}, "liter": {"ml", 1000}, "lm": {"lumen", 1}, "lumen": {"lumen", 1}, "lumens": {"lumen", 1},
	"w": {"w", 1}, "watt": {"w", 1}, "watts": {"w", 1}, "kw": {"w", 1000}, "mah": {"mah", 1}, "wh": {"wh", 1}, "gb": {"gb", 1}, "tb": {"gb", 1000}}

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
	if b, known := bases[folded]; known {
		return from * b.times, to * b.times, b.unit, true
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
