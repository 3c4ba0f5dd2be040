package render

import (
	"fmt"
	"slices"
	"strings"

	"corpulan/core/brief"
	"corpulan/core/evidence"
	"corpulan/core/message"
)

// Form is what sort of block it is, and so how it is set.
type Form string

// The forms of blocks.
const (
	TitleForm   Form = "title"
	FactsForm   Form = "facts"   // rows of a label and what it says
	TypedForm   Form = "typed"   // what a person wrote into a field; may be empty
	PartForm    Form = "part"    // the heading of a part of the document
	RemarkForm  Form = "remark"  // a line about what follows
	SectionForm Form = "section" // of the outline
	ListForm    Form = "list"
	TableForm   Form = "table"
	RunForm     Form = "run"     // rows one after the other, in a line
	DossierForm Form = "dossier" // the title of the dossier
)

// Block is one block of the document. Which of its fields are set depends on its
// form; a block that stands for a finding says which.
type Block struct {
	Form  Form
	Text  string // title, heading, remark or typed text
	Field string // the name of what is typed here
	Label string // what the field is called

	Level     int // of a section, as its heading is set
	Words     int
	WordsSet  bool   // by a person
	Note      string // typed, of a section
	Questions []Row  // of a section: to answer
	Terms     []string
	Best      []int           // ranks of the pages that treat a section best
	Points    []Row           // of a section: what to say
	Show      string          // of a section: the form in which to show it
	ShownBy   []int           // ranks of the pages that do
	Also      []Row           // of a section: matters to be treated in it in passing
	Rest      []Row           // of a section of the brief itself: what else the dossier has to say and to answer there
	Short     bool            // of a section of the brief itself: no ranks in files
	Folded    bool            // of a section: it has no heading of its own
	Cuttings  []brief.Cutting // of a section
	Why       string          // what a text that nobody typed comes from
	House     bool            // of a text: it is what the publication says in every brief

	Name    string   // of a part, a list or a table
	Columns []Column // of a table
	Rows    []Row
	in      brief.Speech // of a section
	Empty   string       // said where a list or table has no rows; the part is left out where it is empty too
	Finding
}

// Finding is what in the evidence a block or a row came from.
type Finding struct {
	Kind  brief.Kind
	Key   string
	Pages int
	Ranks []int
	Gone  bool // on no kept page any more
}

// Column is a column of a table.
type Column struct {
	Name    string
	Figures bool
	Small   bool
}

// Row is a row of facts, a list or a table.
type Row struct {
	Label string // of a fact
	Field string // the name of what is typed into it
	Group string // rows of one group follow one another
	Cells []Cell // one for each column; a list and facts have one
	Finding
}

// Cell is a text with what is said beside it. Short is what to say where the
// ranks stand in the margin: in the place of the note, or of a figure in words.
type Cell struct{ Text, Note, Short, URL string }

// Line names what a row stands for, by its kind and key.
func (r Row) Line() string { return string(r.Kind) + " " + r.Key }

// First is what the row is about.
func (r Row) First() Cell { return r.Cells[0] }

// Document is the brief as blocks in the order they are read: the one walk over a
// brief that all formats and the place Brief are made by.
func Document(b brief.Brief) []Block {
	blocks := []Block{{Form: TitleForm, in: b.In(), Text: b.Keyword}, front(b), onResults(b)}
	for _, name := range brief.FieldsOfHead() {
		blocks = append(blocks, typed(b, name, brief.FieldLabel(name)))
	}
	parts := b.Parts
	if len(parts) == 0 {
		parts = brief.UsualParts()
	}
	for _, p := range parts {
		if !p.Hidden {
			blocks = append(blocks, part(b, p)...)
		}
	}
	return blocks
}

func typed(b brief.Brief, field string, label message.Message) Block {
	return Block{Form: TypedForm, Field: field, Label: b.In().Say(label), Text: b.Field(field), House: slices.Contains(b.House, field), Why: b.In().Say(b.Why[field])}
}

