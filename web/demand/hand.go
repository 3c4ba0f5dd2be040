package demand

import (
	"cmp"
	"errors"
	"fmt"
	"math"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"corpulan/core/demand"
	"corpulan/core/message"
	"corpulan/store"
	"corpulan/study"
	"corpulan/web/draw"
	"corpulan/web/kit"
	"corpulan/web/parts"

	"github.com/gin-gonic/gin"
)

// groupPaneBody is one group with its keywords.
type groupPaneBody struct {
	groupRow
	List   store.KeywordList
	Known  map[string]bool // keywords whose results are known
	Slates []store.Slate
}

func (s *handlers) groupPane(c *gin.Context) {
	body, err := s.paneOf(c, c.Query("key"))
	if err != nil {
		s.Fail(c, err)
		return
	}
	if !kit.FromHTMX(c) {
		s.Page(c, http.StatusOK, "group-page", s.inList(c, groupPage, body))
		return
	}
	s.Fragment(c, http.StatusOK, "group-pane", body)
}

// paneOf is a group by its key; a nil body where there is none any more.
func (s *handlers) paneOf(c *gin.Context, key string) (*groupPaneBody, error) {
	ctx, sc := c.Request.Context(), s.Scope(c)
	l, err := sc.List(ctx, parts.ListOf(c).ID)
	if err != nil {
		return nil, err
	}
	g, progress, err := s.Demander.Groups(ctx, sc, l, -1)
	if err != nil {
		return nil, err
	}
	if progress != nil {
		return nil, store.ErrNotFound
	}
	i := slices.IndexFunc(g.Groups, func(x demand.Group) bool { return x.Key == key })
	if i < 0 {
		return nil, store.ErrNotFound
	}
	body := &groupPaneBody{groupRow: groupRow{Group: g.Groups[i], ListID: l.ID, Own: g.Own(g.Groups[i])}, List: l, Known: map[string]bool{}}
	for _, k := range body.Keywords {
		_, body.Known[k.Text] = g.Options.Results[demand.Same(k.Text)]
	}
	studies, err := s.studiesOf(c, []groupRow{body.groupRow})
	if err != nil {
		return nil, err
	}
	body.Study = studies[body.Key]
	if body.Slates, err = s.SlatesFor(c, l); err != nil {
		return nil, err
	}
	one := []groupRow{body.groupRow}
	if err := s.measureRivals(c, one); err != nil {
		return nil, err
	}
	body.groupRow = one[0]
	body.Months, body.Peak = draw.Months(s.Tongue(c).Words, body.Group.Months), peakOf(body.Group)
	return body, nil
}

// groupNames completes the name of a group that keywords are moved to.
func (s *handlers) groupNames(c *gin.Context) {
	g, progress, err := s.Demander.Groups(c.Request.Context(), s.Scope(c), parts.ListOf(c), -1)
	if err != nil {
		s.Fail(c, err)
		return
	}
	var names []string
	if want := demand.Same(c.Query("to")); progress == nil && want != "" {
		for _, x := range g.Groups {
			if strings.Contains(demand.Same(x.Name), want) && len(names) < 20 {
				names = append(names, x.Name)
			}
		}
	}
	s.Fragment(c, http.StatusOK, "group-names", names)
}

// setWidth keeps how wide the groups are.
func (s *handlers) setWidth(c *gin.Context) {
	width, err := strconv.ParseFloat(c.PostForm("width"), 64)
	if err != nil || math.IsNaN(width) || width < 0 || width > 100 {
		s.SayList(c, http.StatusUnprocessableEntity, "The width is a number from 0 to 100.")
		return
	}
	if err := s.Commands(c).SetWidth(c.Request.Context(), parts.ListOf(c).ID, width/100); err != nil {
		s.Fail(c, err)
		return
	}
	s.listChanged(c, kit.Notice{}, "")
}

