package gather

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"hash/maphash"
	"html/template"
	"net/http"
	"reflect"
	"strconv"
	"strings"
	"time"

	"corpulan/store"
	"corpulan/web/kit"

	"github.com/gin-contrib/sse"
	"github.com/gin-gonic/gin"

	"corpulan/cache"
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

// board is the ranked list at one moment, rendered once for all who watch it.
type board struct {
	change  int64
	exact   bool // nothing happened while it was read: it shows just that moment
	running bool
	order   string // which rows stand in it, in which order
	list    string // all of it
	bar     string
	rows    []boardRow
	results []gatherRow
}

type boardRow struct {
	id     int64
	digest uint64
	html   string
}

// boardKey names a moment of a study.
type boardKey struct {
	study, change int64
	language      string
}

// lastBoard stands for the change of the board that was last made of a study.
const lastBoard = -1

// mostBoards is how much memory boards take, in bytes. Our own bound.
const mostBoards = 32 << 20

// newBoards keeps boards for those who watch, and to tell what has changed since.
func newBoards() (*cache.Cache[boardKey, *board], error) {
	return cache.New(cache.Options[boardKey, *board]{MaximumWeight: mostBoards, Written: 10 * time.Minute,
		Weigher: func(_ boardKey, b *board) uint32 { return uint32(min(2*len(b.list), 1<<31)) }})
}

// seed is that of the digests; they are compared within one run of the program.
var seed = maphash.MakeSeed()

func (s *handlers) board(c *gin.Context, study, change int64) (*board, error) {
	return s.boards.Get(c.Request.Context(), boardKey{study, change, s.Tongue(c).Code()}, func(context.Context, boardKey) (*board, error) {
		body, err := s.gatherBody(c)
		if err != nil {
			return nil, err
		}
		b := &board{change: body.Study.Change, running: body.Running, results: body.Rows}
		var order strings.Builder
		fmt.Fprintf(&order, "%v", body.Gathering.State == store.Failed)
		render := func(name string, data any) string {
			var html bytes.Buffer
			if err == nil {
				err = s.Tongue(c).Write(&html, name, data)
			}
			return html.String()
		}
		// A page that comes changes few rows: the others are as they were.
		lastKey := boardKey{study, lastBoard, s.Tongue(c).Code()}
		before := map[int64]int{}
		last, _ := s.boards.Find(lastKey)
		if last != nil {
			for i, r := range last.results {
				before[r.ID] = i
			}
		}
		var rows strings.Builder
		for _, r := range body.Rows {
			fmt.Fprintf(&order, " %d", r.ID)
			var html string
			if i, ok := before[r.ID]; ok && reflect.DeepEqual(last.results[i], r) {
				html = last.rows[i].html
			} else {
				html = render("gather-row", r)
			}
			b.rows = append(b.rows, boardRow{r.ID, maphash.String(seed, html), html})
			rows.WriteString(html)
		}
		body.Rendered = template.HTML(rows.String())
		after, _, changeErr := s.Scope(c).Change(c.Request.Context(), study)
		b.exact = changeErr == nil && after == b.change
		b.list, b.bar = render("gather-list", body), render("gather-bar", body)
		b.order = order.String()
		if err == nil {
			s.boards.Set(lastKey, b)
		}
		return b, err
	})
}

// rowsSent remembers what a stream has sent of each row, and that its list has
// the same rows in the same order.
type rowsSent struct {
	rows  map[int64]uint64
	order string
}

// since is what has changed from an older board to this one: the bar and the rows
// that differ, to be swapped by their ids. Not ok if other rows stand in it.
func (b *board) since(old *board) (html string, ok bool) {
	if old == nil || old.order != b.order {
		return "", false
	}
	before := map[int64]uint64{}
	for _, r := range old.rows {
		before[r.id] = r.digest
	}
	const outOfBand = ` hx-swap-oob="true"`
	var some strings.Builder
	some.WriteString(strings.Replace(b.bar, `<div class="bar"`, `<div`+outOfBand+` class="bar"`, 1))
	for _, r := range b.rows {
		if before[r.id] != r.digest {
			// A row can be parsed only among rows, so it comes wrapped.
			some.WriteString("<template>" + strings.Replace(r.html, "<tr", "<tr"+outOfBand, 1) + "</template>")
		}
	}
	return some.String(), true
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
