package gather

import (
	"errors"
	"iter"
	"net/http"

	"corpulan/formats/saved"
	"corpulan/formats/warc"
	"corpulan/search"
	"corpulan/store"
	"corpulan/study"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

// captures hands over every page of the study as it was captured, as WARC, one
// after another: all of them at once may be hundreds of megabytes.
func (s *handlers) captures(c *gin.Context) {
	ctx := c.Request.Context()
	st := kit.StudyOf(c)
	ids, newest, err := s.Scope(c).CaptureIDs(ctx, st.ID)
	if err != nil {
		s.Fail(c, err)
		return
	}
	var pages iter.Seq2[saved.Fetched, error] = func(yield func(saved.Fetched, error) bool) {
		for _, id := range ids {
			kept, err := s.Scope(c).Capture(ctx, id)
			if errors.Is(err, store.ErrPruned) {
				continue // an old capture that was brought back by undoing; only what was read of it is kept
			}
			if err != nil {
				yield(saved.Fetched{}, err)
				return
			}
			p, err := study.PageOf(kept)
			if !yield(p, err) || err != nil {
				return
			}
		}
	}
	kit.Attach(c, "captures", st.Keyword, "warc.gz")
	c.Header("Content-Type", "application/warc")
	c.Status(http.StatusOK)
	if err := warc.Write(c.Writer, search.UserAgent, newest, pages); err != nil {
		s.Log.Error("handing over captures", "study", st.ID, "error", err)
		panic(http.ErrAbortHandler) // the browser must not take half an archive for a whole one
	}
}
