package brief_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"github.com/xuri/excelize/v2"

	"corpulan/web/webtest"
)

func TestDownloads(t *testing.T) {
	s := webtest.WithField(t)
	for format, want := range map[string]string{"md": "# Brief: winter riding", "html": "<h1>winter riding</h1>", "json": `"keyword": "winter riding"`} {
		resp, err := s.Client().Get(s.URL + s.Path("/brief/as/%s", format))
		require.NoError(t, err)
		code, text := webtest.Body(t, resp)
		assert.Equal(t, http.StatusOK, code)
		assert.Contains(t, text, want)
		assert.Equal(t, `attachment; filename=brief-winter-riding.`+format, resp.Header.Get("Content-Disposition"))
	}
	code, _ := s.Get(t, s.Path("/brief/as/exe"))
	assert.Equal(t, http.StatusNotFound, code)
}

// The tables of Evidence can be taken along, whole.
func TestTablesCanBeTakenAlong(t *testing.T) {
	s := webtest.WithField(t)
	code, page := s.Get(t, s.Path("/evidence?tab=themes"))
	require.Equal(t, http.StatusOK, code)
	assert.Contains(t, page, s.Path("/evidence/as/themes.xlsx"))
	for name, want := range map[string]int{"terms.csv": 200, "entities.csv": 200, "questions.xlsx": 200, "themes.csv": 200, "terms.exe": 404, "things.csv": 404, "terms": 404} {
		code, body := s.Get(t, s.Path("/evidence/as/%s", name))
		assert.Equal(t, want, code, name)
		if name == "terms.csv" {
			assert.True(t, strings.HasPrefix(body, "term,shapes,tier,pages,"), body[:60])
		}
	}
}

// A workbook is for people, and in their words; CSV is for programs, and always the same.
func TestWorkbooksAreInTheLanguageOfWhoAsks(t *testing.T) {
	s := webtest.WithField(t)
	said := map[string]bool{} // what no column of a German workbook may be
	rows := func(tab, languages string) [][]string {
		t.Helper()
		_, text := s.In(t, languages, s.Path("/evidence/as/%s.xlsx", tab))
		book, err := excelize.OpenReader(strings.NewReader(text))
		require.NoError(t, err)
		list, err := book.GetRows(book.GetSheetList()[0])
		require.NoError(t, err)
		require.NotEmpty(t, list, tab)
		return list
	}
	for _, tab := range []string{"terms", "entities", "questions", "themes", "points", "facts", "links"} {
		english, german := rows(tab, "en")[0], rows(tab, "de")[0]
		require.Len(t, german, len(english))
		for i, name := range english {
			said[name] = true
			assert.NotEqual(t, name, german[i], tab)
		}
		_, csv := s.In(t, "de", s.Path("/evidence/as/%s.csv", tab))
		assert.True(t, strings.HasPrefix(csv, english[0]+","), csv[:20])
	}
	assert.True(t, said["term"] && said["rank 1 s1.example"], said)
	terms := rows("terms", "de")
	assert.Equal(t, "Begriff", terms[0][0])
	assert.NotContains(t, []string{"", "staple", "frequent", "occasional"}, terms[1][2], "the tier, too")
}
