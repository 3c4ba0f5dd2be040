package field

import (
	"net/http"
	"strconv"

	"corpulan/core/change"
	"corpulan/core/evidence"
	"corpulan/store"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

// twoBody is two studies side by side.
type twoBody struct {
	Study  store.Study
	Other  store.Study
	Others []store.LedgerLine // to choose from
	Pair   *change.Pair       // nil until another is chosen
	Empty  bool               // one of them has no field yet

	Special    []change.Told      // against what else the publication has gathered lately
	Background []store.LedgerLine // which studies that is
}

// maxToChoose is how many studies are offered to compare with.
const maxToChoose = 200

// two sets the study beside another of the publication.
func (s *handlers) two(c *gin.Context) {
	ctx := c.Request.Context()
	body := twoBody{Study: kit.StudyOf(c)}
	lines, _, err := s.Scope(c).Ledger(ctx, store.LedgerQuery{Most: maxToChoose})
	if err != nil {
		s.Fail(c, err)
		return
	}
	for _, l := range lines {
		if l.ID != body.Study.ID && l.Language == body.Study.Language {
			body.Others = append(body.Others, l)
		}
	}
	if c.Query("with") == "" {
		if err := s.special(c, &body); err != nil {
			s.Fail(c, err)
			return
		}
	}
	if id, err := strconv.ParseInt(c.Query("with"), 10, 64); err == nil {
		if body.Other, err = s.Scope(c).Study(ctx, id); err != nil {
			s.Fail(c, err)
			return
		}
		a, err := s.Analyst.Side(ctx, s.Scope(c), body.Study)
		if err != nil {
			s.Fail(c, err)
			return
		}
		b, err := s.Analyst.Side(ctx, s.Scope(c), body.Other)
		if err != nil {
			s.Fail(c, err)
			return
		}
		pair := change.Two(a, b)
		body.Pair, body.Empty = &pair, len(a.Evidence.Sources) == 0 || len(b.Evidence.Sources) == 0
	}
	s.Page(c, http.StatusOK, "two", s.InStudy(c, "two", body))
}

// maxBackground is how many other studies are the background, the newest. Our own: each may have
// to be computed.
const maxBackground = 8

// special finds what is special to the field, against what else the publication has gathered.
func (s *handlers) special(c *gin.Context, body *twoBody) error {
	ctx := c.Request.Context()
	an, err := s.Analyst.Side(ctx, s.Scope(c), body.Study)
	if err != nil || len(an.Evidence.Sources) == 0 {
		return err
	}
	var others []*evidence.Evidence
	for _, l := range body.Others {
		if len(others) == maxBackground {
			break
		}
		if l.State != store.Done || l.KeptPages == 0 {
			continue
		}
		o, err := s.Analyst.Side(ctx, s.Scope(c), l.Study)
		if err != nil {
			return err
		}
		others, body.Background = append(others, o.Evidence), append(body.Background, l)
	}
	body.Special = change.Special(an.Evidence, others)
	return nil
}
