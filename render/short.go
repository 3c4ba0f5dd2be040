package render

import (
	"slices"
	"strings"

	"corpulan/core/brief"
	"corpulan/core/text"
)

// Layers are the two documents that a brief is: the brief itself, and the dossier of all the evidence behind it.

// Blocks are what a file holds: the brief itself, and the dossier where it goes with it.
func Blocks(b brief.Brief) []Block {
	if b.Dossier {
		return slices.Concat(Short(b), Dossier(b))
	}
	return Short(b)
}

// Short is the brief itself, as blocks: what a writer must know.
func Short(b brief.Brief) []Block {
	s := b.Short()
	blocks := []Block{{Form: TitleForm, in: b.In(), Text: b.Keyword}, head(s)}
	for _, p := range partsOf(s) {
		blocks = append(blocks, shortPart(s, b, p)...)
	}
	return filled(blocks)
}

// Place is a brief as it is edited: the brief itself with every field and every part, empty ones too, and what the dossier has beyond the
// outline.
func Place(b brief.Brief) (itself, dossier []Block) {
	s := b.Short()
	results := onResults(b)
	built := results
	at := min(len(results.Rows), 5)
	results.Rows, built.Rows = results.Rows[:at], results.Rows[at:]
	itself, dossier = []Block{{Form: TitleForm, in: b.In(), Text: b.Keyword}, front(b), results}, []Block{built}
	for _, name := range brief.FieldsOfHead() {
		if k := typed(b, name, brief.FieldLabel(name)); k.Text == "" || s.Field(name) != "" || slices.Contains(b.House, name) {
			itself = append(itself, k)
		} else {
			dossier = append(dossier, k)
		}
	}
	for _, p := range partsOf(b) {
		blocks := part(b, p)
		if inDossier := slices.Contains([]string{brief.PartMedia, brief.PartSummary, brief.PartData}, p.Name) && (b.Why[p.Name] != "" || b.Field(p.Name) == ""); !inDossier {
			short := shortPart(s, b, p)
			itself = append(itself, short...)
			if p.Own || p.Name == brief.PartComparison && len(short) > 0 || slices.Contains([]string{brief.PartOutline, brief.PartNotes, brief.PartCuttings, brief.PartShortAnswer, brief.PartFacts}, p.Name) {
				continue // it has nothing more
			}
		}
		dossier = append(dossier, blocks...)
	}
	return itself, dossier
}

// Dossier is the evidence behind a brief, as blocks: every section, term and question with the pages it stands on.
func Dossier(b brief.Brief) []Block {
	in := b.In()
	facts := front(b)
	facts.Rows = append(facts.Rows, onResults(b).Rows[4:]...) // the length and how the field is built
	for _, name := range brief.FieldsOfHead() {
		facts.Rows = append(facts.Rows, Row{Label: in.Say(brief.FieldLabel(name)), Field: name, Cells: []Cell{{Text: b.Field(name), Note: in.Say(b.Why[name])}}})
	}
	blocks := []Block{{Form: DossierForm, in: in, Text: in.Put("Dossier: %s", b.Keyword)}, facts}
	answered := b.Short().Fields.ShortAnswer == b.Fields.ShortAnswer // all of it is in the brief itself
	for _, p := range partsOf(b) {
		if !p.Own && p.Name != brief.PartNotes && p.Name != brief.PartCuttings && !(p.Name == brief.PartShortAnswer && answered) {
			blocks = append(blocks, part(b, p)...)
		}
	}
	return filled(blocks)
}

// partsOf are the parts that are shown.
func partsOf(b brief.Brief) []brief.Part {
	list := b.Parts
	if len(list) == 0 {
		list = brief.UsualParts()
	}
	return slices.DeleteFunc(slices.Clone(list), func(p brief.Part) bool { return p.Hidden })
}

// head is what the page is to be, a line each, where there is something to say.
func head(b brief.Brief) Block {
	in := b.In()
	k := onResults(b)
	k.Rows = k.Rows[:min(len(k.Rows), 5)]
	for i := range k.Rows {
		k.Rows[i].Cells = []Cell{{Text: k.Rows[i].First().Text}}
	}
	for _, name := range []string{brief.FieldWriter, brief.FieldDue} {
		k.Rows = append(k.Rows, Row{Label: in.Say(brief.FieldLabel(name)), Field: name, Cells: []Cell{{Text: b.Field(name)}}})
	}
	for _, name := range brief.FieldsOfHead() {
		k.Rows = append(k.Rows, Row{Label: in.Say(brief.FieldLabel(name)), Field: name, Cells: []Cell{{Text: b.Field(name)}}})
	}
	return k
}

