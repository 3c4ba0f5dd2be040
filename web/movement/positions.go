package movement

import (
	"cmp"
	"fmt"
	"html/template"
	"net/http"
	"slices"
	"time"

	"corpulan/store"
	"corpulan/web/draw"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

// positionsBody is where the own site stood for all keywords of a publication, over time.
type positionsBody struct {
	Address string
	Rows    []positionRow
	Tops    []topRow // by month, the newest first
}

// positionRow is one keyword.
type positionRow struct {
	Study   int64
	Keyword string
	Line    template.HTML
	Was, Is int // places in the last two gatherings, 0 for none
	Times   int // gatherings
	At      time.Time
}

// Lost tells that places were lost.
func (r positionRow) Lost() bool { return r.Was > 0 && (r.Is == 0 || r.Is > r.Was) }

// bounds of the places that are counted. Common practice, no published source.
var bounds = [4]int{3, 10, 20, 50}

// topRow counts the keywords for which the own site stood high at the end of a month.
type topRow struct {
	Month string // YYYY-MM
	In    [4]int // within the bounds
	Of    int    // keywords that had been gathered by then
}

// positions shows the own site's places for all keywords.
func (s *handlers) positions(c *gin.Context) {
	list, err := s.Scope(c).Positions(c.Request.Context())
	if err != nil {
		s.Fail(c, err)
		return
	}
	body := positionsBody{Address: kit.PublicationOf(c).Address, Rows: positionRows(list, s.Tongue(c).Look), Tops: topsOf(list)}
	s.Page(c, http.StatusOK, "positions", kit.PageData{Title: "Movement", Place: "positions", Publication: kit.PublicationOf(c).Name, Body: body})
}

// positionRows are the keywords, those that lost places first, then those that rank, the best first.
func positionRows(list []store.Position, say func(string) string) (rows []positionRow) {
	var places []int
	for i, p := range list {
		if i == 0 || list[i-1].StudyID != p.StudyID {
			places = nil
		}
		places = append(places, p.Place)
		if i+1 < len(list) && list[i+1].StudyID == p.StudyID {
			continue
		}
		r := positionRow{Study: p.StudyID, Keyword: p.Keyword, Is: p.Place, Times: len(places), At: p.At}
		if n := len(places); n > 1 {
			r.Was = places[n-2]
		}
		if slices.ContainsFunc(places, func(p int) bool { return p > 0 }) {
			said := say("places of our pages over all gatherings, the oldest first:")
			for _, p := range places {
				said += fmt.Sprintf(" %d", p)
			}
			r.Line = draw.PositionLine(places, said)
		}
		rows = append(rows, r)
	}
	order := func(r positionRow) int {
		switch {
		case r.Lost():
			return 0
		case r.Is > 0:
			return 1
		}
		return 2
	}
	slices.SortStableFunc(rows, func(a, b positionRow) int {
		return cmp.Or(order(a)-order(b), cmp.Compare(a.Is, b.Is), cmp.Compare(a.Keyword, b.Keyword))
	})
	return rows
}

// topsOf counts, month by month, for how many keywords the own site stood within the bounds, by
// the newest gathering of each until then.
func topsOf(list []store.Position) (rows []topRow) {
	months := map[string]bool{}
	for _, p := range list {
		months[p.At.UTC().Format("2006-01")] = true
	}
	for month := range months {
		row := topRow{Month: month}
		newest := map[int64]store.Position{}
		for _, p := range list { // the oldest first
			if p.At.UTC().Format("2006-01") <= month {
				newest[p.StudyID] = p
			}
		}
		for _, p := range newest {
			row.Of++
			for i, most := range bounds {
				if p.Place > 0 && p.Place <= most {
					row.In[i]++
				}
			}
		}
		rows = append(rows, row)
	}
	slices.SortFunc(rows, func(a, b topRow) int { return cmp.Compare(b.Month, a.Month) })
	return rows
}
