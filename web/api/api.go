// Package api is the interface for programs; openapi.json describes it.
package api

import (
	"bytes"
	"cmp"
	"context"
	_ "embed"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"mime"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"corpulan/analysis"
	"corpulan/core/address"
	"corpulan/core/fit"
	"corpulan/core/message"
	"corpulan/docs/schema"
	"corpulan/formats/saved"
	"corpulan/render"
	"corpulan/search"
	"corpulan/store"
	"corpulan/study"
	"corpulan/web/kit"

	"github.com/elnormous/contenttype"
	"github.com/gin-gonic/gin"
	"golang.org/x/time/rate"
)

// The interface for programs: JSON in and out, opened by tokens of one publication, described
// in openapi.json (OpenAPI 3.1). Names of fields are those of docs/schema.

//go:embed openapi.json
var openAPI []byte

// problem answers with what is wrong, as RFC 9457 has it.
func problem(c *gin.Context, status int, detail message.Message) {
	c.Header("Cache-Control", "no-store")
	b, _ := json.Marshal(map[string]any{"type": "about:blank", "title": http.StatusText(status), "status": status, "detail": detail}) // strings and a number
	c.Data(status, "application/problem+json", b)
	c.Abort()
}

// missing answers what is no address of the interface.
func missing(c *gin.Context, err error) {
	if errors.Is(err, kit.ErrMethod) {
		problem(c, http.StatusMethodNotAllowed, message.Of("This address takes %s.", c.Writer.Header().Get("Allow")))
		return
	}
	problem(c, http.StatusNotFound, "There is nothing at this address; openapi.json has all there are.")
}

// apiFails answers an error of ours.
func (s *handlers) apiFails(c *gin.Context, err error) {
	switch {
	case kit.HasGone(c, err):
		c.Abort()
	case errors.Is(err, store.ErrNotFound):
		problem(c, http.StatusNotFound, "There is nothing at this address, or the token does not open it.")
	case errors.As(err, new(*http.MaxBytesError)):
		problem(c, http.StatusRequestEntityTooLarge, "This is more than can be sent at once.")
	default:
		s.Log.Error("a request failed", "method", c.Request.Method, "path", kit.LoggedPath(c), "error", err)
		status, what := s.Trouble(c, err)
		problem(c, status, cmp.Or(what, "Something went wrong on our side; the server's log says what."))
	}
}

// How often one token may ask of one process. Our own: far above what a program needs that waits
// for what it asked.
const (
	askASecond = 20
	askAtOnce  = 200
	maxLimits  = 10_000 // tokens remembered
)

// byToken lets in whoever has a token, and what it opens.
func (s *handlers) byToken(c *gin.Context) {
	scheme, token, _ := strings.Cut(c.GetHeader("Authorization"), " ")
	if !strings.EqualFold(scheme, "Bearer") {
		c.Header("WWW-Authenticate", `Bearer realm="Corpulan"`)
		problem(c, http.StatusUnauthorized, "Send a token of the publication as Authorization: Bearer.")
		return
	}
	t, p, err := study.TokenOf(c.Request.Context(), s.Store, strings.TrimSpace(token))
	if errors.Is(err, store.ErrNotFound) {
		c.Header("WWW-Authenticate", `Bearer realm="Corpulan", error="invalid_token"`)
		problem(c, http.StatusUnauthorized, "This token opens nothing: it is none, was revoked, or has expired.")
		return
	}
	if err != nil {
		s.apiFails(c, err)
		return
	}
	limit, err := s.limits.Get(c.Request.Context(), t.ID, func(context.Context, int64) (*rate.Limiter, error) {
		return rate.NewLimiter(askASecond, askAtOnce), nil
	})
	if err != nil {
		s.apiFails(c, err)
		return
	}
	if !limit.Allow() {
		c.Header("Retry-After", "1")
		problem(c, http.StatusTooManyRequests, message.Of("A token asks %d times a second at most, and %d times at once.", askASecond, askAtOnce))
		return
	}
	if !t.May(store.MayRead) {
		problem(c, http.StatusForbidden, "This token may not read.")
		return
	}
	c.Header("Cache-Control", "no-store")
	c.Set(kit.TokenKey, t)
	c.Set(kit.PublicationKey, p)
	c.Set(kit.ActorKey, fmt.Sprintf("token %d", t.ID))
}

func tokenOf(c *gin.Context) store.Token { return c.MustGet(kit.TokenKey).(store.Token) }

