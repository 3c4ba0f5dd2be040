package web

import (
	"bytes"
	"database/sql"
	"errors"
	"fmt"
	"html/template"
	"net/http"
	"strconv"
	"strings"
	"time"

	"corpulan/core/evidence"
	"corpulan/core/reading"
	"corpulan/store"

	"github.com/gin-gonic/gin"
)

// gatherBody is the Gather place: the ranked list as it stands.
type gatherBody struct {
	Study     store.Study
	Gathering store.Gathering
	Rows      []gatherRow
	Arrived   int // read or failed
	Failures  int
	Kept      int
	Proposed  int // set aside by proposal, not yet decided
	Running   bool
	Words     evidence.Figure
	Bookmark  template.URL // the bookmarklet of this study
}

type gatherRow struct {
	store.Result
	Page    *reading.Reading // nil until it is read
	Outlier bool
}

func (s *Server) gather(c *gin.Context) {
	body, err := s.gatherBody(c)
	if err != nil {
		s.fail(c, err)
		return
	}
	s.views.page(c, http.StatusOK, "gather", s.inStudy(c, "gather", body))
}

func (s *Server) gatherBody(c *gin.Context) (gatherBody, error) {
	ctx := c.Request.Context()
	// Anew, since the study in the context may be older than the change that woke us.
	study, err := s.scope().Study(ctx, studyOf(c).ID)
	if err != nil {
		return gatherBody{}, err
	}
	an, err := s.analyst.analyse(ctx, s.scope(), study)
	if err != nil {
		return gatherBody{}, err
	}
	b := gatherBody{Bookmark: bookmarklet("http://"+c.Request.Host, study.ID), Study: study, Gathering: an.Gathering, Words: an.Evidence.Figure("words"),
		Running: running(an.Gathering)}
	for _, r := range an.Results {
		row := gatherRow{Result: r}
		if r.ReadingID != nil && an.Docs[*r.ReadingID] != nil {
			row.Page = an.Docs[*r.ReadingID].Reading
		}
		for _, rank := range b.Words.Outliers {
			row.Outlier = row.Outlier || rank == r.Rank
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
			if counts(r) {
				b.Kept++
			}
		}
		b.Rows = append(b.Rows, row)
	}
	return b, nil
}

// Rhythm of the event stream: how soon a change shows while pages arrive and
// afterwards, and how often an idle stream says that it is alive.
const (
	lookRunning = 120 * time.Millisecond
	lookIdle    = time.Second
	heartbeat   = 20 * time.Second
)

// events streams the ranked list each time the study changes. The database
// holds the state, so a reload, or another person's browser, sees the same.
func (s *Server) events(c *gin.Context) {
	ctx := c.Request.Context()
	id := studyOf(c).ID
	seen, err := strconv.ParseInt(c.Query("since"), 10, 64)
	if err != nil {
		seen = -1
	}
	h := c.Writer.Header()
	h.Set("Content-Type", "text/event-stream")
	h.Set("Cache-Control", "no-store")
	h.Set("X-Accel-Buffering", "no")
	c.Status(http.StatusOK)
	c.Writer.Flush()
	tick := time.NewTimer(0)
	defer tick.Stop()
	beat := time.NewTicker(heartbeat)
	defer beat.Stop()
	for {
		select {
		case <-ctx.Done():
			return
		case <-s.closing.Done():
			return
		case <-beat.C:
			if _, err := c.Writer.WriteString(": still here\n\n"); err != nil {
				return
			}
			c.Writer.Flush()
			continue
		case <-tick.C:
		}
		wait := lookIdle
		change, err := s.scope().Change(ctx, id)
		switch {
		case errors.Is(err, store.ErrNotFound):
			return
		case err == nil && change != seen:
			body, err := s.gatherBody(c)
			if err == nil {
				if s.sendEvent(c, body) != nil {
					return
				}
				seen = body.Study.Change
			}
			wait = lookRunning
		case err == nil:
			if g, err := s.scope().LatestGathering(ctx, id); err == nil && (g.State == store.Searching || g.State == store.Fetching) {
				wait = lookRunning
			}
		}
		tick.Reset(wait)
	}
}

func (s *Server) sendEvent(c *gin.Context, body gatherBody) error {
	var html bytes.Buffer
	if err := s.views.write(&html, "gather-list", body); err != nil {
		s.log.Error("rendering the list", "error", err)
		return nil
	}
	var out bytes.Buffer
	fmt.Fprintf(&out, "event: list\nid: %d\n", body.Study.Change)
	for line := range strings.Lines(html.String()) {
		fmt.Fprintf(&out, "data: %s\n", strings.TrimRight(line, "\r\n"))
	}
	out.WriteByte('\n')
	if _, err := c.Writer.Write(out.Bytes()); err != nil {
		return err
	}
	c.Writer.Flush()
	return nil
}

