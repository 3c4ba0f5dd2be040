// Package gather is the ranked list: as it fills (stream.go), kept and set aside, pages handed in
// (handin.go) and taken along (captures.go).
package gather

import (
	"embed"
	"fmt"
	"html/template"
	"net/http"
	"strconv"
	"strings"

	"corpulan/core/message"

	"corpulan/analysis"
	"corpulan/core/address"
	"corpulan/core/evidence"
	"corpulan/store"
	"corpulan/study"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"

	"corpulan/cache"
)

//go:embed templates static
var files embed.FS

// handlers answer the requests of the place.
type handlers struct {
	*kit.Kit
	boards *cache.Cache[boardKey, *board]
}

// Routes hangs the place up.
func Routes(k *kit.Kit) error {
	s := &handlers{Kit: k}
	var err error
	if s.boards, err = newBoards(); err != nil {
		return err
	}
	s.Add(kit.Place{Name: "gather", Title: "Gather", Files: files,
		Step:    &kit.Step{Title: "Gather", Path: "/gather", Key: "g", Holds: []string{"movement"}},
		Scripts: []kit.Asset{{File: "gather/stream.js"}},
		Keys:    []kit.Key{{Keys: "space", Does: "keep a page or set it aside, or all that are picked"}, {Keys: "J K x", Does: "pick pages one after another, pick one (or shift and click)"}, {Keys: "A", Does: "accept all proposed set-asides"}, {Keys: "r p", Does: "try a failed page again, paste its source"}},
		Redraws: map[string]kit.Redraw{"gather": s.gatherChanged},
		Takes:   map[string]int64{"/studies/:study/hand-in": kit.LargestHandIn, "/studies/:study/results/:result/hand-in": kit.LargestHandIn, "/studies/:study/extras": kit.LargestHandIn},
	})
	st := s.Study
	st.GET("/gather", s.gather)
	st.GET("/list", s.list)
	st.GET("/events", s.events)
	st.POST("/gather", s.gatherAgain)
	st.POST("/gather/stop", s.stopGathering)
	st.POST("/gather/resume", s.resumeGathering)
	st.POST("/gather/deeper", s.deeper)
	st.POST("/results/:result/kept", s.setKept)
	st.POST("/kept", s.setManyKept)
	st.POST("/proposals", s.acceptProposals)
	st.POST("/results/:result/retry", s.retry)
	st.POST("/results/:result/not-competitor", s.notCompetitor)
	st.POST("/results/:result/hand-in", s.handIn)
	st.POST("/hand-in", s.handIn)
	st.POST("/pages", s.addPages)
	st.POST("/extras", s.addExtras)
	st.GET("/captures.warc.gz", s.captures)
	st.GET("/receive", s.receive)
	return nil
}

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
	Extras   []kit.Sample // to try with
	List     template.HTML
}

