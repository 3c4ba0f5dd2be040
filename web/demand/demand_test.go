package demand_test

import (
	"bytes"
	"fmt"
	"net/http"
	"net/url"
	"strings"
	"testing"
	"time"

	"corpulan/core/demand"
	"corpulan/standin"
	"corpulan/web/webtest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"
)

// A list is grouped, filtered, sorted and taken along; what a person does to its groups holds,
// and is undone.
func TestAList(t *testing.T) {
	s := webtest.WithList(t)
	page := ""
	for range 20 { // on a busy machine it is shown before it is grouped
		if _, page = s.Get(t, "/demand/1"); strings.Contains(page, "</strong> known") {
			break
		}
	}
	assert.Contains(t, page, "<strong>7</strong> keywords, the results of <strong>5</strong> known", "those of a study count too")
	assert.Contains(t, page, "Winter &lt;b&gt;")
	assert.Equal(t, "bar mitts", s.GroupOf(t, "pogies for bikes"), "shared results bring them together")
	assert.Equal(t, "winter riding", s.GroupOf(t, "riding in winter"), "and words")
	assert.Contains(t, s.GroupOf(t, "winter riding 2019"), "out: it asks for 2019")
	_, page = s.Get(t, "/demand/1?least=600")
	assert.Contains(t, page, `data-row="winter riding"`)
	assert.NotContains(t, page, `data-row="chain lube"`)
	_, page = s.Get(t, "/demand/1?filter=pogies")
	assert.Contains(t, page, `data-row="bar mitts"`, "a filter finds groups by any keyword")
	assert.NotContains(t, page, `data-row="chain lube"`)
	_, page = s.Get(t, "/demand/1?filter="+url.QueryEscape("difficulty<24 volume>100 bar"))
	assert.Contains(t, page, `data-row="bar mitts"`, "and by bounds on any figure")
	_, page = s.Get(t, "/demand/1?filter="+url.QueryEscape("cost<0.2"))
	assert.NotContains(t, page, `data-row="bar mitts"`)
	_, page = s.Get(t, "/demand/1?sort=difficulty")
	assert.Less(t, strings.Index(page, `data-row="bar mitts"`), strings.Index(page, `data-row="winter riding"`))
	for _, tab := range []string{"map", "ours", "out"} {
		code, page := s.Get(t, "/demand/1?tab="+tab)
		assert.Equal(t, http.StatusOK, code)
		assert.NotContains(t, page, "<no value>")
	}
	code, pane := s.Get(t, "/demand/1/group?key=bar+mitts")
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, pane, "how do bar mitts work")
	code, _ = s.Get(t, "/demand/1/group?key=nothing")
	assert.Equal(t, http.StatusNotFound, code)

	hand := func(want int, pairs ...string) string {
		t.Helper()
		code, text, _ := s.Post(t, "/demand/1/hand", true, pairs...)
		require.Equal(t, want, code, text)
		return text
	}
	text := hand(http.StatusOK, "act", "move", "pick", "pogies for bikes", "to", "Chain lube", "pane", "bar mitts")
	assert.Contains(t, text, "1 keyword moved to “chain lube”")
	assert.Contains(t, text, "how do bar mitts work", "the pane is brought up to date")
	assert.Equal(t, "chain lube", s.GroupOf(t, "pogies for bikes"))
	hand(http.StatusOK, "act", "join", "group", "chain lube", "group", "winter riding")
	assert.Equal(t, "chain lube", s.GroupOf(t, "riding in winter"))
	hand(http.StatusOK, "act", "rename", "pane", "chain lube", "name", "Odds <& ends>")
	assert.Equal(t, "Odds <& ends>", s.GroupOf(t, "riding in winter"))
	hand(http.StatusOK, "act", "split", "pick", "riding in winter", "pane", "chain lube")
	assert.Equal(t, "riding in winter", s.GroupOf(t, "riding in winter"))
	hand(http.StatusOK, "act", "out", "pick", "riding in winter", "reason", "not ours")
	assert.Equal(t, "out: not ours", s.GroupOf(t, "riding in winter"))
	hand(http.StatusOK, "act", "in", "pick", "riding in winter", "pick", "winter riding 2019")
	assert.NotContains(t, s.GroupOf(t, "winter riding 2019"), "out")
	code, text, _ = s.Post(t, "/demand/1/width", true, "width", "100")
	require.Equal(t, http.StatusOK, code, text)
	assert.Equal(t, "Odds <& ends>", s.GroupOf(t, "pogies for bikes"), "held at any width")
	for range 6 {
		code, text, _ = s.Post(t, "/demand/1/undo", true)
		require.Equal(t, http.StatusOK, code)
		assert.Contains(t, text, "Taken back")
	}
	_, text, _ = s.Post(t, "/demand/1/undo", true)
	assert.Contains(t, text, "nothing left to undo")
	assert.Equal(t, "bar mitts", s.GroupOf(t, "pogies for bikes"))
	_, text, _ = s.Post(t, "/demand/1/redo", true)
	assert.Contains(t, text, "moved to")
	assert.Equal(t, "chain lube", s.GroupOf(t, "pogies for bikes"))
	for _, wrong := range [][]string{{"act", "move", "to", "x"}, {"act", "move", "pick", "a", "to", "no such"}, {"act", "join", "group", "bar mitts"}, {"act", "split"}, {"act", "rename", "name", "x"}, {"act", "what"}, {}} {
		hand(http.StatusUnprocessableEntity, wrong...)
	}
	for _, wrong := range []string{"-1", "101", "NaN", "wide", ""} {
		code, _, _ := s.Post(t, "/demand/1/width", true, "width", wrong)
		assert.Equal(t, http.StatusUnprocessableEntity, code, wrong)
	}
	code, xlsx := s.Get(t, "/demand/1/as/xlsx")
	assert.Equal(t, http.StatusOK, code)
	_, err := excelize.OpenReader(bytes.NewReader([]byte(xlsx)))
	assert.NoError(t, err)

	// The list grows, and what was done by hand holds.
	code, _, _ = s.Post(t, "/demand/1/add", false, "pasted", "chain lube for winter\nbar mitts")
	assert.Equal(t, http.StatusSeeOther, code)
	assert.Equal(t, "chain lube", s.GroupOf(t, "pogies for bikes"))
	_, page = s.Get(t, "/demand/1")
	assert.Contains(t, page, "<strong>8</strong> keywords")
	s.Post(t, "/demand/1/rename", false, "name", "Other")
	s.Post(t, "/demand/1/delete", false)
	_, page = s.Get(t, "/demand")
	assert.Contains(t, page, "bring back Other")
	assert.Empty(t, s.Logged())
}