// editHand moves, joins, splits, names and throws out, as a person asks.
func (s *handlers) editHand(c *gin.Context) {
	ctx, sc, l := c.Request.Context(), s.Scope(c), parts.ListOf(c)
	g, progress, err := s.Demander.Groups(ctx, sc, l, -1)
	if err != nil {
		s.Fail(c, err)
		return
	}
	if progress != nil {
		s.SayList(c, http.StatusConflict, "The keywords are still being compared; try again in a moment.")
		return
	}
	said, edit, wrong := handEditOf(c, g.Groups)
	if wrong != "" {
		s.SayList(c, http.StatusUnprocessableEntity, wrong)
		return
	}
	done, err := s.Commands(c).EditHand(ctx, l.ID, said, edit)
	if err != nil {
		s.Fail(c, err)
		return
	}
	s.listChanged(c, parts.PlanNotice(fmt.Sprintf("/demand/%d", l.ID), done), c.PostForm("pane"))
}

// handEdit is what a person does to groups.
type handEdit func(demand.Hand) demand.Hand

// handEditOf reads what a person asks of the groups, how it is called when it is done, or what is
// wrong with it.
func handEditOf(c *gin.Context, groups []demand.Group) (said message.Message, edit handEdit, wrong message.Message) {
	byKey := func(key string) (demand.Group, bool) {
		i := slices.IndexFunc(groups, func(x demand.Group) bool { return x.Key == key })
		if i < 0 {
			return demand.Group{}, false
		}
		return groups[i], true
	}
	var keys []string
	for _, k := range c.PostFormArray("pick") {
		keys = append(keys, demand.Same(k))
	}
	var picked []demand.Group // where groups and not keywords are picked
	for _, k := range c.PostFormArray("group") {
		if x, ok := byKey(k); ok {
			picked = append(picked, x)
		}
	}
	own, there := byKey(c.PostForm("pane"))
	switch c.PostForm("act") {
	case "move":
		return moveEdit(c.PostForm("to"), keys, groups)
	case "split":
		if len(keys) == 0 {
			return "", nil, "Pick the keywords to part from the others first."
		}
		return message.Of("%v made a group of their own", message.Counted(len(keys), "keyword")), func(h demand.Hand) demand.Hand { return h.Split(keys, groups) }, ""
	case "join":
		if len(picked) < 2 {
			return "", nil, "Pick two groups or more to join."
		}
		return message.Of("%d groups joined as “%s”", len(picked), picked[0].Name), func(h demand.Hand) demand.Hand { return h.Join(slices.Clone(picked)) }, ""
	case "rename":
		return renameEdit(strings.Join(strings.Fields(c.PostForm("name")), " "), own)
	case "loosen":
		if !there {
			return "", nil, "This group is not there any more."
		}
		return message.Of("“%s” is left to the rules again", own.Name), func(h demand.Hand) demand.Hand { return h.Loosen(own) }, ""
	case "out":
		for _, x := range picked {
			for _, k := range x.Keywords {
				keys = append(keys, demand.Same(k.Text))
			}
		}
		if len(keys) == 0 {
			return "", nil, "Pick what is to be thrown out first."
		}
		reason := kit.Shorten(cmp.Or(strings.Join(strings.Fields(c.PostForm("reason")), " "), "thrown out by hand"), kit.LongestName)
		return message.Of("%v thrown out", message.Counted(len(keys), "keyword")), func(h demand.Hand) demand.Hand { return h.ThrowOut(keys, reason) }, ""
	case "in":
		if len(keys) == 0 {
			return "", nil, "Pick what is to be taken in again first."
		}
		return message.Of("%v taken in again", message.Counted(len(keys), "keyword")), func(h demand.Hand) demand.Hand { return h.TakeIn(keys) }, ""
	}
	return "", nil, "This is not known; reload the page and try again."
}

