package evidence

import (
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"corpulan/analysis"
	"corpulan/core/brief"
	"corpulan/core/corpus"
	"corpulan/core/entities"
	"corpulan/core/evidence"
	"corpulan/core/house"
	"corpulan/core/language"
	"corpulan/core/listed"
	"corpulan/core/message"
	"corpulan/core/points"
	"corpulan/core/questions"
	"corpulan/core/themes"
	"corpulan/core/vocabulary"
	"corpulan/store"
	"corpulan/web/kit"
	"corpulan/web/parts"

	"github.com/gin-gonic/gin"
)

// sourcesBody is the pane that shows what stands behind a finding.
type sourcesBody struct {
	StudyID  int64
	Kind     brief.Kind
	Key      string
	Text     string
	About    message.Message
	Lines    []corpus.ConcordanceLine // terms and entities: sentences, a screenful of them
	Places   int                      // all there are
	Next     string                   // where the further ones are; empty if these are the last
	Passages []parts.Passage          // questions and themes: places
	Hosts    map[int]evidence.Source

	// Of terms: the order of the lines, the word they are narrowed to, and what
	// stands near.
	Order      corpus.Side
	Near       string
	Collocates []corpus.Collocate
	Parts      []evidence.Used // terms that a compound is made of, by key and text
	places     map[int]int64   // results by rank

	Type  entities.EntityType // of an entity
	Links []string            // of a listed thing: where pages lead to for it

	// Of a theme: what its pages say, side by side, the asked-for page first; themes that a
	// heading can be moved to; its points.
	Beside []parts.Passage
	At     int
	Others []themeChoice
	Points []points.Point

	Perhaps    []string        // of a question: those that may be the same
	PointField parts.FieldView // of a point: its wording in the brief
}

// OrderedBy is the address of the same lines in another order.
func (b sourcesBody) OrderedBy(order string) string { return b.With(corpus.Side(order), b.Near) }

// maxCollocates is how many neighbours are shown beside the lines.
const maxCollocates = 24

// maxLinks is how many addresses of a listed thing are shown.
const maxLinks = 6

// PlaceOf is where the section of a line can be read in the captured text.
func (b sourcesBody) PlaceOf(l corpus.ConcordanceLine) string {
	return fmt.Sprintf("/studies/%d/pages/%d/sections/%d", b.StudyID, b.places[l.Rank], l.Section)
}

// With is the address of the same lines in another order, or narrowed to a word.
func (b sourcesBody) With(order corpus.Side, near string) string {
	path := kit.SourcesPath(b.StudyID, b.Kind, b.Key)
	if order != corpus.ByPage && order != "" {
		path += "&sort=" + string(order)
	}
	if near != "" {
		path += "&near=" + url.QueryEscape(near)
	}
	return path
}

