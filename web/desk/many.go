package desk

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	"corpulan/account"
	"corpulan/core/brief"
	"corpulan/core/message"
	"corpulan/store"
	"corpulan/study"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

// What is done on the desk to several studies at once, and what stands beside the ledger: what
// is due in a week, what was looked for, notices.

// said is what was done to one study, or to several: formats of their number and of what was chosen.
type said struct {
	one, several message.Format
	chosen       any // nil for nothing
}

func (x said) of(n int) message.Message {
	args := []any{n}
	if x.chosen != nil {
		args = append(args, x.chosen)
	}
	if n == 1 {
		return message.Of(x.one, args[1:]...)
	}
	return message.Of(x.several, args...)
}

// manyOf is what is done to the studies that are picked on the desk.
func manyOf(c *gin.Context) (what said, do func(study.Commands, *gin.Context, int64) (study.Done, error), problem message.Message) {
	value := strings.Join(strings.Fields(c.PostForm("value")), " ")
	set := func(field string) func(study.Commands, *gin.Context, int64) (study.Done, error) {
		return func(cm study.Commands, c *gin.Context, id int64) (study.Done, error) {
			return cm.SetField(c.Request.Context(), id, field, value)
		}
	}
	shelve := func(move func(study.Commands, context.Context, int64) (study.Done, error)) func(study.Commands, *gin.Context, int64) (study.Done, error) {
		return func(cm study.Commands, c *gin.Context, id int64) (study.Done, error) {
			return move(cm, c.Request.Context(), id)
		}
	}
	switch do := c.Request.FormValue("do"); {
	case do == "archive":
		return said{"1 study archived.", "%d studies archived.", nil}, shelve(study.Commands.Archive), ""
	case do == "bring-back":
		return said{"1 study brought back.", "%d studies brought back.", nil}, shelve(study.Commands.BringBack), ""
	case do == "undo":
		return said{"1 study as before.", "%d studies as before.", nil}, shelve(study.Commands.Undo), ""
	case utf8.RuneCountInString(value) > kit.LongestAuthor:
		return said{}, nil, message.Of("A name has at most %d characters.", kit.LongestAuthor)
	case do == "owner" && value != "":
		return said{"1 study given to %s.", "%d studies given to %s.", value}, set(brief.FieldOwner), ""
	case do == "writer" && value != "":
		return said{"1 study to be written by %s.", "%d studies to be written by %s.", value}, set(brief.FieldWriter), ""
	case do == "owner", do == "writer":
		return said{}, nil, "Type whom they are for."
	case do == "due":
		if _, err := time.Parse(time.DateOnly, value); err != nil {
			return said{}, nil, "Choose the day they are due."
		}
		return said{"1 study due on %s.", "%d studies due on %s.", value}, set(brief.FieldDue), ""
	case do == "stage" && slices.Contains(brief.Stages(), value):
		stage := kit.PublicationOf(c).Settings.Data().StageName(value)
		return said{"1 study: %v.", "%d studies: %v.", message.Message(stage)}, set(brief.FieldStatus), ""
	}
	return said{}, nil, "Choose what is to be done."
}

// deskMany does one thing to all studies that are picked, in one step.
func (s *handlers) deskMany(c *gin.Context) {
	what, do, problem := manyOf(c)
	var ids []int64
	for _, p := range c.Request.Form["pick"] {
		id, err := strconv.ParseInt(p, 10, 64)
		if err != nil {
			s.Fail(c, store.ErrNotFound)
			return
		}
		ids = append(ids, id)
	}
	if problem == "" && len(ids) == 0 {
		problem = "Nothing is picked."
	}
	if problem != "" {
		s.Plain(c, http.StatusUnprocessableEntity, problem)
		return
	}
	done, err := s.Commands(c).Many(c.Request.Context(), ids, func(cm study.Commands, id int64) (study.Done, error) { return do(cm, c, id) })
	switch {
	case errors.Is(err, study.ErrNothing), errors.Is(err, store.ErrStale):
		s.Plain(c, http.StatusConflict, "Somebody has changed these since. Nothing was touched.")
		return
	case errors.Is(err, store.ErrTooMany):
		s.Plain(c, http.StatusUnprocessableEntity, message.Of("At most %d studies at once.", study.MaxAtOnce))
		return
	case err != nil:
		s.Fail(c, err)
		return
	}
	n := kit.Notice{Text: what.of(len(done)), Word: "Undo"}
	if c.Request.Form.Get("do") != "undo" && len(done) > 0 {
		way := url.Values{"do": {"undo"}}
		for _, id := range done {
			way.Add("pick", strconv.FormatInt(id, 10))
		}
		n.Undo = "/desk/many?" + way.Encode()
	}
	if !kit.FromHTMX(c) {
		kit.Back(c, "/")
		return
	}
	body, err := s.deskBody(c, s.freshStudy(c))
	if err != nil {
		s.Fail(c, err)
		return
	}
	c.Header("HX-Retarget", "#ledger")
	c.Header("HX-Reswap", "outerHTML")
	s.Fragment(c, http.StatusOK, "ledger-changed", kit.Changed[deskBody]{Body: body, Notice: n})
}

// seeNotices says that notices were seen.
func (s *handlers) seeNotices(c *gin.Context) {
	upTo, err := strconv.ParseInt(c.PostForm("up_to"), 10, 64)
	if err == nil {
		err = account.SeeNotices(c.Request.Context(), s.Store, kit.VisitorOf(c).Person.ID, upTo)
	} else {
		err = store.ErrNotFound
	}
	if err != nil {
		s.Fail(c, err)
		return
	}
	if kit.FromHTMX(c) {
		c.Status(http.StatusOK) // nothing stands there any more
		return
	}
	c.Redirect(http.StatusSeeOther, "/")
}

