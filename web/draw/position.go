package draw

import (
	"fmt"
	"html/template"
	"strconv"
	"strings"
)

const (
	positionStep   = 18
	positionHeight = 22
	positionPad    = 4
	maxPositions   = 26 // the newest; half a year of weeks
)

// PositionLine draws where a page stood over gatherings, the oldest first: the first place is
// at the top, and where it did not rank the line breaks. places are 0 for none.
func PositionLine(places []int, label string) template.HTML {
	if len(places) > maxPositions {
		places = places[len(places)-maxPositions:]
	}
	worst := 10
	for _, p := range places {
		worst = max(worst, p)
	}
	at := func(i int) (x int, y float64) {
		return positionPad + i*positionStep, positionPad + float64(positionHeight-2*positionPad)*float64(max(places[i], 1)-1)/float64(worst-1)
	}
	var line, dots strings.Builder
	pen := false
	for i, p := range places {
		if p == 0 {
			pen = false
			x := positionPad + i*positionStep
			fmt.Fprintf(&dots, `<path class="none" d="M%d %dh5"/>`, x-2, positionHeight-2)
			continue
		}
		x, y := at(i)
		verb := "L"
		if !pen {
			verb, pen = "M", true
		}
		fmt.Fprintf(&line, "%s%d %s", verb, x, strconv.FormatFloat(y, 'f', 1, 64))
		fmt.Fprintf(&dots, `<circle cx="%d" cy="%s" r="2"/>`, x, strconv.FormatFloat(y, 'f', 1, 64))
	}
	width := 2*positionPad + max(len(places)-1, 0)*positionStep
	return template.HTML(fmt.Sprintf(`<svg class="position" role="img" aria-label="%s" width="%d" height="%d" viewBox="0 0 %d %d"><path d="%s"/>%s</svg>`,
		template.HTMLEscapeString(label), width, positionHeight, width, positionHeight, line.String(), dots.String()))
}