// The page of one group, in a tab of its own, shows after each action how the group stands by now, and
// says so when the action has taken it away.
func TestTheOwnPageOfAGroup(t *testing.T) {
	s := webtest.WithList(t)
	s.Place = "group"
	code, text, head := s.Post(t, "/demand/1/hand", true, "act", "rename", "name", "Warm hands", "pane", "bar mitts")
	require.Equal(t, http.StatusOK, code, text)
	assert.Equal(t, "#group-page", head.Get("HX-Retarget"))
	assert.Contains(t, text, "<h2>Warm hands</h2>")
	assert.NotContains(t, text, `id="groups"`)
	_, text, _ = s.Post(t, "/demand/1/hand", true, "act", "out", "pick", "bar mitts", "pick", "pogies for bikes", "pick", "how do bar mitts work", "pane", "bar mitts")
	assert.Contains(t, text, "This group is not there any more")
	assert.Contains(t, text, `hx-post="/demand/1/undo"`)
}

// Where it is not sure what a column holds, that is asked; the file need not be chosen again.
func TestColumnsAreAsked(t *testing.T) {
	s := webtest.NewSite(t)
	_, _, h := s.Post(t, "/demand", false, "language", "en", "country", "gb", "name", "x", "pasted", "winter tyres;1900;5\nbike chain;20;7\n")
	require.Equal(t, "/demand/1/columns", h.Get("Location"))
	_, page := s.Get(t, "/demand/1/columns")
	assert.Contains(t, page, "Not sure of: volume")
	assert.Contains(t, page, "winter tyres")
	code, page, _ := s.Post(t, "/demand/1/columns", false, "column0", "volume", "column1", "volume")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, page, "Two columns are called volume")
	code, page, _ = s.Post(t, "/demand/1/columns", false, "column1", "volume")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, page, "which column holds the keywords")
	code, _, _ = s.Post(t, "/demand/1/columns", false, "column0", "keyword", "column1", "difficulty", "column2", "volume")
	assert.Equal(t, http.StatusSeeOther, code)
	list, err := s.Scope.Keywords(t.Context(), 1)
	require.NoError(t, err)
	require.Len(t, list, 2)
	assert.Equal(t, demand.Of(7), list[0].Volume)
	_, page = s.Get(t, "/demand/1")
	assert.NotContains(t, page, "A table waits")
	assert.Contains(t, page, "2 keywords are new.")
}

