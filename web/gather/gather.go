// Package gather is the ranked list: as it fills (stream.go), kept and set aside, pages handed in
// (handin.go) and taken along (captures.go).
package gather

import (
	"errors"
	"fmt"
	"html/template"
	"net/http"
	"strconv"
	"strings"

	"corpulan/core/address"
	"corpulan/core/message"
	"corpulan/store"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

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
	switch {
	case errors.Is(err, store.ErrConflict), errors.Is(err, store.ErrStale):
		s.Say(c, http.StatusConflict, "More results are read once the gathering has ended, and a hundred at most; nothing was changed.")
		return
	case err != nil:
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
	if as != store.Ours && as != store.InField {
		as = store.Beside
	}
	done, err := s.Commands(c).AddPages(c.Request.Context(), kit.StudyOf(c).ID, addresses, as)
	switch {
	case errors.Is(err, store.ErrTooMany):
		s.Say(c, http.StatusUnprocessableEntity, message.Of("Nothing was added: %v", message.Fault(err)))
	case err != nil:
		s.Fail(c, err)
	default:
		s.Refreshed(c, kit.NoticeOf(kit.StudyOf(c).ID, done))
	}
}

// bookmarklet is the code that sends the page being looked at to receive.
func bookmarklet(origin string, study int64) template.URL {
	return template.URL(fmt.Sprintf(`javascript:(()=>{const o='%s',w=open(o+'/studies/%d/receive');addEventListener('message',e=>{if(e.source===w&&e.data==='corpulan ready')w.postMessage({url:location.href,html:document.documentElement.outerHTML},o)})})()`, origin, study))
}
