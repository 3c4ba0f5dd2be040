package movement_test

import (
	"net/http"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"corpulan/store"
	"corpulan/web/webtest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestMovement(t *testing.T) {
	s := webtest.WithField(t)
	_, text := s.Get(t, s.Path("/movement"))
	assert.Contains(t, text, "This study was gathered once.")
	_, text = s.Get(t, s.Path("/movement/line"))
	assert.Empty(t, strings.TrimSpace(text))
	code, _, _ := s.Post(t, s.Path("/brief/fields"), true, "field", "notes", "was", "", "typed", "false", "value", "Mind the frost")
	require.Equal(t, http.StatusOK, code)
	s.GatheredAgain(t)

	_, text = s.Get(t, s.Path("/movement/line"))
	assert.Contains(t, text, "3 pages have another text")
	assert.Contains(t, text, "“The gritting map” is new, on 3 of 3 pages")
	code, text = s.Get(t, s.Path("/movement"))
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, text, "Where is it &lt;gritted&gt;?")
	assert.Regexp(t, `(?s)take in.{1,60}theme.{1,80}The gritting map`, text)
	for _, where := range []string{"/", "/?moved=stale"} {
		_, desk := s.Get(t, where)
		assert.Contains(t, desk, ">stale</a>", where)
	}
	_, desk := s.Get(t, "/?moved=lost")
	assert.Contains(t, desk, "No study here is as asked.")
	_, brief := s.Get(t, s.Path("/brief"))
	assert.NotContains(t, brief, `class="out-heading">The gritting map`, "the brief stands")
	assert.Contains(t, brief, "Take over or leave", "and says so")

	page := regexp.MustCompile(`/studies/\d+/movement/page\?[^"]+`).FindString(text)
	_, text = s.Get(t, strings.ReplaceAll(page, "&amp;", "&"))
	assert.Contains(t, text, `<del>10</del><ins>15</ins>`)
	assert.Contains(t, text, `<ins>The gritting map</ins>`)
	assert.NotContains(t, text, "<script>alert", "captured text is text")
	code, _ = s.Get(t, s.Path("/movement/page?url=%s&rank=1", url.QueryEscape("http://elsewhere.example/")))
	assert.Equal(t, http.StatusNotFound, code)

	code, text, _ = s.Post(t, s.Path("/brief/settle"), true)
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, text, "Nothing is picked.")
	code, _, _ = s.Post(t, s.Path("/brief/settle"), true, "id", "take in theme nothing", "take", "true")
	assert.Equal(t, http.StatusConflict, code)
	code, text, _ = s.Post(t, s.Path("/brief/settle"), true, "all", "true", "take", "true")
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, text, "Taken over:")
	assert.NotContains(t, text, "Proposed to the brief")
	_, brief = s.Get(t, s.Path("/brief"))
	assert.Contains(t, brief, "The gritting map")
	code, _, _ = s.Post(t, s.Path("/undo"), true)
	assert.Equal(t, http.StatusOK, code)
	_, text = s.Get(t, s.Path("/movement"))
	assert.Contains(t, text, "Proposed to the brief", "undone, it is proposed again")
	_, _, _ = s.Post(t, s.Path("/brief/follow"), true)
	_, text = s.Get(t, s.Path("/movement"))
	assert.NotContains(t, text, "Proposed to the brief")

	code, _, _ = s.Post(t, s.Path("/gather/again"), false, "again", "monthly")
	assert.Equal(t, http.StatusSeeOther, code)
	_, text = s.Get(t, s.Path("/movement"))
	assert.Contains(t, text, "Next by itself on")
	code, _, _ = s.Post(t, s.Path("/gather/again"), false, "again", "hourly")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
}

func TestWhereWeStand(t *testing.T) {
	s := webtest.WithField(t)
	_, err := s.Scope.EditPublication(t.Context(), func(address *string, _ *store.Settings) error { *address = "https://www.s1.example/shop"; return nil })
	require.NoError(t, err)
	s.GatheredAgain(t)
	_, text := s.Get(t, "/movement")
	assert.Regexp(t, `(?s)winter riding</a>.*<td class="num">–</td>\s*<td class="num">3</td>`, text, "the site was not ours when it was gathered first")
	assert.Contains(t, text, `<svg class="position"`)
	_, text = s.Get(t, s.Path("/gather"))
	assert.Contains(t, text, "compared, not counted", "a page of ours that ranks")
	_, text = s.Get(t, s.Path("/movement?from=2&to=1"))
	assert.Contains(t, text, "Pages that read differently", "asked for the other way round")
}

