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

// Parts is the brief itself, the same blocks as in every format, by its parts, the first with what stands before them; and the
// dossier behind it.
func (an document) Parts() layers {
	itself, dossier := render.Place(an.Brief.Saying(an.In))
	l := layers{Itself: an.inParts(itself), Dossier: an.inParts(dossier), Most: an.Brief.MaxWords(), In: map[string]bool{}}
	for _, k := range render.Short(an.Brief) {
		l.Words += render.CountWords(k)
		for _, r := range slices.Concat(k.Rows, k.Points, k.Questions) {
			l.In[r.Line()] = true
		}
	}
	return l
}

// DossierFields are the names of the fields that stand in the dossier alone.
func (an document) DossierFields() (names []string) {
	itself, dossier := render.Place(an.Brief.Saying(an.In))
	in := map[string]bool{}
	for _, k := range itself {
		in[k.Field] = true
	}
	for _, k := range dossier {
		if k.Form == render.TypedForm && !in[k.Field] {
			names = append(names, k.Field)
		}
	}
	return names
}

// layers are the brief itself and the dossier.
type layers struct {
	Itself, Dossier []briefPart
	Words, Most     int             // of the brief itself, and how many it may have
	In              map[string]bool // lines of the brief itself, as Row.Line names them
}

// Filled and Empty are the fields among a part's blocks that say something, and the others.
func (p briefPart) Filled() []render.Block {
	return p.fields(func(k render.Block) bool { return k.Text != "" && !k.House })
}

// House are those that say what the publication says in every brief.
func (p briefPart) House() []render.Block {
	return p.fields(func(k render.Block) bool { return k.Text != "" && k.House })
}

// Empty is described at Filled.
func (p briefPart) Empty() []render.Block {
	return p.fields(func(k render.Block) bool { return k.Text == "" })
}

func (p briefPart) fields(are func(render.Block) bool) (list []render.Block) {
	for _, k := range p.Body {
		if k.Form == render.TypedForm && are(k) {
			list = append(list, k)
		}
	}
	return list
}

func (an document) inParts(blocks []render.Block) []briefPart {
	var parts []briefPart
	for _, p := range render.InParts(blocks) {
		x := briefPart{Part: p}
		if i := slices.IndexFunc(an.Brief.Parts, func(of brief.Part) bool { return of.Name == p.Name }); i >= 0 {
			x.Of = an.Brief.Parts[i]
		}
		parts = append(parts, x)
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
	render.Part
	Of brief.Part
}
