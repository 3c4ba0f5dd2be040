package evidence

import (
	"fmt"
	"net/url"
	"slices"

	"github.com/gin-gonic/gin"

	"corpulan/core/demand"
	"corpulan/core/message"
	"corpulan/store"
	"corpulan/web/parts"
)

// placed shows the places on one page that its standing for one keyword is made of.
func (s *handlers) placed(c *gin.Context) {
	ctx, sc := c.Request.Context(), s.Scope(c)
	an, err := s.Analyse(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	pages, docs, err := s.standingPages(ctx, sc, an)
	if err != nil {
		s.Fail(c, err)
		return
	}
	keyword := demand.Tidy(c.Query("keyword"))
	i := slices.IndexFunc(pages, func(p standingPage) bool { return p.URL == c.Query("page") })
	if i < 0 || keyword == "" || len([]rune(keyword)) > demand.LongestKeyword {
		s.Fail(c, store.ErrNotFound)
		return
	}
	stands := demand.StandingOf([]demand.Keyword{{Text: keyword}}, docs, an.Study.Language)[0].Pages[i]
	places, words := demand.StandpointsOf(keyword, docs[i], an.Study.Language, stands)
	body := parts.Behind{Title: keyword, Of: message.Of("%.0f of 100 on %v", 100*stands.Score, pages[i].Name())}
	in := slices.IndexFunc(an.Results, func(r store.Result) bool { return r.URL == pages[i].URL })
	of := map[message.Message]demand.Part{}
	for _, x := range stands.Parts() {
		of[x.Where] = x
	}
	for n, p := range places {
		line := parts.BehindLine{Text: p.Text, What: p.Where}
		if n == 0 || places[n-1].Where != p.Where {
			line.Figure = fmt.Sprintf("%.0f", 100*of[p.Where].Weight*of[p.Where].Score)
		}
		if p.Words < words {
			line.What = message.Of("%v, %d of %d words", p.Where, p.Words, words)
		}
		if in >= 0 && p.Section >= 0 {
			line.Href = fmt.Sprintf("/studies/%d/pages/%d/sections/%d", an.Study.ID, an.Results[in].ID, p.Section)
		}
		body.Lines = append(body.Lines, line)
	}
	parts.ShowBehind(s.Kit, c, body)
}

// PlacedPath is where the places of a cell are shown.
func (c standingCell) PlacedPath() string {
	return fmt.Sprintf("/studies/%d/standing/places?%s", c.StudyID, url.Values{"keyword": {c.Keyword}, "page": {c.Page.URL}}.Encode())
}
