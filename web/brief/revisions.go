package brief

import (
	"fmt"
	"net/http"
	"strconv"

	"corpulan/core/brief"
	"corpulan/render"
	"corpulan/store"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

// mostRevisions is how many revisions a page lists.
const mostRevisions = 60

// revisionsBody is the revisions of a brief, two of them compared.
type revisionsBody struct {
	Study    store.Study
	Now      int // the present revision
	List     []store.BriefRevision
	Older    int // where the next page begins; 0 where there is none
	Actor    string
	Me       int64
	Names    map[int64]string
	From, To int
	Changes  []render.Change
}

// Who says who made a revision.
func (b revisionsBody) Who(r store.BriefRevision) string {
	return whoDid(r.PersonID, r.Actor, b.Me, b.Actor, b.Names)
}

// revisions lists what a brief was, and compares two states of it by the evidence of today,
// so that only what people did differs.
func (s *handlers) revisions(c *gin.Context) {
	st, sc, ctx := kit.StudyOf(c), s.Scope(c), c.Request.Context()
	an, err := s.Findings(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	number := func(name string, otherwise int) int {
		if n, err := strconv.Atoi(c.Query(name)); err == nil && n >= 0 {
			return n
		}
		return otherwise
	}
	body := revisionsBody{Study: st, Now: an.Saved.Revision, Actor: c.GetString(kit.ActorKey), Me: kit.VisitorOf(c).Person.ID}
	body.To = number("to", body.Now)
	body.From = number("from", max(body.To-1, 0))
	body.List, err = sc.Revisions(ctx, st.ID, number("below", 0), mostRevisions+1)
	if err != nil {
		s.Fail(c, err)
		return
	}
	if len(body.List) > mostRevisions {
		body.Older = body.List[mostRevisions].Revision
		body.List = body.List[:mostRevisions]
	}
	var people []int64
	for _, r := range body.List {
		if r.PersonID != nil {
			people = append(people, *r.PersonID)
		}
	}
	if body.Names, err = s.Store.Names(ctx, people); err != nil {
		s.Fail(c, err)
		return
	}
	var both [2]brief.Brief
	for i, n := range []int{body.From, body.To} {
		r, err := sc.Revision(ctx, st.ID, n)
		if err != nil {
			s.Fail(c, err)
			return
		}
		setting := an.Setting
		setting.Version = n
		both[i] = brief.Compose(an.Evidence, r.Choices.Data(), setting)
	}
	body.Changes = render.Compare(both[0], both[1])
	s.Page(c, http.StatusOK, "revisions", s.InStudy(c, "revisions", body))
}

// restore brings a brief back to what it was.
func (s *handlers) restore(c *gin.Context) {
	n, err := strconv.Atoi(c.PostForm("revision"))
	if err != nil {
		s.Fail(c, store.ErrNotFound)
		return
	}
	if _, err = s.Commands(c).Restore(c.Request.Context(), kit.StudyOf(c).ID, n); err != nil {
		s.Fail(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/studies/%d/brief", kit.StudyOf(c).ID))
}
