// Package desk is the ledger of all studies, and the line that begins one (begin.go); what is done to
// several, the week, search and notices stand in many.go.
package desk

import (
	"context"
	"errors"
	"fmt"
	"mime/multipart"
	"net/http"
	"net/url"
	"path"
	"slices"
	"strconv"
	"strings"
	"time"

	"corpulan/account"
	"corpulan/core/address"
	"corpulan/core/brief"
	"corpulan/core/message"
	"corpulan/formats/saved"
	"corpulan/search"
	"corpulan/store"
	"corpulan/study"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

// maxLines is how many studies the desk lists at once.
const maxLines = 50

type deskBody struct {
	Lines  []deskLine
	New    newStudy
	Query  store.LedgerQuery
	Counts map[store.Shelf]int
	More   int // studies beyond those listed
	Shelf  string
	Demo   bool // the engine is the stand-in

	In           string // the publication that is shown: "" for where one is, "all", or a number
	Publications []store.Membership
	Hands        []string // names to filter by and to assign to
	Stages       []kit.Option
	Notices      []store.NoticeLine
}

// deskLine is a study on the desk.
type deskLine struct {
	store.LedgerLine
	StageName string // as its publication calls it
	Late      bool
	Here      bool // in the publication where one is
	News      store.News
}

// Says is what a notice of the account says.
func (deskBody) Says(n store.Notice) message.Message { return account.Says(n) }

// maxNotices is how many notices the desk lists; further ones come as these are seen.
const maxNotices = 8

func (s *handlers) desk(c *gin.Context) { s.showDesk(c, http.StatusOK, s.freshStudy(c)) }

func (s *handlers) showDesk(c *gin.Context, status int, n newStudy) {
	body, err := s.deskBody(c, n)
	if err != nil {
		s.Fail(c, err)
		return
	}
	s.Page(c, status, "desk", kit.PageData{Title: "Desk", Place: "desk", Publication: kit.PublicationOf(c).Name, Body: body})
}

// across are the publications that a ledger shows: where one is, all of one's own, or one of them.
func (s *handlers) across(c *gin.Context, in string) (shown []int64, all store.Across) {
	v := kit.VisitorOf(c)
	var mine []int64
	for _, m := range v.Others {
		mine = append(mine, m.ID)
		if in == strconv.FormatInt(m.ID, 10) {
			shown = []int64{m.ID}
		}
	}
	if in == "all" {
		shown = mine
	}
	if len(shown) == 0 {
		shown = []int64{v.Publication.ID}
	}
	return shown, s.Store.Across(shown)
}

func (s *handlers) deskBody(c *gin.Context, n newStudy) (body deskBody, err error) {
	query, ctx, v := kit.PageQuery(c), c.Request.Context(), kit.VisitorOf(c)
	q := store.LedgerQuery{Shelf: store.Shelf(query.Get("shelf")), Filter: strings.TrimSpace(query.Get("filter")), Most: maxLines, Today: time.Now(),
		Owner: query.Get("owner"), Writer: query.Get("writer"), Stage: query.Get("stage"), Due: query.Get("due"), Moved: query.Get("moved"), Sort: query.Get("sort"), Down: query.Get("down") != ""}
	if q.Shelf != store.Archived && q.Shelf != store.Deleted {
		q.Shelf = store.OnDesk
	}
	if from, err := strconv.Atoi(query.Get("from")); err == nil && from > 0 {
		q.From = from
	}
	n.NoEngine = !s.searches(c)
	body = deskBody{New: n, Query: q, Shelf: string(q.Shelf), Demo: s.Demo, In: query.Get("in"), Publications: v.Others}
	shown, across := s.across(c, body.In)
	lines, counts, err := across.Ledger(ctx, q)
	if err != nil {
		return body, err
	}
	body.Counts, body.More = counts, max(counts[q.Shelf]-q.From-len(lines), 0)
	says := map[int64]store.Settings{v.Publication.ID: v.Publication.Settings.Data()}
	for _, m := range v.Others {
		says[m.ID] = m.Settings.Data()
	}
	today := q.Today.Format(time.DateOnly)
	ids := make([]int64, len(lines))
	for i, l := range lines {
		ids[i] = l.ID
	}
	news, err := across.News(ctx, v.Person.ID, kit.AuthorOf(c), ids)
	if err != nil {
		return body, err
	}
	for _, l := range lines {
		body.Lines = append(body.Lines, deskLine{l, says[l.PublicationID].StageName(l.Stage), l.DueOn != "" && l.DueOn < today && l.Stage != brief.Published, l.PublicationID == v.Publication.ID, news[l.ID]})
	}
	for _, stage := range brief.Stages() {
		name := stage
		if len(shown) == 1 {
			name = says[shown[0]].StageName(stage)
		}
		body.Stages = append(body.Stages, kit.Option{Value: stage, Name: name})
	}
	if body.Hands, err = across.Hands(ctx); err != nil {
		return body, err
	}
	body.Notices, err = s.Store.Notices(ctx, v.Person.ID, maxNotices)
	return body, err
}

// Next is where the studies beyond those listed stand.
func (b deskBody) Next() int { return b.Query.From + len(b.Lines) }

// Count is how many studies lie on a shelf.
func (b deskBody) Count(shelf string) int { return b.Counts[store.Shelf(shelf)] }

// Narrowed tells that a filter is on.
func (b deskBody) Narrowed() bool {
	q := b.Query
	return q.Filter != "" || q.Owner != "" || q.Writer != "" || q.Stage != "" || q.Due != "" || q.Moved != ""
}

// Several tells that studies of several publications may be shown.
func (b deskBody) Several() bool { return len(b.Publications) > 1 }

// Path is the desk with what is asked of it, and some of it changed: pairs of names and values.
func (b deskBody) Path(pairs ...string) string {
	q := b.Query
	v := url.Values{}
	down := ""
	if q.Down {
		down = "1"
	}
	for name, value := range map[string]string{"shelf": b.Shelf, "filter": q.Filter, "owner": q.Owner, "writer": q.Writer, "stage": q.Stage, "due": q.Due, "moved": q.Moved, "sort": q.Sort, "down": down, "in": b.In} {
		if value != "" {
			v.Set(name, value)
		}
	}
	for i := 0; i+1 < len(pairs); i += 2 {
		v.Del(pairs[i])
		if pairs[i+1] != "" {
			v.Set(pairs[i], pairs[i+1])
		}
	}
	if len(v) == 0 {
		return "/"
	}
	return "/?" + v.Encode()
}

// deskColumn is the head of a column, by which the ledger can be sorted.
type deskColumn struct {
	Text, Path, Sort, Class string // Sort is what aria-sort says; empty for a column that does not sort
}

// Columns are the heads of the ledger.
func (b deskBody) Columns() []deskColumn {
	begun := "Begun"
	if b.Shelf == string(store.Deleted) {
		begun = "Deleted"
	}
	list := []deskColumn{{Text: "Keyword", Path: "keyword"}, {Text: "Publication", Path: "publication", Class: "wide"}, {Text: "Market", Class: "wide"}, {Text: "Gathering"}, {Text: "Pages kept", Class: "num wide"}, {Text: "Movement", Class: "wide"},
		{Text: "Brief", Path: "stage"}, {Text: "Owner", Path: "owner", Class: "wide"}, {Text: "Writer", Path: "writer", Class: "wide"}, {Text: "Due", Path: "due"}, {Text: begun, Path: "-", Class: "wide"}}
	if !b.Many() {
		list = slices.Delete(list, 1, 2)
	}
	for i := range list {
		col := &list[i]
		switch {
		case col.Path == "":
			continue
		case col.Path == "-": // the order of nothing asked
			col.Path, col.Sort = b.Path("sort", "", "down", ""), map[bool]string{true: "descending", false: "none"}[b.Query.Sort == ""]
		case col.Path == b.Query.Sort:
			col.Sort = map[bool]string{true: "descending", false: "ascending"}[b.Query.Down]
			col.Path = b.Path("sort", col.Path, "down", map[bool]string{true: "", false: "1"}[b.Query.Down])
		default:
			col.Path, col.Sort = b.Path("sort", col.Path, "down", ""), "none"
		}
	}
	return list
}

// Many tells that the ledger shows studies of several publications.
func (b deskBody) Many() bool { return b.In == "all" && b.Several() }

// createStudy takes the line of the desk. Where a study of the same keyword and
// market exists it is offered first.
func (s *handlers) createStudy(c *gin.Context) {
	ctx := c.Request.Context()
	if err := c.Request.ParseMultipartForm(8 << 20); err != nil && !errors.Is(err, http.ErrNotMultipart) {
		s.Fail(c, err)
		return
	}
	if c.Request.MultipartForm != nil {
		defer func() { _ = c.Request.MultipartForm.RemoveAll() }()
	}
	n := parseStudy(c)
	s.bring(c, &n)
	if len(n.Wrong) == 0 && !n.Anyway {
		like, err := s.Scope(c).Like(ctx, n.Keyword, n.Language, n.Country)
		if err == nil {
			n.Like = &like
			s.showDesk(c, http.StatusConflict, n)
			return
		}
		if !errors.Is(err, store.ErrNotFound) {
			s.Fail(c, err)
			return
		}
	}
	if len(n.Wrong) > 0 {
		s.showDesk(c, http.StatusUnprocessableEntity, n)
		return
	}
	st := n.study()
	if len(n.pages) > 0 {
		done, err := s.Commands(c).BeginOfPages(ctx, &st, n.pages)
		switch {
		case err != nil:
			s.Fail(c, err)
			return
		case done.Taken == 0:
			n.Wrong["pages"] = message.Joined("; ", done.Problems...)
			s.showDesk(c, http.StatusUnprocessableEntity, n)
			return
		}
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("/studies/%d/gather", st.ID))
		return
	}
	if err := s.Commands(c).Begin(ctx, &st, n.own); err != nil {
		s.Fail(c, err)
		return
	}
	c.Redirect(http.StatusSeeOther, fmt.Sprintf("/studies/%d/gather", st.ID))
}