// Ten more results are read into the gathering there is; a site that is no competitor is set
// aside at once and in later gatherings, until the list says otherwise.
func TestDeeperAndNotOurCompetitor(t *testing.T) {
	s := webtest.WithField(t)
	_, text := s.Get(t, s.Path("/gather"))
	assert.NotContains(t, text, "Read ten more results", "the engine has no more")
	st, err := s.Scope.Study(t.Context(), s.Study.ID)
	require.NoError(t, err)
	g, err := s.Scope.LatestGathering(t.Context(), s.Study.ID)
	require.NoError(t, err)
	code, _, _ := s.Post(t, s.Path("/gather/deeper"), true)
	require.Equal(t, http.StatusOK, code)
	again, err := s.Scope.LatestGathering(t.Context(), s.Study.ID)
	require.NoError(t, err)
	assert.Equal(t, g.ID, again.ID, "it is the same gathering")
	assert.Equal(t, store.Searching, again.State)
	deeper, err := s.Scope.Study(t.Context(), s.Study.ID)
	require.NoError(t, err)
	assert.Equal(t, st.Depth+10, deeper.Depth)
	was, err := s.Scope.Results(t.Context(), g.ID)
	require.NoError(t, err)
	var found []store.Result
	for i := range 6 {
		r := store.Result{PublicationID: g.PublicationID, StudyID: g.StudyID, GatheringID: g.ID, Rank: i + 1, URL: "http://s9.example/" + string(rune('a'+i)), Host: "s9.example", Title: "More", State: store.Waiting, Kept: true}
		if i < 4 {
			r.URL, r.Host = was[i].URL, was[i].Host
		}
		found = append(found, r)
	}
	_, err = s.Store.Found(t.Context(), again, found, nil, nil, nil)
	require.NoError(t, err)
	now, err := s.Scope.Results(t.Context(), g.ID)
	require.NoError(t, err)
	require.Len(t, now, 6)
	assert.Equal(t, was[0].ReadingID, now[0].ReadingID, "what was read stays")
	assert.Equal(t, store.Waiting, now[5].State)
	for _, r := range now[4:] {
		require.NoError(t, s.Store.FailPage(t.Context(), r, "refused", "No."))
	}
	// Taken back, what came by it goes; made again, the engine is asked again; taken back while it
	// is asked, what it gives is not kept.
	stands := func(depth, pages int, state store.State) {
		t.Helper()
		st, err := s.Scope.Study(t.Context(), s.Study.ID)
		require.NoError(t, err)
		g, err := s.Scope.LatestGathering(t.Context(), s.Study.ID)
		require.NoError(t, err)
		list, err := s.Scope.Results(t.Context(), g.ID)
		require.NoError(t, err)
		assert.Equal(t, depth, st.Depth)
		assert.Len(t, list, pages)
		assert.Equal(t, state, g.State)
	}
	searches := func() (n int) {
		require.NoError(t, s.Store.SQL().QueryRowContext(t.Context(), "select count(*) from river_job where kind = 'search'").Scan(&n))
		return n
	}
	asked := searches()
	stands(st.Depth+10, 6, store.Done)
	s.Post(t, s.Path("/undo"), true)
	stands(st.Depth, 4, store.Done)
	s.Post(t, s.Path("/redo"), true)
	stands(st.Depth+10, 4, store.Searching)
	assert.Equal(t, asked+1, searches())
	s.Post(t, s.Path("/undo"), true)
	stands(st.Depth, 4, store.Done)
	_, err = s.Store.Found(t.Context(), again, found, nil, nil, nil)
	require.NoError(t, err)
	stands(st.Depth, 4, store.Done)
	s.Post(t, s.Path("/redo"), true)
	_, err = s.Store.Found(t.Context(), again, found, nil, nil, nil)
	require.NoError(t, err)
	stands(st.Depth+10, 6, store.Fetching)
	now, err = s.Scope.Results(t.Context(), g.ID)
	require.NoError(t, err)
	for _, r := range now[4:] {
		require.NoError(t, s.Store.FailPage(t.Context(), r, "refused", "No."))
	}
	first := g.ID

	code, text, _ = s.Post(t, s.Path("/results/%d/not-competitor", now[0].ID), true)
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, text, "Not our competitor")
	s.GatheredAgain(t)
	g, err = s.Scope.LatestGathering(t.Context(), s.Study.ID)
	require.NoError(t, err)
	require.NotEqual(t, first, g.ID)
	now, err = s.Scope.Results(t.Context(), g.ID)
	require.NoError(t, err)
	for _, r := range now {
		assert.Equal(t, r.Host != "s1.example", r.Kept, r.Host)
	}
	_, text = s.Get(t, "/publication/set-up")
	assert.Contains(t, text, "s1.example</textarea>")
	code, text, _ = s.Post(t, "/publication/set-up/aside", false, "hosts", "www.shop.example\nnonsense")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, text, "“nonsense” is no site")
	assert.Contains(t, text, "www.shop.example", "what was typed is kept")
	code, _, _ = s.Post(t, "/publication/set-up/aside", false, "hosts", "")
	assert.Equal(t, http.StatusOK, code)
}

