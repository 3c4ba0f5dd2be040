package brief

import (
	"slices"
	"strings"
)

// Part is a part of the document.
type Part struct {
	Name   string `json:"name"`
	Title  string `json:"title"`
	Text   string `json:"text,omitempty"` // of a person's own
	Own    bool   `json:"own,omitempty"`
	Hidden bool   `json:"hidden,omitempty"`
}

// The parts that a brief has, by their names.
const (
	PartOutline     = "outline"
	PartComparison  = "comparison"
	PartTerms       = "terms"
	PartEntities    = "entities"
	PartQuestions   = "questions"
	PartShortAnswer = FieldShortAnswer
	PartOpenings    = "openings"
	PartOutward     = "links_out"
	PartInward      = "links_in"
	PartMedia       = FieldMedia
	PartSummary     = FieldSummary
	PartData        = FieldStructuredData
	PartFacts       = "facts"
	PartCuttings    = "cuttings"
	PartNotes       = FieldNotes
	PartSources     = "sources"
)

// UsualParts are the parts in their usual order.
func UsualParts() []Part {
	return []Part{{Name: PartOutline, Title: "Outline"}, {Name: PartComparison, Title: "Comparison"}, {Name: PartTerms, Title: "Terms"}, {Name: PartEntities, Title: "Entities"},
		{Name: PartQuestions, Title: "Questions"}, {Name: PartShortAnswer, Title: "Short answer"}, {Name: PartOpenings, Title: "Openings"},
		{Name: PartOutward, Title: "Links out"}, {Name: PartInward, Title: "Links within the site"}, {Name: PartMedia, Title: "Images, tables, media"}, {Name: PartSummary, Title: "Summary"},
		{Name: PartData, Title: "Structured data"}, {Name: PartFacts, Title: "Facts to check"}, {Name: PartCuttings, Title: "Cuttings"}, {Name: PartNotes, Title: "Notes"}, {Name: PartSources, Title: "Pages this was made from"}}
}

// parts are the parts as a person, or else the template, has them.
func parts(c Choices, byTemplate string) []Part {
	usual := UsualParts()
	order := c.Parts
	if order == nil {
		order = partLines(byTemplate)
	}
	list := []Part{}
	has := func(name string) bool {
		return slices.ContainsFunc(list, func(p Part) bool { return p.Name == name })
	}
	for _, line := range order {
		name, hidden := line.Name, line.Hidden
		if number, own := strings.CutPrefix(name, OwnPrefix); own {
			if own := c.OwnParts[number]; own.Title != nil {
				list = append(list, Part{Name: name, Title: *own.Title, Text: textOf(own.Text), Own: true, Hidden: hidden})
			}
			continue
		}
		if i := slices.IndexFunc(usual, func(p Part) bool { return p.Name == name }); i >= 0 {
			p := usual[i]
			p.Hidden = hidden
			list = append(list, p)
		}
	}
	// The others behind the one they usually follow.
	for i, p := range usual {
		if has(p.Name) {
			continue
		}
		at := 0
		if i > 0 {
			at = 1 + slices.IndexFunc(list, func(q Part) bool { return q.Name == usual[i-1].Name })
		}
		list = slices.Insert(list, at, p)
	}
	return list
}
