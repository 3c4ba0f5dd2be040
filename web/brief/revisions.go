package brief

import (
	"fmt"
	"net/http"
	"strconv"

	"corpulan/analysis"
	"corpulan/core/brief"
	"corpulan/render"
	"corpulan/store"
	"corpulan/study"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

// maxRevisions is how many revisions a page lists.
const maxRevisions = 60

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
	Unkept   []int // of the two, those that are shown by the evidence of today
	Changes  []render.Change
}

// Who says who made a revision.
func (b revisionsBody) Who(r store.BriefRevision) string {
	return whoDid(r.PersonID, r.Actor, b.Me, b.Actor, b.Names)
}

// revisions lists what a brief was, and compares two states of it as the documents they were.
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
	body.List, err = sc.Revisions(ctx, st.ID, number("below", 0), maxRevisions+1)
	if err != nil {
		s.Fail(c, err)
		return
	}
	if len(body.List) > maxRevisions {
		body.Older = body.List[maxRevisions].Revision
		body.List = body.List[:maxRevisions]
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
		if both[i], err = s.stateOf(c, an.Analysis, n, &body); err != nil {
			s.Fail(c, err)
			return
		}
	}
	body.Changes = render.Compare(both[0], both[1])
	s.Page(c, http.StatusOK, "revisions", s.InStudy(c, "revisions", body))
}

// stateOf is a state of the brief as the document it was; the present one as it is; one from before
// documents were kept as the evidence of today makes it, which is said.
func (s *handlers) stateOf(c *gin.Context, an *analysis.Analysis, n int, body *revisionsBody) (brief.Brief, error) {
	if n == an.Saved.Revision {
		return an.Brief, nil
	}
	sc, ctx := s.Scope(c), c.Request.Context()
	r, err := sc.Revision(ctx, an.Study.ID, n)
	if err != nil {
		return brief.Brief{}, err
	}
	b, _, err := study.Document(ctx, sc, an, n)
	if err != nil {
		return brief.Brief{}, err
	}
	if b == nil {
		body.Unkept = append(body.Unkept, n)
		return study.Composed(an, r), nil
	}
	return *b, nil
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
