package render

import (
	"archive/zip"
	"bytes"
	"io"
	"slices"
	"strings"

	"corpulan/core/brief"
	"corpulan/core/message"

	"github.com/xuri/excelize/v2"
)

// Workbook writes the lists of a brief as a workbook, a sheet for each: the outline with
// what to say and to answer, terms, entities, questions, openings, facts, links, pages.
func Workbook(w io.Writer, b brief.Brief) error {
	outline := Table{Name: "outline", Columns: []message.Message{"level", "heading", "words", "say", "answer", "use", "read first", "note", "ranks"}}
	var tables []Table
	for _, k := range Document(b) {
		switch k.Form {
		case SectionForm:
			var say []string
			for _, p := range k.Points {
				say = append(say, p.First().Text)
			}
			outline.Rows = append(outline.Rows, []any{k.Level, k.Text, k.Words, strings.Join(say, "\n"), strings.Join(textsOf(k.Questions), "\n"), strings.Join(k.Terms, ", "), Ranks(k.Best), k.Note, Ranks(k.Ranks)})
		case TableForm:
			t := Table{Name: k.Name}
			for _, c := range k.Columns {
				t.Columns = append(t.Columns, message.Text(c.Name))
			}
			for _, r := range k.Rows {
				row := make([]any, len(r.Cells))
				for i, c := range r.Cells {
					row[i] = c.Text
				}
				t.Rows = append(t.Rows, row)
			}
			tables = append(tables, t)
		case ListForm:
			t := Table{Name: k.Name, Columns: []message.Message{message.Message(strings.ReplaceAll(k.Name, "_", " ")), "about it", "ranks"}}
			for _, r := range k.Rows {
				t.Rows = append(t.Rows, []any{r.First().Text, r.First().Note, Ranks(r.Ranks)})
			}
			tables = append(tables, t)
		}
	}
	if len(b.Cuttings) > 0 { // all of them, also those under a section
		t := Table{Name: "cuttings", Columns: []message.Message{"cutting", "kind", "note", "section", "page", "address", "captured"}}
		for _, x := range b.Cuttings {
			t.Rows = append(t.Rows, []any{x.Text, message.Message(x.Kind), x.Note, x.Section, x.Title, x.URL, x.Date})
		}
		tables = append(slices.DeleteFunc(tables, func(t Table) bool { return t.Name == "cuttings" }), t)
	}
	tables = append([]Table{outline}, tables...)
	for i, t := range tables {
		tables[i] = t.In(b.In())
	}
	return workbook(w, tables...)
}

// workbook writes tables as sheets (ISO/IEC 29500), their heads in bold and in sight.
// Texts are texts there, and never formulas.
func workbook(w io.Writer, tables ...Table) (err error) {
	f := excelize.NewFile()
	defer func() {
		if closing := f.Close(); err == nil {
			err = closing
		}
	}()
	bold, err := f.NewStyle(&excelize.Style{Font: &excelize.Font{Bold: true}})
	if err != nil {
		return err
	}
	for i, t := range tables {
		if i == 0 {
			err = f.SetSheetName("Sheet1", t.Name)
		} else {
			_, err = f.NewSheet(t.Name)
		}
		if err != nil {
			return err
		}
		if err = writeSheet(f, t, bold); err != nil {
			return err
		}
	}
	var b bytes.Buffer
	if err = f.Write(&b); err != nil {
		return err
	}
	return inOrder(w, b.Bytes())
}

// inOrder writes a zip file's parts in the order of their names, so that the same tables
// give the same bytes: excelize writes them in that of a map.
func inOrder(w io.Writer, file []byte) error {
	in, err := zip.NewReader(bytes.NewReader(file), int64(len(file)))
	if err != nil {
		return err
	}
	slices.SortFunc(in.File, func(a, b *zip.File) int { return strings.Compare(a.Name, b.Name) })
	out := zip.NewWriter(w)
	for _, part := range in.File {
		if err := out.Copy(part); err != nil {
			return err
		}
	}
	return out.Close()
}

func writeSheet(f *excelize.File, t Table, bold int) error {
	sheet, err := f.NewStreamWriter(t.Name)
	if err != nil {
		return err
	}
	if err = sheet.SetPanes(&excelize.Panes{Freeze: true, YSplit: 1, TopLeftCell: "A2", ActivePane: "bottomLeft"}); err != nil {
		return err
	}
	head := make([]any, len(t.Columns))
	for i, c := range t.Columns {
		head[i] = excelize.Cell{StyleID: bold, Value: c.String()}
	}
	for i, row := range append([][]any{head}, t.Rows...) {
		at, err := excelize.CoordinatesToCellName(1, i+1)
		if err != nil {
			return err
		}
		row = slices.Clone(row)
		for j, cell := range row {
			if said, ok := cell.(message.Message); ok {
				row[j] = said.String()
			}
		}
		if err = sheet.SetRow(at, row); err != nil {
			return err
		}
	}
	return sheet.Flush()
}