// bring reads the results that a person brought: pasted addresses, a file of
// ranks, or a saved results page.
func (s *handlers) bring(c *gin.Context, n *newStudy) {
	n.Addresses = strings.TrimSpace(n.Addresses)
	if n.Addresses != "" {
		addresses, problems := address.ParseList(n.Addresses)
		if len(problems) > 0 {
			n.Wrong["addresses"] = message.Sentence(message.Joined("; ", problems...))
			return
		}
		n.own = &search.Results{}
		for i, a := range addresses {
			n.own.Items = append(n.own.Items, search.Item{Rank: i + 1, URL: a})
		}
	}
	if c.Request.MultipartForm != nil {
		s.bringPages(c, n, c.Request.MultipartForm.File["pages"])
	}
	file, err := c.FormFile("results")
	if err != nil || file.Size == 0 {
		n.bound("addresses")
		if n.own == nil && len(n.pages) == 0 && len(n.Wrong) == 0 && !s.searches(c) {
			n.Wrong["engine"] = message.Sentence(message.OfError(search.ErrNoEngine))
		}
		return
	}
	if n.own != nil {
		n.Wrong["addresses"] = "Paste addresses or choose a file, not both."
		return
	}
	n.own, err = s.readResults(c.Request.Context(), file, n.Column)
	var which *search.WhichColumn
	switch {
	case errors.As(err, &which):
		n.Columns = which.Columns
		n.Wrong["results"] = message.Of("It is not sure which column of %s holds the addresses. Choose the column, and the file once more.", file.Filename)
	case err != nil:
		n.Wrong["results"] = message.Of("%s: %v.", file.Filename, message.OfError(err))
	}
	n.bound("results")
}

