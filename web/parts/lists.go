package parts

import (
	"slices"
	"strconv"

	"corpulan/core/message"
	"corpulan/store"
	"corpulan/study"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

// Lists are what the places of keyword lists and of slates share.
type Lists struct{ *kit.Kit }

// WithList loads the list named in the address for the handlers behind it.
func (s *Lists) WithList(c *gin.Context) {
	id, err := strconv.ParseInt(c.Param("list"), 10, 64)
	if err != nil {
		err = store.ErrNotFound
	}
	var l store.KeywordList
	if err == nil {
		l, err = s.Scope(c).List(c.Request.Context(), id)
	}
	if err != nil {
		s.Fail(c, err)
		c.Abort()
		return
	}
	c.Set(ListKey, l)
}

func ListOf(c *gin.Context) store.KeywordList { return c.MustGet(ListKey).(store.KeywordList) }

const ListKey = "list"

// SayList says what is wrong, or was done, where the whole page need not be made anew.
func (s *Lists) SayList(c *gin.Context, status int, text message.Message) {
	if !kit.FromHTMX(c) {
		s.Page(c, status, "error", kit.PageData{Title: "Demand", Place: "demand", Publication: kit.PublicationOf(c).Name, Body: kit.Failure{Status: status, What: text, Safe: "All that was there before is as it was.",
			Do: "Go back to mend it.", Link: "/demand", Text: "To the lists"}})
		return
	}
	c.Header("HX-Retarget", "#notices")
	c.Header("HX-Reswap", "innerHTML")
	s.Fragment(c, status, "notice", kit.Notice{Text: text, Bad: status >= 400})
}

// SlateLine is a slate as the overview lists it.
type SlateLine struct {
	store.Slate
	Pages, Studies int
}

// PlanNotice says what a command did to a list or a slate.
func PlanNotice(at string, d study.Done) kit.Notice {
	n := kit.Notice{Text: message.Sentence(d.Said), Word: "Undo (u)"}
	switch {
	case d.Redo:
		n.Text, n.Undo, n.Word = message.Of("Taken back: %v", message.Sentence(d.Said)), at+"/redo", "Do it again (U)"
	case d.Change != 0:
		n.Undo = at + "/undo"
	}
	return n
}

// SlatesFor are the slates into which groups of a list may go: those of its market.
func (s *Lists) SlatesFor(c *gin.Context, l store.KeywordList) ([]store.Slate, error) {
	list, err := s.Scope(c).Slates(c.Request.Context(), false)
	return slices.DeleteFunc(list, func(x store.Slate) bool { return x.Language != l.Language || x.Country != l.Country }), err
}

// SlateLines are the slates of the publication with how far they are.
func (s *Lists) SlateLines(c *gin.Context) ([]SlateLine, error) {
	ctx, sc := c.Request.Context(), s.Scope(c)
	list, err := sc.Slates(ctx, false)
	if err != nil {
		return nil, err
	}
	lines := make([]SlateLine, len(list))
	for i, x := range list {
		have, err := sc.SlateStudies(ctx, x.ID)
		if err != nil {
			return nil, err
		}
		lines[i] = SlateLine{Slate: x, Pages: len(x.Plan.Data().Pages), Studies: len(have)}
	}
	return lines, nil
}
