package web

import (
	"context"
	"fmt"
	"html/template"
	"net/http"
	"strconv"
	"strings"

	"corpulan/core/address"
	"corpulan/core/evidence"
	"corpulan/store"
	"corpulan/study"

	"github.com/gin-gonic/gin"
)

// gatherBody is the Gather place: the ranked list as it stands.
type gatherBody struct {
	Study     store.Study
	Gathering store.Gathering
	Rows      []gatherRow
	Rendered  template.HTML // the rows, one after another
	Arrived   int           // read or failed
	Failures  int
	Kept      int
	Proposed  int // set aside by proposal, not yet decided
	Running   bool
	Words     evidence.Figure
	Demo      bool // the engine is the stand-in, which knows a few keywords
}

type gatherRow struct {
	store.Result
	Page    *store.Summary // nil until it is read
	Outlier bool
}

// Answered is how many pages answered with a page.
func (b gatherBody) Answered() int { return b.Arrived - b.Failures }

// Deeper tells that the engine may have more results than were asked for.
func (b gatherBody) Deeper() bool {
	return !b.Running && !b.Gathering.Brought && b.Gathering.Searched && b.Study.Depth < study.MostResults && b.Ranked() >= b.Study.Depth
}

// Ranked is how many results the search gave, pages that people added left out.
func (b gatherBody) Ranked() int {
	n := 0
	for _, r := range b.Rows {
		if !r.Added {
			n++
		}
	}
	return n
}

// gatherPage is the Gather place around its list.
type gatherPage struct {
	Study    store.Study
	Bookmark template.URL // the bookmarklet of this study
	Extras   []Sample     // to try with
	List     template.HTML
}

func (s *Server) gather(c *gin.Context) {
	b, err := s.boardNow(c)
	if err != nil {
		s.fail(c, err)
		return
	}
	st := studyOf(c)
	s.views.page(c, http.StatusOK, "gather", s.inStudy(c, "gather", gatherPage{st, bookmarklet(origin(c.Request), st.ID), s.extras, template.HTML(b.list)}))
}

// list is the ranked list alone, for a page that was hidden and is seen again.
func (s *Server) list(c *gin.Context) {
	b, err := s.boardNow(c)
	if err != nil {
		s.fail(c, err)
		return
	}
	send(c, http.StatusOK, []byte(b.list))
}

// boardNow is the list as it now is.
func (s *Server) boardNow(c *gin.Context) (*board, error) {
	id := studyOf(c).ID
	change, _, err := s.scope(c).Change(c.Request.Context(), id)
	if err != nil {
		return nil, err
	}
	return s.board(c, id, change)
}

// listChanged is what a person's own doing changed in the list, or all of it.
type listChanged struct {
	HTML   template.HTML
	Notice notice
}

// gatherChanged answers with what has changed since the page was made.
func (s *Server) gatherChanged(c *gin.Context, n notice) {
	now, err := s.boardNow(c)
	if err != nil {
		s.fail(c, err)
		return
	}
	// A board that was read while more happened may show what the page does not: then the
	// whole list is sent.
	var old *board
	if seen, err := strconv.ParseInt(c.GetHeader("X-Change"), 10, 64); err == nil {
		if b, ok := s.boards.GetIfPresent(boardKey{studyOf(c).ID, seen, s.views.of(c).Code()}); ok && b.exact && b.change == seen {
			old = b
		}
	}
	some, ok := now.since(old)
	if ok {
		c.Header("HX-Reswap", "none")
	} else {
		some = now.list
		c.Header("HX-Retarget", "#list")
		c.Header("HX-Reswap", "outerHTML")
	}
	s.views.fragment(c, http.StatusOK, "gather-changed", listChanged{template.HTML(some), n})
}

func (s *Server) gatherBody(c *gin.Context) (gatherBody, error) {
	ctx := c.Request.Context()
	b := gatherBody{}
	var err error
	// Anew, since the study in the context may be older than the change that woke us.
	if b.Study, err = s.scope(c).Study(ctx, studyOf(c).ID); err != nil {
		return b, err
	}
	if b.Gathering, err = s.scope(c).LatestGathering(ctx, b.Study.ID); err != nil {
		return b, err
	}
	results, err := s.scope(c).Results(ctx, b.Gathering.ID)
	if err != nil {
		return b, err
	}
	pages, err := s.analyst.Summarise(ctx, s.scope(c), results)
	if err != nil {
		return b, err
	}
	b.Demo = s.demo
	b.Running = b.Gathering.Running()
	var words, ranks []int
	for _, r := range results {
		row := gatherRow{Result: r}
		if r.ReadingID != nil {
			row.Page = pages[*r.ReadingID]
		}
		switch r.State {
		case store.Failed:
			b.Failures++
			b.Arrived++
		case store.Read:
			b.Arrived++
			if !r.Kept && !r.Decided {
				b.Proposed++
			}
			if study.Counts(r) && row.Page != nil {
				b.Kept++
				words, ranks = append(words, row.Page.Words), append(ranks, r.Rank)
			}
		}
		b.Rows = append(b.Rows, row)
	}
	b.Words = evidence.Lengths(words, ranks)
	for i := range b.Rows {
		for _, rank := range b.Words.Outliers {
			b.Rows[i].Outlier = b.Rows[i].Outlier || rank == b.Rows[i].Rank
		}
	}
	return b, nil
}