// setKept keeps a page or sets it aside.
func (s *Server) setKept(c *gin.Context) {
	id, err := strconv.ParseInt(c.Param("result"), 10, 64)
	if err != nil {
		s.fail(c, store.ErrNotFound)
		return
	}
	reason := strings.TrimSpace(c.PostForm("reason"))
	if reason == "" {
		reason = "Set aside by hand"
	}
	if err := s.scope().SetKept(c.Request.Context(), studyOf(c).ID, id, c.PostForm("kept") == "true", shorten(reason, 300)); err != nil {
		s.fail(c, err)
		return
	}
	s.listAgain(c)
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
	if err := s.scope().SetManyKept(c.Request.Context(), studyOf(c).ID, ids, c.PostForm("kept") == "true", "Set aside by hand"); err != nil {
		s.fail(c, err)
		return
	}
	s.listAgain(c)
}

// acceptProposals makes all proposed set-asides decisions.
func (s *Server) acceptProposals(c *gin.Context) {
	if _, err := s.scope().AcceptProposals(c.Request.Context(), studyOf(c).ID); err != nil {
		s.fail(c, err)
		return
	}
	s.listAgain(c)
}

// retry puts a page that failed back in line.
func (s *Server) retry(c *gin.Context) {
	ctx := c.Request.Context()
	study := studyOf(c)
	id, err := strconv.ParseInt(c.Param("result"), 10, 64)
	if err != nil {
		s.fail(c, store.ErrNotFound)
		return
	}
	err = s.scope().InTx(ctx, func(tx store.Scope, sqlTx *sql.Tx) error {
		r, err := tx.Result(ctx, study.ID, id)
		if err != nil {
			return err
		}
		if err := tx.Retry(ctx, study.ID, id); err != nil {
			return err
		}
		return s.queue.Fetch(ctx, sqlTx, r.GatheringID, r.Host)
	})
	if err != nil {
		s.fail(c, err)
		return
	}
	s.listAgain(c)
}

// gatherAgain starts a new gathering of the same study: from the search engine,
// or from the results that a person brought.
func (s *Server) gatherAgain(c *gin.Context) {
	ctx := c.Request.Context()
	study := studyOf(c)
	err := s.scope().InTx(ctx, func(tx store.Scope, sqlTx *sql.Tx) error {
		before, err := tx.LatestGathering(ctx, study.ID)
		if err != nil {
			return err
		}
		g, err := tx.StartGathering(ctx, study.ID)
		if err != nil {
			return err
		}
		if !before.Brought {
			return s.queue.Search(ctx, sqlTx, g.ID)
		}
		results, err := tx.ResultsAgain(ctx, before, *g)
		if err != nil {
			return err
		}
		hosts, err := tx.Found(ctx, *g, results, before.Asked, before.Related)
		if err != nil {
			return err
		}
		return s.queue.Fetch(ctx, sqlTx, g.ID, hosts...)
	})
	if err != nil {
		s.fail(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/studies/%d/gather", study.ID))
}

// stopGathering halts a run where it is; what has arrived stays.
func (s *Server) stopGathering(c *gin.Context) {
	err := s.scope().StopGathering(c.Request.Context(), studyOf(c).ID)
	if err != nil && !errors.Is(err, store.ErrConflict) { // it had ended meanwhile
		s.fail(c, err)
		return
	}
	s.listAgain(c)
}

// resumeGathering lets a stopped run go on with the pages still waiting.
func (s *Server) resumeGathering(c *gin.Context) {
	ctx := c.Request.Context()
	err := s.scope().InTx(ctx, func(tx store.Scope, sqlTx *sql.Tx) error {
		g, hosts, err := tx.ResumeGathering(ctx, studyOf(c).ID)
		if err != nil {
			return err
		}
		if len(hosts) == 0 {
			return s.queue.Search(ctx, sqlTx, g.ID)
		}
		return s.queue.Fetch(ctx, sqlTx, g.ID, hosts...)
	})
	if err != nil && !errors.Is(err, store.ErrConflict) {
		s.fail(c, err)
		return
	}
	s.listAgain(c)
}

// listAgain answers with the list as it now is.
func (s *Server) listAgain(c *gin.Context) {
	if !fromHTMX(c) {
		back(c, fmt.Sprintf("/studies/%d/gather", studyOf(c).ID))
		return
	}
	body, err := s.gatherBody(c)
	if err != nil {
		s.fail(c, err)
		return
	}
	s.views.fragment(c, http.StatusOK, "gather-list", body)
}

func shorten(s string, most int) string {
	r := []rune(s)
	if len(r) <= most {
		return s
	}
	return string(r[:most])
}