func (s *handlers) mayWrite(c *gin.Context) {
	if !tokenOf(c).May(store.MayWrite) {
		problem(c, http.StatusForbidden, "This token may only read.")
	}
}

func (s *handlers) apiSchema(c *gin.Context) {
	b, err := schema.Files.ReadFile(c.Param("name"))
	if err != nil {
		problem(c, http.StatusNotFound, "There is no such schema.")
		return
	}
	c.Data(http.StatusOK, "application/schema+json", b)
}

// apiStudy finds the study of an address, in the token's publication.
func (s *handlers) apiStudy(c *gin.Context) {
	id, err := strconv.ParseInt(c.Param("study"), 10, 64)
	if err != nil {
		err = store.ErrNotFound
	}
	var st store.Study
	if err == nil {
		st, err = s.Scope(c).Study(c.Request.Context(), id)
	}
	if err == nil && st.DeletedAt != nil {
		err = store.ErrNotFound
	}
	if err != nil {
		s.apiFails(c, err)
		return
	}
	c.Set(kit.StudyKey, st)
}

// maxStudies is how many studies are listed at once.
const maxStudies = 50

// apiLine is a study as programs see it.
type apiLine struct {
	ID       int64     `json:"id"`
	Keyword  string    `json:"keyword"`
	Language string    `json:"language"`
	Country  string    `json:"country"`
	Depth    int       `json:"depth"`
	State    string    `json:"state"`
	Results  int       `json:"results"`
	Read     int       `json:"read"`
	Failed   int       `json:"failed"`
	Kept     int       `json:"kept"`
	Stage    string    `json:"stage"`
	Revision int       `json:"revision"`
	Owner    string    `json:"owner,omitempty"`
	Writer   string    `json:"writer,omitempty"`
	Due      string    `json:"due,omitempty"`
	BegunAt  time.Time `json:"begun_at"`
	Archived bool      `json:"archived,omitempty"`
}

func apiLineOf(l store.LedgerLine) apiLine {
	return apiLine{l.ID, l.Keyword, l.Language, l.Country, l.Depth, string(l.State), l.Results, l.Pages, l.Failures, l.KeptPages, l.Stage, l.Revision, l.Owner, l.Writer, l.DueOn, l.CreatedAt.UTC(), l.ArchivedAt != nil}
}

func (s *handlers) apiStudies(c *gin.Context) {
	q := store.LedgerQuery{Filter: c.Query("filter"), Stage: c.Query("stage"), Owner: c.Query("owner"), Writer: c.Query("writer"), Most: maxStudies}
	if text := c.Query("from"); text != "" {
		from, err := strconv.Atoi(text)
		if err != nil || from < 0 {
			problem(c, http.StatusUnprocessableEntity, "from is how many studies are passed over.")
			return
		}
		q.From = from
	}
	lines, counts, err := s.Scope(c).Ledger(c.Request.Context(), q)
	if err != nil {
		s.apiFails(c, err)
		return
	}
	list := make([]apiLine, len(lines))
	for i, l := range lines {
		list[i] = apiLineOf(l)
	}
	c.JSON(http.StatusOK, gin.H{"studies": list, "of": counts[store.OnDesk]})
}

func (s *handlers) apiShow(c *gin.Context) { s.apiAnswer(c, http.StatusOK, kit.StudyOf(c).ID) }

func (s *handlers) apiAnswer(c *gin.Context, status int, id int64) {
	lines, err := s.Scope(c).StudiesOf(c.Request.Context(), []int64{id})
	if err != nil {
		s.apiFails(c, err)
		return
	}
	c.JSON(status, apiLineOf(lines[id]))
}

