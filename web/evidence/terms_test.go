package evidence_test

import (
	"net/http"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corpulan/web/webtest"
)

// What the publication has taught counts in all its studies, that of one study there
// alone; all of it can be undone, and leaves as it came.
func TestTheHouseLexicon(t *testing.T) {
	s := webtest.WithField(t)
	terms := func() string { _, page := s.Get(t, s.Path("/evidence?tab=terms")); return page }
	require.Contains(t, terms(), "bar mitts")
	code, _, _ := s.Post(t, s.Path("/lexicon"), false, "kind", "ignore", "term", " bar  mitts ")
	require.Equal(t, http.StatusSeeOther, code)
	assert.NotContains(t, terms(), ">bar mitts</a>")
	_, page := s.Get(t, s.Path("/evidence?tab=terms&all=1"))
	assert.Contains(t, page, "ignored by the house lexicon")
	s.Post(t, s.Path("/lexicon"), false, "kind", "prefer", "term", "studded tyre", "other", "spiked tyre", "here", "1")
	assert.Contains(t, terms(), ">spiked tyre</a>")
	_, page = s.Get(t, s.Path("/lexicon"))
	assert.Contains(t, page, "bar mitts")
	assert.Contains(t, page, "Of this study alone")

	_, list := s.Get(t, s.Path("/lexicon.csv"))
	assert.Equal(t, "kind,term,other\nignore,bar mitts,\n", list)
	_, own := s.Get(t, s.Path("/lexicon.csv?here=1"))
	assert.Equal(t, "kind,term,other\nprefer,studded tyre,spiked tyre\n", own, "so that each can be read back where it belongs")
	s.Post(t, s.Path("/lexicon/forget"), false, "kind", "ignore", "term", "bar mitts")
	assert.Contains(t, terms(), ">bar mitts</a>")
	s.Post(t, s.Path("/undo"), true)
	assert.NotContains(t, terms(), ">bar mitts</a>", "taking it out is undone")
	s.Post(t, s.Path("/undo"), true)
	assert.NotContains(t, terms(), ">spiked tyre</a>", "and what was taught before")
	code, _, _ = s.Post(t, s.Path("/lexicon/read"), false, "csv", "kind,term,other\nmerge,frost,ice\n")
	require.Equal(t, http.StatusSeeOther, code)
	_, list = s.Get(t, s.Path("/lexicon.csv"))
	assert.Contains(t, list, "merge,frost,ice")
}

func TestALexiconEntryThatIsNone(t *testing.T) {
	s := webtest.WithField(t)
	code, page, _ := s.Post(t, s.Path("/lexicon"), false, "kind", "prefer", "term", "tyre <b>")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, page, "missing")
	assert.Contains(t, page, "tyre &lt;b&gt;", "what was typed is kept")
	for csv, says := range map[string]string{"": "no entry", "love,tyre": "no kind", "ignore,\"x": "no CSV"} {
		code, page, _ := s.Post(t, s.Path("/lexicon/read"), true, "csv", csv)
		assert.Equal(t, http.StatusUnprocessableEntity, code, csv)
		assert.Contains(t, page, says, csv)
	}
	code, _, _ = s.Post(t, s.Path("/lexicon/forget"), true, "kind", "ignore", "term", "never taught")
	assert.Equal(t, http.StatusConflict, code)
}

// Many findings are decided about in one step, and a term of one's own is added.
func TestManyTermsAtOnceAndOnesOwn(t *testing.T) {
	s := webtest.WithField(t)
	s.Place = "evidence"
	_, page := s.Get(t, s.Path("/evidence?tab=terms"))
	keys := webtest.Between(page, `name="pick" value="`, `"`)
	require.GreaterOrEqual(t, len(keys), 3)
	args := []string{"kind", "term", "state", "dropped"}
	for _, k := range keys[:3] {
		args = append(args, "pick", k)
	}
	code, page, _ := s.Post(t, s.Path("/choices/many"), true, args...)
	require.Equal(t, http.StatusOK, code)
	assert.Contains(t, page, "Dropped: 3 findings")
	_, page = s.Get(t, s.Path("/evidence?tab=terms"))
	assert.Equal(t, 3, strings.Count(page, `class=" dropped"`))
	s.Post(t, s.Path("/undo"), true)
	_, page = s.Get(t, s.Path("/evidence?tab=terms"))
	assert.Zero(t, strings.Count(page, `class=" dropped"`), "one step to undo")
	code, page, _ = s.Post(t, s.Path("/choices/many"), true, "kind", "term", "state", "adopted")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, page, "Nothing is picked")

	code, _, _ = s.Post(t, s.Path("/own"), true, "kind", "term", "text", "  reflective  ankle bands ")
	require.Equal(t, http.StatusOK, code)
	_, doc := s.Get(t, s.Path("/brief?dossier=yes"))
	assert.Contains(t, doc, "reflective ankle bands")
	assert.Contains(t, doc, "Your own")
	_, json := s.Get(t, s.Path("/brief/as/json"))
	assert.Contains(t, json, `"tier": "own"`)
	for _, bad := range []string{"", " ", "--", strings.Repeat("a", 200)} {
		code, _, _ = s.Post(t, s.Path("/own"), true, "kind", "term", "text", bad)
		assert.Equal(t, http.StatusUnprocessableEntity, code, bad)
	}
}

