package field

import (
	"corpulan/analysis"
	"corpulan/core/reading"
	"corpulan/web/draw"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

// chartOf is the pages of a study as ribbons, from their readings or the outlines of these.
func chartOf(an *kit.Analysis, readings map[int64]*reading.Reading) draw.Chart {
	var pages []draw.ChartPage
	for _, r := range an.Results {
		if r.ReadingID != nil && readings[*r.ReadingID] != nil {
			pages = append(pages, draw.ChartPage{Result: r.ID, Rank: r.Rank, Host: r.Host, Reading: readings[*r.ReadingID], Own: r.Own, Aside: !r.Own && !analysis.Counts(r)})
		}
	}
	return draw.NewChart(an.In, an.Study.ID, an.Evidence, pages)
}

// readings are the pages of the study as they were read.
func readings(an *kit.Analysis) map[int64]*reading.Reading {
	all := make(map[int64]*reading.Reading, len(an.Docs))
	for id, d := range an.Docs {
		all[id] = d.Reading
	}
	return all
}

// fieldPages is a study with the readings that its ribbons are drawn from: their outlines, and
// whole only where a section is open.
func (s *handlers) fieldPages(c *gin.Context) (*kit.Analysis, map[int64]*reading.Reading, error) {
	an, err := s.Findings(c)
	if err != nil {
		return nil, nil, err
	}
	if c.Query("open") == "" {
		readings, err := s.Analyst.Outlines(c.Request.Context(), s.Scope(c), an.Results)
		return an, readings, err
	}
	an, err = s.Analyse(c)
	if err != nil {
		return nil, nil, err
	}
	return an, readings(an), nil
}
