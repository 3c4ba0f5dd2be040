package web_test

import (
	"net/http"
	"net/url"
	"strings"
	"testing"

	"corpulan/account"
	"corpulan/store"
	"corpulan/study"
	"corpulan/web/webtest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/net/html"
)

// A disk without room and a database that is away are told as that wherever somebody asks: signing in,
// in the brief, in the draft, by a writer's link and by programs.
func TestTroubleIsToldAsWhatItIs(t *testing.T) {
	s := webtest.WithField(t)
	hashed, err := account.Hashed(webtest.GoodPassword)
	require.NoError(t, err)
	require.NoError(t, s.Store.CreatePerson(t.Context(), &store.Person{Email: "ida@a.example", Name: "Ida", Password: hashed}))
	token, err := study.MakeToken(t.Context(), s.Scope, "one", []string{store.MayRead, store.MayWrite}, 0)
	require.NoError(t, err)
	link := s.Link(t, "remarks", "yes", "days", "30")
	_, sheet := s.Get(t, link)
	line := html.UnescapeString(webtest.Between(sheet, `name="line" value="`, `"`)[0])
	asked := func(path, kind, body string) (int, string) {
		t.Helper()
		req, err := http.NewRequestWithContext(t.Context(), http.MethodPost, s.URL+path, strings.NewReader(body))
		require.NoError(t, err)
		req.Header.Set("Content-Type", kind)
		req.Header.Set("Authorization", "Bearer "+token)
		resp, err := s.Browser.Do(req)
		require.NoError(t, err)
		return webtest.Body(t, resp)
	}
	everywhere := func(status int, says string) {
		t.Helper()
		code, page, _ := s.Stranger(t).Post(t, "/sign-in", false, "email", "ida@a.example", "password", webtest.GoodPassword)
		assert.Equal(t, status, code)
		assert.Contains(t, page, says, "signing in")
		code, page, _ = s.Post(t, s.Path("/brief/fields"), true, "field", "goal", "value", "x", "was", "", "typed", "false")
		assert.Equal(t, status, code)
		assert.Contains(t, page, says, "in the brief")
		code, page = asked(s.Path("/draft/steps"), "application/json", `{"version":0,"client":"a","steps":[{"stepType":"replace","from":1,"to":1,"slice":{"content":[{"type":"text","text":"x"}]}}]}`)
		assert.Equal(t, status, code)
		assert.Contains(t, page, says, "in the draft")
		if status == http.StatusInsufficientStorage { // when nobody can be let in, the editor says so itself
			assert.Contains(t, page, "kept in this browser")
		}
		code, page = asked("/api/v1/studies", "application/json", `{"keyword":"bar mitts","language":"en","country":"gb"}`)
		assert.Equal(t, status, code)
		assert.Contains(t, page, says, "for programs")
		code, page = asked(link+"/remarks", "application/x-www-form-urlencoded", "author=Wren&body=Good&line="+url.QueryEscape(line))
		assert.Equal(t, status, code, page)
		assert.Contains(t, page, says, "by a link")
	}
	for _, q := range []string{"create function no_room() returns trigger language plpgsql as $$ begin raise exception 'could not extend file: No space left on device' using errcode = '53100'; end $$",
		"create trigger a before insert or update on wrong_passwords execute function no_room()", "create trigger a before insert or update on briefs execute function no_room()", "create trigger a before insert or update on studies execute function no_room()",
		"create trigger a before insert or update on draft_steps execute function no_room()", "create trigger a before insert or update on remarks execute function no_room()"} {
		_, err := s.Store.SQL().ExecContext(t.Context(), q)
		require.NoError(t, err)
	}
	everywhere(http.StatusInsufficientStorage, "disk is full")
	require.NoError(t, s.Store.SQL().Close())
	everywhere(http.StatusServiceUnavailable, "The database does not answer.")
}
