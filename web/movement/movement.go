// Package movement is what moved between two gatherings and what that asks of the brief; positions.go is
// where the own site stood.
package movement

import (
	"errors"
	"fmt"
	"html/template"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"corpulan/core/address"
	"corpulan/core/brief"
	"corpulan/core/change"
	"corpulan/core/corpus"
	"corpulan/core/message"
	"corpulan/store"
	"corpulan/study"
	"corpulan/web/draw"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

// movementBody is what moved between two gatherings of a study, and what that asks of its brief.
type movementBody struct {
	Study     store.Study
	Gathered  []store.Gathering // that have ended, the newest first
	From, To  store.Gathering
	Movement  *change.Movement // nil where there is only one gathering
	Summary   summary
	Proposals []change.Proposal
	Line      template.HTML // of the own site's places
	Own       string        // the registered domain of the own site
	Running   bool
}

// summary is what moved in a sentence, and what to do.
type summary struct {
	Since store.Gathering
	Says  []message.Message
	Do    message.Message
}

// endedOf are the gatherings that have ended, the newest first.
func endedOf(all []store.Gathering) []store.Gathering {
	ended := slices.DeleteFunc(slices.Clone(all), func(g store.Gathering) bool { return g.State != store.Done })
	slices.Reverse(ended)
	return ended
}

func (s *handlers) movementBody(c *gin.Context) (b movementBody, an *kit.Analysis, err error) {
	ctx := c.Request.Context()
	if an, err = s.Analyse(c); err != nil {
		return b, an, err
	}
	all, err := s.Scope(c).Gatherings(ctx, an.Study.ID)
	if err != nil {
		return b, an, err
	}
	b = movementBody{Study: kit.StudyOf(c), Gathered: endedOf(all), Running: an.Gathering.Running(), Own: address.Parse(kit.PublicationOf(c).Address).Site()}
	query := kit.PageQuery(c)
	number := func(name string) int64 { n, _ := strconv.ParseInt(query.Get(name), 10, 64); return n }
	from, to := an.Compared(all, number("from"), number("to"))
	if from == nil {
		return b, an, nil
	}
	b.From, b.To = *from, *to
	if b.Movement, err = s.Analyst.Movement(ctx, s.Scope(c), an.Analysis, *from, *to); err != nil {
		return b, an, err
	}
	if b.Proposals, err = s.Analyst.Proposals(ctx, s.Scope(c), an.Analysis); err != nil {
		return b, an, err
	}
	b.Summary = summaryOf(b.From, b.To, b.Movement, b.Proposals, an)
	var places []int
	said := s.Tongue(c).Look("places of our pages over all gatherings, the oldest first:")
	for _, g := range slices.Backward(b.Gathered) {
		places = append(places, placeOf(g))
		said += fmt.Sprintf(" %d", placeOf(g))
	}
	if slices.ContainsFunc(places, func(p int) bool { return p > 0 }) {
		b.Line = draw.PositionLine(places, said)
	}
	return b, an, nil
}

func placeOf(g store.Gathering) int {
	if g.Place == nil {
		return 0
	}
	return *g.Place
}

// summaryOf says in a sentence what moved, the weightiest first, and what to do about it.
func summaryOf(from, to store.Gathering, m *change.Movement, proposals []change.Proposal, an *kit.Analysis) summary {
	g := summary{Since: from}
	say := func(format message.Format, args ...any) { g.Says = append(g.Says, message.Of(format, args...)) }
	switch was, is := placeOf(from), placeOf(to); {
	case was > 0 && is == 0:
		say("our page, which was at %d, does not rank any more", was)
	case was == 0 && is > 0:
		say("our page ranks, at %d", is)
	case was < is:
		say("our page fell from %d to %d", was, is)
	case was > is:
		say("our page rose from %d to %d", was, is)
	}
	if n := m.Counted(change.New); n == 1 {
		say("one page is new")
	} else if n > 1 {
		say("%d pages are new", n)
	}
	if n := len(m.Rewritten()); n == 1 {
		say("one page has another text")
	} else if n > 1 {
		say("%d pages have another text", n)
	}
	said := ""
	for _, list := range [][]change.Finding{m.Themes, m.Terms} {
		i := slices.IndexFunc(list, func(f change.Finding) bool { return said == "" || !overlap(said, f.Text) })
		if i < 0 {
			continue
		}
		f := list[i]
		said = f.Text
		switch f.How {
		case change.New:
			say("“%s” is new, on %d of %d pages", f.Text, f.After, f.OfAfter)
		case change.Gone:
			say("“%s” is gone, which %d of %d pages had", f.Text, f.Before, f.OfBefore)
		case change.Risen:
			say("“%s” rose from %d of %d pages to %d of %d", f.Text, f.Before, f.OfBefore, f.After, f.OfAfter)
		default:
			say("“%s” fell from %d of %d pages to %d of %d", f.Text, f.Before, f.OfBefore, f.After, f.OfAfter)
		}
	}
	if n := len(m.Asked.New); n == 1 {
		say("people now ask “%s”", m.Asked.New[0])
	} else if n > 1 {
		say("people ask %d new questions", n)
	}
	if len(g.Says) == 0 {
		if up, down := m.Counted(change.Up), m.Counted(change.Down); up+down > 0 {
			say("%d pages changed places, and nothing else moved", up+down)
		} else {
			say("nothing has moved")
		}
	}
	switch {
	case len(proposals) == 1:
		g.Do = "The brief stands as it was; one change to it is proposed."
	case len(proposals) > 1:
		g.Do = message.Of("The brief stands as it was; %d changes to it are proposed.", len(proposals))
	case an.Saved.Choices.Data().Stands != nil:
		g.Do = "The brief stands, and nothing of it is touched."
	case an.Saved.Revision == 0:
		g.Do = "Nobody has worked on the brief yet: it follows by itself."
	default:
		g.Do = "The brief follows, and nothing is left to decide."
	}
	return g
}

// overlap tells that one of two texts has all the words of the other.
func overlap(a, b string) bool {
	x, y := strings.Fields(strings.ToLower(a)), strings.Fields(strings.ToLower(b))
	if len(x) > len(y) {
		x, y = y, x
	}
	return !slices.ContainsFunc(x, func(w string) bool { return !slices.Contains(y, w) })
}

func (s *handlers) movement(c *gin.Context) {
	b, _, err := s.movementBody(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	s.Page(c, http.StatusOK, "movement", s.InStudy(c, "movement", b))
}

// movementLine is what moved in a sentence, for the head of Gather; nothing where there is only
// one gathering, or one is under way.
func (s *handlers) movementLine(c *gin.Context) {
	b, _, err := s.movementBody(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	s.Fragment(c, http.StatusOK, "movement-line", b)
}

// pageMovement is one page as it was and as it is, word by word.
type pageMovement struct {
	Study    store.Study
	From, To store.Gathering
	Page     change.PageChange
	Lines    []change.DiffLine
	Whole    bool // what stayed is shown, too
	Hidden   int  // lines that stayed and are left out
}

// around is how many lines that stayed stand before and after what changed. Our own.
const around = 2

func (s *handlers) pageMovement(c *gin.Context) {
	b, an, err := s.movementBody(c)
	if err == nil && b.Movement == nil {
		err = store.ErrNotFound
	}
	if err != nil {
		s.Fail(c, err)
		return
	}
	rank, _ := strconv.Atoi(c.Query("rank"))
	i := slices.IndexFunc(b.Movement.Pages, func(p change.PageChange) bool { return p.URL == c.Query("url") && int(p.After) == rank })
	if i < 0 {
		s.Fail(c, store.ErrNotFound)
		return
	}
	body := pageMovement{Study: b.Study, From: b.From, To: b.To, Page: b.Movement.Pages[i], Whole: c.Query("whole") != ""}
	was := body.Page.Was
	if was == "" {
		was = body.Page.URL
	}
	before, err := s.Analyst.DocOf(c.Request.Context(), s.Scope(c), an.Analysis, b.From, was)
	if err != nil {
		s.Fail(c, err)
		return
	}
	after, err := s.Analyst.DocOf(c.Request.Context(), s.Scope(c), an.Analysis, b.To, body.Page.URL)
	if err != nil {
		s.Fail(c, err)
		return
	}
	body.lay(before, after)
	s.Page(c, http.StatusOK, "page-movement", s.InStudy(c, "movement", body))
}

// lay lays both versions over each other, what stayed cut down to what stands around changes.
func (b *pageMovement) lay(before, after *corpus.Doc) {
	lines := change.Lines(before, after)
	if b.Whole {
		b.Lines = lines
		return
	}
	near := make([]bool, len(lines))
	for i, l := range lines {
		if l.State != change.Stays {
			for j := max(i-around, 0); j <= min(i+around, len(lines)-1); j++ {
				near[j] = true
			}
		}
	}
	heading := -1 // the last one, not shown yet
	for i, l := range lines {
		switch {
		case near[i]:
			if heading >= 0 && !l.Heading {
				b.Lines = append(b.Lines, lines[heading])
			}
			b.Lines = append(b.Lines, l)
			heading = -1
		case l.Heading:
			heading = i
		default:
			b.Hidden++
		}
	}
}

// settle takes changes that are proposed to the brief over, or leaves them.
func (s *handlers) settle(c *gin.Context) {
	ctx := c.Request.Context()
	ids := c.PostFormArray("id")
	if len(ids) == 0 && c.PostForm("all") == "" {
		s.Say(c, http.StatusUnprocessableEntity, "Nothing is picked.")
		return
	}
	done, err := s.Commands(c).Settle(ctx, kit.StudyOf(c).ID, ids, c.PostForm("take") == "true")
	if errors.Is(err, study.ErrNotProposed) {
		s.Say(c, http.StatusConflict, "This is not proposed any more; the page shows what now is.")
		return
	}
	s.movementDone(c, done, err)
}

// followEvidence lets the brief follow again.
func (s *handlers) followEvidence(c *gin.Context) {
	done, err := s.Commands(c).FollowEvidence(c.Request.Context(), kit.StudyOf(c).ID)
	s.movementDone(c, done, err)
}

func (s *handlers) movementDone(c *gin.Context, done study.Done, err error) {
	id := kit.StudyOf(c).ID
	if err != nil {
		s.Fail(c, err)
		return
	}
	if !kit.FromHTMX(c) {
		kit.Back(c, fmt.Sprintf("/studies/%d/movement", id))
		return
	}
	b, _, err := s.movementBody(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	s.Fragment(c, http.StatusOK, "movement-changed", kit.Changed[movementBody]{Body: b, Notice: kit.NoticeOf(id, done)})
}

// gatherBy says whether the study is gathered again by itself.
func (s *handlers) gatherBy(c *gin.Context) {
	id := kit.StudyOf(c).ID
	done, err := s.Commands(c).GatherBy(c.Request.Context(), id, c.PostForm("again"))
	if errors.Is(err, study.ErrNoInterval) {
		s.Say(c, http.StatusUnprocessableEntity, "A study is gathered again weekly, monthly, or by hand.")
		return
	}
	if err != nil {
		s.Fail(c, err)
		return
	}
	if !kit.FromHTMX(c) {
		kit.Back(c, fmt.Sprintf("/studies/%d/movement", id))
		return
	}
	s.Refreshed(c, kit.NoticeOf(id, done))
}

// Ours tells a page of the own site.
func (b movementBody) Ours(url string) bool { return b.Own != "" && address.Parse(url).Site() == b.Own }

// Changed are the pages that read differently, those that changed most first.
func (b movementBody) Changed() []change.PageChange {
	list := b.Movement.Rewritten()
	slices.SortStableFunc(list, func(x, y change.PageChange) int {
		switch {
		case x.Stayed < y.Stayed:
			return -1
		case x.Stayed > y.Stayed:
			return 1
		}
		return 0
	})
	return list
}

// movedList is one kind of findings that moved.
type movedList struct {
	Name string
	Kind brief.Kind
	Rows []change.Finding
}

// maxMoved is how many findings of a kind are shown. Our own.
const maxMoved = 30

// Lists are the findings that moved, by kind.
func (b movementBody) Lists() []movedList {
	m := b.Movement
	list := []movedList{{"Themes", brief.ThemeKind, m.Themes}, {"Terms", brief.TermKind, m.Terms}, {"Questions", brief.QuestionKind, m.Questions}}
	if len(m.Listed) > 0 { // most fields list nothing
		list = append(list, movedList{"Listed", brief.ThingKind, m.Listed})
	}
	for i := range list {
		list[i].Rows = list[i].Rows[:min(len(list[i].Rows), maxMoved)]
	}
	return list
}

// Newest tells that the newest gathering is compared: its findings can be opened.
func (b movementBody) Newest() bool {
	return len(b.Gathered) > 0 && b.To.ID == b.Gathered[0].ID && !b.Running
}

// SectionCount is how many sections of a page came to be as they are in a way.
func (b movementBody) SectionCount(p change.PageChange, state string) int {
	n := 0
	for _, s := range p.Sections {
		if string(s.State) == state {
			n++
		}
	}
	return n
}

// movementChanged draws the place anew after something was done.
func (s *handlers) movementChanged(c *gin.Context, n kit.Notice) {
	body, _, err := s.movementBody(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	s.Redrawn(c, "#movement", "movement-changed", kit.Changed[movementBody]{Body: body, Notice: n})
}

// pagePath is where is shown what has changed on a page.
func pagePath(study, from, to int64, page string, rank change.Rank) string {
	return fmt.Sprintf("/studies/%d/movement/page?%s", study, url.Values{"from": {fmt.Sprint(from)}, "to": {fmt.Sprint(to)}, "url": {page}, "rank": {fmt.Sprint(int(rank))}}.Encode())
}