// weekBody is what is due in a week.
type weekBody struct {
	From, Before, After string // days
	In                  string
	Several             bool
	Late                []deskLine
	Days                []weekDay
	Empty               bool
}

type weekDay struct {
	Day   time.Time
	Today bool
	Lines []deskLine
}

const maxDue = 300

// week shows what is due from a Monday to the Sunday after it, and what is late.
func (s *handlers) week(c *gin.Context) {
	now := time.Now()
	from, err := time.Parse(time.DateOnly, c.Query("from"))
	if err != nil {
		from = time.Date(now.Year(), now.Month(), now.Day(), 0, 0, 0, 0, time.UTC)
	}
	from = from.AddDate(0, 0, -(int(from.Weekday())+6)%7) // its Monday
	v := kit.VisitorOf(c)
	b := weekBody{From: from.Format(time.DateOnly), Before: from.AddDate(0, 0, -7).Format(time.DateOnly), After: from.AddDate(0, 0, 7).Format(time.DateOnly), In: c.DefaultQuery("in", "all"), Several: len(v.Others) > 1}
	_, across := s.across(c, b.In)
	lines, err := across.Due(c.Request.Context(), from, from.AddDate(0, 0, 7), maxDue)
	if err != nil {
		s.Fail(c, err)
		return
	}
	says := map[int64]store.Settings{v.Publication.ID: v.Publication.Settings.Data()}
	for _, m := range v.Others {
		says[m.ID] = m.Settings.Data()
	}
	today := now.Format(time.DateOnly)
	for d := range 7 {
		day := from.AddDate(0, 0, d)
		b.Days = append(b.Days, weekDay{Day: day, Today: day.Format(time.DateOnly) == today})
	}
	for _, l := range lines {
		line := deskLine{l, says[l.PublicationID].StageName(l.Stage), l.DueOn < today && l.Stage != brief.Published, l.PublicationID == v.Publication.ID, store.News{}}
		i := slices.IndexFunc(b.Days, func(d weekDay) bool { return d.Day.Format(time.DateOnly) == l.DueOn })
		switch {
		case i >= 0:
			b.Days[i].Lines = append(b.Days[i].Lines, line)
		case line.Late:
			b.Late = append(b.Late, line)
		}
	}
	b.Empty = len(lines) == 0
	s.Page(c, http.StatusOK, "week", s.InPublication(c, "week", "The week", b))
}

// searchBody is what was looked for everywhere, and where it stands.
type searchBody struct {
	Typed string
	Found []foundLine
}

type foundLine struct {
	store.Found
	Parts []markedPart // the text, in parts
}

type markedPart struct {
	Text   string
	Marked bool
}

// maxFound is how many places of each kind are listed.
const maxFound = 20

// search finds words anywhere in all that somebody may see.
func (s *handlers) search(c *gin.Context) {
	b := searchBody{Typed: strings.TrimSpace(c.Query("q"))}
	if utf8.RuneCountInString(b.Typed) > study.LongestKeyword {
		b.Typed = string([]rune(b.Typed)[:study.LongestKeyword])
	}
	_, across := s.across(c, "all")
	list, err := across.Search(c.Request.Context(), b.Typed, maxFound)
	if err != nil {
		s.Fail(c, err)
		return
	}
	for _, f := range list {
		b.Found = append(b.Found, foundLine{f, markedParts(f.Text)})
	}
	s.Page(c, http.StatusOK, "search", s.InPublication(c, "search", "Search", b))
}

// markedParts takes a text apart at the marks of what was found.
func markedParts(text string) (parts []markedPart) {
	for i, p := range strings.Split(text, "\x02") {
		marked, rest, ok := strings.Cut(p, "\x03")
		if i == 0 || !ok {
			parts = append(parts, markedPart{Text: p})
			continue
		}
		parts = append(parts, markedPart{marked, true}, markedPart{Text: rest})
	}
	return parts
}

// Kinds are the places in which words were found, in their order, each with what was found.
func (b searchBody) Kinds() []foundKind {
	names := []struct{ kind, name string }{{"study", "Keywords of studies"}, {"brief", "Briefs"}, {"draft", "Drafts"}, {"remark", "Remarks"}, {"page", "Ranked pages"}, {"text", "In the text of pages"}, {"own", "Own pages"}, {"keyword", "Keyword lists"}, {"slate", "Slates"}}
	var out []foundKind
	for _, n := range names {
		k := foundKind{Name: n.name}
		for _, f := range b.Found {
			if f.Kind == n.kind {
				k.Lines = append(k.Lines, f)
			}
		}
		if len(k.Lines) > 0 {
			out = append(out, k)
		}
	}
	return out
}

type foundKind struct {
	Name  string
	Lines []foundLine
}

// More tells that there may be further ones.
func (k foundKind) More() bool { return len(k.Lines) >= maxFound }

// Path is where a thing that was found is seen.
func (f foundLine) Path() string {
	switch f.Kind {
	case "study":
		return fmt.Sprintf("/studies/%d/evidence", f.StudyID)
	case "brief", "remark":
		return fmt.Sprintf("/studies/%d/brief", f.StudyID)
	case "draft":
		return fmt.Sprintf("/studies/%d/draft", f.StudyID)
	case "text":
		return fmt.Sprintf("/studies/%d/pages/%d", f.StudyID, f.Other)
	case "page":
		return fmt.Sprintf("/studies/%d/gather", f.StudyID)
	case "keyword":
		return fmt.Sprintf("/demand/%d", f.Other)
	case "slate":
		return fmt.Sprintf("/slates/%d", f.Other)
	}
	return "/publication"
}