// What a person says of columns that nobody understands is read into the list, and holds for the next table of that source.
func TestColumnsAreRemembered(t *testing.T) {
	s := webtest.NewSite(t)
	table := "Keyword;Volume;Hardness Z;Notes\nwinter tyres;1900;45;ours\nbike chain;20;7;theirs\n"
	_, _, h := s.Post(t, "/demand", false, "language", "en", "country", "gb", "name", "x", "pasted", table)
	require.Equal(t, "/demand/1", h.Get("Location"))
	_, page := s.Get(t, "/demand/1")
	assert.Contains(t, page, "Not read: Hardness Z, Notes.")
	_, page = s.Get(t, "/demand/1/columns")
	assert.Contains(t, page, "remembered for")
	code, _, _ := s.Post(t, "/demand/1/columns", false, "column0", "keyword", "column1", "volume", "column2", "difficulty", "header", "1")
	require.Equal(t, http.StatusSeeOther, code)
	list, err := s.Scope.Keywords(t.Context(), 1)
	require.NoError(t, err)
	require.Len(t, list, 2)
	assert.Equal(t, demand.Of(45), list[0].Difficulty)
	_, page = s.Get(t, "/demand/1")
	assert.Contains(t, page, "2 were known. Not read: Notes.")

	_, _, h = s.Post(t, "/demand", false, "language", "en", "country", "gb", "name", "y", "pasted", strings.ReplaceAll(table, "bike chain;20;7", "bar mitts;90;12"))
	require.Equal(t, "/demand/2", h.Get("Location"))
	list, err = s.Scope.Keywords(t.Context(), 2)
	require.NoError(t, err)
	assert.Equal(t, demand.Of(45), list[0].Difficulty)
	_, page = s.Get(t, "/demand/2/columns")
	assert.Contains(t, page, `<option value="difficulty" selected`)
	assert.Empty(t, s.Logged())
}

// Bad lists are refused with a word that helps, and what was typed is kept.
func TestBadLists(t *testing.T) {
	s := webtest.NewSite(t)
	wide := strings.Repeat("c,", 300) + "winter tyres\n" + strings.Repeat("1,", 300) + "bike chain\n"
	for says, pairs := range map[string][]string{
		"Choose a file, paste keywords": {"pasted", "  "},
		"two letters":                   {"pasted", "a\nb", "country", "britain"},
		"At most 50 seeds":              {"seeds", strings.Repeat("x\n", 51)},
		"at most 120 characters":        {"pasted", "a", "name", strings.Repeat("x", 121)},
	} {
		code, page, _ := s.Post(t, "/demand", false, append([]string{"language", "en"}, pairs...)...)
		assert.Equal(t, http.StatusUnprocessableEntity, code, says)
		assert.Contains(t, page, says)
	}
	_, page, _ := s.Post(t, "/demand", false, "pasted", "typed with care", "country", "x", "seeds", "and this")
	assert.Contains(t, page, "typed with care</textarea>")
	assert.Contains(t, page, "and this</textarea>")
	n := 0
	for name, content := range map[string]string{
		"utf16.csv":   "\xff\xfek\x00e\x00y\x00w\x00o\x00r\x00d\x00\n\x00b\x00a\x00r\x00 \x00m\x00i\x00t\x00t\x00s\x00\n\x00",
		"latin1.csv":  "Suchbegriff;Suchvolumen\nGl\xfchweinkessel;1.900\n",
		"wide.csv":    wide,
		"formula.csv": "keyword,volume\n=HYPERLINK(\"http://x\"),5\n@sum,5\n" + strings.Repeat("long", 500) + ",3\nबर्फ़ में साइकिल,7\n,9\n",
	} {
		code, text := s.Upload(t, "/demand", map[string]string{"language": "en", "country": "gb"}, map[string]string{name: content})
		require.Equal(t, http.StatusSeeOther, code, "%s: %s", name, text)
		n++
		id := int64(n)
		list, err := s.Scope.Keywords(t.Context(), id)
		require.NoError(t, err)
		l, err := s.Scope.List(t.Context(), id)
		require.NoError(t, err)
		if len(list) == 0 {
			_, err := s.Scope.File(t.Context(), id)
			assert.NoError(t, err, "%s: neither read nor asked about", name)
			continue
		}
		code, page := s.Get(t, fmt.Sprintf("/demand/%d", id))
		assert.Equal(t, http.StatusOK, code, l.Name())
		assert.NotContains(t, page, "<no value>")
		for _, k := range list {
			assert.NotContains(t, k.Text, "\x00")
			assert.NotRegexp(t, "^[=@+]", k.Text)
		}
	}
	for name, content := range map[string]string{"broken.xlsx": "PK\x03\x04zzz", "empty.csv": "", "nul.csv": "keyword,volume\nbar\x00 mitts,5\n"} {
		code, text := s.Upload(t, "/demand", map[string]string{"language": "en", "country": "gb"}, map[string]string{name: content})
		assert.Equal(t, http.StatusUnprocessableEntity, code, "%s: %s", name, text)
	}
	code, _ := s.Get(t, "/demand/9999")
	assert.Equal(t, http.StatusNotFound, code)
	code, _ = s.Get(t, "/demand/x")
	assert.Equal(t, http.StatusNotFound, code)
	assert.Empty(t, s.Logged())
}

