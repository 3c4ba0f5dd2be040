package evidence_test

import (
	"html"
	"net/http"
	"net/url"
	"testing"

	"corpulan/core/demand"
	"corpulan/web/webtest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Keywords against pages, adopted into the brief; what is searched and not found; figures beside
// terms and questions.
func TestStandingAndSearched(t *testing.T) {
	s := webtest.WithList(t)
	_, err := s.Scope.PutKeywords(t.Context(), 1, []demand.Keyword{{Text: "tyre pressure", Volume: demand.Of(1234), Difficulty: demand.Of(12), Cost: demand.Of(0.5)}, {Text: "winter riding goggles", Volume: demand.Of(777)}, {Text: "how do i stop my glasses fogging", Volume: demand.Of(321)}})
	require.NoError(t, err)
	_, page := s.Get(t, s.Path("/standing?also=%s", url.QueryEscape("frozen lock\n<b>")))
	assert.Contains(t, page, "riding in winter")
	assert.Contains(t, page, "frozen lock")
	assert.Contains(t, page, "&lt;b&gt;")
	assert.Contains(t, page, `<span class="flag">opening</span>`)
	_, page = s.Get(t, s.Path("/standing?swap=1"))
	assert.Contains(t, page, "1 s1.example")
	cells := webtest.Between(page, `hx-get="`+s.Path("/standing/places"), `"`)
	require.NotEmpty(t, cells)
	code, page := s.Get(t, s.Path("/standing/places")+html.UnescapeString(cells[0]))
	require.Equal(t, http.StatusOK, code)
	assert.Contains(t, page, "of 100 on 1 s1.example", "a cell opens the places it is made of")
	assert.Contains(t, page, "/sections/")
	code, _ = s.Get(t, s.Path("/standing/places?keyword=x&page=https://elsewhere.example/"))
	assert.Equal(t, http.StatusNotFound, code)
	code, text, _ := s.Post(t, s.Path("/standing"), true, "keyword", "riding in winter")
	require.Equal(t, http.StatusOK, code, text)
	_, md := s.Get(t, s.Path("/brief/as/md"))
	assert.Contains(t, md, "Secondary keywords")
	assert.Contains(t, md, "riding in winter")
	s.Post(t, s.Path("/undo"), true)
	_, md = s.Get(t, s.Path("/brief/as/md"))
	assert.NotContains(t, md, "Secondary keywords")

	_, page = s.Get(t, s.Path("/searched"))
	assert.Contains(t, page, "winter riding goggles")
	assert.Contains(t, page, `<span class="flag">unmet</span>`)
	assert.NotContains(t, page, "winter riding 2019", "what is thrown out is not asked")
	_, page = s.Get(t, s.Path("/evidence"))
	assert.Contains(t, page, "Searched")
	assert.Contains(t, page, `title="difficulty 12, 0.50 a click">1,234<`)
	_, page = s.Get(t, s.Path("/evidence?tab=questions"))
	assert.Contains(t, page, ">321<")
	_, csv := s.Get(t, s.Path("/evidence/as/terms.csv"))
	assert.Contains(t, csv, "searches a month,difficulty,cost per click")
	assert.Contains(t, csv, ",1234,12,0.5,")
	assert.Empty(t, s.Logged())
}
