package render

import (
	"fmt"
	"strings"

	"corpulan/core/brief"
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
	Note      string // typed, of a section
	Questions []string
	Points    []Row // of a section: what to say

	Name    string   // of a list or table
	Columns []Column // of a table
	Rows    []Row
	Empty   string // said where a list or table has no rows; the part is left out where it is empty too
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

// First is what the row is about.
func (r Row) First() Cell { return r.Cells[0] }

// Document is the brief as blocks in the order they are read: the one walk over a
// brief that all formats and the place Brief are made by.
func Document(b brief.Brief) []Block {
	blocks := []Block{{Form: TitleForm, Text: b.Keyword}, facts(b)}
	for _, f := range []struct{ name, label, text string }{
		{brief.FieldGoal, "Goal", b.Fields.Goal}, {brief.FieldAudience, "Audience", b.Fields.Audience}, {brief.FieldVoice, "Voice", b.Fields.Voice},
		{brief.FieldPointOfView, "Point of view", b.Fields.PointOfView}, {brief.FieldAvoid, "What not to say", b.Fields.Avoid}, {brief.FieldNotes, "Notes", b.Fields.Notes},
	} {
		blocks = append(blocks, Block{Form: TypedForm, Field: f.name, Label: f.label, Text: f.text})
	}
	blocks = append(blocks, Block{Form: PartForm, Text: "Outline", Empty: "No theme is shared widely enough to be proposed."})
	if len(b.Outline) > 0 {
		blocks[len(blocks)-1].Empty = ""
		if b.OutlineNote != "" {
			blocks = append(blocks, Block{Form: RemarkForm, Text: b.OutlineNote})
		}
		blocks = append(blocks, Block{Form: RemarkForm, Text: fmt.Sprintf("Opening, about %d words.", b.OpeningWords)})
	}
	blocks = append(blocks, sections(b.Outline)...)
	for _, p := range []Block{openings(b), terms(b), entities(b), questions(b), toCheck(b), links(b), sources(b)} {
		blocks = append(blocks, Block{Form: PartForm, Text: p.Text, Empty: p.Empty})
		if len(p.Rows) > 0 {
			blocks[len(blocks)-1].Empty = ""
			blocks = append(blocks, p)
		}
	}
	return blocks
}

// Filled is the document for a reader: fields that nobody filled and parts that
// hold nothing are left out.
func Filled(b brief.Brief) []Block {
	var blocks []Block
	all := Document(b)
	for i, k := range all {
		switch {
		case k.Form == TypedForm && strings.TrimSpace(k.Text) == "":
		case k.Form == PartForm && (i+1 == len(all) || all[i+1].Form == PartForm):
		default:
			blocks = append(blocks, k)
		}
	}
	return blocks
}

func facts(b brief.Brief) Block {
	rows := []Row{
		{Label: "Title tag", Field: brief.FieldTitleTag, Cells: []Cell{{Text: b.TitleTag}}},
		{Label: "Meta description", Field: brief.FieldMetaDescription, Cells: []Cell{{Text: b.MetaDescription}}},
		{Label: "H1", Field: brief.FieldH1, Cells: []Cell{{Text: b.H1}}},
	}
	if b.Words.N > 0 {
		rows = append(rows, Row{Label: "Length", Cells: []Cell{{Text: fmt.Sprintf("%d to %d words, about %d", b.Words.Lower, b.Words.Upper, b.Words.Target), Note: fmt.Sprintf("quartiles of %d pages", b.Words.N)}}})
	}
	for _, i := range b.Intent {
		rows = append(rows, Row{Label: "Intent", Cells: []Cell{{Text: fmt.Sprintf("%s, %.0f %% of the field", i.Kind, 100*i.Share), Note: ranksOf(i.Sources)}}, Finding: Finding{Ranks: i.Sources}})
	}
	return Block{Form: FactsForm, Rows: rows}
}

func sections(outline []brief.Section) []Block {
	var blocks []Block
	for _, s := range outline {
		blocks = append(blocks, Block{Form: SectionForm, Text: s.Heading, Level: s.Level, Words: s.Words, Note: s.Note, Questions: s.Questions, Points: points(s),
			Finding: Finding{brief.ThemeKind, s.Key, s.Pages, s.Sources, s.Gone}})
		blocks = append(blocks, sections(s.Children)...)
	}
	return blocks
}

func points(s brief.Section) []Row {
	var rows []Row
	for _, p := range s.Points {
		cell := Cell{Text: p.Text, Note: Ranks(p.Sources)}
		if len(p.Disputed) > 0 {
			cell.Short = "pages differ: " + strings.Join(p.Disputed, ", ")
		}
		rows = append(rows, Row{Finding: Finding{brief.PointKind, p.Key, len(p.Sources), p.Sources, false}, Cells: []Cell{cell}})
	}
	return rows
}

func terms(b brief.Brief) Block {
	t := Block{Form: TableForm, Name: "terms", Text: "Terms", Empty: "No terms are in the brief.", Columns: []Column{{Name: "term"}, {Name: "use"}, {Name: "tier"}, {Name: "pages", Figures: true}, {Name: "ranks", Small: true}}}
	for _, x := range b.Terms {
		t.Rows = append(t.Rows, Row{Group: x.Tier, Finding: Finding{brief.TermKind, x.Key, x.Pages, x.Sources, x.Gone},
			Cells: []Cell{{Text: x.Term}, {Text: uses(x), Short: usesShort(x)}, {Text: or(x.Tier, "on no kept page")}, {Text: fmt.Sprintf("%d of %d", x.Pages, x.Of)}, {Text: Ranks(x.Sources)}}})
	}
	return t
}

func entities(b brief.Brief) Block {
	t := Block{Form: TableForm, Name: "entities", Text: "Entities", Empty: "No name stands on two pages; none is proposed.", Columns: []Column{{Name: "entity"}, {Name: "type"}, {Name: "pages", Figures: true}, {Name: "mentions", Figures: true}, {Name: "ranks", Small: true}}}
	for _, x := range b.Entities {
		t.Rows = append(t.Rows, Row{Finding: Finding{brief.EntityKind, x.Key, x.Pages, x.Sources, x.Gone},
			Cells: []Cell{{Text: x.Name}, {Text: x.Type}, {Text: fmt.Sprint(x.Pages)}, {Text: fmt.Sprint(x.Mentions)}, {Text: Ranks(x.Sources)}}})
	}
	return t
}

func questions(b brief.Brief) Block {
	t := Block{Form: ListForm, Name: "questions", Text: "Questions", Empty: "Nobody asks anything."}
	for _, q := range b.Questions {
		t.Rows = append(t.Rows, Row{Finding: Finding{brief.QuestionKind, q.Key, len(q.AnsweredBy), q.AnsweredBy, q.Gone}, Cells: []Cell{{Text: q.Text, Note: questionNote(q), Short: questionShort(q)}}})
	}
	return t
}

// openings are what few pages say, or none; they are no parts of the brief, but stand
// beside its outline.
func openings(b brief.Brief) Block {
	t := Block{Form: ListForm, Name: "openings", Text: "Openings"}
	for _, o := range b.Openings {
		t.Rows = append(t.Rows, Row{Group: string(o.Kind), Finding: Finding{Kind: brief.Kind(o.Of), Key: o.Key, Ranks: o.Ranks}, Cells: []Cell{{Text: o.Text, Note: string(o.Kind) + ": " + o.Why, Short: o.Why}}})
	}
	return t
}

func toCheck(b brief.Brief) Block {
	t := Block{Form: ListForm, Name: "facts", Text: "Facts to check"}
	for _, x := range b.Facts {
		note := ranksOf(x.Sources)
		if x.Date != "" {
			note += ", page of " + x.Date
		}
		t.Rows = append(t.Rows, Row{Finding: Finding{brief.FactKind, x.Key, len(x.Sources), x.Sources, x.Gone}, Cells: []Cell{{Text: x.Text, Note: note, Short: x.Date}}})
	}
	return t
}

func links(b brief.Brief) Block {
	t := Block{Form: ListForm, Name: "links", Text: "Links several pages give"}
	for _, l := range b.Links.Outward {
		t.Rows = append(t.Rows, Row{Finding: Finding{Pages: l.Pages, Ranks: l.Sources}, Cells: []Cell{{Text: l.URL, URL: l.URL, Note: ranksOf(l.Sources)}}})
	}
	return t
}

func sources(b brief.Brief) Block {
	t := Block{Form: TableForm, Name: "sources", Text: "Pages this was made from", Columns: []Column{{Name: "rank", Figures: true}, {Name: "page"}, {Name: "words", Figures: true}, {Name: "kind"}}}
	for _, s := range b.Sources {
		t.Rows = append(t.Rows, Row{Finding: Finding{Pages: 1, Ranks: []int{s.Rank}}, Cells: []Cell{{Text: fmt.Sprint(s.Rank)}, {Text: or(s.Title, s.URL, "untitled"), URL: s.URL}, {Text: fmt.Sprint(s.Words)}, {Text: s.Kind}}})
	}
	return t
}
