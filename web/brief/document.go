package brief

import (
	"fmt"
	"slices"

	"corpulan/core/brief"
	"corpulan/render"
	"corpulan/web/kit"
	"corpulan/web/parts"
)

// document is a study as its brief shows it.
type document struct{ *kit.Analysis }

// Field is a field of the brief as it now is.
func (an document) Field(name string) parts.FieldView { return parts.FieldOf(an.Analysis, name) }

// OpeningGroups are the openings of the study, by their kinds.
func (an document) OpeningGroups(filter string) []parts.OpeningGroup {
	return parts.OpeningGroups(an.Analysis, filter)
}

// Parts is the document, the same blocks as in every format, by its parts; the
// first has what stands before them.
func (an document) Parts() []briefPart {
	parts := []briefPart{{}}
	for _, b := range render.Document(an.Brief.Saying(an.In)) {
		if b.Form == render.PartForm {
			i := slices.IndexFunc(an.Brief.Parts, func(p brief.Part) bool { return p.Name == b.Name })
			parts = append(parts, briefPart{Block: b, Part: an.Brief.Parts[i]})
			continue
		}
		last := &parts[len(parts)-1]
		last.Body = append(last.Body, b)
	}
	return parts
}

// Hidden are the parts that are not shown.
func (an document) Hidden() []brief.Part {
	return slices.DeleteFunc(slices.Clone(an.Brief.Parts), func(p brief.Part) bool { return !p.Hidden })
}

// KindKey is the key of the brief's template.
func (an document) KindKey() string {
	if t := an.Choices.TypedIn(brief.FieldKind); t != nil {
		return *t
	}
	return ""
}

// Templates are those of the program, and of the publication.
func (an document) Templates() []brief.Template {
	return slices.Concat(brief.Templates(), an.Setting.Templates)
}

// PageLink is where the captured text of a rank's page can be read.
func (an document) PageLink(rank int) string {
	for _, r := range an.Results {
		if r.Rank == rank {
			return fmt.Sprintf("/studies/%d/pages/%d", an.Study.ID, r.ID)
		}
	}
	return fmt.Sprintf("/studies/%d/field", an.Study.ID)
}

// briefPart is a part of the document with its heading.
type briefPart struct {
	render.Block
	Body []render.Block
	Part brief.Part
}
