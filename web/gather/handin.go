package gather

import (
	"errors"
	"fmt"
	"html/template"
	"io"
	"maps"
	"net/http"
	"slices"
	"strings"

	"corpulan/core/address"
	"corpulan/core/message"
	"corpulan/formats/manuscript"
	"corpulan/study"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

// handIn takes pages that a person saved or copied: for one result, or for the
// whole study, each then put to the result it is of.
func (s *handlers) handIn(c *gin.Context) {
	st := kit.StudyOf(c)
	if err := c.Request.ParseMultipartForm(8 << 20); err != nil {
		if errors.As(err, new(*http.MaxBytesError)) {
			s.Say(c, http.StatusRequestEntityTooLarge, message.Of("At most %d MB can be handed in at once; nothing was taken.", kit.LargestHandIn>>20))
			return
		}
		s.Say(c, http.StatusUnprocessableEntity, "The files did not arrive whole; nothing was taken. Try again.")
		return
	}
	defer func() { _ = c.Request.MultipartForm.RemoveAll() }()
	var only int64
	if c.Param("result") != "" {
		var err error
		if only, err = resultParam(c); err == nil {
			_, err = s.Scope(c).Result(c.Request.Context(), st.ID, only)
		}
		if err != nil {
			s.Fail(c, err)
			return
		}
	}
	pages, problems := s.SavedPages(c.Request.Context(), c.Request.MultipartForm, only)
	if len(pages) == 0 && len(problems) == 0 {
		s.Say(c, http.StatusUnprocessableEntity, "Paste the page's source, or choose a saved file.")
		return
	}
	pages = onePerRow(pages, only, &problems, s.addressOf(c, only))
	in, err := s.Commands(c).HandIn(c.Request.Context(), st, pages, c.PostForm("add") == "true")
	if err != nil {
		s.Fail(c, err)
		return
	}
	in.Problems = append(problems, in.Problems...)
	s.afterHandIn(c, in)
}

func (s *handlers) addressOf(c *gin.Context, result int64) string {
	if result == 0 {
		return ""
	}
	r, err := s.Scope(c).Result(c.Request.Context(), kit.StudyOf(c).ID, result)
	if err != nil {
		return ""
	}
	return r.URL
}

// onePerRow leaves of a file with many pages, handed in at one row, the page of
// that row, and says so where it holds none.
func onePerRow(pages []study.Handed, only int64, problems *[]message.Message, row string) []study.Handed {
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
			*problems = append(*problems, message.Of("%s holds %d pages, and none of them is the page of this row; nothing of it was taken", name, held[name]))
		}
	}
	return slices.DeleteFunc(pages, func(p study.Handed) bool {
		return held[p.Name] > 1 && (!found[p.Name] || !address.Same(p.URL, row))
	})
}

// receive is the window to which the bookmarklet sends a page.
func (s *handlers) receive(c *gin.Context) {
	s.Page(c, http.StatusOK, "receive", s.InStudy(c, "gather", kit.StudyOf(c)))
}

// handedIn is the list with what became of a hand-in: a word, and a choice of
// rows for the files whose row could not be found.
type handedIn struct {
	List   template.HTML
	Rows   []gatherRow
	Notice kit.Notice
	Left   []string
}

// afterHandIn says what was taken and what was not.
func (s *handlers) afterHandIn(c *gin.Context, in study.HandedIn) {
	said := in.Said
	if said == "" {
		said = "No page was taken in."
	}
	parts := append([]message.Message{said}, in.Problems...)
	status := http.StatusOK
	if in.Taken == 0 && len(in.Left) == 0 {
		status = http.StatusUnprocessableEntity
	}
	if !kit.FromHTMX(c) {
		for _, name := range in.Left {
			parts = append(parts, message.Of("%s: no row could be found for it; hand it in at its row.", name))
		}
		if len(parts) > 1 {
			s.Say(c, status, message.Joined(" ", parts...))
			return
		}
		c.Redirect(http.StatusSeeOther, fmt.Sprintf("/studies/%d/gather", kit.StudyOf(c).ID))
		return
	}
	now, err := s.boardNow(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	n := kit.NoticeOf(kit.StudyOf(c).ID, in.Done)
	n.Text, n.Bad = message.Joined(" ", parts...), len(in.Problems) > 0
	if len(in.Left) > 0 && in.Taken == 0 && len(in.Problems) == 0 {
		n.Text = ""
	}
	s.Fragment(c, status, "handed-in", handedIn{template.HTML(now.list), now.results, n, in.Left})
}

// addExtras takes texts that did not rank: files, or a note that was typed.
func (s *handlers) addExtras(c *gin.Context) {
	if err := c.Request.ParseMultipartForm(8 << 20); err != nil && !errors.Is(err, http.ErrNotMultipart) {
		if errors.As(err, new(*http.MaxBytesError)) {
			s.Say(c, http.StatusRequestEntityTooLarge, message.Of("At most %d MB can be handed in at once; nothing was taken.", kit.LargestHandIn>>20))
			return
		}
		s.Say(c, http.StatusUnprocessableEntity, "The files did not arrive whole; nothing was taken. Try again.")
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
				s.Fail(c, err)
				return
			}
			body, err := io.ReadAll(io.LimitReader(in, manuscript.LargestExtra+1))
			_ = in.Close()
			if err != nil {
				s.Fail(c, err)
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
		extras = append(extras, study.Extra{Name: kit.Shorten(name, 100) + ".md", Body: []byte(note)})
	}
	for _, x := range s.Extras {
		if c.PostForm("sample") == x.Name {
			extras = append(extras, study.Extra{Name: x.Name, Body: x.Data})
		}
	}
	if len(extras) == 0 {
		s.Say(c, http.StatusUnprocessableEntity, "Choose a file, or type a note.")
		return
	}
	in, err := s.Commands(c).AddExtras(c.Request.Context(), kit.StudyOf(c), extras)
	if err != nil {
		s.Fail(c, err)
		return
	}
	s.afterHandIn(c, in)
}
