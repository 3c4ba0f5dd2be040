package web

import (
	"fmt"
	"net/http"
	"strconv"
	"strings"

	"corpulan/core/brief"
	"corpulan/core/corpus"
	"corpulan/core/evidence"
	"corpulan/core/questions"
	"corpulan/store"

	"github.com/gin-gonic/gin"
)

// sourcesBody is the pane that shows what stands behind a finding.
type sourcesBody struct {
	Kind     brief.Kind
	Text     string
	About    string
	Lines    []corpus.Line // terms and entities: sentences, a screenful of them
	Places   int           // all there are
	Next     string        // where the further ones are; empty if these are the last
	Passages []passage     // questions and themes: places
	Hosts    map[int]evidence.Source
}

// passage is a place in a page: a heading, and how its text begins.
type passage struct {
	Rank    int
	Place   string
	Heading string
	Text    string
	Words   int
}

// sources shows the sentences behind a line of the evidence or the brief.
func (s *Server) sources(c *gin.Context) {
	an, err := s.analyse(c)
	if err != nil {
		s.fail(c, err)
		return
	}
	kind, key := brief.Kind(c.Query("kind")), c.Query("key")
	body := sourcesBody{Kind: kind, Hosts: map[int]evidence.Source{}}
	for _, src := range an.Evidence.Sources {
		body.Hosts[src.Rank] = src
	}
	if !fillSources(&body, an, kind, key) {
		s.fail(c, store.ErrNotFound)
		return
	}
	body.cut(c.Query("from"), sourcesPath(an.Study.ID, kind, key))
	if fromHTMX(c) && c.Query("from") != "" {
		s.views.fragment(c, http.StatusOK, "source-lines", body)
		return
	}
	if fromHTMX(c) {
		s.views.fragment(c, http.StatusOK, "sources", body)
		return
	}
	s.views.page(c, http.StatusOK, "sources-page", s.inStudy(c, "evidence", body))
}

// mostPlaces is how many sentences or passages are shown at once; a word may
// stand in fifty thousand places.
const mostPlaces = 300

// cut leaves the places from a number on, as many as are shown at once.
func (b *sourcesBody) cut(from, path string) {
	n, err := strconv.Atoi(from)
	if err != nil || n < 0 {
		n = 0
	}
	b.Places = len(b.Lines) + len(b.Passages)
	b.Lines = b.Lines[min(n, len(b.Lines)):min(n+mostPlaces, len(b.Lines))]
	b.Passages = b.Passages[min(n, len(b.Passages)):min(n+mostPlaces, len(b.Passages))]
	if n+mostPlaces < b.Places {
		b.Next = fmt.Sprintf("%s&from=%d", path, n+mostPlaces)
	}
}

func fillSources(b *sourcesBody, an *analysis, kind brief.Kind, key string) bool {
	switch kind {
	case brief.TermKind:
		for _, t := range an.Evidence.Terms {
			if t.Key == key {
				b.Text, b.Lines = t.Text, corpus.Concordance(an.Pages, t.Keys...)
				var shapes []string
				for _, s := range t.Shapes {
					shapes = append(shapes, s.Text)
				}
				if len(shapes) > 1 {
					b.About = "written " + strings.Join(shapes, ", ")
				}
				return true
			}
		}
	case brief.EntityKind:
		for _, e := range an.Evidence.Entities {
			if e.Key == key {
				b.Text, b.Lines = e.Name, corpus.Mentions(an.Pages, e.Name)
				return true
			}
		}
	case brief.QuestionKind:
		for _, q := range an.Evidence.Questions {
			if q.Key == key {
				b.Text, b.Passages = q.Text, questionPassages(an, q)
				return true
			}
		}
	case brief.ThemeKind:
		for _, t := range an.Evidence.Themes {
			if t.Key == key {
				b.Text = t.Label
				for _, m := range t.Members {
					b.Passages = append(b.Passages, passage{Rank: m.Rank, Place: "heading", Heading: m.Text, Text: sectionText(an, m.Rank, m.Section), Words: m.Words})
				}
				return true
			}
		}
	}
	return false
}

func questionPassages(an *analysis, q questions.Question) []passage {
	var list []passage
	for _, w := range q.Wordings {
		list = append(list, passage{Rank: w.Rank, Place: "asked: " + w.Place, Heading: w.Text})
	}
	for _, a := range q.AnsweredBy {
		p := passage{Rank: a.Rank, Place: "answered: " + a.By, Heading: a.Heading, Words: a.Words}
		if a.Section >= 0 {
			p.Text = sectionText(an, a.Rank, a.Section)
		} else {
			p.Text = faqAnswer(an, a)
		}
		list = append(list, p)
	}
	return list
}

func faqAnswer(an *analysis, a questions.Answer) string {
	for _, p := range an.Pages {
		if p.Rank != a.Rank {
			continue
		}
		for _, pair := range p.Doc.Reading.FAQ {
			if pair.Question == a.Heading {
				return pair.Answer
			}
		}
	}
	return ""
}

func sectionText(an *analysis, rank, section int) string {
	const enough = 420 // characters: some four lines of the pane
	for _, p := range an.Pages {
		if p.Rank == rank && section < len(p.Doc.Reading.Sections) {
			t := strings.ReplaceAll(p.Doc.Reading.Sections[section].Text, "\n", " ")
			if len([]rune(t)) > enough {
				return shorten(t, enough) + "…"
			}
			return t
		}
	}
	return ""
}