// resultParam is the number of the result named in the address.
func resultParam(c *gin.Context) (int64, error) {
	id, err := strconv.ParseInt(c.Param("result"), 10, 64)
	if err != nil {
		return 0, store.ErrNotFound
	}
	return id, nil
}

// setKept keeps a page or sets it aside.
func (s *Server) setKept(c *gin.Context) {
	id, err := resultParam(c)
	if err != nil {
		s.fail(c, err)
		return
	}
	s.keep(c, []int64{id})
}

// setManyKept keeps several pages or sets them aside at once.
func (s *Server) setManyKept(c *gin.Context) {
	var ids []int64
	for _, field := range c.PostFormArray("id") {
		for part := range strings.SplitSeq(field, ",") {
			id, err := strconv.ParseInt(part, 10, 64)
			if err != nil {
				s.fail(c, store.ErrNotFound)
				return
			}
			ids = append(ids, id)
		}
	}
	s.keep(c, ids)
}

func (s *Server) keep(c *gin.Context, ids []int64) {
	reason := strings.TrimSpace(c.PostForm("reason"))
	if reason == "" {
		reason = "Set aside by hand"
	}
	done, err := s.commands(c).Keep(c.Request.Context(), studyOf(c).ID, ids, c.PostForm("kept") == "true", shorten(reason, 300))
	if err != nil {
		s.fail(c, err)
		return
	}
	s.refreshed(c, noticeOf(studyOf(c).ID, done))
}

// acceptProposals makes all proposed set-asides decisions.
func (s *Server) acceptProposals(c *gin.Context) {
	done, err := s.commands(c).AcceptProposals(c.Request.Context(), studyOf(c).ID)
	if err != nil {
		s.fail(c, err)
		return
	}
	s.refreshed(c, noticeOf(studyOf(c).ID, done))
}

// notCompetitor remembers that the host of a page is no competitor.
func (s *Server) notCompetitor(c *gin.Context) {
	id, err := resultParam(c)
	if err != nil {
		s.fail(c, err)
		return
	}
	done, err := s.commands(c).NotCompetitor(c.Request.Context(), studyOf(c).ID, id)
	if err != nil {
		s.fail(c, err)
		return
	}
	done.Said += " Pages of this site are set aside in later gatherings, too; the list is in Set-up."
	s.refreshed(c, noticeOf(studyOf(c).ID, done))
}

// deeper reads the next ten results.
func (s *Server) deeper(c *gin.Context) {
	done, err := s.commands(c).Deeper(c.Request.Context(), studyOf(c))
	if err != nil {
		s.fail(c, err)
		return
	}
	s.refreshed(c, noticeOf(studyOf(c).ID, done))
}

// retry puts a page that failed back in line.
func (s *Server) retry(c *gin.Context) {
	id, err := resultParam(c)
	if err == nil {
		err = s.commands(c).TryAgain(c.Request.Context(), studyOf(c).ID, id)
	}
	s.afterStep(c, err)
}

// gatherAgain starts a new gathering of the same study.
func (s *Server) gatherAgain(c *gin.Context) {
	st := studyOf(c)
	if s.again != nil {
		s.again(st.Keyword)
	}
	err := s.commands(c).Again(c.Request.Context(), st.ID, func(ctx context.Context) (*study.Analysis, error) {
		return s.analyst.Analyse(ctx, s.scope(c), st)
	})
	if err != nil {
		s.fail(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/studies/%d/gather", studyOf(c).ID))
}

// stopGathering halts a run where it is.
func (s *Server) stopGathering(c *gin.Context) {
	s.afterStep(c, s.commands(c).Stop(c.Request.Context(), studyOf(c).ID))
}

// resumeGathering lets a stopped run go on.
func (s *Server) resumeGathering(c *gin.Context) {
	s.afterStep(c, s.commands(c).GoOn(c.Request.Context(), studyOf(c).ID))
}

func (s *Server) afterStep(c *gin.Context, err error) {
	if err != nil {
		s.fail(c, err)
		return
	}
	s.refreshed(c, notice{})
}

// addPages puts addresses to the list that did not rank, our own above all.
func (s *Server) addPages(c *gin.Context) {
	addresses, problems := address.ParseList(c.PostForm("addresses"))
	if len(problems) > 0 {
		s.say(c, http.StatusUnprocessableEntity, "Nothing was added: "+strings.Join(problems, "; ")+".")
		return
	}
	if len(addresses) == 0 {
		s.say(c, http.StatusUnprocessableEntity, "Paste at least one address.")
		return
	}
	as := store.Adding(c.PostForm("as"))
	if as != store.Ours && as != store.Beside {
		as = store.InField
	}
	if c.PostForm("own") == "true" {
		as = store.Ours
	}
	done, err := s.commands(c).AddPages(c.Request.Context(), studyOf(c).ID, addresses, as)
	switch {
	case isTooMany(err):
		s.say(c, http.StatusUnprocessableEntity, "Nothing was added: "+err.Error()+".")
	case err != nil:
		s.fail(c, err)
	default:
		s.refreshed(c, noticeOf(studyOf(c).ID, done))
	}
}

func shorten(s string, most int) string {
	r := []rune(s)
	if len(r) <= most {
		return s
	}
	return string(r[:most])
}