func TestExtraSources(t *testing.T) {
	s := webtest.WithField(t)
	_, text := s.Get(t, s.Path("/gather"))
	assert.Contains(t, text, "Read beside the field")
	code, text, _ := s.Post(t, s.Path("/extras"), true)
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, text, "Choose a file, or type a note.")
	code, text, _ = s.Post(t, s.Path("/extras"), true, "name", "What we heard <at> the shop", "note", "# Frozen freewheels\n\nA frozen freewheel has water in it. A frozen freewheel thaws indoors. Ask for a frozen freewheel.\n\nTomasz: Oil it. Tomasz: Dry it. Ask Tomasz.")
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, text, "An extra source: counted only if you keep it")
	results, err := s.Scope.Results(t.Context(), 1)
	require.NoError(t, err)
	note := results[len(results)-1]
	assert.True(t, note.IsBeside())
	_, text = s.Get(t, s.Path("/pages/%d", note.ID))
	assert.Contains(t, text, "Frozen freewheels", "its outline")
	assert.Contains(t, text, "brought by hand")
	_, text = s.Get(t, s.Path("/evidence?tab=openings"))
	assert.Contains(t, text, "In a source of yours only")
	assert.Contains(t, text, "frozen freewheel")
	assert.NotContains(t, text, `<span class="finding">tomasz</span>`, "who speaks is no matter")
	_, text = s.Get(t, s.Path("/evidence"))
	assert.NotContains(t, text, `data-row="term frozen freewheel"`, "it does not count")
	for _, format := range []string{"md", "html", "prompt"} {
		_, text = s.Get(t, s.Path("/brief/as/%s?dossier=yes", format))
		assert.Contains(t, text, "Frozen freewheels", format)
		assert.NotContains(t, text, "urn:corpulan", format)
	}
	code, _, _ = s.Post(t, s.Path("/results/%d/kept", note.ID), true, "kept", "true")
	assert.Equal(t, http.StatusOK, code)
	_, text = s.Get(t, s.Path("/brief/as/md?dossier=yes"))
	assert.NotContains(t, text, "read beside the field", "kept, it counts")
	code, _, _ = s.Post(t, s.Path("/results/%d/kept", note.ID), true, "kept", "false")
	assert.Equal(t, http.StatusOK, code)
	_, text = s.Get(t, s.Path("/brief/as/md?dossier=yes"))
	assert.Contains(t, text, "read beside the field", "set aside again, it is a source still")
	code, _, _ = s.Post(t, s.Path("/extras"), true, "name", "What we heard <at> the shop", "note", "Another note of the same name, all the same.")
	assert.Equal(t, http.StatusOK, code)
	s.GatheredAgain(t)
	g, err := s.Scope.LatestGathering(t.Context(), s.Study.ID)
	require.NoError(t, err)
	results, err = s.Scope.Results(t.Context(), g.ID)
	require.NoError(t, err)
	added := 0
	for _, r := range results {
		if r.Added && r.State == store.Read {
			added++
		}
	}
	assert.Equal(t, 2, added, "extra sources stay when a study is gathered again")
}

func TestTwoStudiesSideBySide(t *testing.T) {
	s := webtest.WithField(t)
	_, text := s.Get(t, s.Path("/beside"))
	assert.Contains(t, text, "no other study in this language")
	other := store.Study{Keyword: "summer riding", Language: "en", Country: "gb", Depth: 10}
	_, err := s.Scope.CreateStudy(t.Context(), &other)
	require.NoError(t, err)
	_, text = s.Get(t, s.Path("/beside"))
	assert.Contains(t, text, "summer riding</option>")
	assert.NotContains(t, text, ">Special to this field<", "nothing else is gathered")
	code, text := s.Get(t, s.Path("/beside?with=%d", other.ID))
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, text, "Two pages:")
	code, text = s.Get(t, s.Path("/beside?with=%d", s.Study.ID))
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, text, "One page:", "a study is one with itself")
	code, _ = s.Get(t, s.Path("/beside?with=999"))
	assert.Equal(t, http.StatusNotFound, code)
}

// Words of captured pages are found, and lead to the page as it was read.
func TestSearchInCapturedText(t *testing.T) {
	s := webtest.WithField(t)
	_, text := s.Get(t, "/search?q=studded+mitts")
	assert.Contains(t, text, "In the text of pages")
	results, err := s.Scope.Results(t.Context(), 1)
	require.NoError(t, err)
	assert.Contains(t, text, s.Path("/pages/%d", results[0].ID))
	assert.Contains(t, text, "<mark>studded</mark>")
	_, text = s.Get(t, "/search?q=only1here7")
	assert.Equal(t, 1, strings.Count(text, s.Path("/pages/")), "one page has it")
}

// How often a study is gathered again stands there as it is after it was set, and after that was
// taken back.
func TestTheScheduleIsShownAsItIs(t *testing.T) {
	s := webtest.WithField(t)
	s.Place = "movement"
	const weekly = `<option value="weekly" selected>`
	code, text, _ := s.Post(t, s.Path("/gather/again"), true, "again", "weekly")
	require.Equal(t, http.StatusOK, code, text)
	assert.Contains(t, text, weekly)
	assert.Contains(t, text, "Gathered again every week")
	_, text, _ = s.Post(t, s.Path("/undo"), true)
	assert.NotContains(t, text, weekly)
	_, text, _ = s.Post(t, s.Path("/redo"), true)
	assert.Contains(t, text, weekly)
	_, text = s.Get(t, s.Path("/movement"))
	assert.Contains(t, text, weekly)
	code, _, _ = s.Post(t, s.Path("/gather/again"), true, "again", "hourly")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
}