func (s *handlers) gather(c *gin.Context) {
	b, err := s.boardNow(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	st := kit.StudyOf(c)
	s.Page(c, http.StatusOK, "gather", s.InStudy(c, "gather", gatherPage{st, bookmarklet(kit.Origin(c.Request), st.ID), s.Extras, template.HTML(b.list)}))
}

// list is the ranked list alone, for a page that was hidden and is seen again.
func (s *handlers) list(c *gin.Context) {
	b, err := s.boardNow(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	s.Send(c, http.StatusOK, []byte(b.list))
}

// boardNow is the list as it now is.
func (s *handlers) boardNow(c *gin.Context) (*board, error) {
	id := kit.StudyOf(c).ID
	change, _, err := s.Scope(c).Change(c.Request.Context(), id)
	if err != nil {
		return nil, err
	}
	return s.board(c, id, change)
}

// listChanged is what a person's own doing changed in the list, or all of it.
type listChanged struct {
	HTML   template.HTML
	Notice kit.Notice
}

// gatherChanged answers with what has changed since the page was made.
func (s *handlers) gatherChanged(c *gin.Context, n kit.Notice) {
	now, err := s.boardNow(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	// A board that was read while more happened may show what the page does not: then the
	// whole list is sent.
	var old *board
	if seen, err := strconv.ParseInt(c.GetHeader("X-Change"), 10, 64); err == nil {
		if b, ok := s.boards.Find(boardKey{kit.StudyOf(c).ID, seen, s.Tongue(c).Code()}); ok && b.exact && b.change == seen {
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
	s.Fragment(c, http.StatusOK, "gather-changed", listChanged{template.HTML(some), n})
}

func (s *handlers) gatherBody(c *gin.Context) (gatherBody, error) {
	ctx := c.Request.Context()
	b := gatherBody{}
	var err error
	// Anew, since the study in the context may be older than the change that woke us.
	if b.Study, err = s.Scope(c).Study(ctx, kit.StudyOf(c).ID); err != nil {
		return b, err
	}
	if b.Gathering, err = s.Scope(c).LatestGathering(ctx, b.Study.ID); err != nil {
		return b, err
	}
	results, err := s.Scope(c).Results(ctx, b.Gathering.ID)
	if err != nil {
		return b, err
	}
	pages, err := s.Analyst.Summarise(ctx, s.Scope(c), results)
	if err != nil {
		return b, err
	}
	b.Demo = s.Demo
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
			if analysis.Counts(r) && row.Page != nil {
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
func (s *handlers) setKept(c *gin.Context) {
	id, err := resultParam(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	s.keep(c, []int64{id})
}

// setManyKept keeps several pages or sets them aside at once.
func (s *handlers) setManyKept(c *gin.Context) {
	var ids []int64
	for _, field := range c.PostFormArray("id") {
		for part := range strings.SplitSeq(field, ",") {
			id, err := strconv.ParseInt(part, 10, 64)
			if err != nil {
				s.Fail(c, store.ErrNotFound)
				return
			}
			ids = append(ids, id)
		}
	}
	s.keep(c, ids)
}

func (s *handlers) keep(c *gin.Context, ids []int64) {
	reason := message.Message("Set aside by hand")
	if typed := strings.TrimSpace(c.PostForm("reason")); typed != "" {
		reason = message.Text(kit.Shorten(typed, 300))
	}
	done, err := s.Commands(c).Keep(c.Request.Context(), kit.StudyOf(c).ID, ids, c.PostForm("kept") == "true", reason)
	if err != nil {
		s.Fail(c, err)
		return
	}
	s.Refreshed(c, kit.NoticeOf(kit.StudyOf(c).ID, done))
}

// acceptProposals makes all proposed set-asides decisions.
func (s *handlers) acceptProposals(c *gin.Context) {
	done, err := s.Commands(c).AcceptProposals(c.Request.Context(), kit.StudyOf(c).ID)
	if err != nil {
		s.Fail(c, err)
		return
	}
	s.Refreshed(c, kit.NoticeOf(kit.StudyOf(c).ID, done))
}

// notCompetitor remembers that the host of a page is no competitor.
func (s *handlers) notCompetitor(c *gin.Context) {
	id, err := resultParam(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	done, err := s.Commands(c).NotCompetitor(c.Request.Context(), kit.StudyOf(c).ID, id)
	if err != nil {
		s.Fail(c, err)
		return
	}
	done.Said = message.Joined(" ", done.Said, "Pages of this site are set aside in later gatherings, too; the list is in Set-up.")
	s.Refreshed(c, kit.NoticeOf(kit.StudyOf(c).ID, done))
}

// deeper reads the next ten results.
func (s *handlers) deeper(c *gin.Context) {
	done, err := s.Commands(c).Deeper(c.Request.Context(), kit.StudyOf(c))
	if err != nil {
		s.Fail(c, err)
		return
	}
	s.Refreshed(c, kit.NoticeOf(kit.StudyOf(c).ID, done))
}

// retry puts a page that failed back in line.
func (s *handlers) retry(c *gin.Context) {
	id, err := resultParam(c)
	if err == nil {
		err = s.Commands(c).TryAgain(c.Request.Context(), kit.StudyOf(c).ID, id)
	}
	s.afterStep(c, err)
}

// gatherAgain starts a new gathering of the same study.
func (s *handlers) gatherAgain(c *gin.Context) {
	st := kit.StudyOf(c)
	if s.Again != nil {
		s.Again(st.Keyword)
	}
	err := s.Commands(c).Again(c.Request.Context(), st.ID)
	if err != nil {
		s.Fail(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/studies/%d/gather", kit.StudyOf(c).ID))
}

// stopGathering halts a run where it is.
func (s *handlers) stopGathering(c *gin.Context) {
	s.afterStep(c, s.Commands(c).Stop(c.Request.Context(), kit.StudyOf(c).ID))
}

// resumeGathering lets a stopped run go on.
func (s *handlers) resumeGathering(c *gin.Context) {
	s.afterStep(c, s.Commands(c).GoOn(c.Request.Context(), kit.StudyOf(c).ID))
}

func (s *handlers) afterStep(c *gin.Context, err error) {
	if err != nil {
		s.Fail(c, err)
		return
	}
	s.Refreshed(c, kit.Notice{})
}

// addPages puts addresses to the list that did not rank, our own above all.
func (s *handlers) addPages(c *gin.Context) {
	addresses, problems := address.ParseList(c.PostForm("addresses"))
	if len(problems) > 0 {
		s.Say(c, http.StatusUnprocessableEntity, message.Of("Nothing was added: %v", message.Sentence(message.Joined("; ", problems...))))
		return
	}
	if len(addresses) == 0 {
		s.Say(c, http.StatusUnprocessableEntity, "Paste at least one address.")
		return
	}
	as := store.Adding(c.PostForm("as"))
	if as != store.Ours && as != store.Beside {
		as = store.InField
	}
	if c.PostForm("own") == "true" {
		as = store.Ours
	}
	done, err := s.Commands(c).AddPages(c.Request.Context(), kit.StudyOf(c).ID, addresses, as)
	switch {
	case isTooMany(err):
		s.Say(c, http.StatusUnprocessableEntity, message.Of("Nothing was added: %v", message.Fault(err)))
	case err != nil:
		s.Fail(c, err)
	default:
		s.Refreshed(c, kit.NoticeOf(kit.StudyOf(c).ID, done))
	}
}
