package web_test

import (
	"net/http"
	"strings"
	"testing"

	"corpulan/store"
	"corpulan/web/webtest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"
)

// forms are the addresses that the forms and buttons of a page post to.
func forms(t *testing.T, page string) (list []string) {
	t.Helper()
	doc, err := html.Parse(strings.NewReader(page))
	require.NoError(t, err)
	for n := range doc.Descendants() {
		to, posts := "", false
		for _, a := range n.Attr {
			switch a.Key {
			case "action":
				to = a.Val
			case "method":
				posts = a.Val == "post"
			case "hx-post":
				list = append(list, a.Val)
			}
		}
		if posts && n.Data == "form" {
			list = append(list, to)
		}
	}
	return list
}

// No page holds a form that its reader may not send, for every role and every place.
func TestPagesHoldNothingForbidden(t *testing.T) {
	s, k := webtest.WithField(t), webtest.Bare(t)
	places := []string{"/", "/demand", "/publication", "/account"}
	for _, p := range []string{"gather", "field", "evidence", "brief", "draft", "lexicon", "standing", "searched", "share", "brief/revisions", "history", "list"} {
		places = append(places, s.Path("/%s", p))
	}
	for _, role := range store.Roles() {
		s.As(role)
		for _, place := range places {
			code, page := s.Get(t, place)
			require.Equal(t, http.StatusOK, code, "%s as %s", place, role)
			list := forms(t, page)
			for _, to := range list {
				assert.True(t, k.MayPost(role, to), "%s holds a form to %s for %s", place, to, role)
			}
			switch {
			case role == store.Reader:
				assert.NotContains(t, page, "draft.js", place)
			case place == s.Path("/brief"):
				assert.NotEmpty(t, list, "an editor writes briefs")
			}
		}
	}
	// What stands in a field can be read all the same.
	s.As(store.Owner)
	_, page := s.Get(t, s.Path("/brief"))
	code, text, _ := s.Post(t, s.Path("/brief/fields"), false, "field", "audience", "value", "Riders of all winters", "was", webtest.Between(page, `name="was" value="`, `"`)[0])
	require.Less(t, code, 400, text)
	s.As(store.Reader)
	_, page = s.Get(t, s.Path("/brief"))
	assert.Contains(t, page, "Riders of all winters")
	assert.Contains(t, page, "readonly")
}
