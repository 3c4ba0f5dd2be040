// Package draw sets figures and draws what stands beside them, as SVG and without a
// page around it:
//
//   - numbers.go       numbers as people write them
//   - marks.go         presence rows, range marks, ranks in short
//   - ribbons.go       pages as bands of their sections: what is drawn
//   - ribbonsvg.go     and how; ribbontext.go fits their names
//   - map.go           groups of keywords by difficulty and volume; a slate's links
//   - letterwidths.go  how wide a text is
package draw

import (
	"strings"

	"golang.org/x/text/language"
	"golang.org/x/text/message"
	"golang.org/x/text/number"
)

// Thousands sets a number in groups of three: 12,480.
func Thousands(n int) string {
	return message.NewPrinter(language.English).Sprint(number.Decimal(n))
}

// Counted is a number with its noun: "1 image", "3 images".
func Counted(n int, noun string) string {
	if n == 1 {
		return "1 " + noun
	}
	if stem, ok := strings.CutSuffix(noun, "ry"); ok {
		return Thousands(n) + " " + stem + "ries"
	}
	return Thousands(n) + " " + noun + "s"
}
