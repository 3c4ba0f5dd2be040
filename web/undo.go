package web

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"strings"

	"corpulan/store"
	"corpulan/study"

	"github.com/gin-gonic/gin"
)

// undo takes back the last thing this person did to the study, or does it
// again, and brings the place they are in up to date.
func (s *Server) undo(c *gin.Context) {
	id := studyOf(c).ID
	turn := study.Commands.Undo
	if strings.HasSuffix(c.Request.URL.Path, "/redo") {
		turn = study.Commands.Redo
	}
	done, err := turn(s.commands(c), c.Request.Context(), id)
	switch {
	case errors.Is(err, study.ErrNothing):
		s.say(c, http.StatusOK, "There is nothing left to undo here.")
		return
	case errors.Is(err, store.ErrStale), errors.Is(err, store.ErrConflict):
		s.say(c, http.StatusConflict, fmt.Sprintf("“%s” cannot be taken back: somebody has changed the same thing since. Nothing was touched.", done.Said))
		return
	case err != nil:
		s.fail(c, err)
		return
	}
	s.refreshed(c, noticeOf(id, done))
}

// shelve archives a study, deletes it, or brings it back.
func (s *Server) shelve(move func(study.Commands, context.Context, int64) (study.Done, error)) gin.HandlerFunc {
	return func(c *gin.Context) {
		id := studyOf(c).ID
		done, err := move(s.commands(c), c.Request.Context(), id)
		if err != nil {
			s.fail(c, err)
			return
		}
		if !fromHTMX(c) {
			c.Redirect(http.StatusSeeOther, "/")
			return
		}
		s.refreshed(c, noticeOf(id, done))
	}
}

// refreshed answers with the place a person is in as it now is, and a word on
// what was done. Which place that is the page says itself.
func (s *Server) refreshed(c *gin.Context, n notice) {
	id := studyOf(c).ID
	if !fromHTMX(c) {
		back(c, fmt.Sprintf("/studies/%d/gather", id))
		return
	}
	st, err := s.scope(c).Study(c.Request.Context(), id) // it may be what was changed
	if err != nil {
		s.fail(c, err)
		return
	}
	c.Set(studyKey, st)
	retarget := func(target string) {
		c.Header("HX-Retarget", target)
		c.Header("HX-Reswap", "outerHTML")
	}
	switch place := c.GetHeader("X-Place"); place {
	case "desk":
		body, err := s.deskBody(c, s.freshStudy(c))
		if err != nil {
			s.fail(c, err)
			return
		}
		retarget("#ledger")
		s.views.fragment(c, http.StatusOK, "ledger-changed", changed[deskBody]{body, n})
	case "gather":
		s.gatherChanged(c, n)
	case "evidence":
		body, err := s.evidenceBody(c, queryOf(c))
		if err != nil {
			s.fail(c, err)
			return
		}
		retarget("#findings")
		s.views.fragment(c, http.StatusOK, "evidence-changed", changed[evidenceBody]{body, n})
	case "brief":
		body, err := s.briefBody(c)
		if err != nil {
			s.fail(c, err)
			return
		}
		retarget("#document")
		s.views.fragment(c, http.StatusOK, "brief-changed", changed[briefBody]{body, n})
	case "network":
		body, err := s.networkBody(c)
		if err != nil {
			s.fail(c, err)
			return
		}
		retarget("#network")
		s.views.fragment(c, http.StatusOK, "network-changed", changed[networkBody]{body, n})
	case "movement":
		body, _, err := s.movementBody(c)
		if err != nil {
			s.fail(c, err)
			return
		}
		retarget("#movement")
		s.views.fragment(c, http.StatusOK, "movement-changed", changed[movementBody]{body, n})
	case "standing":
		body, err := s.standingBody(c)
		if err != nil {
			s.fail(c, err)
			return
		}
		retarget("#standing")
		s.views.fragment(c, http.StatusOK, "standing-changed", changed[standingBody]{body, n})
	case "searched": // nothing on it changes
		c.Header("HX-Retarget", "#notices")
		c.Header("HX-Reswap", "innerHTML")
		s.views.fragment(c, http.StatusOK, "notice", n)
	default: // a place that is drawn as a whole
		c.Header("HX-Refresh", "true")
		c.Status(http.StatusOK)
	}
}

// changed is a part of a page with a word on what has been done.
type changed[T any] struct {
	Body   T
	Notice notice
}
