// Package render writes a brief in the formats a person hands over.
package render

import (
	"fmt"
	"io"
	"strconv"
	"strings"

	"corpulan/core/brief"
)

// Format is a form a brief can be written in.
type Format struct {
	Name      string // as on the command line
	Extension string
	MediaType string
	About     string
	Write     func(io.Writer, brief.Brief) error
}

// Formats lists what a brief can be written as.
func Formats() []Format {
	return []Format{
		{"md", "md", "text/markdown; charset=utf-8", "Markdown", Markdown},
		{"html", "html", "text/html; charset=utf-8", "HTML, one file, made to print", HTML},
		{"json", "json", "application/json", "JSON, the whole document", JSON},
	}
}

// FormatNamed finds a format by its name.
func FormatNamed(name string) (Format, bool) {
	for _, f := range Formats() {
		if f.Name == name {
			return f, true
		}
	}
	return Format{}, false
}

// Ranks names pages by their ranks: "1, 3, 4".
func Ranks(ranks []int) string {
	s := make([]string, len(ranks))
	for i, r := range ranks {
		s[i] = strconv.Itoa(r)
	}
	return strings.Join(s, ", ")
}

// Times says how often a term is wanted: "2 to 5 times".
func Times(lower, upper int) string {
	switch {
	case upper <= 1:
		return "once"
	case lower == upper:
		return fmt.Sprintf("%d times", lower)
	}
	return fmt.Sprintf("%d to %d times", lower, upper)
}

// Pages says what a count of pages means in its field: "7 of 10 pages".
func Pages(n, of int) string { return fmt.Sprintf("%d of %d pages", n, of) }

// written lists what a person wrote by hand, empty fields left out.
func written(f brief.Fields) []struct{ Title, Text string } {
	all := []struct{ Title, Text string }{{"Goal", f.Goal}, {"Audience", f.Audience}, {"Voice", f.Voice},
		{"Point of view", f.PointOfView}, {"What not to say", f.Avoid}, {"Notes", f.Notes}}
	some := all[:0]
	for _, w := range all {
		if strings.TrimSpace(w.Text) != "" {
			some = append(some, w)
		}
	}
	return some
}