func moveEdit(name string, keys []string, groups []demand.Group) (said message.Message, edit handEdit, wrong message.Message) {
	if len(keys) == 0 {
		return "", nil, "Pick the keywords to move first."
	}
	i := slices.IndexFunc(groups, func(x demand.Group) bool { return demand.Same(x.Name) == demand.Same(name) })
	if i < 0 {
		return "", nil, message.Of("No group is called “%s”.", kit.Shorten(name, 60))
	}
	return message.Of("%v moved to “%s”", message.Counted(len(keys), "keyword"), groups[i].Name), func(h demand.Hand) demand.Hand { return h.Move(keys, groups[i], groups) }, ""
}

func renameEdit(name string, own demand.Group) (said message.Message, edit handEdit, wrong message.Message) {
	switch {
	case own.Key == "":
		return "", nil, "This group is not there any more."
	case len([]rune(name)) > kit.LongestName:
		return "", nil, message.Of("A name has at most %d characters.", kit.LongestName)
	}
	if said = message.Of("“%s” is called “%s”", own.Name, name); name == "" {
		said = message.Of("“%s” is called by its best keyword again", own.Name)
	}
	return said, func(h demand.Hand) demand.Hand { return h.Rename(own, name) }, ""
}

// turnList takes back the last thing this person did to a list, or does it again.
func (s *handlers) turnList(c *gin.Context) {
	l := parts.ListOf(c)
	done, err := s.Commands(c).TurnPlan(c.Request.Context(), store.Subject{List: l.ID}, strings.HasSuffix(c.Request.URL.Path, "/redo"))
	switch {
	case errors.Is(err, study.ErrNothing):
		s.SayList(c, http.StatusOK, "There is nothing left to undo here.")
	case errors.Is(err, store.ErrStale):
		s.SayList(c, http.StatusConflict, message.Of("“%s” cannot be taken back: somebody has changed the groups since. Nothing was touched.", done.Said))
	case err != nil:
		s.Fail(c, err)
	default:
		s.listChanged(c, parts.PlanNotice(fmt.Sprintf("/demand/%d", l.ID), done), "")
	}
}

// changedGroups is a list after something was done to it, with the pane that was open.
type changedGroups struct {
	Body   groupsBody
	Notice kit.Notice
	Pane   *groupPaneBody
	Closed bool // the pane's group is not there any more
}

// groupPage is what the page of one group says it is.
const groupPage = "group"

// groupChanged answers the page of one group: with the group as it now is, or, where what was done has
// taken it away, with a word on that.
func (s *handlers) groupChanged(c *gin.Context, n kit.Notice, key string) {
	if at, err := url.Parse(c.GetHeader("HX-Current-URL")); key == "" && err == nil {
		key = at.Query().Get("key")
	}
	pane, err := s.paneOf(c, key)
	if errors.Is(err, store.ErrNotFound) {
		pane, err = &groupPaneBody{List: parts.ListOf(c)}, nil
	}
	if err != nil {
		s.Fail(c, err)
		return
	}
	c.Header("HX-Retarget", "#group-page")
	c.Header("HX-Reswap", "outerHTML")
	s.Fragment(c, http.StatusOK, "group-changed", changedGroups{Notice: n, Pane: pane})
}

// listChanged answers with the groups as they now are, and a word on what was done.
func (s *handlers) listChanged(c *gin.Context, n kit.Notice, pane string) {
	if !kit.FromHTMX(c) {
		kit.Back(c, fmt.Sprintf("/demand/%d", parts.ListOf(c).ID))
		return
	}
	if c.GetHeader("X-Place") == groupPage {
		s.groupChanged(c, n, pane)
		return
	}
	body, err := s.groupsBody(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	x := changedGroups{Body: body, Notice: n}
	if pane != "" {
		if x.Pane, err = s.paneOf(c, pane); errors.Is(err, store.ErrNotFound) {
			x.Closed = true
		} else if err != nil {
			s.Fail(c, err)
			return
		}
	}
	c.Header("HX-Retarget", "#groups")
	c.Header("HX-Reswap", "outerHTML")
	s.Fragment(c, http.StatusOK, "groups-changed", x)
}
