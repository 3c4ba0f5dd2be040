package gather_test

import (
	"bytes"
	"fmt"
	"mime/multipart"
	"net/http"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"corpulan/store"
	"corpulan/web/webtest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"
)

var handedIn = `<html lang="en"><head><title>Handed in</title></head><body><article><h1>Handed in</h1><p>` + strings.Repeat("This page on winter riding was saved by hand, since the site would not give it to a program. ", 15) + `</p></article>`

func TestAPageIsHandedInAtItsRow(t *testing.T) {
	s := webtest.WithField(t)
	results, err := s.Scope.Results(t.Context(), 1)
	require.NoError(t, err)
	row := s.Path("/results/%d/hand-in", results[3].ID)
	for name, c := range map[string]struct {
		fields, files map[string]string
		says          string
	}{
		"nothing":      {map[string]string{"source": "  "}, nil, "Paste the page's source"},
		"a pdf":        {nil, map[string]string{"page.pdf": "%PDF-1.7"}, "page.pdf: This is not an HTML page: it looks like a PDF document."},
		"broken warc":  {nil, map[string]string{"x.warc": "WARC/1.0\r\n\r\n"}, "x.warc: record 1: it has no length"},
		"an empty one": {nil, map[string]string{"x.html": ""}, "x.html: The page is empty."},
	} {
		code, text := s.Upload(t, row, c.fields, c.files)
		assert.Equal(t, http.StatusUnprocessableEntity, code, name)
		assert.Contains(t, html.UnescapeString(text), c.says, name)
	}
	code, text := s.Upload(t, row, map[string]string{"source": handedIn}, nil)
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, text, "1 page taken in.")
	assert.NotContains(t, text, "(403)")
	_, text = s.Get(t, s.Path("/evidence"))
	assert.Contains(t, text, "over <strong>4</strong> kept pages")
	code, _ = s.Upload(t, s.Path("/results/999/hand-in"), map[string]string{"source": handedIn}, nil)
	assert.Equal(t, http.StatusNotFound, code)
}

func TestManyFilesFindTheirRows(t *testing.T) {
	s := webtest.WithField(t)
	code, text := s.Upload(t, s.Path("/hand-in"), nil, map[string]string{
		"four.html":  strings.Replace(handedIn, "<head>", `<head><link rel="canonical" href="https://www.s4.example/p/">`, 1),
		"two.mhtml":  "MIME-Version: 1.0\r\nContent-Type: multipart/related; boundary=b\r\n\r\n--b\r\nContent-Type: text/html\r\nContent-Location: http://s2.example/p?utm_source=x\r\n\r\n" + handedIn + "\r\n--b--\r\n",
		"other.html": handedIn,
	})
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, text, "2 pages taken in.")
	assert.Contains(t, text, `name="to:other.html"`, "a row is asked for")
	results, err := s.Scope.Results(t.Context(), 1)
	require.NoError(t, err)
	for _, i := range []int{1, 3} {
		readings, err := s.Scope.Readings(t.Context(), []int64{*results[i].ReadingID})
		require.NoError(t, err)
		assert.Equal(t, "Handed in", readings[*results[i].ReadingID].Title)
		assert.Equal(t, results[i].URL, readings[*results[i].ReadingID].URL)
	}
}

func TestAPageFromTheBookmarklet(t *testing.T) {
	s := webtest.WithField(t)
	_, text := s.Get(t, s.Path("/gather"))
	link := regexp.MustCompile(`href="(javascript:[^"]*)"`).FindStringSubmatch(text)
	require.NotNil(t, link)
	code0, err := url.PathUnescape(html.UnescapeString(link[1])) // as a browser does before it runs it
	require.NoError(t, err)
	assert.Contains(t, code0, "open(o+'/studies/1/receive')")
	code, text := s.Get(t, s.Path("/receive"))
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, text, "data-receive")
	code, text = s.Upload(t, s.Path("/hand-in"), map[string]string{"source": handedIn, "url": "https://elsewhere.example/a?b=1", "add": "true"}, nil)
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, text, "1 page taken in.")
	results, err := s.Scope.Results(t.Context(), 1)
	require.NoError(t, err)
	require.Len(t, results, 5)
	assert.Equal(t, []any{"https://elsewhere.example/a?b=1", store.Read, false}, []any{results[4].URL, results[4].State, results[4].Kept}, "it counts once somebody says so")
	code, text, _ = s.Post(t, s.Path("/pages"), false, "addresses", "nonsense")
	assert.Equal(t, http.StatusUnprocessableEntity, code, "a plain form is told too")
	assert.Contains(t, text, "Nothing was added")
	code, text = s.Upload(t, s.Path("/hand-in"), map[string]string{"source": handedIn, "url": "javascript:alert(1)", "add": "true"}, nil)
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, text, "For these files no page of the list could be found")
}

