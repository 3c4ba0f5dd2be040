package brief

import (
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
)

// measure is a unit that some markets do not use, and what they use instead.
type measure struct {
	said    *regexp.Regexp // the unit, behind its number
	unit    string         // instead
	has     *regexp.Regexp // a text with that unit: it says both
	factor  float64
	less    float64  // taken off before: degrees
	foreign []string // countries that do not use it; nil for all but those that measure so
}

// The units that a figure is given in again. The factors are exact by the international yard and pound
// (1959) and the US gallon of 231 cubic inches; which countries measure how is from memory of the CLDR's
// measurementData: the United States, Liberia and Myanmar by customary units, Britain by miles, pounds
// and inches beside degrees Celsius. What can be two things is left alone: pounds are money as well, ounces
// volume, and a gallon on a British page is another one.
var (
	customary = []string{"us", "lr", "mm"}
	british   = []string{"gb"}
	measures  = []measure{
		{behind(`°\s?F|degrees Fahrenheit|degrés Fahrenheit|Grad Fahrenheit|grados Fahrenheit`), "°C", behind(`°C`), 5.0 / 9, 32, nil},
		{behind(`lbs?`), "kg", behind(`kg`), 0.45359237, 0, british},
		{behind(`inch(?:es)?|″`), "cm", behind(`cm`), 2.54, 0, british},
		{behind(`feet|foot|ft`), "m", behind(`m`), 0.3048, 0, british},
		{behind(`miles?`), "km", behind(`km`), 1.609344, 0, british},
		{behind(`mph`), "km/h", behind(`km/h`), 1.609344, 0, british},
	}
	metric = []measure{
		{behind(`°\s?C|degrees Celsius`), "°F", behind(`°F`), 9.0 / 5, -160.0 / 9, nil},
		{behind(`kilometres?|kilometers?|km`), "miles", behind(`miles`), 1 / 1.609344, 0, nil},
		{behind(`km/h`), "mph", behind(`mph`), 1 / 1.609344, 0, nil},
		{behind(`cm|centimetres?|centimeters?`), "inches", behind(`inches`), 1 / 2.54, 0, nil},
		{behind(`kg|kilograms?|kilos?`), "lb", behind(`lb`), 1 / 0.45359237, 0, nil},
		{behind(`litres?|liters?`), "gallons", behind(`gallons`), 1 / 3.785411784, 0, nil},
	}
)

// behind finds a number, or a range of two, before a unit.
func behind(units string) *regexp.Regexp {
	return regexp.MustCompile(`([-−]?)(\d[\d.,]*)(?:\s?(?:[-–]|to|bis|à|a)\s?[-−]?(\d[\d.,]*))?[\s\x{a0}-]?(?:` + units + `)(?:[^\pL/]|$)`)
}

// InUnits gives the figures of a text in units that the brief's market measures in, where the text has
// others and those nowhere.
func (b Brief) InUnits(text string) (list []string) {
	all, country := measures, strings.ToLower(b.Front.Country)
	if slices.Contains(customary, country) {
		all = metric
	} else if country == "" {
		return nil
	}
	for _, m := range all {
		if m.has.MatchString(text) || m.foreign != nil && slices.Contains(m.foreign, country) {
			continue
		}
		for _, found := range m.said.FindAllStringSubmatch(text, -1) {
			if said, ok := m.again(found, b); ok && !slices.Contains(list, said) {
				list = append(list, said)
			}
		}
	}
	return list
}

// again is a figure in the other unit: two digits of it, and degrees whole.
func (m measure) again(found []string, b Brief) (string, bool) {
	var ends []string
	for _, digits := range found[2:] {
		if digits == "" {
			continue
		}
		lang := langOf(&b)
		if digits = strings.TrimRight(digits, ".,"); lang.PointOfDecimals {
			digits = strings.ReplaceAll(digits, ",", "")
		} else {
			digits = strings.ReplaceAll(strings.ReplaceAll(digits, ".", ""), ",", ".")
		}
		n, err := strconv.ParseFloat(digits, 64)
		if err != nil {
			return "", false
		}
		if found[1] != "" {
			n = -n
		}
		said := rounded((n-m.less)*m.factor, m.less != 0)
		if !lang.PointOfDecimals {
			said = strings.ReplaceAll(said, ".", ",")
		}
		ends = append(ends, strings.Replace(said, "-", "−", 1))
	}
	return strings.Join(ends, "–") + " " + m.unit, true
}

func rounded(n float64, whole bool) string {
	if whole || math.Abs(n) >= 10 {
		return strconv.FormatFloat(math.Round(n)+0, 'f', -1, 64)
	}
	return strconv.FormatFloat(n, 'g', 2, 64)
}