// apiBegin begins a study: by a search, or with ranked addresses.
func (s *handlers) apiBegin(c *gin.Context) {
	market := study.Fresh(kit.PublicationOf(c).Settings.Data())
	asked := struct {
		Keyword  string   `json:"keyword"`
		Language string   `json:"language"`
		Country  string   `json:"country"`
		Depth    int      `json:"depth"`
		Results  []string `json:"results"`
	}{Language: market.Language, Country: market.Country, Depth: market.Depth}
	if !apiBody(c, &asked) {
		return
	}
	st := store.Study{Keyword: strings.Join(strings.Fields(asked.Keyword), " "), Language: asked.Language, Country: strings.ToLower(asked.Country), Depth: asked.Depth}
	all, results := study.Wrong(st), (*search.Results)(nil)
	if len(asked.Results) > 0 {
		addresses, problems := address.ParseList(strings.Join(asked.Results, "\n"))
		switch {
		case len(problems) > 0:
			all["results"] = message.Sentence(message.Joined("; ", problems...))
		case len(addresses) > store.MaxResults:
			all["results"] = message.Of("A gathering holds at most %d pages; these are %d.", store.MaxResults, len(addresses))
		}
		results = &search.Results{}
		for i, a := range addresses {
			results.Items = append(results.Items, search.Item{Rank: i + 1, URL: a})
		}
	}
	for _, field := range []string{"keyword", "language", "country", "depth", "results"} {
		if wrong := all[field]; wrong != "" {
			problem(c, http.StatusUnprocessableEntity, message.Of("%s: %v", field, wrong))
			return
		}
	}
	if err := s.Commands(c).Begin(c.Request.Context(), &st, results); err != nil {
		s.apiFails(c, err)
		return
	}
	c.Header("Location", fmt.Sprintf("%s/studies/%d", kit.ApiBase, st.ID))
	s.apiAnswer(c, http.StatusCreated, st.ID)
}

// apiBody reads a request's JSON; fields that are not known are said, since they are a mistake.
func apiBody(c *gin.Context, into any) bool {
	if kind, _, _ := mime.ParseMediaType(c.ContentType()); kind != "application/json" {
		problem(c, http.StatusUnsupportedMediaType, "Send application/json.")
		return false
	}
	d := json.NewDecoder(c.Request.Body)
	d.DisallowUnknownFields()
	if err := d.Decode(into); err != nil {
		if errors.As(err, new(*http.MaxBytesError)) {
			problem(c, http.StatusRequestEntityTooLarge, "This is more than can be sent at once.")
		} else {
			problem(c, http.StatusUnprocessableEntity, message.Of("The JSON cannot be read: %v", err))
		}
		return false
	}
	if d.More() {
		problem(c, http.StatusUnprocessableEntity, "There is more than one document.")
		return false
	}
	return true
}

// apiPage is a ranked page as programs see it.
type apiPage struct {
	Rank    int             `json:"rank"`
	URL     string          `json:"url"`
	Title   string          `json:"title"`
	State   string          `json:"state"`
	Failure message.Message `json:"failure,omitempty"`
	Kept    bool            `json:"kept"`
	Reason  message.Message `json:"reason,omitempty"`
	Own     bool            `json:"own,omitempty"`
}

func (s *handlers) apiPages(c *gin.Context) {
	ctx := c.Request.Context()
	g, err := s.Scope(c).LatestGathering(ctx, kit.StudyOf(c).ID)
	if err != nil {
		s.apiFails(c, err)
		return
	}
	results, err := s.Scope(c).Results(ctx, g.ID)
	if err != nil {
		s.apiFails(c, err)
		return
	}
	list := make([]apiPage, len(results))
	for i, r := range results {
		list[i] = apiPage{r.Rank, r.URL, r.Title, string(r.State), r.Failure.Message(), r.Kept, r.Reason.Message(), r.Own}
	}
	c.JSON(http.StatusOK, gin.H{"state": g.State, "failure": g.Failure.Message(), "pages": list})
}

// apiHandIn takes pages: as JSON, or as saved files in a form.
func (s *handlers) apiHandIn(c *gin.Context) {
	var pages []study.Handed
	var problems []message.Message
	if kind, _, _ := mime.ParseMediaType(c.ContentType()); kind == "multipart/form-data" {
		if err := c.Request.ParseMultipartForm(8 << 20); err != nil {
			if errors.As(err, new(*http.MaxBytesError)) {
				s.apiFails(c, err)
			} else {
				problem(c, http.StatusUnprocessableEntity, "The files did not arrive whole; nothing was taken.")
			}
			return
		}
		defer func() { _ = c.Request.MultipartForm.RemoveAll() }()
		pages, problems = s.SavedPages(c.Request.Context(), c.Request.MultipartForm, 0)
	} else {
		var asked struct {
			Pages []struct {
				URL  string `json:"url"`
				HTML string `json:"html"`
			} `json:"pages"`
		}
		if !apiBody(c, &asked) {
			return
		}
		for i, p := range asked.Pages {
			if p.URL == "" || p.HTML == "" {
				problem(c, http.StatusUnprocessableEntity, message.Of("pages[%d]: url and html are both wanted.", i))
				return
			}
			pages = append(pages, study.Handed{Saved: saved.Saved{URL: p.URL, Body: []byte(p.HTML)}, Name: p.URL, Of: 1})
		}
	}
	if len(pages) == 0 && len(problems) == 0 {
		problem(c, http.StatusUnprocessableEntity, "There is no page in this.")
		return
	}
	in, err := s.Commands(c).HandIn(c.Request.Context(), kit.StudyOf(c), pages, true)
	if err != nil {
		s.apiFails(c, err)
		return
	}
	c.JSON(http.StatusOK, gin.H{"taken": in.Taken, "left": orNone(in.Left), "problems": orNone(append(problems, in.Problems...))})
}

