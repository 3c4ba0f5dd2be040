package evidence_test

import (
	"encoding/json"
	"html"
	"net/http"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corpulan/web/webtest"
)

// The grid says who treats what, in Field and in Evidence, and each of its marks leads to
// what the pages say, the page of the mark first.
func TestTheGridOfCoverage(t *testing.T) {
	s := webtest.WithField(t)
	for _, place := range []string{"/field", "/evidence?tab=themes&view=grid"} {
		_, page := s.Get(t, s.Path("%s", place))
		assert.Contains(t, page, `class="cover"`, place)
		assert.Contains(t, page, "in a section of its own", place)
	}
	_, page := s.Get(t, s.Path("/evidence?tab=themes&view=grid"))
	links := webtest.Between(page, `<a href="`, `"`)
	at := ""
	for _, l := range links {
		if strings.Contains(l, "&amp;at=2") || strings.Contains(l, "&amp;amp;at=2") {
			at = html.UnescapeString(l)
		}
	}
	require.NotEmpty(t, at, "%v", links)
	code, pane := s.Get(t, at)
	require.Equal(t, http.StatusOK, code)
	first := strings.Index(pane, `<article class="asked-for">`)
	assert.Positive(t, first)
	assert.NotContains(t, pane[:first], "<article>", "the page that was asked for comes first")
	assert.Contains(t, pane, "Lower the tyre pressure")
}

// A heading is moved out of its theme and back, a theme is renamed; each is one step that
// can be undone, and a second decision about the same takes the place of the first.
func TestThemesByHand(t *testing.T) {
	s := webtest.WithField(t)
	labels := func() []string {
		_, page := s.Get(t, s.Path("/evidence?tab=themes"))
		var list []string
		for _, l := range webtest.Between(page, `<td class="finding"><a`, "</a>") {
			list = append(list, l[strings.LastIndex(l, ">")+1:])
		}
		return list
	}
	require.Contains(t, labels(), "Tyre pressure")
	code, _, _ := s.Post(t, s.Path("/lexicon"), false, "kind", "name", "term", "Tyre pressure", "other", "How hard to pump")
	require.Equal(t, http.StatusSeeOther, code)
	assert.Contains(t, labels(), "How hard to pump")
	s.Post(t, s.Path("/lexicon"), false, "kind", "name", "term", "Tyre pressure", "other", "Pump it")
	assert.Contains(t, labels(), "Pump it")
	s.Post(t, s.Path("/lexicon"), false, "kind", "name", "term", "Tyre pressure", "other", "How hard to pump")
	assert.Contains(t, labels(), "How hard to pump", "the last name counts, though it was given before")
	_, own := s.Get(t, s.Path("/lexicon.csv?here=1"))
	assert.Equal(t, "kind,term,other\nname,Tyre pressure,How hard to pump\n", own)
	s.Post(t, s.Path("/undo"), true)
	assert.Contains(t, labels(), "Pump it")
	code, _, _ = s.Post(t, s.Path("/lexicon"), false, "kind", "gather", "term", "Tyre pressure", "other", "")
	require.Equal(t, http.StatusSeeOther, code)
	code, page, _ := s.Post(t, s.Path("/themes/join"), true, "key", "no such theme", "other", "Tyre pressure")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, page, "not in the field any more")
}

// The type of an entity is corrected, and remembered for all studies.
func TestTheTypeOfAnEntity(t *testing.T) {
	s := webtest.WithField(t)
	_, page := s.Get(t, s.Path("/evidence?tab=entities"))
	require.Contains(t, page, "concept")
	rows := webtest.Between(page, `data-row="entity `, `"`)
	require.NotEmpty(t, rows)
	_, pane := s.Get(t, s.Path("/sources?kind=entity&key=%s", url.QueryEscape(html.UnescapeString(rows[0]))))
	assert.Contains(t, pane, "teach this type")
	name := html.UnescapeString(webtest.Between(pane, `name="term" value="`, `"`)[0])
	code, _, _ := s.Post(t, s.Path("/lexicon"), false, "kind", "type", "term", name, "other", "work")
	require.Equal(t, http.StatusSeeOther, code)
	_, page = s.Get(t, s.Path("/evidence?tab=entities&type=work"))
	assert.Contains(t, page, "taught by the house")
	code, page, _ = s.Post(t, s.Path("/lexicon"), true, "kind", "type", "term", name, "other", "spaceship")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, page, "no type of entity")
}

// A title is taken from those that are made, into the field of the brief; what another has
// typed meanwhile is not overwritten.
func TestATitleToPickFrom(t *testing.T) {
	s := webtest.WithField(t)
	s.Place = "brief"
	_, doc := s.Get(t, s.Path("/brief"))
	titles := webtest.Between(doc, `<span class="candidate">`, "</span>")
	require.GreaterOrEqual(t, len(titles), 3)
	want := html.UnescapeString(titles[1])
	now := html.UnescapeString(titles[0])
	code, _, _ := s.Post(t, s.Path("/brief/fields"), true, "field", "title_tag", "was", now, "typed", "false", "value", want, "pick", "1")
	require.Equal(t, http.StatusOK, code)
	var b struct {
		Title    string                             `json:"title_tag"`
		Openings []struct{ Kind, Text, Why string } `json:"openings"`
	}
	_, doc = s.Get(t, s.Path("/brief/as/json"))
	require.NoError(t, json.Unmarshal([]byte(doc), &b))
	assert.Equal(t, want, b.Title)
	code, _, _ = s.Post(t, s.Path("/brief/fields"), true, "field", "title_tag", "was", "something else", "typed", "true", "value", now, "pick", "1")
	assert.Equal(t, http.StatusConflict, code)
	require.NotEmpty(t, b.Openings, "nobody answers what the results page asks")
	assert.Equal(t, "asked and unmet", b.Openings[0].Kind)
}

