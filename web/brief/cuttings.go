package brief

import (
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"time"
	"unicode/utf8"

	"corpulan/core/brief"
	"corpulan/core/message"
	"corpulan/store"
	"corpulan/study"
	"corpulan/web/kit"

	"github.com/gin-gonic/gin"
)

// longestCutting is how long a cutting may be, in characters: more is a copy of the page. Our
// own.
const longestCutting = 2000

// cut keeps a cutting: words of a captured page, a question, or a figure.
func (s *handlers) cut(c *gin.Context) {
	an, err := s.Analyse(c)
	if err != nil {
		s.Fail(c, err)
		return
	}
	var x brief.Cutting
	switch kind := c.PostForm("kind"); kind {
	case "question":
		x, err = questionCutting(an, c.PostForm("key"))
	case "fact":
		x, err = factCutting(an, c.PostForm("key"))
	default:
		x, err = passageCutting(an, c.PostForm("rank"), c.PostForm("result"), c.PostForm("text"))
	}
	var captured string
	if err == nil && x.URL != "" {
		captured, err = s.capturedOn(c, an, x.Rank)
		x.Date = captured
	}
	switch {
	case errors.Is(err, study.ErrNotThere), errors.Is(err, store.ErrNotFound):
		s.Say(c, http.StatusUnprocessableEntity, "These words do not stand in the captured page as they are; nothing was cut. Select whole words of one section.")
		return
	case err == nil && utf8.RuneCountInString(x.Text) > longestCutting:
		s.Say(c, http.StatusUnprocessableEntity, message.Of("A cutting has at most %d characters; this has %d. Select less.", longestCutting, utf8.RuneCountInString(x.Text)))
		return
	case err != nil:
		s.Fail(c, err)
		return
	}
	done, err := s.Commands(c).Cut(c.Request.Context(), an.Study.ID, x)
	switch {
	case errors.Is(err, store.ErrTooMany):
		s.Say(c, http.StatusUnprocessableEntity, message.Of("A brief holds at most %d cuttings; take some out first.", brief.MaxCuttings))
	case err != nil:
		s.Fail(c, err)
	case c.GetHeader("X-Place") == "brief":
		s.Refreshed(c, kit.NoticeOf(an.Study.ID, done))
	case !kit.FromHTMX(c):
		kit.Back(c, fmt.Sprintf("/studies/%d/brief", an.Study.ID))
	default:
		c.Header("HX-Retarget", "#notices")
		c.Header("HX-Reswap", "innerHTML")
		s.Fragment(c, http.StatusOK, "notice", kit.NoticeOf(an.Study.ID, done))
	}
}

// passageCutting finds words in the page of a rank or of a result.
func passageCutting(an *kit.Analysis, rank, result, words string) (brief.Cutting, error) {
	for _, r := range an.Results {
		if strconv.Itoa(r.Rank) != rank && strconv.FormatInt(r.ID, 10) != result {
			continue
		}
		text, heading, err := study.WordsIn(an.Analysis, r, words)
		if err != nil {
			return brief.Cutting{}, err
		}
		title := r.Title
		if d := an.Docs[*r.ReadingID]; d != nil && d.Reading.Title != "" {
			title = d.Reading.Title
		}
		return brief.Cutting{Kind: "passage", Text: text, URL: r.URL, Title: title, Rank: r.Rank, Heading: heading}, nil
	}
	return brief.Cutting{}, store.ErrNotFound
}

// questionCutting is a question, with the page that asks it in these words, or the results page.
func questionCutting(an *kit.Analysis, key string) (brief.Cutting, error) {
	for _, q := range an.Evidence.Questions {
		if q.Key != key {
			continue
		}
		x := brief.Cutting{Kind: "question", Text: q.Text, Date: an.Setting.Gathered}
		for _, w := range q.Wordings {
			if src := (document{an}).source(w.Rank); src != nil && w.Text == q.Text {
				x.URL, x.Title, x.Rank = src.URL, src.Title, src.Rank
				break
			}
		}
		return x, nil
	}
	return brief.Cutting{}, store.ErrNotFound
}

func factCutting(an *kit.Analysis, key string) (brief.Cutting, error) {
	for _, f := range an.Evidence.Facts {
		if src := (document{an}).source(f.Rank); f.Key == key && src != nil {
			return brief.Cutting{Kind: "figure", Text: f.Text, URL: src.URL, Title: src.Title, Rank: f.Rank}, nil
		}
	}
	return brief.Cutting{}, store.ErrNotFound
}

// source is the kept page of a rank; nil where there is none.
func (an document) source(rank int) *brief.Source {
	for i := range an.Brief.Sources {
		if an.Brief.Sources[i].Rank == rank {
			return &an.Brief.Sources[i]
		}
	}
	return nil
}

// capturedOn is the day on which the page of a rank was captured.
func (s *handlers) capturedOn(c *gin.Context, an *kit.Analysis, rank int) (string, error) {
	for _, r := range an.Results {
		if r.Rank == rank && r.CaptureID != nil {
			at, err := s.Scope(c).CapturedAt(c.Request.Context(), *r.CaptureID)
			return at.UTC().Format(time.DateOnly), err
		}
	}
	return an.Setting.Gathered, nil
}

// editCutting moves a cutting, puts it under a section, or takes it out.
func (s *handlers) editCutting(c *gin.Context) {
	st, ctx, do := kit.StudyOf(c), c.Request.Context(), s.Commands(c)
	id := c.Param("cutting")
	var done study.Done
	var err error
	switch c.PostForm("do") {
	case "up", "down":
		done, err = do.MoveCutting(ctx, st.ID, id, c.PostForm("do") == "up")
	case "remove":
		done, err = do.RemoveCutting(ctx, st.ID, id)
	default:
		done, err = do.PlaceCutting(ctx, st.ID, id, c.PostForm("section"))
	}
	if errors.Is(err, study.ErrNoCutting) {
		s.Say(c, http.StatusUnprocessableEntity, "This cutting is not in the brief any more; reload the page and try again.")
		return
	}
	s.Done(c, done, err)
}

// SectionChoices are the sections that a cutting can be put under.
func (an document) SectionChoices() []brief.Section {
	var list []brief.Section
	an.Brief.Each(func(s *brief.Section) { list = append(list, *s) })
	return list
}

// LooseCuttings are those that stand under no section.
func (an document) LooseCuttings() []brief.Cutting {
	return slices.DeleteFunc(slices.Clone(an.Brief.Cuttings), func(x brief.Cutting) bool { return x.Section != "" })
}
