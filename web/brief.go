package web

import (
	"bytes"
	"cmp"
	"fmt"
	"mime"
	"net/http"
	"slices"
	"strings"
	"unicode"

	"corpulan/core/brief"
	"corpulan/core/change"
	"corpulan/core/vocabulary"
	"corpulan/render"
	"corpulan/store"

	"github.com/gin-gonic/gin"
)

// briefBody is the Brief place.
type briefBody struct {
	*analysis
	Formats []render.Format
	Remarks []thread          // that came by links, the open ones first
	Hands   []string          // who may own or write it
	Basis   *brief.Basis      // what it stands on; nil while it follows
	Stale   []change.Proposal // what newer evidence asks of it
}

func (s *Server) brief(c *gin.Context) {
	body, err := s.briefBody(c)
	if err != nil {
		s.fail(c, err)
		return
	}
	s.views.page(c, http.StatusOK, "brief", s.inStudy(c, "brief", body))
}

func (s *Server) briefBody(c *gin.Context) (briefBody, error) {
	an, err := s.findings(c)
	if err != nil {
		return briefBody{}, err
	}
	b := briefBody{analysis: an, Formats: render.Formats()}
	list, err := s.scope(c).Remarks(c.Request.Context(), an.Study.ID)
	if err != nil {
		return b, err
	}
	for _, r := range list { // in the order they were made
		for _, t := range threads(list)[r.Line] {
			if t.ID == r.ID {
				b.Remarks = append(b.Remarks, t)
			}
		}
	}
	slices.SortStableFunc(b.Remarks, func(x, y thread) int {
		return cmp.Compare(settled(x), settled(y))
	})
	if b.Basis = an.Saved.Choices.Data().Basis(); b.Basis != nil {
		if b.Stale, err = s.analyst.Proposals(c.Request.Context(), s.scope(c), an.Analysis); err != nil {
			return b, err
		}
	}
	b.Hands, err = s.store.Across([]int64{an.Study.PublicationID}).Hands(c.Request.Context())
	return b, err
}

func settled(t thread) int {
	if t.SettledAt != nil {
		return 1
	}
	return 0
}

// briefPart is a part of the document with its heading.
type briefPart struct {
	render.Block
	Body []render.Block
	Part brief.Part
}

// Parts is the document, the same blocks as in every format, by its parts; the
// first has what stands before them.
func (an *analysis) Parts() []briefPart {
	parts := []briefPart{{}}
	for _, b := range render.Document(an.Brief.Saying(an.in)) {
		if b.Form == render.PartForm {
			i := slices.IndexFunc(an.Brief.Parts, func(p brief.Part) bool { return p.Name == b.Name })
			parts = append(parts, briefPart{Block: b, Part: an.Brief.Parts[i]})
			continue
		}
		last := &parts[len(parts)-1]
		last.Body = append(last.Body, b)
	}
	return parts
}

// Hidden are the parts that are not shown.
func (an *analysis) Hidden() []brief.Part {
	return slices.DeleteFunc(slices.Clone(an.Brief.Parts), func(p brief.Part) bool { return !p.Hidden })
}

// KindKey is the key of the brief's template.
func (an *analysis) KindKey() string {
	if t := an.Choices.TypedIn(brief.FieldKind); t != nil {
		return *t
	}
	return ""
}

// Templates are those of the program, and of the publication.
func (an *analysis) Templates() []brief.Template {
	return slices.Concat(brief.Templates(), an.Setting.Templates)
}

// tier is the terms of one tier, a column of the brief.
type tier struct {
	Name  string
	About string
	Rows  []render.Row
}

// group is rows that belong together.
type group struct {
	Name string
	Rows []render.Row
}

// groupsOf parts rows by their groups, which follow one another.
func groupsOf(rows []render.Row) []group {
	var list []group
	for _, r := range rows {
		if len(list) == 0 || list[len(list)-1].Name != r.Group {
			list = append(list, group{Name: r.Group})
		}
		last := &list[len(list)-1]
		last.Rows = append(last.Rows, r)
	}
	return list
}

// tiersOf sets the rows of terms in columns.
func tiersOf(rows []render.Row) []tier {
	tiers := []tier{{"Staples", "on 60 % of the pages and more", nil}, {"Frequent", "on 30 % and more", nil}, {"Occasional", "on two pages and more", nil}, {"Your own", "added by hand", nil}}
	for _, r := range rows {
		at := 2
		switch vocabulary.Tier(r.Group) {
		case vocabulary.Staple:
			at = 0
		case vocabulary.Frequent:
			at = 1
		case brief.OwnTier:
			at = 3
		}
		tiers[at].Rows = append(tiers[at].Rows, r)
	}
	return tiers
}

// PageLink is where the captured text of a rank's page can be read.
func (an *analysis) PageLink(rank int) string {
	for _, r := range an.Results {
		if r.Rank == rank {
			return fmt.Sprintf("/studies/%d/pages/%d", an.Study.ID, r.ID)
		}
	}
	return fmt.Sprintf("/studies/%d/field", an.Study.ID)
}

// download hands the brief over as a file.
func (s *Server) download(c *gin.Context) {
	f, ok := render.FormatNamed(c.Param("format"))
	if !ok {
		s.fail(c, store.ErrNotFound)
		return
	}
	an, err := s.analyse(c)
	if err != nil {
		s.fail(c, err)
		return
	}
	var out bytes.Buffer
	if err := f.Write(&out, an.Brief); err != nil {
		s.fail(c, err)
		return
	}
	attach(c, "brief", an.Study.Keyword, f.Extension)
	c.Data(http.StatusOK, f.MediaType, out.Bytes())
}

// faqData hands the questions of the brief over as FAQPage data (schema.org), with a place
// for each answer that the writer has yet to give: the answers of the field are others'.
func (s *Server) faqData(c *gin.Context) {
	an, err := s.analyse(c)
	if err != nil {
		s.fail(c, err)
		return
	}
	var out bytes.Buffer
	if err := render.FAQ(&out, an.Brief); err != nil {
		s.fail(c, err)
		return
	}
	attach(c, "faq", an.Study.Keyword, "json")
	c.Data(http.StatusOK, "application/ld+json", out.Bytes())
}

// attach names the file that an answer is to be saved as (RFC 6266): the kind, the
// keyword, and its ending.
func attach(c *gin.Context, kind, keyword, ending string) {
	name := kind + "-" + fileName(keyword) + "." + ending
	c.Header("Content-Disposition", mime.FormatMediaType("attachment", map[string]string{"filename": name}))
}

// longestFileName is what a keyword may take of a file's name, in characters.
const longestFileName = 60

// fileName makes a keyword fit for a file's name in any system: its words, joined
// by hyphens.
func fileName(keyword string) string {
	words := strings.FieldsFunc(strings.ToLower(keyword), func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) && !unicode.IsMark(r) })
	if len(words) == 0 {
		return "study"
	}
	return strings.TrimRight(shorten(strings.Join(words, "-"), longestFileName), "-")
}