func TestTermsByEveryFigureAndField(t *testing.T) {
	s := webtest.WithField(t)
	for _, column := range []string{"name", "pages", "total", "median", "rate", "titles", "headings", "openings", "images", "even", "keyness"} {
		_, up := s.Get(t, s.Path("/evidence?tab=terms&sort=%s", column))
		_, down := s.Get(t, s.Path("/evidence?tab=terms&sort=%s&down=1", column))
		assert.Contains(t, up, `aria-sort="ascending"`, column)
		assert.Contains(t, down, `aria-sort="descending"`, column)
		assert.ElementsMatch(t, webtest.Between(up, `name="pick" value="`, `"`), webtest.Between(down, `name="pick" value="`, `"`), column)
	}
	code, page := s.Get(t, s.Path("/evidence?tab=terms&view=glossary"))
	assert.Equal(t, http.StatusOK, code)
	_, flat := s.Get(t, s.Path("/evidence?tab=terms"))
	assert.ElementsMatch(t, webtest.Between(flat, `name="pick" value="`, `"`), webtest.Between(page, `name="pick" value="`, `"`), "the glossary has the terms of the list")
	assert.Contains(t, flat, "films speak it", "the reference of keyness is named")
}

func TestTheConcordanceInAnyOrder(t *testing.T) {
	s := webtest.WithField(t)
	path := s.Path("/sources?kind=term&key=stud+tyre")
	_, page := s.Get(t, path)
	lines := webtest.Between(page, `<td class="right">`, "</td>")
	require.NotEmpty(t, lines)
	for _, by := range []string{"left", "right"} {
		_, sorted := s.Get(t, path+"&sort="+by)
		assert.ElementsMatch(t, lines, webtest.Between(sorted, `<td class="right">`, "</td>"), by)
	}
	assert.Contains(t, page, "log-Dice")
	near := webtest.Between(page, "&amp;near=", `"`)
	require.NotEmpty(t, near, "neighbours lead to their lines")
	_, narrowed := s.Get(t, path+"&near="+near[0])
	few := webtest.Between(narrowed, `<td class="right">`, "</td>")
	assert.NotEmpty(t, few)
	assert.LessOrEqual(t, len(few), len(lines))
	places := webtest.Between(page, `<td class="where" `, "</td>")
	require.NotEmpty(t, places)
	at := webtest.Between(places[0], `href="`, `"`)[0]
	code, section := s.Get(t, at)
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, section, "studded tyre", "a line leads to its place in the captured text")
}

// Of many pages that were never counted the terms stand alone for a moment; all there is stands after.
func TestTheFirstSightOfManyPages(t *testing.T) {
	s := webtest.Arriving(t, 32)
	s.LastFails(t)
	_, first := s.Get(t, s.Path("/evidence"))
	code, _, header := s.Get3(t, s.Path("/counted"))
	require.Equal(t, http.StatusNoContent, code)
	assert.Equal(t, "true", header.Get("HX-Refresh"))
	_, whole := s.Get(t, s.Path("/evidence"))
	assert.NotContains(t, whole, "what else they share is being found")
	assert.Contains(t, whole, "Themes <span")
	row := regexp.MustCompile(`(?s)<tr [^>]*data-row="term frost"[^>]*>.*?</tr>`)
	assert.NotEmpty(t, row.FindString(first))
	assert.Equal(t, row.FindString(whole), row.FindString(first))
}
