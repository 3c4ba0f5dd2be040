package web

import (
	"bytes"
	"crypto/sha256"
	"database/sql"
	"errors"
	"fmt"
	"html/template"
	"io"
	"mime/multipart"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"corpulan/core/reading"
	"corpulan/gather"
	"corpulan/jobs"
	"corpulan/store"

	"github.com/gin-gonic/gin"
)

// largestHandIn is how much one request may hand in: some sixty saved pages.
const largestHandIn = 128 << 20

// handIn takes pages that a person saved or copied: for one result, or for the
// whole study, each then put to the result with its address.
func (s *Server) handIn(c *gin.Context) {
	study := studyOf(c)
	c.Request.Body = http.MaxBytesReader(c.Writer, c.Request.Body, largestHandIn)
	if err := c.Request.ParseMultipartForm(8 << 20); err != nil {
		var tooLarge *http.MaxBytesError
		if errors.As(err, &tooLarge) {
			s.say(c, http.StatusRequestEntityTooLarge, fmt.Sprintf("At most %d MB can be handed in at once; nothing was taken.", largestHandIn>>20))
			return
		}
		s.say(c, http.StatusUnprocessableEntity, "The files did not arrive whole; nothing was taken. Try again.")
		return
	}
	defer func() { _ = c.Request.MultipartForm.RemoveAll() }()
	pages, problems := savedPages(c.Request.MultipartForm)
	if len(pages) == 0 && len(problems) == 0 {
		s.say(c, http.StatusUnprocessableEntity, "Paste the page's source, or choose a saved file.")
		return
	}
	gathering, err := s.scope().LatestGathering(c.Request.Context(), study.ID)
	if err != nil {
		s.fail(c, err)
		return
	}
	results, err := s.scope().Results(c.Request.Context(), gathering.ID)
	if err != nil {
		s.fail(c, err)
		return
	}
	only, err := onlyResult(c, results)
	if err != nil {
		s.fail(c, err)
		return
	}
	taken := 0
	for _, p := range pages {
		problem, err := s.takePage(c, study, results, only, p)
		switch {
		case err != nil:
			s.fail(c, err)
			return
		case problem != "":
			problems = append(problems, problem)
		default:
			taken++
		}
	}
	s.afterHandIn(c, taken, problems)
}

// handed is a saved page with the name to call it by.
type handed struct {
	gather.Saved
	name string
}

func savedPages(form *multipart.Form) (pages []handed, problems []string) {
	if source := strings.TrimSpace(first(form.Value["source"])); source != "" {
		pages = append(pages, handed{gather.Saved{URL: strings.TrimSpace(first(form.Value["url"])), Body: []byte(source)}, "the pasted source"})
	}
	for _, file := range form.File["file"] {
		if file.Size == 0 && file.Filename == "" {
			continue
		}
		found, err := openSaved(file)
		if err != nil {
			problems = append(problems, fmt.Sprintf("%s: %v", file.Filename, err))
		}
		for _, p := range found {
			pages = append(pages, handed{p, file.Filename})
		}
	}
	return pages, problems
}

func openSaved(file *multipart.FileHeader) ([]gather.Saved, error) {
	f, err := file.Open()
	if err != nil {
		return nil, err
	}
	defer f.Close()
	return gather.Pages(file.Filename, io.Reader(f))
}

func first(list []string) string {
	if len(list) == 0 {
		return ""
	}
	return list[0]
}

// onlyResult is the result named in the address, nil where none is.
func onlyResult(c *gin.Context, results []store.Result) (*store.Result, error) {
	if c.Param("result") == "" {
		return nil, nil
	}
	id, err := strconv.ParseInt(c.Param("result"), 10, 64)
	for i := range results {
		if err == nil && results[i].ID == id {
			return &results[i], nil
		}
	}
	return nil, store.ErrNotFound
}

// takePage reads one page and keeps it for its result. A problem is the
// person's to mend; an error is ours.
func (s *Server) takePage(c *gin.Context, study store.Study, results []store.Result, only *store.Result, p handed) (problem string, err error) {
	doc, err := jobs.ReadPage(reading.Page{URL: p.URL, ContentType: p.ContentType, Body: p.Body})
	var failure *gather.Failure
	if errors.As(err, &failure) {
		return fmt.Sprintf("%s: %s", p.name, failure.Reason), nil
	}
	if err != nil {
		return "", err
	}
	target := only
	if target == nil {
		target = match(results, p.URL, doc.Canonical)
	}
	if target == nil && c.PostForm("add") == "true" && p.URL != "" {
		if target, err = s.addHanded(c, study, p.URL); err != nil {
			return "", err
		}
	}
	if target == nil {
		where := p.URL
		if where == "" {
			where = "it does not say what its address is"
		}
		return fmt.Sprintf("%s: no page in the list has its address (%s); hand it in at its row", p.name, where), nil
	}
	if doc.URL != target.URL { // links are told apart by the page's own address
		if doc, err = jobs.ReadPage(reading.Page{URL: target.URL, ContentType: p.ContentType, Body: p.Body}); err != nil {
			return "", err
		}
	}
	capture, err := jobs.CaptureOf(&gather.Page{URL: target.URL, FinalURL: target.URL, ContentType: p.ContentType,
		Body: p.Body, Digest: sha256.Sum256(p.Body), At: time.Now().UTC()})
	if err != nil {
		return "", err
	}
	return "", s.scope().HandIn(c.Request.Context(), study.ID, target.ID, p.name, capture, doc, jobs.ProposeSetAside(doc, study.Language))
}

