package kit

import (
	"context"
	"errors"
	"net/http"
	"strings"

	"corpulan/core/message"
	"corpulan/store"
	"corpulan/study"

	"github.com/gin-gonic/gin"
)

// undo takes back the last thing this person did to the study, or does it
// again, and brings the place they are in up to date.
func (s *Kit) undo(c *gin.Context) {
	id := StudyOf(c).ID
	turn := study.Commands.Undo
	if strings.HasSuffix(c.Request.URL.Path, "/redo") {
		turn = study.Commands.Redo
	}
	done, err := turn(s.Commands(c), c.Request.Context(), id)
	switch {
	case errors.Is(err, study.ErrNothing):
		s.Say(c, http.StatusOK, "There is nothing left to undo here.")
		return
	case errors.Is(err, store.ErrStale), errors.Is(err, store.ErrConflict):
		s.Say(c, http.StatusConflict, message.Of("“%s” cannot be taken back: somebody has changed the same thing since. Nothing was touched.", done.Said))
		return
	case err != nil:
		s.Fail(c, err)
		return
	}
	s.Refreshed(c, NoticeOf(id, done))
}

// shelve archives a study, deletes it, or brings it back.
func (s *Kit) shelve(move func(study.Commands, context.Context, int64) (study.Done, error)) gin.HandlerFunc {
	return func(c *gin.Context) {
		id := StudyOf(c).ID
		done, err := move(s.Commands(c), c.Request.Context(), id)
		if err != nil {
			s.Fail(c, err)
			return
		}
		if !FromHTMX(c) {
			c.Redirect(http.StatusSeeOther, "/")
			return
		}
		s.Refreshed(c, NoticeOf(id, done))
	}
}
