// Package slate is the pages a publication plans: their order, links, days and studies.
package slate

import (
	"bytes"
	"cmp"
	"errors"
	"fmt"
	"html/template"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"corpulan/core/brief"
	"corpulan/core/demand"
	"corpulan/core/message"
	"corpulan/render"
	"corpulan/store"
	"corpulan/study"
	"corpulan/web/draw"
	"corpulan/web/kit"
	"corpulan/web/parts"

	"github.com/gin-gonic/gin"
)

const slateKey = "slate"

func (s *handlers) withSlate(c *gin.Context) {
	id, err := strconv.ParseInt(c.Param("slate"), 10, 64)
	if err != nil {
		err = store.ErrNotFound
	}
	var slate store.Slate
	if err == nil {
		slate, err = s.Scope(c).Slate(c.Request.Context(), id)
	}
	if err != nil {
		s.Fail(c, err)
		c.Abort()
		return
	}
	c.Set(slateKey, slate)
}

func slateOf(c *gin.Context) store.Slate { return c.MustGet(slateKey).(store.Slate) }

// slateBody is one slate: its pages, the links between them, the days they are due.
type slateBody struct {
	Slate   store.Slate
	Plan    store.SlatePlan
	Tab     string // "", "links" or "weeks"
	Pages   []slatePageRow
	Kinds   []brief.Template
	Begun   int
	Running bool // a study of it is still gathering
	Drawn   template.HTML
	Links   []slateLink
	Weeks   []week
	Undated int
	Gain    float64
	Notice  kit.Notice
}

// slatePageRow is a page of a slate with the study that was begun for it.
type slatePageRow struct {
	store.SlatePage
	Study store.LedgerLine
	At    int
	Last  bool
}

// State is how far a page has come, in words.
func (r slatePageRow) State() string {
	switch l := r.Study; {
	case l.ID == 0:
		return "planned"
	case l.State == store.Searching || l.State == store.Fetching:
		return "gathering"
	case l.State == store.Failed:
		return "could not gather"
	case l.Stage != brief.Proposed && l.Stage != brief.Composed:
		return l.Stage
	case l.Revision > 1:
		return "composing"
	}
	return "gathered"
}

// slateLink is a link with the names of its pages.
type slateLink struct {
	demand.Link
	FromName, ToName string
}

// week is a week of the calendar with what is due in it.
type week struct {
	Monday time.Time
	Number int
	Pages  []slatePageRow
}

