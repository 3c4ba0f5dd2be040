package web

import (
	"errors"
	"fmt"
	"html/template"
	"io"
	"maps"
	"mime/multipart"
	"net/http"
	"path"
	"slices"
	"strconv"
	"strings"

	"corpulan/core/address"
	"corpulan/gather"
	"corpulan/store"
	"corpulan/study"

	"github.com/gin-gonic/gin"
)

// largestUnpacked is how much may come out of the files of one upload, however
// they are packed, in bytes.
const largestUnpacked = 256 << 20

// handIn takes pages that a person saved or copied: for one result, or for the
// whole study, each then put to the result it is of.
func (s *Server) handIn(c *gin.Context) {
	st := studyOf(c)
	if err := c.Request.ParseMultipartForm(8 << 20); err != nil {
		if errors.As(err, new(*http.MaxBytesError)) {
			s.say(c, http.StatusRequestEntityTooLarge, fmt.Sprintf("At most %d MB can be handed in at once; nothing was taken.", largestHandIn>>20))
			return
		}
		s.say(c, http.StatusUnprocessableEntity, "The files did not arrive whole; nothing was taken. Try again.")
		return
	}
	defer func() { _ = c.Request.MultipartForm.RemoveAll() }()
	var only int64
	if c.Param("result") != "" {
		var err error
		if only, err = resultParam(c); err == nil {
			_, err = s.scope(c).Result(c.Request.Context(), st.ID, only)
		}
		if err != nil {
			s.fail(c, err)
			return
		}
	}
	pages, problems := savedPages(c.Request.MultipartForm, only)
	if len(pages) == 0 && len(problems) == 0 {
		s.say(c, http.StatusUnprocessableEntity, "Paste the page's source, or choose a saved file.")
		return
	}
	pages = onePerRow(pages, only, &problems, s.addressOf(c, only))
	in, err := s.commands(c).HandIn(c.Request.Context(), st, pages, c.PostForm("add") == "true")
	if err != nil {
		s.fail(c, err)
		return
	}
	in.Problems = append(problems, in.Problems...)
	s.afterHandIn(c, in)
}

func (s *Server) addressOf(c *gin.Context, result int64) string {
	if result == 0 {
		return ""
	}
	r, err := s.scope(c).Result(c.Request.Context(), studyOf(c).ID, result)
	if err != nil {
		return ""
	}
	return r.URL
}

// onePerRow leaves of a file with many pages, handed in at one row, the page of
// that row, and says so where it holds none.
func onePerRow(pages []study.Handed, only int64, problems *[]string, row string) []study.Handed {
	if only == 0 {
		return pages
	}
	held := map[string]int{}
	found := map[string]bool{}
	for _, p := range pages {
		held[p.Name]++
		found[p.Name] = found[p.Name] || address.Same(p.URL, row)
	}
	for _, name := range slices.Sorted(maps.Keys(held)) {
		if held[name] > 1 && !found[name] {
			*problems = append(*problems, fmt.Sprintf("%s holds %d pages, and none of them is the page of this row; nothing of it was taken", name, held[name]))
		}
	}
	return slices.DeleteFunc(pages, func(p study.Handed) bool {
		return held[p.Name] > 1 && (!found[p.Name] || !address.Same(p.URL, row))
	})
}

// savedPages reads the pages out of a form. For which row a file is the form
// may say: "to:NAME" is the number of the result.
func savedPages(form *multipart.Form, only int64) (pages []study.Handed, problems []string) {
	if source := strings.TrimSpace(first(form.Value["source"])); source != "" {
		pages = append(pages, study.Handed{Saved: gather.Saved{URL: strings.TrimSpace(first(form.Value["url"])), Body: []byte(source)}, Name: "the pasted source", To: only, Of: 1})
	}
	budget := gather.NewBudget(largestUnpacked)
	for _, file := range form.File["file"] {
		if file.Size == 0 && file.Filename == "" {
			continue
		}
		to := only
		if said, err := strconv.ParseInt(first(form.Value["to:"+file.Filename]), 10, 64); err == nil && to == 0 {
			to = said
		}
		found, err := openSaved(file, budget)
		if err != nil {
			problems = append(problems, fmt.Sprintf("%s: %v", file.Filename, err))
		}
		for _, p := range found {
			pages = append(pages, study.Handed{Saved: p, Name: path.Base(file.Filename), To: to, Of: len(found)})
		}
	}
	return pages, problems
}

func openSaved(file *multipart.FileHeader, budget *gather.Budget) ([]gather.Saved, error) {
	f, err := file.Open()
	if err != nil {
		return nil, err
	}
	defer f.Close()
	return gather.Pages(file.Filename, f, budget)
}