// The questions of a brief leave as FAQPage data, without the answers of others.
func TestFAQPageData(t *testing.T) {
	s := webtest.WithField(t)
	code, doc := s.Get(t, s.Path("/brief/faq.json"))
	require.Equal(t, http.StatusOK, code)
	var page struct {
		Type     string `json:"@type"`
		Entities []struct {
			Name   string
			Answer struct{ Text string } `json:"acceptedAnswer"`
		} `json:"mainEntity"`
	}
	require.NoError(t, json.Unmarshal([]byte(doc), &page))
	assert.Equal(t, "FAQPage", page.Type)
	require.NotEmpty(t, page.Entities)
	assert.Equal(t, "How do I stop my glasses fogging?", page.Entities[0].Name)
	assert.NotContains(t, doc, "tyre grips")
}

// A point is worded anew, and the pages it comes from stay with it; a fact is adopted to be
// checked.
func TestAPointInOnesOwnWordsAndAFactToCheck(t *testing.T) {
	s := webtest.WithField(t)
	_, doc := s.Get(t, s.Path("/brief"))
	key := html.UnescapeString(webtest.Between(doc, `data-row="point `, `"`)[0])
	code, _, _ := s.Post(t, s.Path("/brief/fields"), true, "field", "point:"+key, "was", "", "typed", "true", "value", "Say it <so>.")
	assert.NotEqual(t, http.StatusOK, code, "it had been proposed and not typed")
	code, _, _ = s.Post(t, s.Path("/brief/fields"), true, "field", "point:"+key, "was", "as the page has it", "typed", "false", "value", "Say it <so>.")
	require.Equal(t, http.StatusOK, code)
	_, doc = s.Get(t, s.Path("/brief"))
	assert.Contains(t, doc, "Say it &lt;so&gt;.")
	_, page := s.Get(t, s.Path("/evidence?tab=facts"))
	facts := webtest.Between(page, `data-row="fact `, `"`)
	require.NotEmpty(t, facts)
	code, _, _ = s.Post(t, s.Path("/choices"), true, "kind", "fact", "key", html.UnescapeString(facts[0]), "text", "x", "state", "adopted", "view", "evidence")
	require.Equal(t, http.StatusOK, code)
	_, md := s.Get(t, s.Path("/brief/as/md"))
	assert.Contains(t, md, "Facts to check")
	for _, tab := range []string{"openings", "points", "questions&sort=pages", "entities&type=concept"} {
		code, _ := s.Get(t, s.Path("/evidence?tab=")+tab)
		assert.Equal(t, http.StatusOK, code, tab)
	}
}

// A section and a question of one's own stand in the brief and in its files, with a note if
// one is typed; what the field has already is adopted instead; all is dropped and undone.
func TestASectionAndAQuestionOfOnesOwn(t *testing.T) {
	s := webtest.WithField(t)
	s.Place = "brief"
	add := func(kind, text string) (int, string) {
		path, named := "/own", "text"
		if kind == "theme" {
			path, named = "/outline", "value"
		}
		code, page, _ := s.Post(t, s.Path("%s", path), true, "kind", kind, "do", "add", named, text)
		return code, page
	}
	code, page := add("theme", "  Where  to ride <first> ")
	require.Equal(t, http.StatusOK, code)
	assert.Contains(t, page, "Where to ride &lt;first&gt;")
	code, _ = add("question", "Who clears the lanes?")
	require.Equal(t, http.StatusOK, code)
	_, md := s.Get(t, s.Path("/brief/as/md"))
	assert.Contains(t, md, "### Where to ride")
	assert.Contains(t, md, "Who clears the lanes?")
	assert.NotContains(t, md, "on no kept page")
	_, doc := s.Get(t, s.Path("/brief"))
	before := strings.Count(doc, `class="out `)
	code, _ = add("theme", "tyre pressure")
	require.Equal(t, http.StatusOK, code)
	_, doc = s.Get(t, s.Path("/brief"))
	assert.Equal(t, before, strings.Count(doc, `class="out `), "the field has it, and it is in the outline")
	s.Post(t, s.Path("/undo"), true)
	s.Post(t, s.Path("/undo"), true)
	_, md = s.Get(t, s.Path("/brief/as/md"))
	assert.NotContains(t, md, "Who clears the lanes?")
	for kind, text := range map[string]string{"theme": "…", "question": strings.Repeat("long ", 30), "entity": "Oxmere"} {
		code, _ := add(kind, text)
		assert.Equal(t, http.StatusUnprocessableEntity, code, kind)
	}
}
