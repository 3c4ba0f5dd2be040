package field_test

import (
	"net/http"
	"strings"
	"testing"

	"corpulan/web/webtest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The kept pages stand beside each other by every measure and by their fit to the brief, and are sorted by any of them.
func TestWhomToBeat(t *testing.T) {
	s := webtest.WithField(t)
	rows := func(query string) []string {
		code, page := s.Get(t, s.Path("/pages")+query)
		require.Equal(t, http.StatusOK, code)
		var hosts []string
		for _, row := range webtest.Between(page, `<td class="finding">`, `</td>`) {
			hosts = append(hosts, webtest.Between(row, `small">`, `</span>`)[0])
		}
		return hosts
	}
	byRank := rows("")
	require.Len(t, byRank, 3)
	assert.ElementsMatch(t, byRank, rows("?sort=words&down=1"))
	_, page := s.Get(t, s.Path("/pages?sort=fit&down=1"))
	assert.Contains(t, page, `aria-sort="descending"`)
	assert.Contains(t, page, "Fit to the brief")
	assert.Equal(t, 3, strings.Count(page, `data-of="Fit to the brief"`))
	for _, key := range []string{"fit", "words", "headings", "paragraphs", "grade"} {
		cells := webtest.Between(page, `href="`+s.Path("/pages/"), `/counted/`+key+`"`)
		require.NotEmpty(t, cells, key)
		id := cells[0][strings.LastIndexByte(cells[0], '/')+1:]
		code, text := s.Get(t, s.Path("/pages/")+id+"/counted/"+key)
		require.Equal(t, http.StatusOK, code, key)
		assert.Contains(t, text, `class="passages behind"`, "a figure opens what it counts: "+key)
	}
	for _, wrong := range []string{"1/counted/nothing", "9999/counted/words", "x/counted/words"} {
		code, _ := s.Get(t, s.Path("/pages/")+wrong)
		assert.Equal(t, http.StatusNotFound, code, wrong)
	}
	assert.Equal(t, byRank, rows("?sort=nonsense"), "what is no measure sorts by rank")
	_, further := s.Get(t, s.Path("/further"))
	assert.Contains(t, further, `href="`+s.Path("/pages")+`"`)
}
