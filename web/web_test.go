package web_test

import (
	"cmp"
	"fmt"
	"io"
	"net/http"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"corpulan/core/reading"
	"corpulan/store"
	"corpulan/store/storetest"
	"corpulan/web/webtest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"
)

func TestMain(m *testing.M) { storetest.Main(m) }

func TestBadKeywordsKeepWhatWasTyped(t *testing.T) {
	s := webtest.NewSite(t)
	for name, c := range map[string]struct{ keyword, language, country, depth, says string }{
		"empty":     {"   ", "en", "gb", "20", "Type the keyword"},
		"too long":  {strings.Repeat("winter ", 40), "en", "gb", "20", "at most 200 characters; this has 279"},
		"language":  {"winter", "xx", "gb", "20", "language is not read yet"},
		"country":   {"winter", "en", "britain", "20", "two letters"},
		"depth":     {"winter", "en", "gb", "5000", "Between 1 and 100"},
		"no number": {"winter", "en", "gb", "many", "Between 1 and 100"},
	} {
		code, text, _ := s.Post(t, "/studies", false, "keyword", c.keyword, "language", c.language, "country", c.country, "depth", c.depth)
		assert.Equal(t, http.StatusUnprocessableEntity, code, name)
		assert.Contains(t, text, c.says, name)
		assert.Contains(t, text, `value="`+strings.Join(strings.Fields(c.keyword), " ")+`"`, name)
	}
	lines, _, err := s.Scope.Ledger(t.Context(), store.LedgerQuery{Most: 20})
	require.NoError(t, err)
	assert.Empty(t, lines)
}

func TestAStudyIsBegun(t *testing.T) {
	s := webtest.NewSite(t)
	_, text := s.Get(t, "/")
	assert.Contains(t, text, "No studies yet")
	code, _, h := s.Post(t, "/studies", false, "keyword", "  winter   <i>riding</i> ", "depth", "10")
	assert.Equal(t, http.StatusSeeOther, code)
	code, text = s.Get(t, h.Get("Location"))
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, text, "winter &lt;i&gt;riding&lt;/i&gt;")
	assert.Contains(t, text, "Asking the search engine")
	for _, place := range []string{"evidence", "brief"} {
		code, text = s.Get(t, strings.Replace(h.Get("Location"), "gather", place, 1))
		assert.Equal(t, http.StatusOK, code)
		assert.Contains(t, text, "Keep at least one page in", "the empty %s says the next step", place)
	}
}

func TestSettingAsideChangesEveryFigure(t *testing.T) {
	s := webtest.WithField(t)
	_, text := s.Get(t, s.Path("/evidence"))
	assert.Contains(t, text, "over <strong>3</strong> kept pages")
	results, err := s.Scope.Results(t.Context(), 1)
	require.NoError(t, err)
	code, text, _ := s.Post(t, s.Path("/results/%d/kept", results[2].ID), true, "kept", "false", "reason", "Too <odd>")
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, text, "Too &lt;odd&gt;")
	assert.Contains(t, text, "<strong>2</strong> kept")
	_, text = s.Get(t, s.Path("/evidence"))
	assert.Contains(t, text, "over <strong>2</strong> kept pages")
	_, text = s.Get(t, s.Path("/brief"))
	assert.Contains(t, text, "quartiles of 2 pages")
	code, _, _ = s.Post(t, s.Path("/results/%d/kept", results[2].ID), false, "kept", "true")
	assert.Equal(t, http.StatusSeeOther, code, "without JavaScript the browser is sent back")
	_, text = s.Get(t, s.Path("/evidence"))
	assert.Contains(t, text, "over <strong>3</strong> kept pages")
}

// What one does at a place is said to who is there for the first time, and not again.
func TestAPlaceIsExplainedOnce(t *testing.T) {
	s := webtest.WithField(t)
	for _, place := range []string{"/gather", "/evidence", "/brief"} {
		_, first := s.Get(t, s.Path("%s", place))
		assert.Contains(t, first, "first-line", place)
		_, again := s.Get(t, s.Path("%s", place))
		assert.NotContains(t, again, "first-line", place)
	}
	_, page := s.Get(t, "/")
	assert.NotContains(t, page, "first-line")
}

func TestAFailedPageHasAWayOn(t *testing.T) {
	s := webtest.WithField(t)
	_, text := s.Get(t, s.Path("/gather"))
	assert.Contains(t, text, "failed: The site refuses to give the page (403).")
	assert.Contains(t, text, "try again")
	results, err := s.Scope.Results(t.Context(), 1)
	require.NoError(t, err)
	code, text, _ := s.Post(t, s.Path("/results/%d/retry", results[3].ID), true)
	assert.Equal(t, http.StatusOK, code)
	assert.NotContains(t, text, "(403)")
	code, _, _ = s.Post(t, s.Path("/results/%d/retry", results[0].ID), true)
	assert.Equal(t, http.StatusNotFound, code, "a page that was read needs no second try")
}

