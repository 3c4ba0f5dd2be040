package demand

import (
	"errors"
	"fmt"
	"net/http"
	"slices"

	"corpulan/core/demand"
	"corpulan/core/message"
	"corpulan/store"
	"corpulan/study"
	"corpulan/web/kit"
	"corpulan/web/parts"

	"github.com/gin-gonic/gin"
)

// columnsBody asks which column of a table is which.
type columnsBody struct {
	List    store.KeywordList
	File    store.KeywordFile
	Columns []askedColumn
	Doubts  []demand.Column
	Fields  []demand.Column
	Rows    int
	Header  bool
	Wrong   message.Message
}

// askedColumn is a column with what it is taken for, and its first cells.
type askedColumn struct {
	Name  message.Message
	Field demand.Column
	Cells []string
}

// Bounds of what is shown of a table whose columns are asked for.
const (
	cellsShown   = 5
	columnsShown = 60
)

func (s *handlers) columnsPlace(c *gin.Context) { s.showColumns(c, http.StatusOK, nil, "") }

func (s *handlers) showColumns(c *gin.Context, status int, chosen []demand.Column, wrong message.Message) {
	l := parts.ListOf(c)
	f, err := s.Scope(c).File(c.Request.Context(), l.ID)
	if errors.Is(err, store.ErrNotFound) {
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("/demand/%d", l.ID))
		return
	}
	var rows [][]string
	if err == nil {
		rows, err = study.UnpackRows(f.Rows)
	}
	if err != nil {
		s.Fail(c, err)
		return
	}
	known, err := s.Commands(c).ColumnsOf(c.Request.Context(), rows)
	if err != nil {
		s.Fail(c, err)
		return
	}
	if chosen != nil {
		known.Fields = chosen
	}
	begin := min(known.Skipped, len(rows))
	body := columnsBody{List: l, File: f, Doubts: known.Doubts, Fields: demand.Fields(), Rows: len(rows), Header: known.Header, Wrong: wrong}
	for i, field := range known.Fields[:min(len(known.Fields), columnsShown)] {
		col := askedColumn{Name: message.Of("Column %d", i+1), Field: field}
		for n, row := range rows[begin:min(len(rows), begin+cellsShown+1)] {
			cell := ""
			if i < len(row) {
				cell = kit.Shorten(row[i], 40)
			}
			if n == 0 && known.Header {
				col.Name = message.Text(cell)
				continue
			}
			col.Cells = append(col.Cells, cell)
		}
		body.Columns = append(body.Columns, col)
	}
	s.Page(c, status, "columns", s.inList(c, "columns", body))
}

// nameColumns reads the table that waits by the columns that a person named.
func (s *handlers) nameColumns(c *gin.Context) {
	l, ctx := parts.ListOf(c), c.Request.Context()
	f, err := s.Scope(c).File(ctx, l.ID)
	if err != nil {
		s.Fail(c, err)
		return
	}
	rows, err := study.UnpackRows(f.Rows)
	if err != nil {
		s.Fail(c, err)
		return
	}
	columns := demand.Recognise(rows)
	for i := range columns.Fields {
		columns.Fields[i] = ""
		if named := demand.Column(c.PostForm(fmt.Sprintf("column%d", i))); slices.Contains(demand.Fields(), named) {
			columns.Fields[i] = named
		}
	}
	columns.Header = c.PostForm("header") != ""
	seen := map[demand.Column]bool{}
	for _, x := range columns.Fields {
		if x != "" && x != demand.MonthField && seen[x] {
			s.showColumns(c, http.StatusUnprocessableEntity, columns.Fields, message.Of("Two columns are called %v; choose one.", message.Message(x)))
			return
		}
		seen[x] = true
	}
	if !seen[demand.KeywordField] {
		s.showColumns(c, http.StatusUnprocessableEntity, columns.Fields, "Say which column holds the keywords.")
		return
	}
	if err := s.Commands(c).NameColumns(ctx, l.ID, rows, columns); err != nil {
		s.Fail(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/demand/%d", l.ID))
}
