package brief_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"

	"corpulan/web/webtest"
)

// While pages arrive the brief says of how many it is, and is drawn anew when all are counted.
func TestABriefSaysOfWhichPagesItIs(t *testing.T) {
	s := webtest.Arriving(t, 32)
	_, text := s.Get(t, s.Path("/brief"))
	assert.Contains(t, text, "32 pages are in, and being counted.")
	code, _, _ := s.Get3(t, s.Path("/brief/counted"))
	assert.Equal(t, http.StatusNoContent, code)
	s.LastFails(t)
	code, text, header := s.Get3(t, s.Path("/brief/counted"))
	assert.Equal(t, http.StatusOK, code)
	assert.Equal(t, "#document", header.Get("HX-Retarget"))
	assert.Contains(t, text, "quartiles of 32 pages")
	assert.NotContains(t, text, "being counted")
}

// The dossier is drawn when it is asked for: by its own address, with the page, or, where it is open, with an answer.
func TestTheDossierIsAskedFor(t *testing.T) {
	s := webtest.WithField(t)
	const behind = "Pages this was made from"
	_, page := s.Get(t, s.Path("/brief"))
	assert.NotContains(t, page, behind)
	assert.Regexp(t, `data-fields="[a-z_ ]*media`, page, "what was typed in it is asked for with it")
	for _, path := range []string{"/brief/dossier", "/brief?dossier=yes"} {
		_, page = s.Get(t, s.Path("%s", path))
		assert.Contains(t, page, behind, path)
	}
}