// sources shows the sentences behind a line of the evidence or the brief.
func (s *handlers) sources(c *gin.Context) {
	an, err := s.Analyse(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	kind, key := brief.Kind(c.Query("kind")), c.Query("key")
	body := sourcesBody{StudyID: an.Study.ID, Kind: kind, Key: key, Hosts: map[int]evidence.Source{}, Order: corpus.Side(c.Query("sort")), Near: c.Query("near"), At: atRank(c), places: map[int]int64{}}
	for _, r := range an.Results {
		if analysis.Counts(r) {
			body.places[r.Rank] = r.ID
		}
	}
	for _, src := range an.Evidence.Sources {
		body.Hosts[src.Rank] = src
	}
	if !fillSources(&body, an, kind, key) {
		s.Fail(c, store.ErrNotFound)
		return
	}
	if body.Order != corpus.ByLeft && body.Order != corpus.ByRight {
		body.Order = corpus.ByPage
	}
	body.narrow(language.For(an.Evidence.Language))
	corpus.SortLines(body.Lines, body.Order)
	body.cut(c.Query("from"), body.With(body.Order, body.Near))
	if kit.FromHTMX(c) && c.GetHeader("HX-Target") == "more-places" {
		s.Fragment(c, http.StatusOK, "source-lines", body)
		return
	}
	if kit.FromHTMX(c) {
		s.Fragment(c, http.StatusOK, "sources", body)
		return
	}
	s.Page(c, http.StatusOK, "sources-page", s.InStudy(c, "sources", body))
}

// narrow leaves the lines that have a word near the term, where one is asked for.
func (b *sourcesBody) narrow(lang *language.Language) {
	if b.Near == "" {
		return
	}
	has := func(side string) bool { return slices.Contains(lang.ContentStems(side), b.Near) }
	b.Lines = slices.DeleteFunc(b.Lines, func(l corpus.ConcordanceLine) bool { return !has(l.Left) && !has(l.Right) })
}

// maxPlaces is how many sentences or passages are shown at once; a word may
// stand in fifty thousand places.
const maxPlaces = 300

// cut leaves the places from a number on, as many as are shown at once.
func (b *sourcesBody) cut(from, path string) {
	n, err := strconv.Atoi(from)
	if err != nil || n < 0 {
		n = 0
	}
	b.Places = len(b.Lines) + len(b.Passages) + len(b.Beside)
	b.Lines = b.Lines[min(n, len(b.Lines)):min(n+maxPlaces, len(b.Lines))]
	b.Passages = b.Passages[min(n, len(b.Passages)):min(n+maxPlaces, len(b.Passages))]
	if n+maxPlaces < b.Places {
		b.Next = fmt.Sprintf("%s&from=%d", path, n+maxPlaces)
	}
}

// EntityTypes are the types that a name can be taught to be of.
func (b sourcesBody) EntityTypes() []string { return house.EntityTypes() }

func fillSources(b *sourcesBody, an *kit.Analysis, kind brief.Kind, key string) bool {
	f, ok := an.Evidence.Finding(kind, key)
	if !ok {
		return false
	}
	b.Text, b.Lines = f.Text, an.Evidence.Lines(kind, f, an.Pages)
	if f.About != nil {
		b.About = f.About()
	}
	if kind != brief.ThemeKind { // whose passages stand side by side
		b.Passages = passagesOf(an, an.Evidence.Passages(kind, f, an.Pages))
	}
	switch x := f.Of.(type) { // what one kind alone shows
	case *vocabulary.Term:
		b.Collocates = corpus.Collocates(an.Pages, x.Keys...)
		b.Collocates = b.Collocates[:min(len(b.Collocates), maxCollocates)]
		for _, part := range x.Parts {
			if other, ok := an.Evidence.Finding(kind, part); ok {
				b.Parts = append(b.Parts, evidence.Used{Key: part, Text: other.Text})
			}
		}
	case *entities.Entity:
		b.Type = x.Type
	case *listed.Thing:
		b.PointField, b.Links = parts.FieldOf(an, brief.PickPrefix+x.Key), x.Links[:min(len(x.Links), maxLinks)]
	case *evidence.Fact:
		b.Text = strings.Join(x.Figures, ", ")
	case *points.Point:
		b.PointField = parts.FieldOf(an, brief.PointPrefix+x.Key)
		if b.PointField.Value == "" {
			b.PointField.Value = x.Text
		}
	case *questions.Question:
		b.Perhaps = perhapsOf(an, *x)
	case *themes.Theme:
		fillTheme(b, an, *x)
	}
	return true
}

// passagesOf are passages with the headings and texts of their sections.
func passagesOf(an *kit.Analysis, list []evidence.Passage) []parts.Passage {
	var shown []parts.Passage
	for _, x := range list {
		p := parts.Passage{Rank: x.Rank, Place: x.Place, Heading: x.Heading, Text: x.Text, Words: x.Words, Section: max(x.Section, 0), Made: x.Made}
		if x.Section >= 0 {
			if p.Heading == "" {
				p.Heading = parts.HeadingOf(an.Pages, x.Rank, x.Section)
			}
			if x.Text == "" {
				p.Text = parts.SectionText(an.Pages, x.Rank, x.Section, parts.FewLines)
			}
		}
		shown = append(shown, p)
	}
	return shown
}

// perhapsOf are the questions that may be the same as this one.
func perhapsOf(an *kit.Analysis, q questions.Question) []string {
	var list []string
	for _, other := range an.Evidence.Questions {
		if slices.Contains(q.Perhaps, other.Key) {
			list = append(list, other.Text)
		}
	}
	return list
}