func (s *handlers) slatePlace(c *gin.Context) {
	body, err := s.slateBody(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	if kit.FromHTMX(c) {
		s.Fragment(c, http.StatusOK, "slate", body)
		return
	}
	s.Page(c, http.StatusOK, "slate", s.inSlate(c, body))
}

func (s *handlers) inSlate(c *gin.Context, body slateBody) kit.PageData {
	return kit.PageData{Title: body.Plan.Name, Place: "slate", Publication: kit.PublicationOf(c).Name, Plan: fmt.Sprintf("/slates/%d", body.Slate.ID), Body: body}
}

func (s *handlers) slateBody(c *gin.Context) (slateBody, error) {
	ctx, sc := c.Request.Context(), s.Scope(c)
	slate, err := sc.Slate(ctx, slateOf(c).ID)
	if err != nil {
		return slateBody{}, err
	}
	body := slateBody{Slate: slate, Plan: slate.Plan.Data(), Tab: kit.PageQuery(c).Get("tab"), Kinds: brief.Templates()}
	pub, err := sc.Publication(ctx)
	if err != nil {
		return body, err
	}
	body.Kinds = append(body.Kinds, pub.Settings.Data().Templates...)
	have, err := sc.SlateStudies(ctx, slate.ID)
	if err != nil {
		return body, err
	}
	ids := make([]int64, 0, len(have))
	for _, id := range have {
		ids = append(ids, id)
	}
	lines, err := sc.StudiesOf(ctx, ids)
	if err != nil {
		return body, err
	}
	names := map[string]string{}
	pages, called := make([]demand.Planned, 0, len(body.Plan.Pages)), make([]string, 0, len(body.Plan.Pages))
	for i, p := range body.Plan.Pages {
		r := slatePageRow{SlatePage: p, Study: lines[have[p.Key]], At: i + 1, Last: i == len(body.Plan.Pages)-1}
		if r.Study.ID != 0 {
			body.Begun++
		}
		body.Running = body.Running || r.State() == "gathering"
		body.Gain += p.Gain.Value
		body.Pages = append(body.Pages, r)
		names[p.Key] = p.Name()
		pages, called = append(pages, p.Planned), append(called, p.Name())
	}
	switch body.Tab {
	case "links":
		body.Drawn = draw.Network(s.Tongue(c).Words, pages, called, body.Plan.Links, func(key string) string { return "#" + pageAnchor(key) })
		for _, l := range body.Plan.Links {
			if names[l.From] != "" && names[l.To] != "" {
				body.Links = append(body.Links, slateLink{l, names[l.From], names[l.To]})
			}
		}
	case "weeks":
		body.Weeks, body.Undated = weeksOf(body.Pages)
	default:
		body.Tab = ""
	}
	return body, nil
}

// pageAnchor is the id of a page's row; a key may hold any character.
func pageAnchor(key string) string { return fmt.Sprintf("page-%x", key) }

// Anchor is described at pageAnchor.
func (r slatePageRow) Anchor() string { return pageAnchor(r.Key) }

// FromAnchor is where the page stands that a link leads from.
func (l slateLink) FromAnchor() string { return pageAnchor(l.From) }

// weeksOf puts pages into the weeks in which they are due (ISO 8601), those between left empty.
func weeksOf(pages []slatePageRow) (weeks []week, undated int) {
	dated := slices.Clone(pages)
	dated = slices.DeleteFunc(dated, func(r slatePageRow) bool { return r.Due == "" })
	slices.SortStableFunc(dated, func(a, b slatePageRow) int { return cmp.Compare(a.Due, b.Due) })
	for _, r := range dated {
		day, err := time.Parse(time.DateOnly, r.Due)
		if err != nil {
			undated++
			continue
		}
		monday := day.AddDate(0, 0, -(int(day.Weekday())+6)%7)
		for len(weeks) > 0 && weeks[len(weeks)-1].Monday.Before(monday.AddDate(0, 0, -7)) && len(weeks) < maxWeeks {
			weeks = append(weeks, weekOf(weeks[len(weeks)-1].Monday.AddDate(0, 0, 7)))
		}
		if len(weeks) == 0 || !weeks[len(weeks)-1].Monday.Equal(monday) {
			weeks = append(weeks, weekOf(monday))
		}
		w := &weeks[len(weeks)-1]
		w.Pages = append(w.Pages, r)
	}
	return weeks, undated + len(pages) - len(dated)
}

// maxWeeks is for how many weeks empty ones are shown: two years.
const maxWeeks = 104

func weekOf(monday time.Time) week {
	_, n := monday.ISOWeek()
	return week{Monday: monday, Number: n}
}

// makeSlate puts the groups that are picked into a new slate, or one that there is.
func (s *handlers) makeSlate(c *gin.Context) {
	ctx := c.Request.Context()
	keys := c.PostFormArray("group")
	g, progress, err := s.Demander.Groups(ctx, s.Scope(c), parts.ListOf(c), -1)
	switch {
	case err != nil:
		s.Fail(c, err)
		return
	case progress != nil:
		s.SayList(c, http.StatusConflict, "The keywords are still being compared; try again in a moment.")
		return
	case len(keys) == 0:
		s.SayList(c, http.StatusUnprocessableEntity, "Pick the groups that are worth a page first (x).")
		return
	}
	var id int64
	if into, convErr := strconv.ParseInt(c.PostForm("into"), 10, 64); convErr == nil && into > 0 {
		var slate store.Slate
		if slate, err = s.Scope(c).Slate(ctx, into); err == nil {
			_, err = s.Commands(c).AddToSlate(ctx, slate, g, keys)
		}
		id = into
	} else {
		var slate store.Slate
		slate, err = s.Commands(c).MakeSlate(ctx, "", g, keys)
		id = slate.ID
	}
	switch {
	case errors.Is(err, study.ErrMarket):
		s.SayList(c, http.StatusUnprocessableEntity, message.Fault(err))
		return
	case errors.Is(err, store.ErrTooMany):
		s.SayList(c, http.StatusUnprocessableEntity, message.Of("A slate has at most %d pages, and a publication %d slates.", study.MaxPages, store.MaxSlates))
		return
	case err != nil:
		s.Fail(c, err)
		return
	}
	to := fmt.Sprintf("/slates/%d", id)
	if kit.FromHTMX(c) {
		c.Header("HX-Redirect", to)
		c.Status(http.StatusOK)
		return
	}
	c.Redirect(http.StatusSeeOther, to)
}

// slateChanged answers with the slate as it now is, and a word on what was done.
func (s *handlers) slateChanged(c *gin.Context, done study.Done, err error) {
	id := slateOf(c).ID
	switch {
	case errors.Is(err, study.ErrNoPage), errors.Is(err, study.ErrNoDate), errors.Is(err, study.ErrNoKind):
		s.SayList(c, http.StatusUnprocessableEntity, message.Fault(err))
		return
	case err != nil:
		s.Fail(c, err)
		return
	case !kit.FromHTMX(c):
		kit.Back(c, fmt.Sprintf("/slates/%d", id))
		return
	}
	body, err := s.slateBody(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	body.Notice = parts.PlanNotice(fmt.Sprintf("/slates/%d", id), done)
	c.Header("HX-Retarget", "#slate")
	c.Header("HX-Reswap", "outerHTML")
	s.Fragment(c, http.StatusOK, "slate-changed", body)
}

// longestNote is how many characters a field of a page has.
const longestNote = 2000

// setPage keeps what a person says of a page.
func (s *handlers) setPage(c *gin.Context) {
	field, value := c.PostForm("field"), strings.TrimSpace(c.PostForm("value"))
	if len([]rune(value)) > longestNote {
		s.SayList(c, http.StatusUnprocessableEntity, message.Of("At most %d characters fit here. It is not saved.", longestNote))
		return
	}
	var was *string
	if w, ok := c.GetPostForm("was"); ok {
		was = &w
	}
	done, err := s.Commands(c).SetPage(c.Request.Context(), slateOf(c), c.PostForm("key"), field, was, value)
	var conflict *study.Conflict
	if errors.As(err, &conflict) { // what was typed stays in its field
		s.SayList(c, http.StatusConflict, message.Of("Somebody else has written “%s” here meanwhile. Yours is not saved, and still in its field; reload the page to see theirs.", kit.Shorten(*conflict.Theirs, 80)))
		return
	}
	s.slateChanged(c, done, err)
}

func (s *handlers) movePage(c *gin.Context) {
	done, err := s.Commands(c).MovePage(c.Request.Context(), slateOf(c), c.PostForm("key"), kit.NumberIn(c, "by", -1))
	s.slateChanged(c, done, err)
}

func (s *handlers) takeSlatePage(c *gin.Context) {
	done, err := s.Commands(c).TakePage(c.Request.Context(), slateOf(c), c.PostForm("key"))
	s.slateChanged(c, done, err)
}

func (s *handlers) makePillar(c *gin.Context) {
	done, err := s.Commands(c).MakePillar(c.Request.Context(), slateOf(c), c.PostForm("key"))
	s.slateChanged(c, done, err)
}

// bringPage takes a page in all the same that was found redundant.
func (s *handlers) bringPage(c *gin.Context) {
	ctx, slate := c.Request.Context(), slateOf(c)
	if slate.ListID == nil {
		s.SayList(c, http.StatusUnprocessableEntity, "The list of this slate is not there any more.")
		return
	}
	l, err := s.Scope(c).List(ctx, *slate.ListID)
	if err != nil {
		s.Fail(c, err)
		return
	}
	g, progress, err := s.Demander.Groups(ctx, s.Scope(c), l, -1)
	if err == nil && progress != nil {
		s.SayList(c, http.StatusConflict, "The keywords are still being compared; try again in a moment.")
		return
	}
	if err != nil {
		s.Fail(c, err)
		return
	}
	done, err := s.Commands(c).BringPage(ctx, slate, g, c.PostForm("key"))
	s.slateChanged(c, done, err)
}

// beginStudies begins the studies of all pages, or of one.
func (s *handlers) beginStudies(c *gin.Context) {
	depth := kit.NumberIn(c, "depth", 10)
	if depth < 1 || depth > 100 {
		s.SayList(c, http.StatusUnprocessableEntity, "Between 1 and 100 results can be gathered.")
		return
	}
	n, err := s.Commands(c).BeginStudies(c.Request.Context(), slateOf(c).ID, c.PostFormArray("key"), depth)
	s.slateChanged(c, study.Done{Said: message.Of("%v begun: they are being gathered", message.Counted(n, "page"))}, err)
}

func (s *handlers) deleteSlate(c *gin.Context) {
	if err := s.Commands(c).DeleteSlate(c.Request.Context(), slateOf(c).ID, strings.HasSuffix(c.Request.URL.Path, "/bring-back")); err != nil {
		s.Fail(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, "/demand")
}

func (s *handlers) turnSlate(c *gin.Context) {
	done, err := s.Commands(c).TurnPlan(c.Request.Context(), store.Subject{Slate: slateOf(c).ID}, strings.HasSuffix(c.Request.URL.Path, "/redo"))
	switch {
	case errors.Is(err, study.ErrNothing):
		s.SayList(c, http.StatusOK, "There is nothing left to undo here.")
	case errors.Is(err, store.ErrStale):
		s.SayList(c, http.StatusConflict, message.Of("“%s” cannot be taken back: somebody has changed the slate since. Nothing was touched.", done.Said))
	default:
		s.slateChanged(c, done, err)
	}
}

// downloadSlate hands a slate over.
func (s *handlers) downloadSlate(c *gin.Context) {
	body, err := s.slateBody(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	doc := render.Slate{Name: body.Plan.Name, ID: strconv.FormatInt(body.Slate.ID, 10), Links: body.Plan.Links}
	for _, r := range body.Pages {
		doc.Pages = append(doc.Pages, render.SlatePage{Planned: r.Planned, Name: r.Name(), Owner: r.Owner, Due: r.Due, Note: r.Note, State: r.State()})
	}
	var b bytes.Buffer
	media := ""
	switch c.Param("format") {
	case "opml":
		media, err = "text/x-opml; charset=utf-8", render.SlateOPML(&b, doc)
	case "ics":
		media, err = "text/calendar; charset=utf-8", render.SlateCalendar(&b, doc, time.Now())
		if errors.Is(err, render.ErrNoDays) {
			s.SayList(c, http.StatusUnprocessableEntity, message.Of("%v; give one or more, and take the calendar then.", message.OfError(err)))
			return
		}
	default:
		s.SendTable(c, c.Param("format"), render.SlateTable(doc), body.Plan.Name)
		return
	}
	if err != nil {
		s.Fail(c, err)
		return
	}
	kit.Attach(c, "slate", body.Plan.Name, c.Param("format"))
	c.Data(http.StatusOK, media, b.Bytes())
}