func TestAdoptDropAndUndo(t *testing.T) {
	s := webtest.WithField(t)
	_, text := s.Get(t, s.Path("/evidence"))
	require.Contains(t, text, `data-row="term bar mitt"`)
	mark := []string{"kind", "term", "key", "bar mitt", "text", "bar mitts", "view", "evidence"}
	_, brief := s.Get(t, s.Path("/brief"))
	assert.Contains(t, brief, `<span class="what">bar mitts</span>`)
	code, text, _ := s.Post(t, s.Path("/choices"), true, append(mark, "state", "dropped")...)
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, text, "Dropped: bar mitts")
	assert.Contains(t, text, `hx-swap-oob="true"`)
	_, brief = s.Get(t, s.Path("/brief"))
	assert.NotContains(t, brief, `<span class="what">bar mitts</span>`)
	assert.Contains(t, brief, "take back", "what was dropped can be had again")
	code, _, _ = s.Post(t, s.Path("/choices"), true, append(mark, "state", "")...)
	assert.Equal(t, http.StatusOK, code)
	_, brief = s.Get(t, s.Path("/brief"))
	assert.Contains(t, brief, `<span class="what">bar mitts</span>`)
	for _, bad := range [][]string{{"kind", "colour", "key", "x", "state", "adopted"}, {"kind", "term", "key", "", "state", "adopted"}, {"kind", "term", "key", "x", "state", "maybe"}} {
		code, text, _ := s.Post(t, s.Path("/choices"), true, bad...)
		assert.Equal(t, http.StatusUnprocessableEntity, code)
		assert.Contains(t, text, "could not be recognised")
	}
}

func TestEveryFindingLeadsToItsSentences(t *testing.T) {
	s := webtest.WithField(t)
	links := regexp.MustCompile(`hx-get="([^"]*/sources[^"]*)"`)
	for _, tab := range []string{"terms", "entities", "questions", "themes"} {
		_, text := s.Get(t, s.Path("/evidence?tab=%s", tab))
		found := links.FindAllStringSubmatch(text, -1)
		if tab != "entities" {
			require.NotEmpty(t, found, tab)
		}
		for _, m := range found {
			code, pane := s.Get(t, html.UnescapeString(m[1]))
			assert.Equal(t, http.StatusOK, code, m[1])
			assert.NotContains(t, pane, "No kept page holds this", m[1])
		}
	}
	_, pane := s.Get(t, s.Path("/sources?kind=term&key=bar+mitt"))
	assert.Contains(t, pane, "<b>bar mitts</b>")
	code, _ := s.Get(t, s.Path("/sources?kind=term&key=nothing"))
	assert.Equal(t, http.StatusNotFound, code)
}

func TestTypingIntoTheBrief(t *testing.T) {
	s := webtest.WithField(t)
	save := func(field, was, value string) (int, string) {
		code, text, _ := s.Post(t, s.Path("/brief/fields"), true, "field", field, "was", was, "typed", fmt.Sprint(was != ""), "value", value)
		return code, text
	}
	code, text := save("goal", "", "Line one\r\n<b>two</b>")
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, text, `data-saved="1"`)
	_, page := s.Get(t, s.Path("/brief"))
	assert.Contains(t, page, "Line one\n&lt;b&gt;two&lt;/b&gt;</textarea>")
	// A second person, whose page still shows the empty field.
	code, text = save("goal", "", "Mine instead")
	assert.Equal(t, http.StatusConflict, code)
	assert.Contains(t, text, "Somebody else has changed this meanwhile")
	assert.Contains(t, text, "Line one")
	code, _ = save("goal", "Line one\n<b>two</b>", "Mine instead")
	assert.Equal(t, http.StatusOK, code, "saved again, knowing theirs")
	code, _ = save("note:tyre pressur", "", "Name the gauge")
	assert.Equal(t, http.StatusOK, code)
	_, page = s.Get(t, s.Path("/brief"))
	assert.Contains(t, page, "Name the gauge</textarea>")
	code, text = save("colour", "", "x")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, text, "What you typed is still here")
	code, text = save("goal", "Mine instead", strings.Repeat("é", 20_001))
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, text, "20000 characters fit here; this has 20001")
}

