package web_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestDownloads(t *testing.T) {
	s := withField(t)
	for format, want := range map[string]string{"md": "# Brief: winter riding", "html": "<h1>winter riding</h1>", "json": `"keyword": "winter riding"`} {
		resp, err := s.Client().Get(s.URL + s.path("/brief/as/%s", format))
		require.NoError(t, err)
		code, text := body(t, resp)
		assert.Equal(t, http.StatusOK, code)
		assert.Contains(t, text, want)
		assert.Equal(t, `attachment; filename=brief-winter-riding.`+format, resp.Header.Get("Content-Disposition"))
	}
	code, _ := s.get(t, s.path("/brief/as/exe"))
	assert.Equal(t, http.StatusNotFound, code)
}

// The tables of Evidence can be taken along, whole.
func TestTablesCanBeTakenAlong(t *testing.T) {
	s := withField(t)
	code, page := s.get(t, s.path("/evidence?tab=themes"))
	require.Equal(t, http.StatusOK, code)
	assert.Contains(t, page, s.path("/evidence/as/themes.xlsx"))
	for name, want := range map[string]int{"terms.csv": 200, "entities.csv": 200, "questions.xlsx": 200, "themes.csv": 200, "terms.exe": 404, "things.csv": 404, "terms": 404} {
		code, body := s.get(t, s.path("/evidence/as/%s", name))
		assert.Equal(t, want, code, name)
		if name == "terms.csv" {
			assert.True(t, strings.HasPrefix(body, "term,shapes,tier,pages,"), body[:60])
		}
	}
}
