package brief

import (
	"slices"

	"corpulan/core/evidence"
)

// Kind is what sort of finding a mark is about.
type Kind = evidence.Kind

// The kinds of finding that can be adopted or dropped; core/evidence/kinds.go has all of each.
const (
	TermKind     = evidence.TermKind
	EntityKind   = evidence.EntityKind
	QuestionKind = evidence.QuestionKind
	ThemeKind    = evidence.ThemeKind
	PointKind    = evidence.PointKind
	FactKind     = evidence.FactKind
	LinkKind     = evidence.LinkKind
	ThingKind    = evidence.ThingKind
)

// Kinds lists them all.
func Kinds() []Kind { return evidence.Kinds() }

// State is what a person decided about a finding. Without a decision the
// proposal stands.
type State string

// The two decisions.
const (
	Adopted State = "adopted"
	Dropped State = "dropped"
)

// Mark is a person's decision about one finding. It keeps the finding's words,
// so that it can be shown even when no kept page has it any more.
type Mark struct {
	Kind  Kind   `json:"kind"`
	Key   string `json:"key"`
	Text  string `json:"text"`
	State State  `json:"state"`
}

// OwnPrefix begins the key of a term, a section or a question that a person added by hand;
// the key of its words follows, which the field need not have.
const OwnPrefix = "own:"

// Choices are all that a person decided and typed for one brief. Where something is absent the
// proposal stands; places.go has the names by which edits and forms call each of it.
type Choices struct {
	Marks []Mark            `json:"marks"`
	Typed map[string]string `json:"typed"` // into the fields of the document, by their names

	Outline  Lines                `json:"outline"`            // by hand; null while it follows the evidence
	Sections map[string]SectionBy `json:"sections,omitempty"` // by their keys
	Points   map[string]string    `json:"points,omitempty"`   // wordings, by the points' keys
	Facts    map[string]*FactFrom `json:"facts,omitempty"`    // where adopted facts are from, by the facts' keys
	Under    Under                `json:"under,omitzero"`

	Picks      map[string]string `json:"picks,omitempty"` // verdicts on listed things, by their keys
	PicksOrder []string          `json:"picks_order"`     // keys of listed things, in the order chosen

	Parts    []PartLine        `json:"parts"` // of the document, in their order; null for the usual ones
	OwnParts map[string]PartBy `json:"own_parts,omitempty"`

	Cuttings      map[string]Cut `json:"cuttings,omitempty"`
	CuttingsOrder []string       `json:"cutting_order"` // their numbers; null where nothing was ever cut

	Stands *Basis `json:"basis,omitempty"` // what the brief stands on; nil while it follows the evidence

	// Made is what findings that something is decided or noted about were made of
	// then, by place; see identity.go.
	Made map[string][]string `json:"made,omitempty"`

	basis *Basis                     // while a brief is composed: what it stands on
	today map[Kind]map[string]string // the same: findings of today, by the keys that something is kept under
	joint map[string]string          // the same: themes of sections by hand whose theme is that of another by now, by key
}

// SectionBy is what a person says of a section of the outline.
type SectionBy struct {
	Heading *string `json:"heading,omitempty"`
	Note    *string `json:"note,omitempty"`
	Words   *string `json:"words,omitempty"` // as they were typed: "1,200"
	Stood   *Stood  `json:"stood,omitempty"` // as it was when the outline became the person's

	// Brought is the note with which the kind of page brought the section; nil where a person or
	// the field did.
	Brought *string `json:"brought,omitempty"`
}

// FactFrom is where a fact stood when it was adopted: it keeps its source when that page counts no more.
type FactFrom struct {
	URL     string   `json:"url"` // of the page
	Title   string   `json:"title"`
	Date    string   `json:"date,omitempty"` // of the page, YYYY-MM-DD
	Figures []string `json:"figures"`
}

// Under are the sections that a person put questions and terms under: their keys, by those of the
// findings.
type Under struct {
	Questions map[string]string `json:"questions,omitempty"`
	Terms     map[string]string `json:"terms,omitempty"`
}

// PartLine is a part of the document in the order that a person gave them.
type PartLine struct {
	Name   string `json:"name"`
	Hidden bool   `json:"hidden,omitempty"`
}

// PartBy is a part of a person's own.
type PartBy struct {
	Title *string `json:"title,omitempty"`
	Text  *string `json:"text,omitempty"`
}

// Cut is a cutting with what a person says of it.
type Cut struct {
	Cutting *Cutting `json:"cutting,omitempty"`
	Note    *string  `json:"note,omitempty"`
	Section *string  `json:"section,omitempty"` // key of the section it stands under
}

// Set records a decision, replacing an earlier one about the same finding.
func (c *Choices) Set(m Mark) {
	if i := slices.IndexFunc(c.Marks, func(o Mark) bool { return o.Kind == m.Kind && o.Key == m.Key }); i >= 0 {
		c.Marks[i] = m
		return
	}
	c.Marks = append(c.Marks, m)
}

// Clear takes a decision back.
func (c *Choices) Clear(k Kind, key string) {
	if c.Marks = slices.DeleteFunc(c.Marks, func(m Mark) bool { return m.Kind == k && m.Key == key }); len(c.Marks) == 0 {
		c.Marks = nil // as where nothing was ever decided
	}
}

// State is the decision about a finding, empty for none.
func (c Choices) State(k Kind, key string) State {
	for _, m := range c.Marks {
		if m.Kind == k && m.Key == key {
			return m.State
		}
	}
	return ""
}
