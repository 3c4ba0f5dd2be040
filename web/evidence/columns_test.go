package evidence_test

import (
	"net/http"
	"testing"

	"corpulan/web/webtest"

	"github.com/stretchr/testify/assert"
)

// By default few columns are shown; those that somebody chooses stay chosen, in every study, until they choose others.
func TestColumnsByChoice(t *testing.T) {
	s := webtest.WithField(t)
	_, page := s.Get(t, s.Path("/evidence"))
	assert.Contains(t, page, `class="rows findings-table"`, "none is shown by choice")
	assert.Contains(t, page, "pages with it in the title")
	code, _, _ := s.Post(t, s.Path("/evidence/columns"), false, "tab", "terms", "column", "titles", "column", "keyness", "column", "nonsense")
	assert.Contains(t, []int{http.StatusOK, http.StatusSeeOther}, code)
	_, page = s.Get(t, s.Path("/evidence"))
	assert.Contains(t, page, `findings-table with-titles with-keyness"`)
	_, page = s.Get(t, s.Path("/evidence?tab=entities"))
	assert.Contains(t, page, `class="rows findings-table"`, "of another tab nothing was chosen")
	s.Post(t, s.Path("/evidence/columns"), false, "tab", "terms")
	_, page = s.Get(t, s.Path("/evidence"))
	assert.Contains(t, page, `class="rows findings-table"`)
}
