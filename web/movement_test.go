package web_test

import (
	"crypto/sha256"
	"net/http"
	"net/url"
	"regexp"
	"strings"
	"testing"
	"time"

	"corpulan/core/reading"
	"corpulan/gather"
	"corpulan/store"
	"corpulan/study"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// gatheredAgain gathers the study of withField a second time: ranks have turned round, every
// page has a section on gritting, and one sentence is worded otherwise.
func (s *site) gatheredAgain(t *testing.T) {
	t.Helper()
	code, _, _ := s.post(t, s.path("/gather"), false)
	require.Equal(t, http.StatusSeeOther, code)
	g, err := s.scope.LatestGathering(t.Context(), s.study.ID)
	require.NoError(t, err)
	was, err := s.scope.Results(t.Context(), 1)
	require.NoError(t, err)
	var results []store.Result
	for i := range 3 {
		r := was[2-i]
		results = append(results, store.Result{PublicationID: g.PublicationID, StudyID: g.StudyID, GatheringID: g.ID, Rank: i + 1, URL: r.URL, Host: r.Host, Title: r.Title, State: store.Waiting, Kept: true})
	}
	_, err = s.store.Found(t.Context(), g, results, []string{"How do I stop my glasses fogging?", "Where is it <gritted>?"}, []string{"winter tyres"}, nil)
	require.NoError(t, err)
	results, err = s.scope.Results(t.Context(), g.ID)
	require.NoError(t, err)
	for i, r := range results {
		c, err := s.scope.Capture(t.Context(), *was[2-i].CaptureID)
		require.NoError(t, err)
		page, err := study.PageOf(c)
		require.NoError(t, err)
		body := strings.Replace(string(page.Body), "<pre>", "<h2>The gritting map</h2><p>The gritting map is drawn anew each day. Ask for the gritting map.</p><pre>", 1)
		body = strings.Replace(body, "by 10 psi", "by 15 psi", 1)
		doc, err := reading.Read(reading.Page{URL: r.URL, Body: []byte(body)})
		require.NoError(t, err)
		c2, err := study.CaptureOf(&gather.Page{URL: r.URL, FinalURL: r.URL, Status: 200, Body: []byte(body), Digest: sha256.Sum256([]byte(body)), At: time.Now()})
		require.NoError(t, err)
		require.NoError(t, s.store.KeepPage(t.Context(), r, c2, doc, ""))
	}
}

func TestMovement(t *testing.T) {
	s := withField(t)
	_, text := s.get(t, s.path("/movement"))
	assert.Contains(t, text, "This study was gathered once.")
	_, text = s.get(t, s.path("/movement/line"))
	assert.Empty(t, strings.TrimSpace(text))
	code, _, _ := s.post(t, s.path("/brief/fields"), true, "field", "notes", "was", "", "typed", "false", "value", "Mind the frost")
	require.Equal(t, http.StatusOK, code)
	s.gatheredAgain(t)

	_, text = s.get(t, s.path("/movement/line"))
	assert.Contains(t, text, "3 pages have another text")
	assert.Contains(t, text, "“The gritting map” is new, on 3 of 3 pages")
	code, text = s.get(t, s.path("/movement"))
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, text, "Where is it &lt;gritted&gt;?")
	assert.Regexp(t, `(?s)take in.{1,60}theme.{1,80}The gritting map`, text)
	for _, where := range []string{"/", "/?moved=stale"} {
		_, desk := s.get(t, where)
		assert.Contains(t, desk, ">stale</a>", where)
	}
	_, desk := s.get(t, "/?moved=lost")
	assert.Contains(t, desk, "No study here is as asked.")
	_, brief := s.get(t, s.path("/brief"))
	assert.NotContains(t, brief, "The gritting map</", "the brief stands")

	page := regexp.MustCompile(`/studies/\d+/movement/page\?[^"]+`).FindString(text)
	_, text = s.get(t, strings.ReplaceAll(page, "&amp;", "&"))
	assert.Contains(t, text, `<del>10</del><ins>15</ins>`)
	assert.Contains(t, text, `<ins>The gritting map</ins>`)
	assert.NotContains(t, text, "<script>alert", "captured text is text")
	code, _ = s.get(t, s.path("/movement/page?url=%s&rank=1", url.QueryEscape("http://elsewhere.example/")))
	assert.Equal(t, http.StatusNotFound, code)

	code, text, _ = s.post(t, s.path("/brief/settle"), true)
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, text, "Nothing is picked.")
	code, _, _ = s.post(t, s.path("/brief/settle"), true, "id", "take in theme nothing", "take", "true")
	assert.Equal(t, http.StatusConflict, code)
	code, text, _ = s.post(t, s.path("/brief/settle"), true, "all", "true", "take", "true")
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, text, "Taken over:")
	assert.NotContains(t, text, "Proposed to the brief")
	_, brief = s.get(t, s.path("/brief"))
	assert.Contains(t, brief, "The gritting map")
	code, text, _ = s.post(t, s.path("/undo"), true)
	assert.Equal(t, http.StatusOK, code)
	_, text = s.get(t, s.path("/movement"))
	assert.Contains(t, text, "Proposed to the brief", "undone, it is proposed again")
	_, _, _ = s.post(t, s.path("/brief/follow"), true)
	_, text = s.get(t, s.path("/movement"))
	assert.NotContains(t, text, "Proposed to the brief")

	code, _, _ = s.post(t, s.path("/gather/again"), false, "again", "monthly")
	assert.Equal(t, http.StatusSeeOther, code)
	_, text = s.get(t, s.path("/movement"))
	assert.Contains(t, text, "Next by itself on")
	code, _, _ = s.post(t, s.path("/gather/again"), false, "again", "hourly")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
}

func TestWhereWeStand(t *testing.T) {
	s := withField(t)
	_, err := s.scope.EditPublication(t.Context(), func(address *string, _ *store.Settings) error { *address = "https://www.s1.example/shop"; return nil })
	require.NoError(t, err)
	s.gatheredAgain(t)
	_, text := s.get(t, "/movement")
	assert.Regexp(t, `(?s)winter riding</a>.*<td class="num">–</td><td class="num">3</td>`, text, "the site was not ours when it was gathered first")
	assert.Contains(t, text, `<svg class="position"`)
	_, text = s.get(t, s.path("/gather"))
	assert.Contains(t, text, "compared, not counted", "a page of ours that ranks")
	_, text = s.get(t, s.path("/movement?from=2&to=1"))
	assert.Contains(t, text, "Pages that read differently", "asked for the other way round")
}