// bringPages reads saved pages, from which a study can begin as they are.
func (s *handlers) bringPages(c *gin.Context, n *newStudy, files []*multipart.FileHeader) {
	budget := saved.NewBudget(kit.LargestUnpacked)
	for _, file := range files {
		if file.Size == 0 {
			continue
		}
		f, err := file.Open()
		var pages []saved.Saved
		if err == nil {
			pages, err = s.Reader.Pages(c.Request.Context(), file.Filename, f, budget)
			_ = f.Close()
		}
		if err != nil {
			n.Wrong["pages"] = message.Of("%s: %v.", file.Filename, message.OfError(err))
			return
		}
		for _, p := range pages {
			n.pages = append(n.pages, study.Handed{Saved: p, Name: file.Filename, Of: len(pages)})
		}
	}
	switch {
	case len(n.pages) > store.MaxResults:
		n.Wrong["pages"] = message.Of("A gathering holds at most %d pages; these are %d. Bring the first ranks.", store.MaxResults, len(n.pages))
	case len(n.pages) > 0 && n.own != nil:
		n.Wrong["pages"] = "Bring addresses or pages, not both; pages say where they are from."
	}
}

// readResults reads a file of ranks or a saved results page, told apart by the
// file's name and its first bytes.
func (s *handlers) readResults(ctx context.Context, file *multipart.FileHeader, column string) (*search.Results, error) {
	f, err := file.Open()
	if err != nil {
		return nil, err
	}
	defer f.Close()
	switch ext := strings.ToLower(path.Ext(file.Filename)); ext {
	case ".html", ".htm", ".mhtml", ".mht":
		pages, err := s.Reader.Pages(ctx, file.Filename, f, saved.NewBudget(kit.LargestUnpacked))
		if err != nil {
			return nil, err
		}
		return search.ParseResultsPage(pages[0].Body)
	}
	rows, err := s.Reader.Table(ctx, file.Filename, f, search.MaxRanks)
	if err != nil {
		return nil, err
	}
	items, err := search.ParseRanks(rows, column)
	if err != nil {
		return nil, err
	}
	return &search.Results{Items: items}, nil
}

func parseStudy(c *gin.Context) newStudy {
	var n newStudy
	err := c.ShouldBind(&n)
	n.Keyword, n.Country = strings.Join(strings.Fields(n.Keyword), " "), strings.ToLower(n.Country)
	if err != nil { // of what is no text, only the depth is never sent by our own page
		n.Depth = 0
	}
	n.Wrong = study.Wrong(n.study())
	return n
}

// deskChanged draws the place anew after something was done.
func (s *handlers) deskChanged(c *gin.Context, n kit.Notice) {
	body, err := s.deskBody(c, s.freshStudy(c))
	if err != nil {
		s.Fail(c, err)
		return
	}
	s.Redrawn(c, "#ledger", "ledger-changed", kit.Changed[deskBody]{Body: body, Notice: n})
}