// part is a part of the document with its heading.
func part(b brief.Brief, p brief.Part) []Block {
	head := Block{Form: PartForm, Text: p.Title, Name: p.Name}
	if !p.Own { // else a person called it so
		head.Text = b.In().Look(p.Title)
	}
	switch p.Name {
	case brief.PartOutline:
		if len(b.Outline) == 0 {
			head.Empty = b.In().Put("No theme is shared widely enough to be proposed.")
			return []Block{head}
		}
		return append([]Block{head}, outlined(b)...)
	case brief.PartOutward:
		return withRows(head, linksOut(b))
	case brief.PartInward:
		return withRows(head, rivals(b), linksTo(b), linksFrom(b))
	case brief.PartComparison:
		return withRows(head, compared(b))
	case brief.PartTerms:
		return withRows(head, terms(b))
	case brief.PartEntities:
		return withRows(head, entities(b))
	case brief.PartQuestions:
		return withRows(head, questions(b))
	case brief.PartOpenings:
		return withRows(head, openings(b))
	case brief.PartFacts:
		return withRows(head, toCheck(b))
	case brief.PartCuttings:
		return withRows(head, cuttings(b))
	case brief.PartSources:
		return withRows(head, sources(b))
	}
	if p.Own {
		return []Block{head, {Form: TypedForm, Field: brief.PartPrefix + strings.TrimPrefix(p.Name, brief.OwnPrefix), Text: p.Text}}
	}
	if slices.Contains(brief.FieldNames(), p.Name) {
		return []Block{head, typed(b, p.Name, "")}
	}
	return nil
}

// withRows is a heading and the lists below it that have rows; where none has, what is said
// instead.
func withRows(head Block, lists ...Block) []Block {
	out := []Block{head}
	for _, l := range lists {
		if len(l.Rows) == 0 {
			out[0].Empty = or(out[0].Empty, l.Empty)
			continue
		}
		if l.Text != "" {
			out = append(out, Block{Form: RemarkForm, Text: l.Text})
		}
		out = append(out, l)
	}
	if len(out) > 1 {
		out[0].Empty = ""
	}
	return out
}

func outlined(b brief.Brief) []Block {
	var blocks []Block
	if b.OutlineNote != "" {
		blocks = append(blocks, Block{Form: RemarkForm, Text: b.In().Say(b.OutlineNote)})
	}
	blocks = append(blocks, Block{Form: RemarkForm, Text: b.In().Put("Opening, about %d words.", b.OpeningWords)})
	return append(blocks, sections(b, b.Outline)...)
}

// Filled is the whole document for a reader, every list at its full length.
func Filled(b brief.Brief) []Block { return filled(Document(b)) }

// filled are blocks for a reader: fields that nobody filled and parts that
// hold nothing are left out.
func filled(all []Block) []Block {
	var full []Block
	for _, k := range all {
		switch {
		case k.Form == TypedForm && strings.TrimSpace(k.Text) == "", (k.Form == RunForm || k.Form == ListForm || k.Form == TableForm) && len(k.Rows) == 0:
			continue
		case k.Form == FactsForm:
			k.Rows = slices.DeleteFunc(slices.Clone(k.Rows), func(r Row) bool { return r.First().Text == "" })
		}
		full = append(full, k)
	}
	var blocks []Block
	for i, k := range full {
		if k.Form != PartForm || i+1 < len(full) && full[i+1].Form != PartForm && full[i+1].Form != DossierForm {
			blocks = append(blocks, k)
		}
	}
	return blocks
}

// front says whose brief it is, of what and when.
func front(b brief.Brief) Block {
	f, in := b.Front, b.In()
	rows := []Row{
		{Label: in.Put("Publication"), Cells: []Cell{{Text: f.Publication}}},
		{Label: in.Put("Market"), Cells: []Cell{{Text: strings.Trim(b.Language+"–"+strings.ToUpper(f.Country), "–")}}},
		{Label: in.Put("Kind of page"), Field: brief.FieldKind, Cells: []Cell{{Text: in.Look(f.Kind), Note: in.Say(b.Why[brief.FieldKind])}}},
		{Label: in.Put("Status"), Field: brief.FieldStatus, Cells: []Cell{{Text: in.Look(f.Status)}}},
		{Label: in.Put("Owner"), Field: brief.FieldOwner, Cells: []Cell{{Text: f.Owner}}},
		{Label: in.Put("Writer"), Field: brief.FieldWriter, Cells: []Cell{{Text: f.Writer}}},
		{Label: in.Put("Due"), Field: brief.FieldDue, Cells: []Cell{{Text: f.Due}}},
		{Label: in.Put("Evidence of"), Cells: []Cell{{Text: in.DayOf(f.Gathered)}}},
		{Label: in.Put("Version"), Cells: []Cell{{Text: version(f.Version)}}},
	}
	return Block{Form: FactsForm, Name: "front", Rows: rows}
}

func version(n int) string {
	if n == 0 {
		return ""
	}
	return fmt.Sprint(n)
}

