package gather

import (
	"bytes"
	"context"
	"fmt"
	"hash/maphash"
	"html/template"
	"reflect"
	"strconv"
	"strings"
	"time"

	"corpulan/analysis"
	"corpulan/cache"
	"corpulan/core/evidence"
	"corpulan/store"
	"corpulan/study"
	"corpulan/web/kit"

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
	return !b.Running && !b.Gathering.Brought && b.Gathering.Searched && b.Study.Depth < study.MaxResults && b.Ranked() >= b.Study.Depth
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

// boardNow is the list as it now is.
func (s *handlers) boardNow(c *gin.Context) (*board, error) {
	id := kit.StudyOf(c).ID
	change, _, err := s.Scope(c).Change(c.Request.Context(), id)
	if err != nil {
		return nil, err
	}
	return s.board(c, id, change)
}

// resultParam is the number of the result named in the address.
func resultParam(c *gin.Context) (int64, error) {
	id, err := strconv.ParseInt(c.Param("result"), 10, 64)
	if err != nil {
		return 0, store.ErrNotFound
	}
	return id, nil
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

// maxBoards is how much memory boards take, in bytes. Our own bound.
const maxBoards = 32 << 20

// newBoards keeps boards for those who watch, and to tell what has changed since.
func newBoards() (*cache.Cache[boardKey, *board], error) {
	return cache.New(cache.Options[boardKey, *board]{MaximumWeight: maxBoards, Written: 10 * time.Minute,
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
