package gather

import (
	"errors"
	"net/http"
	"strconv"
	"strings"
	"time"

	"corpulan/store"
	"corpulan/web/kit"

	"github.com/gin-contrib/sse"
	"github.com/gin-gonic/gin"
)

// Rhythm of the event stream: how often a running gathering is looked at, and
// how often an idle stream says that it is alive.
const (
	lookRunning = 250 * time.Millisecond
	slowestLook = 2 * time.Second
	heartbeat   = 20 * time.Second
)

// events streams what changes in the ranked list while pages arrive, and ends
// with the gathering: a browser has only six connections to us, and each stream
// takes one. The database holds the state, so a reload, or another person's
// browser, sees the same.
func (s *handlers) events(c *gin.Context) {
	ctx := c.Request.Context()
	id := kit.StudyOf(c).ID
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
	sent := &rowsSent{rows: map[int64]uint64{}}
	for {
		select {
		case <-ctx.Done():
			return
		case <-s.Closing.Done():
			return
		case <-beat.C:
			if _, err := c.Writer.WriteString(": still here\n\n"); err != nil {
				return
			}
			c.Writer.Flush()
			continue
		case <-tick.C:
		}
		change, running, err := s.Scope(c).Change(ctx, id)
		if errors.Is(err, store.ErrNotFound) {
			return
		}
		began := time.Now()
		if err == nil && change != seen {
			var b *board
			if b, err = s.board(c, id, change); err == nil {
				event, html := sent.next(b)
				if s.sendEvent(c, event, b.change, html) != nil {
					return
				}
				seen, running = b.change, b.running
			}
		}
		if err == nil && !running {
			_ = s.sendEvent(c, "end", seen, "")
			return
		}
		tick.Reset(min(max(lookRunning, 8*time.Since(began)), slowestLook)) // less often on a busy machine; also when the database is away for a while
	}
}

// rowsSent remembers what a stream has sent of each row, and that its list has
// the same rows in the same order.
type rowsSent struct {
	rows  map[int64]uint64
	order string
}

// next is what a watcher has to be sent: the bar over the list and the rows that have changed,
// or the whole list where other rows stand in it.
func (sent *rowsSent) next(b *board) (event, html string) {
	event, html = "list", b.list
	if sent.order == b.order {
		var some strings.Builder
		some.WriteString(b.bar)
		some.WriteString("<table>") // a row is parsed only in a table
		for _, r := range b.rows {
			if sent.rows[r.id] != r.digest {
				some.WriteString(r.html)
			}
		}
		some.WriteString("</table>")
		event, html = "rows", some.String()
	}
	sent.order = b.order
	for _, r := range b.rows {
		sent.rows[r.id] = r.digest
	}
	return event, html
}

func (s *handlers) sendEvent(c *gin.Context, name string, id int64, html string) error {
	html = string(s.Without([]byte(html), kit.VisitorOf(c).Role))
	if err := sse.Encode(c.Writer, sse.Event{Event: name, Id: strconv.FormatInt(id, 10), Data: html}); err != nil {
		return err
	}
	c.Writer.Flush()
	return nil
}
