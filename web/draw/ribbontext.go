package draw

import (
	"strings"

	"corpulan/core/reading"
)

func (c Chart) sectionName(s reading.Section) string {
	if s.Heading == "" {
		return c.Words.Look("Opening")
	}
	return s.Heading
}

// hostLines is a host's name in one line, or in two where it does not fit one:
// broken at a dot, or at a hyphen.
func hostLines(host string, width float64) []string {
	if textWidth(host) <= width {
		return []string{host}
	}
	at := 0
	for i, r := range host {
		if (r == '.' || r == '-') && i > 0 && textWidth(host[:i]) <= width {
			at = i
		}
	}
	if at == 0 { // a long first part: its letters go on below
		for i := range host {
			if i > 0 && textWidth(host[:i]) > width {
				break
			}
			at = i
		}
	}
	return []string{host[:at], clip(host[at:], width)}
}

// clip shortens a text to a width in pixels of small type, never in mid-letter.
func clip(s string, width float64) string {
	if textWidth(s) <= width {
		return s
	}
	const dots = "…"
	room := width - textWidth(dots)
	for i, r := range s {
		if room -= letterWidth(r); room < 0 {
			if cut := strings.TrimRight(s[:i], " "); cut != "" {
				return cut + dots
			}
			return ""
		}
	}
	return s
}

// textWidth is the width of a text in pixels of small type.
func textWidth(s string) float64 {
	w := 0.0
	for _, r := range s {
		w += letterWidth(r)
	}
	return w
}

// wrap breaks a text into at most so many lines of a width in pixels; the first
// is shorter where a letter stands beside it. What is too long ends in dots.
func wrap(s string, width float64, letter bool, most int) []string {
	var lines []string
	words := strings.Fields(s)
	for len(words) > 0 && len(lines) < most {
		room := width
		if letter && len(lines) == 0 {
			room -= 10
		}
		if len(lines) == most-1 { // the last takes as much of the rest as it can
			return append(lines, clip(strings.Join(words, " "), room))
		}
		n := 1
		for n < len(words) && textWidth(strings.Join(words[:n+1], " ")) <= room {
			n++
		}
		lines = append(lines, clip(strings.Join(words[:n], " "), room))
		words = words[n:]
	}
	return lines
}