// While a gathering runs its stream sends the list once and then what changes of
// it; it ends with the gathering, since a browser has few connections.
func TestTheListStreams(t *testing.T) {
	s := webtest.WithField(t)
	_, _, _ = s.Post(t, s.Path("/pages"), true, "addresses", "http://new.example/a")
	req, err := http.NewRequestWithContext(t.Context(), http.MethodGet, s.URL+s.Path("/events?since=-1"), nil)
	require.NoError(t, err)
	resp, err := s.Client().Do(req)
	require.NoError(t, err)
	defer resp.Body.Close()
	assert.Equal(t, "text/event-stream", resp.Header.Get("Content-Type"))
	event := func() string {
		var b strings.Builder
		one := make([]byte, 1)
		for !strings.HasSuffix(b.String(), "\n\n") {
			if n, err := resp.Body.Read(one); n == 0 && err != nil {
				t.Fatalf("the stream ended: %v", err)
			}
			b.Write(one)
		}
		return b.String()
	}
	assert.Contains(t, event(), "event:list\n")
	results, err := s.Scope.Results(t.Context(), 1)
	require.NoError(t, err)
	_, err = s.Scope.SetKept(t.Context(), s.Study.ID, []int64{results[0].ID}, false, "Seen by everybody who looks")
	require.NoError(t, err)
	changed := event()
	assert.Contains(t, changed, "event:rows\n")
	assert.Contains(t, changed, "Seen by everybody who looks")
	assert.Equal(t, 1, strings.Count(changed, "<tr "), "just the row that changed")
	require.NoError(t, s.Store.FailPage(t.Context(), results[4], "missing", "It is gone."))
	assert.Contains(t, event(), "It is gone.")
	assert.Contains(t, event(), "event:end\n")
	_, err = resp.Body.Read(make([]byte, 1))
	assert.ErrorIs(t, err, io.EOF)
}

func TestGuards(t *testing.T) {
	s := webtest.WithField(t)
	resp, err := s.Client().Get(s.URL + "/")
	require.NoError(t, err)
	_, _ = webtest.Body(t, resp)
	csp := resp.Header.Get("Content-Security-Policy")
	assert.Contains(t, csp, "script-src 'self';")
	assert.NotContains(t, csp, "unsafe")
	// A form on another site cannot write.
	req, err := http.NewRequestWithContext(t.Context(), http.MethodPost, s.URL+"/studies", strings.NewReader("keyword=evil"))
	require.NoError(t, err)
	req.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	req.Header.Set("Origin", "http://evil.example")
	resp, err = s.Client().Do(req)
	require.NoError(t, err)
	code, _ := webtest.Body(t, resp)
	assert.Equal(t, http.StatusForbidden, code)
	for _, path := range []string{"/studies/99", "/studies/99/brief", "/studies/x/gather", "/nowhere", "/studies/-1/evidence"} {
		code, text := s.Get(t, path)
		assert.Equal(t, http.StatusNotFound, code, path)
		assert.Contains(t, text, "There is nothing at this address.", path)
	}
	code, _ = s.Get(t, "/static/../templates/layout.html")
	assert.NotEqual(t, http.StatusOK, code)
	code, text := s.Get(t, "/healthz")
	assert.Equal(t, []any{200, "ok\n"}, []any{code, text})
}

// No page of ours runs a captured script, loads from elsewhere, or needs what
// the Content-Security-Policy forbids.
func TestPagesHoldNothingInline(t *testing.T) {
	s := webtest.WithField(t)
	for _, path := range []string{"/", s.Path("/gather"), s.Path("/field"), s.Path("/pages/1"), s.Path("/evidence"), s.Path("/evidence?tab=questions"), s.Path("/evidence?tab=themes&all=1"), s.Path("/brief"), s.Path("/sources?kind=term&key=bar+mitt")} {
		_, text := s.Get(t, path)
		doc, err := html.Parse(strings.NewReader(text))
		require.NoError(t, err)
		ids := map[string]bool{}
		for n := range doc.Descendants() {
			if n.Type != html.ElementNode {
				continue
			}
			assert.False(t, n.Data == "script" && n.FirstChild != nil, "%s: inline script", path)
			assert.NotEqual(t, "style", n.Data, path)
			for _, a := range n.Attr {
				assert.False(t, strings.HasPrefix(a.Key, "on") || a.Key == "style", "%s: %s=%q", path, a.Key, a.Val)
				if a.Key == "id" && a.Val != "" {
					assert.False(t, ids[a.Val], "%s: id %q twice", path, a.Val)
					ids[a.Val] = true
				}
			}
		}
		assert.NotContains(t, text, "alert(", "what a captured page runs")
	}
}

