package field

import (
	"cmp"
	"net/http"
	"slices"
	"time"

	"corpulan/core/corpus"
	"corpulan/core/evidence"
	"corpulan/core/fit"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

// beatBody is the kept pages beside each other by every measure, ours beside them.
type beatBody struct {
	*kit.Analysis
	Measures []beatMeasure
	Rows     []beatRow
	Sort     string
	Down     bool
}

// beatMeasure is a column.
type beatMeasure struct {
	Key, Name, Unit string
	Digits          int
	Most            float64 // of all pages; its bar is the whole cell
}

// beatRow is a page.
type beatRow struct {
	Rank   int
	Ours   bool
	Host   string
	Title  string
	Result int64
	Date   *time.Time // when it was changed, else published; nil where it does not say
	Values []float64
}

// Bar is how much of a bar's 56 pixels a value takes.
func (m beatMeasure) Bar(v float64) int {
	if m.Most <= 0 {
		return 0
	}
	return int(56*max(v, 0)/m.Most + 0.5)
}

func dayOf(date string) *time.Time {
	if t, err := time.Parse(time.DateOnly, date); err == nil {
		return &t
	}
	return nil
}

func unix(t *time.Time) int64 {
	if t == nil {
		return 0
	}
	return t.Unix()
}

// measuresToBeat are the figures that the table has, in its order.
var measuresToBeat = []string{"words", "headings", "paragraphs", "images", "tables", "internal_links", "external_links", "grade", "ease"}

// fitColumn is how far a page meets the brief.
const fitColumn = "fit"

// toBeat shows what there is to beat.
func (s *handlers) toBeat(c *gin.Context) {
	an, err := s.Analyse(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	kept, err := s.Analyst.FieldFit(c.Request.Context(), an.Analysis)
	if err != nil {
		s.Fail(c, err)
		return
	}
	fits := map[int]float64{}
	for _, p := range kept.Pages {
		fits[p.Rank] = p.Fit
	}
	body := beatBody{Analysis: an, Sort: c.Query("sort"), Down: c.Query("down") == "1"}
	body.Measures = append(body.Measures, beatMeasure{Key: fitColumn, Name: "Fit to the brief", Most: 100})
	for _, key := range measuresToBeat {
		f := an.Evidence.Figure(key)
		if f.Key == "" || slices.Max(append([]float64{0}, f.Values...)) == 0 {
			continue // that no page has any of
		}
		body.Measures = append(body.Measures, beatMeasure{Key: key, Name: f.Name, Unit: f.Unit, Digits: f.Digits})
	}
	for _, r := range an.Results {
		if r.ReadingID == nil {
			continue
		}
		doc, ours := an.Ours[*r.ReadingID], true
		if doc == nil || !r.Own {
			i := slices.IndexFunc(an.Pages, func(p corpus.RankedPage) bool { return p.Rank == r.Rank })
			if i < 0 {
				continue
			}
			doc, ours = an.Pages[i].Doc, false
		}
		fits, known := fits[r.Rank]
		if ours || !known {
			fits = fit.Of(&an.Brief, doc, nil).Fit
		}
		row := beatRow{Rank: r.Rank, Ours: ours, Host: r.Host, Title: cmp.Or(doc.Reading.Title, r.Title), Result: r.ID, Date: dayOf(cmp.Or(doc.Reading.Modified, doc.Reading.Published))}
		row.Values = body.valuesOf(doc, fits)
		body.Rows = append(body.Rows, row)
	}
	for i := range body.Measures {
		m := &body.Measures[i]
		for _, r := range body.Rows {
			m.Most = max(m.Most, r.Values[i])
		}
	}
	body.sort()
	s.Page(c, http.StatusOK, "beat", s.InStudy(c, "beat", body))
}

// valuesOf are a page's measures, in the order of the columns.
func (b beatBody) valuesOf(doc *corpus.Doc, fit float64) (list []float64) {
	_, figures := evidence.Measure(doc, b.Study.Keyword)
	figures[fitColumn] = fit
	for _, m := range b.Measures {
		list = append(list, figures[m.Key])
	}
	return list
}

// sort orders the pages by a column, the highest first where down; by rank where none is asked for.
func (b *beatBody) sort() {
	i := slices.IndexFunc(b.Measures, func(m beatMeasure) bool { return m.Key == b.Sort })
	slices.SortStableFunc(b.Rows, func(x, y beatRow) int {
		n := 0
		switch {
		case i >= 0:
			n = cmp.Compare(x.Values[i], y.Values[i])
		case b.Sort == "date":
			n = cmp.Compare(unix(x.Date), unix(y.Date))
		}
		if b.Down {
			n = -n
		}
		return cmp.Or(n, cmp.Compare(x.Rank, y.Rank))
	})
}

// Way is the address that sorts by a column: highest first, and the other way round where it is so already.
func (b beatBody) Way(key string) string {
	if b.Sort == key && b.Down {
		return "?sort=" + key
	}
	return "?sort=" + key + "&down=1"
}