// The curve of clicks is the publication's, and changes what can be gained.
func TestTheCurveIsChanged(t *testing.T) {
	s := webtest.WithList(t)
	s.Post(t, "/demand/1/add", false, "pasted", "Query,Page,Clicks,Impressions,Position\nbar mitts,https://shop.example/mitts,5,100,6\n")
	_, page := s.Get(t, "/demand/1?tab=ours")
	assert.Contains(t, page, "/mitts")
	gain := func() string {
		_, page := s.Get(t, "/demand/1?tab=ours&filter=bar+mitts")
		return webtest.Between(page, `data-row="bar mitts"`, "</tr>")[0]
	}
	before := gain()
	code, _, _ := s.Post(t, "/demand/curve", true, "curve", "50 40 30 20 10 1")
	assert.Equal(t, http.StatusSeeOther, code)
	assert.NotEqual(t, before, gain())
	for _, wrong := range []string{"10 20 30", "a b c", "50", "150 20 10"} {
		code, _, _ := s.Post(t, "/demand/curve", true, "curve", wrong)
		assert.Equal(t, http.StatusUnprocessableEntity, code, wrong)
	}
	s.Post(t, "/demand/curve", true, "curve", "")
	assert.Equal(t, before, gain())
}

// Five thousand keywords are read while one waits, and their page stays small.
func TestAPageOfManyKeywords(t *testing.T) {
	s := webtest.NewSite(t)
	var b strings.Builder
	b.WriteString("Keyword,Volume,Difficulty\n")
	for i := range 5000 {
		fmt.Fprintf(&b, "subject%d matter%d word%d,%d,%d\n", i/40, i/8, i, i+1, i%100)
	}
	code, _ := s.Upload(t, "/demand", map[string]string{"language": "en", "country": "gb"}, map[string]string{"many.csv": b.String()})
	require.Equal(t, http.StatusSeeOther, code)
	code, page := s.Get(t, "/demand/1")
	for strings.Contains(page, "Comparing the keywords") {
		code, page = s.Get(t, "/demand/1")
	}
	require.Equal(t, http.StatusOK, code)
	assert.Contains(t, page, "<strong>5,000</strong> keywords")
	assert.Less(t, len(page), 300<<10)
	assert.Contains(t, page, "the 500 most searched", "groups by words are a guess, and say so")
	_, page = s.Get(t, "/demand/1?tab=map")
	assert.Less(t, len(page), 300<<10)
}

// The lists that ship with the demo are offered, and read.
func TestSamples(t *testing.T) {
	keywords, own := standin.Lists()
	s := webtest.NewSite(t)
	code, _ := s.Upload(t, "/demand", map[string]string{"language": "en", "country": "gb"}, map[string]string{"k.csv": string(keywords)})
	require.Equal(t, http.StatusSeeOther, code)
	code, _ = s.Upload(t, "/demand/1/add", nil, map[string]string{"own.csv": string(own)})
	require.Equal(t, http.StatusSeeOther, code)
	var page string
	require.Eventually(t, func() bool { // grouping goes on in the background where it takes long
		_, page = s.Get(t, "/demand/1?tab=ours")
		return !strings.Contains(page, "Comparing the keywords")
	}, 60*time.Second, 50*time.Millisecond)
	assert.Contains(t, page, "/advice/gloves-and-bar-mitts")
	assert.Contains(t, page, "rival")
	_, page = s.Get(t, "/demand/1")
	assert.Contains(t, page, "in December", "the month with the most searches has its name")
}