func TestAddingPages(t *testing.T) {
	s := webtest.WithField(t)
	for pasted, says := range map[string]string{"": "Paste at least one address.", "http://new.example/ nonsense": "Nothing was added: “nonsense” is no address"} {
		code, text, _ := s.Post(t, s.Path("/pages"), true, "addresses", pasted)
		assert.Equal(t, http.StatusUnprocessableEntity, code)
		assert.Contains(t, text, says)
	}
	code, text, _ := s.Post(t, s.Path("/pages"), true, "addresses", "http://new.example/a\nhttp://s1.example/p", "as", "ours")
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, text, "1 of 2 addresses added. The others are in the list already.")
	results, err := s.Scope.Results(t.Context(), 1)
	require.NoError(t, err)
	require.Len(t, results, 5)
	assert.Equal(t, []any{5, "http://new.example/a", true, store.Waiting}, []any{results[4].Rank, results[4].URL, results[4].Own, results[4].State})
	// A page of ours is shown and compared, and counts for nothing.
	code, text = s.Upload(t, s.Path("/results/%d/hand-in", results[4].ID), map[string]string{"source": handedIn}, nil)
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, text, "compared, not counted")
	_, text = s.Get(t, s.Path("/evidence"))
	assert.Contains(t, text, "over <strong>3</strong> kept pages")
	_, text = s.Get(t, s.Path("/pages"))
	assert.Regexp(t, `(?s)class="is-ours".*new\.example.*2\d\d`, text, "its words stand beside the field's")
	var many strings.Builder
	for i := range store.MaxResults {
		fmt.Fprintf(&many, "http://many.example/%d\n", i)
	}
	code, text, _ = s.Post(t, s.Path("/pages"), true, "addresses", many.String())
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, text, "at most 150 pages")
}

func TestStoppingAndGoingOn(t *testing.T) {
	s := webtest.NewSite(t)
	_, _, h := s.Post(t, "/studies", false, "keyword", "winter")
	at := h.Get("Location")
	code, text, _ := s.Post(t, at+"/deeper", true)
	assert.Equal(t, http.StatusConflict, code, text)
	assert.Contains(t, text, "once the gathering has ended")
	_, text, _ = s.Post(t, at+"/stop", true)
	assert.Contains(t, text, "<strong>Stopped</strong>")
	assert.Contains(t, text, "Go on")
	_, text, _ = s.Post(t, at+"/resume", true)
	assert.Contains(t, text, "Asking the search engine")
	code, _, _ = s.Post(t, at+"/resume", true)
	assert.Equal(t, http.StatusOK, code, "twice does no harm")
}