// shortPart is a part of the brief itself; nothing for what the dossier alone has. full is the brief that s is the short one of.
func shortPart(s, full brief.Brief, p brief.Part) []Block {
	in := s.In()
	head := Block{Form: PartForm, Text: in.Look(p.Title), Name: p.Name}
	switch p.Name {
	case brief.PartOutline:
		blocks := []Block{head}
		if s.OpeningWords > 0 && len(s.Outline) > 0 {
			blocks = append(blocks, Block{Form: RemarkForm, Text: in.Put("Opening, about %d words.", s.OpeningWords)})
		}
		return append(append(blocks, shortSections(s, full)...), alsoTreated(in, s))
	case brief.PartTerms:
		k := terms(s)
		k.Form = RunForm
		for i := range k.Rows {
			k.Rows[i].Cells = []Cell{{Text: k.Rows[i].First().Text, Note: k.Rows[i].Cells[1].Short, Short: k.Rows[i].Cells[1].Text}}
		}
		return []Block{head, k}
	case brief.PartQuestions:
		head.Text = in.Put("To answer as well")
		k := questions(s)
		k.Rows = bare(slices.DeleteFunc(k.Rows, func(r Row) bool { return isPlaced(full, r.Key) }))
		return []Block{head, k}
	case brief.PartOpenings:
		head.Text = in.Put("What nobody else says")
		k := openings(s)
		for i := range k.Rows {
			k.Rows[i].Cells = []Cell{{Text: k.Rows[i].First().Text, Note: in.Look(k.Rows[i].Group), Short: k.Rows[i].First().Short}}
		}
		return []Block{head, k}
	case brief.PartOutward:
		k := linksOut(s)
		k.Text, k.Rows = "", bare(k.Rows)
		return []Block{head, k}
	case brief.PartInward:
		k := linksTo(s)
		k.Form = ListForm
		for i, l := range s.Links.Inward {
			k.Rows[i].Cells = []Cell{{Text: or(l.Title, l.URL), URL: l.URL, Note: in.Put("as “%s”", l.Anchor)}}
		}
		return []Block{head, k}
	case brief.PartComparison:
		if len(s.Criteria) > 0 {
			return withRows(head, compared(s))
		}
	case brief.PartFacts:
		return withRows(head, toCheck(s))
	case brief.PartCuttings:
		return withRows(head, cuttings(s))
	case brief.PartSources, brief.PartEntities:
	default:
		return part(s, p)
	}
	return nil
}

// isPlaced tells a question that stands under a section.
func isPlaced(b brief.Brief, key string) bool {
	return slices.ContainsFunc(b.Questions, func(q brief.Question) bool { return q.Key == key && q.Section != "" })
}

// bare are rows without what is said beside them.
func bare(rows []Row) []Row {
	for i := range rows {
		c := rows[i].First()
		rows[i].Cells = []Cell{{Text: c.Text, URL: c.URL, Short: c.Short}}
	}
	return rows
}

func shortSections(s, full brief.Brief) []Block {
	var blocks []Block
	whole := map[string]Block{}
	for _, k := range sections(full, full.Outline) {
		whole[k.Key] = k
	}
	for _, k := range sections(s, s.Outline) {
		k.Questions = asked(full, textsOf(k.Questions))
		k.Rest = slices.Concat(beyond(whole[k.Key].Questions, k.Questions), beyond(whole[k.Key].Points, k.Points))
		switch last := len(blocks) - 1; {
		case !k.Folded:
			k.Short = true
			blocks = append(blocks, k)
		case k.Level > brief.TopLevel && last >= 0: // within the section before it
			blocks[last].Also = append(blocks[last].Also, foldedRow(k))
		}
	}
	return blocks
}

func textsOf(rows []Row) (texts []string) {
	for _, r := range rows {
		texts = append(texts, r.First().Text)
	}
	return texts
}

// beyond are the rows of a list that are not among some.
func beyond(all, some []Row) []Row {
	return slices.DeleteFunc(slices.Clone(all), func(r Row) bool {
		return slices.ContainsFunc(some, func(x Row) bool {
			return x.Key == r.Key && (x.Key != "" || x.First().Text == r.First().Text)
		})
	})
}

// alsoTreated are the matters without a section that stand below none.
func alsoTreated(in brief.Speech, b brief.Brief) Block {
	k := Block{Form: RunForm, Name: "folded", Text: in.Put("Also treated by some")}
	for _, s := range b.Outline {
		if s.Folded && len(k.Rows) < maxFolded {
			k.Rows = append(k.Rows, foldedRow(sections(b, []brief.Section{s})[0]))
		}
	}
	return k
}

// maxFolded is how many matters are named as also treated by some. Our own.
const maxFolded = 6

// foldedRow is a matter to be treated in passing.
func foldedRow(k Block) Row {
	var asks []string
	for _, q := range k.Questions {
		asks = append(asks, q.First().Text)
	}
	return Row{Finding: k.Finding, Cells: []Cell{{Text: k.Text, Note: strings.Join(asks, " ")}}}
}

// CountWords is how many words a block has, as files have it.
func CountWords(k Block) int {
	m := &mdWriter{}
	m.block(k)
	return text.CountWords(m.b.String())
}

// Part is a part of a document: its heading, and what stands below it.
type Part struct {
	Block
	Body []Block
}

// InParts are blocks by the parts of the document; the first has what stands before them.
func InParts(blocks []Block) []Part {
	list := []Part{{}}
	for _, k := range blocks {
		if k.Form == PartForm {
			list = append(list, Part{Block: k})
			continue
		}
		last := &list[len(list)-1]
		last.Body = append(last.Body, k)
	}
	return list
}