func first(list []string) string {
	if len(list) == 0 {
		return ""
	}
	return list[0]
}

// receive is the window to which the bookmarklet sends a page.
func (s *Server) receive(c *gin.Context) {
	s.views.page(c, http.StatusOK, "receive", s.inStudy(c, "gather", studyOf(c)))
}

// bookmarklet is the code that sends the page being looked at to receive.
func bookmarklet(origin string, study int64) template.URL {
	return template.URL(fmt.Sprintf(`javascript:(()=>{const o='%s',w=open(o+'/studies/%d/receive');addEventListener('message',e=>{if(e.source===w&&e.data==='corpulan ready')w.postMessage({url:location.href,html:document.documentElement.outerHTML},o)})})()`, origin, study))
}

// handedIn is the list with what became of a hand-in: a word, and a choice of
// rows for the files whose row could not be found.
type handedIn struct {
	List   template.HTML
	Rows   []gatherRow
	Notice notice
	Left   []string
}

// afterHandIn says what was taken and what was not.
func (s *Server) afterHandIn(c *gin.Context, in study.HandedIn) {
	said := in.Said
	if said == "" {
		said = "No page was taken in."
	}
	parts := append([]string{said}, in.Problems...)
	status := http.StatusOK
	if in.Taken == 0 && len(in.Left) == 0 {
		status = http.StatusUnprocessableEntity
	}
	if !fromHTMX(c) {
		for _, name := range in.Left {
			parts = append(parts, name+": no row could be found for it; hand it in at its row.")
		}
		if len(parts) > 1 {
			s.say(c, status, strings.Join(parts, " "))
			return
		}
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("/studies/%d/gather", studyOf(c).ID))
		return
	}
	now, err := s.boardNow(c)
	if err != nil {
		s.fail(c, err)
		return
	}
	n := noticeOf(studyOf(c).ID, in.Done)
	n.Text, n.Bad = strings.Join(parts, " "), len(in.Problems) > 0
	if len(in.Left) > 0 && in.Taken == 0 && len(in.Problems) == 0 {
		n.Text = ""
	}
	s.views.fragment(c, status, "handed-in", handedIn{template.HTML(now.list), now.results, n, in.Left})
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
	s.views.fragment(c, status, "notice", notice{Text: text, Bad: status >= 400})
}

func isTooMany(err error) bool { return errors.Is(err, store.ErrTooMany) }

// addExtras takes texts that did not rank: files, or a note that was typed.
func (s *Server) addExtras(c *gin.Context) {
	if err := c.Request.ParseMultipartForm(8 << 20); err != nil && !errors.Is(err, http.ErrNotMultipart) {
		if errors.As(err, new(*http.MaxBytesError)) {
			s.say(c, http.StatusRequestEntityTooLarge, fmt.Sprintf("At most %d MB can be handed in at once; nothing was taken.", largestHandIn>>20))
			return
		}
		s.say(c, http.StatusUnprocessableEntity, "The files did not arrive whole; nothing was taken. Try again.")
		return
	}
	var extras []study.Extra
	if f := c.Request.MultipartForm; f != nil {
		defer func() { _ = f.RemoveAll() }()
		for _, h := range f.File["file"] {
			if h.Size == 0 && h.Filename == "" {
				continue
			}
			in, err := h.Open()
			if err != nil {
				s.fail(c, err)
				return
			}
			body, err := io.ReadAll(io.LimitReader(in, gather.LargestExtra+1))
			_ = in.Close()
			if err != nil {
				s.fail(c, err)
				return
			}
			extras = append(extras, study.Extra{Name: h.Filename, Body: body})
		}
	}
	if note := strings.TrimSpace(c.PostForm("note")); note != "" {
		name := strings.TrimSpace(c.PostForm("name"))
		if name == "" {
			name = "Note"
		}
		extras = append(extras, study.Extra{Name: shorten(name, 100) + ".md", Body: []byte(note)})
	}
	for _, x := range s.extras {
		if c.PostForm("sample") == x.Name {
			extras = append(extras, study.Extra{Name: x.Name, Body: x.Data})
		}
	}
	if len(extras) == 0 {
		s.say(c, http.StatusUnprocessableEntity, "Choose a file, or type a note.")
		return
	}
	in, err := s.commands(c).AddExtras(c.Request.Context(), studyOf(c), extras)
	if err != nil {
		s.fail(c, err)
		return
	}
	s.afterHandIn(c, in)
}