func TestBringingResults(t *testing.T) {
	s := webtest.NewSite(t)
	results := func() []string {
		lines, _, err := s.Scope.Ledger(t.Context(), store.LedgerQuery{Most: 20})
		require.NoError(t, err)
		g, err := s.Scope.LatestGathering(t.Context(), lines[0].ID)
		require.NoError(t, err)
		list, err := s.Scope.Results(t.Context(), g.ID)
		require.NoError(t, err)
		var out []string
		for _, r := range list {
			out = append(out, fmt.Sprintf("%d %s %s", r.Rank, r.URL, r.Title))
		}
		return out
	}
	begin := func(fields map[string]string, file, content string) (int, string) {
		fields["keyword"], fields["anyway"] = "winter tyres", "true"
		var form bytes.Buffer
		w := multipart.NewWriter(&form)
		for k, v := range fields {
			require.NoError(t, w.WriteField(k, v))
		}
		if file != "" {
			part, err := w.CreateFormFile("results", file)
			require.NoError(t, err)
			_, err = part.Write([]byte(content))
			require.NoError(t, err)
		}
		require.NoError(t, w.Close())
		resp, err := s.Client().Post(s.URL+"/studies", w.FormDataContentType(), &form)
		require.NoError(t, err)
		return webtest.Body(t, resp)
	}
	code, _ := begin(map[string]string{"addresses": "http://a.example/\nb.example/x"}, "", "")
	assert.Equal(t, http.StatusSeeOther, code)
	assert.Equal(t, []string{"1 http://a.example/ ", "2 https://b.example/x "}, results())
	code, _ = begin(map[string]string{}, "ranks.csv", "Position,URL,Title\n2,http://b.example/,B\n1,http://a.example/,A\n")
	assert.Equal(t, http.StatusSeeOther, code)
	assert.Equal(t, []string{"1 http://a.example/ A", "2 http://b.example/ B"}, results())
	lines, _, err := s.Scope.Ledger(t.Context(), store.LedgerQuery{Most: 20})
	require.NoError(t, err)
	code, _, _ = s.Post(t, fmt.Sprintf("/studies/%d/gather", lines[0].ID), false)
	assert.Equal(t, http.StatusSeeOther, code)
	assert.Equal(t, []string{"1 http://a.example/ A", "2 http://b.example/ B"}, results(), "gathered again, they are the person's still")
	var page strings.Builder
	for i := range 4 {
		fmt.Fprintf(&page, `<li class="hit"><h3><a href="https://s%d.example/p">Page number %d</a></h3></li>`, i, i)
	}
	code, _ = begin(map[string]string{}, "results.html", `<html><base href="https://engine.example/"><ol>`+page.String()+`</ol><div>How long do tyres last?</div></html>`)
	assert.Equal(t, http.StatusSeeOther, code)
	assert.Len(t, results(), 4)
	for name, c := range map[string]struct{ addresses, file, content, says string }{
		"bad address":  {"http://a.example/ nonsense", "", "", "“nonsense” is no address"},
		"both":         {"http://a.example/", "x.csv", "URL\nhttp://a.example/\n", "not both"},
		"which column": {"", "x.csv", "mine,volume\nwinter.bike,10\nbike.shop,20\n", "Choose the column"},
		"keywords":     {"", "x.csv", "keyword,volume,cpc\nwinter,10,0.55\n", "no column of this file holds addresses"},
		"no results":   {"", "x.html", "<p>Nothing</p>", "no list of results was found"},
		"no file":      {"", "x.xlsx", "rubbish", "this spreadsheet cannot be read"},
	} {
		code, text := begin(map[string]string{"addresses": c.addresses}, c.file, c.content)
		assert.Equal(t, http.StatusUnprocessableEntity, code, name)
		assert.Contains(t, html.UnescapeString(text), c.says, name)
		assert.Contains(t, text, `value="winter tyres"`, "%s: what was typed is kept", name)
		if name == "which column" {
			assert.Contains(t, text, "<option>volume</option>")
		}
	}
}

// A WARC of many pages handed in at one row gives that row its own page, or none.
func TestAWARCOfManyPagesAtOneRow(t *testing.T) {
	s := webtest.WithField(t)
	results, err := s.Scope.Results(t.Context(), 1)
	require.NoError(t, err)
	warc := func(urls ...string) string {
		var b strings.Builder
		for _, u := range urls {
			page := strings.ReplaceAll(handedIn, "Handed in", "Page of "+u)
			fmt.Fprintf(&b, "WARC/1.1\r\nWARC-Type: resource\r\nWARC-Target-URI: %s\r\nContent-Type: text/html\r\nContent-Length: %d\r\n\r\n%s\r\n\r\n", u, len(page), page)
		}
		return b.String()
	}
	row := s.Path("/results/%d/hand-in", results[3].ID)
	code, text := s.Upload(t, row, nil, map[string]string{"many.warc": warc("http://s1.example/p", results[3].URL, "http://elsewhere.example/")})
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, text, "1 page taken in.")
	now, err := s.Scope.Results(t.Context(), 1)
	require.NoError(t, err)
	docs, err := s.Scope.Readings(t.Context(), []int64{*now[3].ReadingID})
	require.NoError(t, err)
	assert.Equal(t, "Page of "+results[3].URL, docs[*now[3].ReadingID].Title)
	assert.Equal(t, now[0].CaptureID, results[0].CaptureID, "other rows are left alone")
	code, text = s.Upload(t, row, nil, map[string]string{"others.warc": warc("http://s1.example/p", "http://elsewhere.example/")})
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, text, "none of them is the page of this row")
}