// addHanded puts a page that was handed in with its address to the list's end;
// nil if the address cannot be one.
func (s *Server) addHanded(c *gin.Context, study store.Study, address string) (*store.Result, error) {
	addresses, problems := gather.ParseAddresses(address)
	if len(problems) > 0 || len(addresses) != 1 {
		return nil, nil
	}
	added, err := s.scope().AddPages(c.Request.Context(), study.ID, addresses, jobs.HostOf, false)
	if err != nil || len(added) != 1 {
		return nil, err
	}
	return &added[0], nil
}

// receive is the window to which the bookmarklet sends a page.
func (s *Server) receive(c *gin.Context) {
	s.views.page(c, http.StatusOK, "receive", s.inStudy(c, "gather", studyOf(c)))
}

// bookmarklet is the code that sends the page being looked at to receive.
func bookmarklet(origin string, study int64) template.URL {
	return template.URL(fmt.Sprintf(`javascript:(()=>{const o='%s',w=open(o+'/studies/%d/receive');addEventListener('message',e=>{if(e.source===w&&e.data==='corpulan ready')w.postMessage({url:location.href,html:document.documentElement.outerHTML},o)})})()`, origin, study))
}

func match(results []store.Result, urls ...string) *store.Result {
	for _, u := range urls {
		for i := range results {
			if u != "" && gather.SameAddress(results[i].URL, u) {
				return &results[i]
			}
		}
	}
	return nil
}

// afterHandIn says what was taken and what was not.
func (s *Server) afterHandIn(c *gin.Context, taken int, problems []string) {
	text := fmt.Sprintf("%d page%s taken in.", taken, map[bool]string{true: "", false: "s"}[taken == 1])
	if len(problems) > 0 {
		text = strings.Join(append([]string{text}, problems...), " ")
	}
	status := http.StatusOK
	if taken == 0 {
		status = http.StatusUnprocessableEntity
	}
	if !fromHTMX(c) {
		if len(problems) > 0 {
			s.say(c, status, text)
			return
		}
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("/studies/%d/gather", studyOf(c).ID))
		return
	}
	body, err := s.gatherBody(c)
	if err != nil {
		s.fail(c, err)
		return
	}
	s.views.fragment(c, status, "gather-changed", gatherChanged{body, notice{Text: text, Bad: len(problems) > 0}})
}

// gatherChanged is the list with a word on what has been done.
type gatherChanged struct {
	List   gatherBody
	Notice notice
}

// say answers with a message alone, which leaves all that was typed in place.
func (s *Server) say(c *gin.Context, status int, text string) {
	if !fromHTMX(c) { // a plain form: a page says it, and the browser's way back keeps what was typed
		s.views.page(c, status, "error", s.inStudy(c, "gather", failure{Status: status, What: text, Safe: "All that was there before is as it was.",
			Do: "Go back to mend it.", Link: fmt.Sprintf("/studies/%d/gather", studyOf(c).ID), Text: "To the list"}))
		return
	}
	c.Header("HX-Retarget", "#notices")
	c.Header("HX-Reswap", "innerHTML")
	s.views.fragment(c, status, "notice", notice{Text: text, Bad: true})
}

// addPages puts addresses to the list that did not rank, our own above all.
func (s *Server) addPages(c *gin.Context) {
	ctx := c.Request.Context()
	study := studyOf(c)
	addresses, problems := gather.ParseAddresses(c.PostForm("addresses"))
	if len(problems) > 0 {
		s.say(c, http.StatusUnprocessableEntity, "Nothing was added: "+strings.Join(problems, "; ")+".")
		return
	}
	if len(addresses) == 0 {
		s.say(c, http.StatusUnprocessableEntity, "Paste at least one address.")
		return
	}
	var added []store.Result
	err := s.scope().InTx(ctx, func(tx store.Scope, sqlTx *sql.Tx) error {
		var err error
		if added, err = tx.AddPages(ctx, study.ID, addresses, jobs.HostOf, c.PostForm("own") == "true"); err != nil || len(added) == 0 {
			return err
		}
		return s.queue.Fetch(ctx, sqlTx, added[0].GatheringID, hostsOf(added)...)
	})
	switch {
	case errors.Is(err, store.ErrTooMany):
		s.say(c, http.StatusUnprocessableEntity, "Nothing was added: "+err.Error()+".")
		return
	case err != nil:
		s.fail(c, err)
		return
	}
	if !fromHTMX(c) {
		back(c, fmt.Sprintf("/studies/%d/gather", study.ID))
		return
	}
	body, err := s.gatherBody(c)
	if err != nil {
		s.fail(c, err)
		return
	}
	text := fmt.Sprintf("%d of %d addresses added.", len(added), len(addresses))
	if len(added) < len(addresses) {
		text += " The others are in the list already."
	}
	s.views.fragment(c, http.StatusOK, "gather-changed", gatherChanged{body, notice{Text: text}})
}

// captures hands over every page of the study as it was captured, as WARC.
func (s *Server) captures(c *gin.Context) {
	study := studyOf(c)
	kept, err := s.scope().Captures(c.Request.Context(), study.ID)
	if err != nil {
		s.fail(c, err)
		return
	}
	var out bytes.Buffer
	pages := make([]gather.Page, 0, len(kept))
	for _, k := range kept {
		p, err := jobs.PageOf(k)
		if err != nil {
			s.fail(c, err)
			return
		}
		pages = append(pages, p)
	}
	if err := gather.WriteWARC(&out, gather.UserAgent, pages); err != nil {
		s.fail(c, err)
		return
	}
	c.Header("Content-Disposition", fmt.Sprintf(`attachment; filename="captures-%s.warc.gz"`, slug(study.Keyword)))
	c.Data(http.StatusOK, "application/warc", out.Bytes())
}

func hostsOf(results []store.Result) (hosts []string) {
	for _, r := range results {
		if !slices.Contains(hosts, r.Host) {
			hosts = append(hosts, r.Host)
		}
	}
	return hosts
}