func TestManyPagesAtOnceAndProposals(t *testing.T) {
	s := webtest.WithField(t)
	results, err := s.Scope.Results(t.Context(), 1)
	require.NoError(t, err)
	s.Propose(t, results[0].ID, "Nearly the same text as rank 9")
	_, text := s.Get(t, s.Path("/gather"))
	assert.Contains(t, text, "<i>proposed aside</i>: <span class=\"reason\" tabindex=\"-1\" title=\"Nearly the same text as rank 9\">Nearly the same text as rank 9")
	assert.Contains(t, text, "1 looks out of place: set it aside<")
	code, text, _ := s.Post(t, s.Path("/proposals"), true)
	assert.Equal(t, http.StatusOK, code)
	assert.NotContains(t, text, "proposed")
	s.Propose(t, results[1].ID, "Another reason")
	ids := fmt.Sprintf("%d,%d,%d", results[0].ID, results[1].ID, results[3].ID)
	code, text, _ = s.Post(t, s.Path("/kept"), true, "id", ids, "kept", "true")
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, text, "<strong>3</strong> kept", "the page that failed is not among them")
	s.Propose(t, results[1].ID, "A reason come too late")
	_, text = s.Get(t, s.Path("/gather"))
	assert.NotContains(t, text, "too late", "a person's choice stays")
	code, _, _ = s.Post(t, s.Path("/kept"), true, "id", "1,x", "kept", "false")
	assert.Equal(t, http.StatusNotFound, code)
}

// BenchmarkCuration100 is one kept/set-aside click in a study of 100 pages, from
// the request to the rendered list; the budget is 100 ms.
func BenchmarkCuration100(b *testing.B) {
	s := hundred(b)
	results, err := s.Scope.Results(b.Context(), 1)
	require.NoError(b, err)
	click := func(kept string) {
		req, err := http.NewRequestWithContext(b.Context(), http.MethodPost, s.URL+s.Path("/results/%d/kept", results[50].ID), strings.NewReader("kept="+kept))
		require.NoError(b, err)
		req.Header.Set("Content-Type", "application/x-www-form-urlencoded")
		req.Header.Set("HX-Request", "true")
		req.Header.Set("X-Place", cmp.Or(s.Place, "gather"))
		resp, err := s.Client().Do(req)
		require.NoError(b, err)
		_, err = io.Copy(io.Discard, resp.Body)
		require.NoError(b, err)
		resp.Body.Close()
		require.Equal(b, http.StatusOK, resp.StatusCode)
	}
	click("true") // pages are prepared once
	n := 0
	for b.Loop() {
		n++
		click(fmt.Sprint(n%2 == 0))
	}
}

// BenchmarkEvidenceAfterClick100 is the Evidence place of 100 pages after one of
// them was set aside or kept, each time another, so that nothing is at hand.
func BenchmarkEvidenceAfterClick100(b *testing.B) {
	s := hundred(b)
	results, err := s.Scope.Results(b.Context(), 1)
	require.NoError(b, err)
	look := func() {
		resp, err := s.Client().Get(s.URL + s.Path("/evidence"))
		require.NoError(b, err)
		_, err = io.Copy(io.Discard, resp.Body)
		require.NoError(b, err)
		resp.Body.Close()
	}
	look() // pages are prepared once
	n := 0
	for b.Loop() {
		// Another set of kept pages each time: bit by bit, as a binary counter.
		b.StopTimer()
		n++
		for i := range 20 {
			if n>>i&1 == 1 {
				_, err := s.Scope.SetKept(b.Context(), s.Study.ID, []int64{results[i].ID}, n>>(i+1)&1 == 1, "for the benchmark")
				require.NoError(b, err)
				break
			}
		}
		b.StartTimer()
		look()
	}
}

// hundred is a site with a study of 100 pages, no two alike.
func hundred(b testing.TB) *webtest.Site {
	s := webtest.NewSite(b)
	s.Study = store.Study{Keyword: "winter bike commuting", Language: "en", Country: "gb", Depth: 100}
	g, err := s.Scope.CreateStudy(b.Context(), &s.Study)
	require.NoError(b, err)
	articles, err := filepath.Glob("../standin/sites/*/*/*.html")
	require.NoError(b, err)
	var results []store.Result
	for i := range 100 {
		results = append(results, store.Result{PublicationID: g.PublicationID, StudyID: g.StudyID, GatheringID: g.ID, Rank: i + 1,
			URL: fmt.Sprintf("http://s%d.example/p", i), Host: fmt.Sprintf("s%d.example", i), Title: fmt.Sprintf("Page %d", i), State: store.Waiting, Kept: true})
	}
	_, err = s.Store.Found(b.Context(), *g, results, nil, nil, nil)
	require.NoError(b, err)
	results, err = s.Scope.Results(b.Context(), g.ID)
	require.NoError(b, err)
	for i, r := range results {
		article, err := os.ReadFile(articles[i%len(articles)])
		require.NoError(b, err)
		doc, err := reading.Read(reading.Page{URL: r.URL, Body: append(article, []byte(fmt.Sprintf("<p>%d</p>", i))...)})
		require.NoError(b, err)
		err = s.Store.KeepPage(b.Context(), r, &store.Capture{URL: r.URL, FinalURL: r.URL, Status: 200, Body: []byte("x"), Digest: []byte("d"),
			Headers: store.NewJSONType(map[string][]string{})}, doc, "")
		require.NoError(b, err)
	}
	return s
}