// orNone is a list that is written as one where it is empty.
func orNone[T any](list []T) []T {
	if list == nil {
		return []T{}
	}
	return list
}

func (s *handlers) apiEvidence(c *gin.Context) {
	s.apiDocument(c, "application/json", func(w io.Writer, an *analysis.Analysis) error { return render.Evidence(w, an.Evidence) })
}

func (s *handlers) apiBrief(c *gin.Context) {
	f, ok := render.FormatNamed(c.Query("format"))
	if !ok && c.Query("format") != "" {
		problem(c, http.StatusUnprocessableEntity, "format is one of md, html, docx, pdf, xlsx, opml, prompt, json.")
		return
	}
	if !ok {
		c.Header("Vary", "Accept")
		if f, ok = formatAccepted(c.Request); !ok {
			problem(c, http.StatusNotAcceptable, "The brief is there in none of the media types that Accept names; openapi.json has those there are.")
			return
		}
	}
	s.apiDocument(c, f.MediaType, func(w io.Writer, an *analysis.Analysis) error { return f.Write(w, an.Brief) })
}

// formatAccepted is the format that a request prefers (RFC 9110, section 12.5.1): JSON where it says
// nothing, or likes several as well.
func formatAccepted(r *http.Request) (render.Format, bool) {
	formats := render.Formats()
	i := slices.IndexFunc(formats, func(f render.Format) bool { return f.Name == "json" })
	formats = slices.Concat(formats[i:i+1], formats[:i], formats[i+1:])
	kinds := make([]contenttype.MediaType, len(formats))
	for k, f := range formats {
		bare, _, _ := strings.Cut(f.MediaType, ";")
		kinds[k] = contenttype.NewMediaType(bare)
	}
	best, _, err := contenttype.GetAcceptableMediaType(r, kinds)
	if err != nil {
		return render.Format{}, false
	}
	return formats[slices.IndexFunc(kinds, best.EqualsMIME)], true
}

func (s *handlers) apiDocument(c *gin.Context, kind string, write func(io.Writer, *analysis.Analysis) error) {
	an, err := s.Analyst.Analyse(c.Request.Context(), s.Scope(c), kit.StudyOf(c))
	var out bytes.Buffer
	if err == nil {
		err = write(&out, an)
	}
	if err != nil {
		s.apiFails(c, err)
		return
	}
	c.Data(http.StatusOK, kind, out.Bytes())
}

// endings are how drafts are told apart, by the media type they are sent as.
var endings = map[string]string{"text/markdown": ".md", "text/html": ".html", "text/plain": ".txt", "application/vnd.openxmlformats-officedocument.wordprocessingml.document": ".docx"}

// apiCheck measures a draft that is sent, and keeps nothing of it.
func (s *handlers) apiCheck(c *gin.Context) {
	kind, _, _ := mime.ParseMediaType(c.ContentType())
	ending, ok := endings[kind]
	if !ok {
		problem(c, http.StatusUnsupportedMediaType, "Send the draft as text/markdown, text/html, text/plain or DOCX.")
		return
	}
	ctx := c.Request.Context()
	n, err := s.Reader.Draft(ctx, "draft"+ending, c.Request.Body)
	if err != nil {
		if errors.As(err, new(*http.MaxBytesError)) {
			s.apiFails(c, err)
		} else {
			problem(c, http.StatusUnprocessableEntity, message.Fault(err))
		}
		return
	}
	an, err := s.Analyst.Analyse(ctx, s.Scope(c), kit.StudyOf(c))
	if err != nil {
		s.apiFails(c, err)
		return
	}
	if an.Evidence == nil || len(an.Evidence.Sources) == 0 {
		problem(c, http.StatusConflict, "No page of this study is kept and read yet, so that there is no brief to check against.")
		return
	}
	m, err := s.Analyst.Measure(ctx, s.Scope(c), an, n, store.DraftSaid{})
	if err != nil {
		s.apiFails(c, err)
		return
	}
	f := m.Fit
	f.Closeness = m.Closeness
	c.JSON(http.StatusOK, fit.NewReport(f, m.Aim, m.Figures))
}