// onResults is what a results page shows of the page, and how long it is to be.
func onResults(b brief.Brief) Block {
	in := b.In()
	rows := []Row{
		{Label: in.Put("Title tag"), Field: brief.FieldTitleTag, Cells: []Cell{{Text: b.TitleTag, Note: measured(in, b.TitleTag, brief.TitleWidth)}}},
		{Label: in.Put("Meta description"), Field: brief.FieldMetaDescription, Cells: []Cell{{Text: b.MetaDescription, Note: measured(in, b.MetaDescription, brief.DescriptionWidth)}}},
		{Label: in.Put("H1"), Field: brief.FieldH1, Cells: []Cell{{Text: b.H1}}},
		{Label: in.Put("Address"), Field: brief.FieldAddress, Cells: []Cell{{Text: b.Address}}},
	}
	if b.Words.Target > 0 {
		rows = append(rows, Row{Label: in.Put("Length"), Field: brief.FieldLength, Cells: []Cell{{Text: lengthOf(in, b.Words), Note: in.Say(b.Words.Why)}}})
	}
	if len(b.Sources) > 0 {
		m := b.Measures
		var built []string
		for _, x := range []struct {
			of   brief.Range
			noun message.Format
		}{{m.Headings, "%s headings"}, {m.Paragraphs, "%s paragraphs"}, {m.Images, "%s images"}} {
			if x.of.Upper >= 2 { // of none, and of one, there is nothing to say
				built = append(built, in.Put(x.noun, span(in, x.of)))
			}
		}
		rows = append(rows, Row{Label: in.Put("Built of"), Cells: []Cell{{Text: strings.Join(built, ", "), Note: in.Put("quartiles of %v", pages(in, m.Headings.N))}}})
	}
	return Block{Form: FactsForm, Name: "results", Rows: rows}
}

func sections(b brief.Brief, outline []brief.Section) []Block {
	var blocks []Block
	in := b.In()
	for _, s := range outline {
		say := points(b, s)
		if s.Key == evidence.PicksKey {
			say = append(picks(b), say...)
		}
		blocks = append(blocks, Block{Form: SectionForm, in: in, Show: shows(in, s.Show), ShownBy: shownBy(s.Show), Folded: s.Folded, Text: s.Heading, Level: s.Level, Words: s.Words, WordsSet: s.WordsSet, Note: s.Note, Questions: asked(b, s.Questions), Terms: s.Terms, Best: s.Best, Cuttings: s.Cuttings, Points: say,
			Finding: Finding{brief.ThemeKind, s.Key, s.Pages, s.Sources, s.Gone}})
		blocks = append(blocks, sections(b, s.Children)...)
	}
	return blocks
}

// shows says in which form a matter is to be shown: "a table: Tyre, Pressure".
func shows(in brief.Speech, x *brief.Show) string {
	if x == nil {
		return ""
	}
	about := strings.Join(x.Heads, ", ")
	if x.Says != "" {
		about = "“" + x.Says + "”"
	}
	form := in.Say(map[string]message.Message{"table": "a table", "picture": "a picture", "list": "a list", evidence.Wall: "a list or a picture, where pages have long paragraphs alone"}[x.Form])
	if about == "" {
		return form
	}
	return form + ": " + about
}

func shownBy(x *brief.Show) []int {
	if x == nil {
		return nil
	}
	return x.Sources
}

// asked are questions under a section, as rows.
func asked(b brief.Brief, texts []string) (rows []Row) {
	for _, t := range texts {
		r := Row{Finding: Finding{Kind: brief.QuestionKind}, Cells: []Cell{{Text: t}}}
		if i := slices.IndexFunc(b.Questions, func(q brief.Question) bool { return q.Text == t }); i >= 0 {
			q := b.Questions[i]
			r.Finding = Finding{brief.QuestionKind, q.Key, len(q.AnsweredBy), q.AnsweredBy, q.Gone}
		}
		rows = append(rows, r)
	}
	return rows
}

func points(b brief.Brief, s brief.Section) []Row {
	var rows []Row
	in := b.In()
	for _, p := range s.Points {
		cell := Cell{Text: p.Text, Note: Ranks(p.Sources)}
		if len(p.Disputed) > 0 {
			cell.Short = in.Put("pages differ: %s", strings.Join(p.Disputed, ", "))
		} else if here := b.InUnits(p.Text); len(here) > 0 {
			cell.Short = in.Put("in the market's units: %s", strings.Join(here, ", "))
		}
		rows = append(rows, Row{Finding: Finding{brief.PointKind, p.Key, len(p.Sources), p.Sources, p.Gone}, Cells: []Cell{cell}})
	}
	return rows
}
