package people_test

import (
	"fmt"
	"net/http"
	"net/url"
	"regexp"
	"strings"
	"testing"
	"time"

	"corpulan/account"
	"corpulan/store"
	"corpulan/web/people"
	"corpulan/web/webtest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// filled is a route with numbers for its parameters, of which the first of each kind is there.
func filled(route string) string {
	return regexp.MustCompile(`:\w+`).ReplaceAllString(route, "1")
}

// Every route, with the session of nobody, of a reader, and of an owner of something else: nobody
// is asked to sign in, a reader changes nothing, and whoever owns another publication finds
// nothing of this one.
func TestEveryRouteIsGuarded(t *testing.T) {
	h := webtest.NewHouse(t, webtest.Sealed(t))
	ctx := t.Context()
	owner := h.Member(t, "owner@a.example", h.First.ID, store.Owner)
	sc := h.Store.In(h.First.ID)
	st := store.Study{Keyword: "winter riding", Language: "en", Country: "gb", Depth: 10}
	g, err := sc.CreateStudy(ctx, &st)
	require.NoError(t, err)
	_, err = h.Store.Found(ctx, *g, []store.Result{{PublicationID: g.PublicationID, StudyID: g.StudyID, GatheringID: g.ID, Rank: 1, URL: "http://s.example/", Host: "s.example", State: store.Waiting, Kept: true}}, nil, nil, nil)
	require.NoError(t, err)
	owner.Post(t, "/demand", false, "language", "en", "country", "gb", "pasted", "bar mitts\nwinter gloves")
	owner.Post(t, "/demand/1/slate", false, "group", "bar mitts")
	reader := h.Member(t, "reader@a.example", h.First.ID, store.Reader)
	other, err := h.Store.EnsurePublication(ctx, "Another", "")
	require.NoError(t, err)
	stranger := h.Member(t, "stranger@b.example", other.ID, store.Owner)
	nobody := h.Visitor(t)

	k := webtest.Bare(t)
	routes := k.AllRoutes()
	require.Greater(t, len(routes), 100)
	walked := 0
	for _, r := range routes {
		if strings.HasPrefix(r.Path, "/w/") || strings.HasPrefix(r.Path, "/static") || strings.HasPrefix(r.Path, "/join/") || strings.HasPrefix(r.Path, "/sign-in") || strings.HasSuffix(r.Path, "/events") || r.Path == "/healthz" || r.Path == "/licences" || r.Path == "/readyz" {
			continue
		}
		walked++
		path, what := filled(r.Path), r.Method+" "+r.Path
		ask := func(s *webtest.Site) (int, string) {
			if r.Method == http.MethodGet {
				code, _, head := s.Get3(t, path)
				return code, head.Get("Location")
			}
			code, _, head := s.Post(t, path, false)
			return code, head.Get("Location")
		}
		if strings.HasPrefix(r.Path, "/api/") { // no session opens it; see TestProgramsAreHeldToTheirTokens
			if !strings.HasSuffix(r.Path, "openapi.json") && !strings.Contains(r.Path, "/schema/") {
				for _, who := range []*webtest.Site{nobody, reader, owner} {
					code, _ := ask(who)
					assert.Equal(t, http.StatusUnauthorized, code, what)
				}
			}
			continue
		}
		code, to := ask(nobody)
		if r.Method == http.MethodGet {
			assert.Equal(t, http.StatusSeeOther, code, what)
			assert.Contains(t, to, "/sign-in", what)
		} else {
			assert.Equal(t, http.StatusUnauthorized, code, what)
		}
		if code, _ := ask(reader); k.MinRole(r.Method == http.MethodGet || r.Method == http.MethodHead, r.Path) != store.Reader {
			assert.Equal(t, http.StatusForbidden, code, "a reader: %s", what)
		} else if r.Path != "/sign-out" && r.Path != "/publications" && !strings.Contains(r.Path, "/sessions/") {
			assert.NotContains(t, []int{http.StatusForbidden, http.StatusInternalServerError}, code, "a reader: %s", what)
		} else {
			reader = h.SignIn(t, "reader@a.example")
		}
		if strings.HasPrefix(r.Path, "/studies/:") || strings.HasPrefix(r.Path, "/demand/:") || strings.HasPrefix(r.Path, "/slates/:") || strings.HasPrefix(r.Path, "/people/:") {
			code, _ := ask(stranger)
			assert.Equal(t, http.StatusNotFound, code, "a stranger: %s", what)
		}
	}
	assert.Greater(t, walked, 100)
	for path, never := range map[string]string{"/": "winter riding", "/demand": `href="/demand/1"`, "/people": "owner@a.example", "/publication": "Quillfen"} {
		_, page := stranger.Get(t, path)
		assert.NotContains(t, page, never, path)
	}
	code, _, _ := stranger.Post(t, "/publications/1/open", false)
	assert.Equal(t, http.StatusNotFound, code, "no way into a publication of others")
	after, err := sc.Study(ctx, st.ID)
	require.NoError(t, err)
	assert.Nil(t, after.DeletedAt)
	assert.Empty(t, h.Log.String())
}

// An editor writes briefs and gathers nothing; a strategist gathers and invites nobody.
func TestRoles(t *testing.T) {
	for _, x := range []struct {
		method, route string
		least         store.Role
	}{
		{"GET", "/studies/:study/brief", store.Reader}, {"HEAD", "/", store.Reader}, {"POST", "/sign-out", store.Reader}, {"POST", "/account/password", store.Reader}, {"POST", "/studies/:study/brief/fields", store.Editor},
		{"POST", "/studies/:study/draft/steps", store.Editor}, {"POST", "/studies/:study/choices/many", store.Editor}, {"POST", "/studies/:study/gather", store.Strategist}, {"POST", "/studies/:study/delete", store.Strategist},
		{"POST", "/demand", store.Strategist}, {"POST", "/publication/fields", store.Strategist}, {"GET", "/people", store.Owner}, {"POST", "/people/invite", store.Owner}, {"POST", "/what/comes/next", store.Strategist},
	} {
		assert.Equal(t, x.least, webtest.Bare(t).MinRole(x.method == http.MethodGet || x.method == http.MethodHead, x.route), x.route)
	}
	assert.True(t, store.Owner.May(store.Reader))
	assert.False(t, store.Reader.May(store.Editor))
	assert.False(t, store.Role("").May(store.Reader))
	assert.False(t, store.Owner.May("king"), "what is no role is nobody's")
}

// Signing in, wrong and right; what a browser had before opens nothing afterwards; sessions are
// seen and ended.
func TestSigningIn(t *testing.T) {
	h := webtest.NewHouse(t)
	_, page := h.Visitor(t).Get(t, "/sign-in")
	assert.Contains(t, page, "Nobody has an account yet")
	first := h.Member(t, "Ida@a.example", h.First.ID, store.Owner)
	_, page = first.Get(t, "/account")
	assert.Contains(t, page, "Ida@a.example")
	assert.Contains(t, page, "another program", "what the browser calls itself, in short")
	b := h.Visitor(t)
	code, _, head := b.Get3(t, "/demand?x=1")
	assert.Equal(t, http.StatusSeeOther, code)
	assert.Equal(t, "/sign-in?to=%2Fdemand%3Fx%3D1", head.Get("Location"))
	wrong := func(email, password string) (int, string) {
		code, page, _ := b.Post(t, "/sign-in", false, "email", email, "password", password, "to", "/demand?x=1")
		return code, webtest.Between(page, `role="alert">`, "</p>")[0]
	}
	code, says := wrong("ida@a.example", "wrong")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	_, unknown := wrong("nobody@a.example", webtest.GoodPassword)
	assert.Equal(t, says, unknown, "who has an account is not told")
	wrong("", "")
	wrong(strings.Repeat("x", 5000), strings.Repeat("y", 5000))
	code, _, head = b.Post(t, "/sign-in", false, "email", " IDA@a.example ", "password", webtest.GoodPassword, "to", "/demand?x=1")
	assert.Equal(t, http.StatusSeeOther, code)
	assert.Equal(t, "/demand?x=1", head.Get("Location"))
	cookie := head.Get("Set-Cookie")
	assert.Contains(t, cookie, "HttpOnly")
	assert.Contains(t, cookie, "SameSite=Lax")

	// Fixation: a session that was there before sign-in is void after it.
	token := regexp.MustCompile(`corpulan_session=([^;]+)`).FindStringSubmatch(cookie)[1]
	code, _, head = b.Post(t, "/sign-in", false, "email", "ida@a.example", "password", webtest.GoodPassword)
	require.Equal(t, http.StatusSeeOther, code)
	assert.NotContains(t, head.Get("Set-Cookie"), token)
	_, err := account.Who(t.Context(), h.Store, token, time.Now())
	assert.ErrorIs(t, err, store.ErrNotFound)

	// Two browsers: one ends the other's session.
	_, page = first.Get(t, "/account")
	ends := regexp.MustCompile(`/account/sessions/(\d+)/end`).FindAllString(page, -1)
	require.Len(t, ends, 2)
	for _, end := range ends {
		if !strings.Contains(strings.Split(page, end)[0], "this one") || strings.LastIndex(strings.Split(page, end)[0], "<tr>") > strings.LastIndex(strings.Split(page, end)[0], "this one") {
			first.Post(t, end, false)
		}
	}
	code, _ = b.Get(t, "/")
	assert.Equal(t, http.StatusSeeOther, code, "signed out from elsewhere")
	code, _ = first.Get(t, "/")
	assert.Equal(t, http.StatusOK, code)
	_, _, head = first.Get3(t, "/")
	assert.Equal(t, "no-store", head.Get("Cache-Control"))
	assert.Empty(t, head.Get("Strict-Transport-Security"))
	assert.NotContains(t, cookie, "__Host-", "which no browser takes without TLS")
	req, err := http.NewRequestWithContext(t.Context(), http.MethodGet, h.URL+"/sign-in", nil)
	require.NoError(t, err)
	req.Header.Set("X-Forwarded-Proto", "https")
	resp, err := first.Browser.Do(req)
	require.NoError(t, err)
	_ = resp.Body.Close()
	assert.Contains(t, resp.Header.Get("Strict-Transport-Security"), "max-age=")
	first.Post(t, "/sign-out", false)
	code, _ = first.Get(t, "/")
	assert.Equal(t, http.StatusSeeOther, code)
	for to, want := range map[string]string{"": "/", "/demand": "/demand", "//evil.example/": "/", "https://evil.example/": "/", `/\evil.example`: "/", "javascript:alert(1)": "/", "/a?b=c#d": "/a?b=c", "%zz": "/", "evil": "/"} {
		assert.Equal(t, want, people.OurPath(to), to)
	}
	assert.NotContains(t, h.Log.String(), "ERROR")
	assert.NotContains(t, h.Log.String(), "ida@a.example")
}

// Guessing is slowed down for one address from one place; from another place the owner of the
// address gets in all the while.
func TestGuessingHurtsNobodyElse(t *testing.T) {
	h := webtest.NewHouse(t)
	h.Member(t, "ida@a.example", h.First.ID, store.Owner)
	ctx, now := t.Context(), time.Now()
	try := func(from, password string, at time.Time) error {
		_, _, err := account.SignIn(ctx, h.Store, nil, "ida@a.example", password, account.Asker{From: from, Agent: "x"}, at)
		return err
	}
	for range 5 {
		assert.ErrorIs(t, try("10.0.0.1", "guess", now), account.ErrSignIn)
	}
	assert.ErrorIs(t, try("10.0.0.1", "guess", now.Add(2*time.Second)), account.ErrSignIn)
	assert.ErrorIs(t, try("10.0.0.1", webtest.GoodPassword, now.Add(2*time.Second)), account.ErrTooSoon)
	assert.NoError(t, try("10.0.0.2", webtest.GoodPassword, now.Add(2*time.Second)))
	assert.NoError(t, try("10.0.0.1", webtest.GoodPassword, now.Add(40*time.Second)), "never for longer than half a minute")
	assert.ErrorIs(t, try("10.0.0.1", "guess", now.Add(40*time.Second)), account.ErrSignIn, "and begins anew")
}

// Guessing at one account from many places, and at many accounts from one, is slowed down too; a
// browser that the password has let in before gets in all the while.
func TestGuessingFromManyPlaces(t *testing.T) {
	h := webtest.NewHouse(t)
	h.Member(t, "ida@a.example", h.First.ID, store.Owner)
	ctx, now := t.Context(), time.Now()
	p, err := h.Store.PersonBy(ctx, "ida@a.example")
	require.NoError(t, err)
	try := func(email, password string, by account.Asker) error {
		_, _, err := account.SignIn(ctx, h.Store, nil, email, password, by, now)
		return err
	}
	for i := range 20 {
		require.ErrorIs(t, try("ida@a.example", "guess", account.Asker{From: fmt.Sprint("10.0.1.", i)}), account.ErrSignIn)
	}
	require.ErrorIs(t, try("ida@a.example", "guess", account.Asker{From: "10.0.2.1"}), account.ErrTooSoon, "from yet another place")
	known := account.KnownBy(p)
	require.NoError(t, try("ida@a.example", webtest.GoodPassword, account.Asker{From: "10.0.2.1", Known: known}))
	require.ErrorIs(t, try("ida@a.example", webtest.GoodPassword, account.Asker{From: "10.0.2.1", Known: known[1:]}), account.ErrTooSoon)
	for range 5 {
		require.ErrorIs(t, try("ida@a.example", "guess", account.Asker{From: "10.0.2.1", Known: known}), account.ErrSignIn)
	}
	require.ErrorIs(t, try("ida@a.example", webtest.GoodPassword, account.Asker{From: "10.0.2.1", Known: known}), account.ErrTooSoon, "a stolen browser guesses no faster")

	for i := range 60 {
		require.ErrorIs(t, try(fmt.Sprintf("nobody%d@a.example", i), "guess", account.Asker{From: "10.0.3.1"}), account.ErrSignIn)
	}
	require.ErrorIs(t, try("somebody@a.example", "guess", account.Asker{From: "10.0.3.1"}), account.ErrTooSoon, "one place, many accounts")
	require.ErrorIs(t, try("somebody@a.example", "guess", account.Asker{From: "10.0.3.2"}), account.ErrSignIn)
}

// A session ends ninety days after it began, however much it is used; over TLS its cookie is this
// host's alone.
func TestSessionsEnd(t *testing.T) {
	h := webtest.NewHouse(t)
	b := h.Member(t, "ida@a.example", h.First.ID, store.Owner)
	ctx := t.Context()
	p, err := h.Store.PersonBy(ctx, "ida@a.example")
	require.NoError(t, err)
	old := func(days int) {
		t.Helper()
		_, err := h.Store.SQL().ExecContext(ctx, "update sessions set made_at = now() - make_interval(days => $1), seen_at = now() - interval '2 hours'", days)
		require.NoError(t, err)
	}
	old(80)
	code, _ := b.Get(t, "/account")
	require.Equal(t, http.StatusOK, code)
	open, err := h.Store.Sessions(ctx, p.ID)
	require.NoError(t, err)
	require.Len(t, open, 1)
	assert.WithinDuration(t, time.Now().AddDate(0, 0, 10), open[0].ExpiresAt, 26*time.Hour)
	old(91)
	_, _ = b.Get(t, "/account") // sees it, and sees that it has ended
	code, _ = b.Get(t, "/account")
	assert.Equal(t, http.StatusSeeOther, code)

	req, err := http.NewRequestWithContext(ctx, http.MethodPost, h.URL+"/sign-in", strings.NewReader(url.Values{"email": {"ida@a.example"}, "password": {webtest.GoodPassword}}.Encode()))
	require.NoError(t, err)
	req.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	req.Header.Set("X-Forwarded-Proto", "https")
	resp, err := h.Visitor(t).Browser.Do(req)
	require.NoError(t, err)
	defer resp.Body.Close()
	said := strings.Join(resp.Header.Values("Set-Cookie"), "\n")
	for _, name := range []string{"__Host-corpulan_session=", "__Host-corpulan_known="} {
		assert.Contains(t, said, name)
	}
	assert.NotContains(t, said, "Domain=")
}

// Links are good once; a new password ends every session; whoever owns one publication does not
// get into another by it.
func TestLinksThatAreGoodOnce(t *testing.T) {
	h := webtest.NewHouse(t)
	ctx := t.Context()
	owner := h.Member(t, "owner@a.example", h.First.ID, store.Owner)
	code, page, _ := owner.Post(t, "/people/invite", false, "email", "new@a.example", "role", "editor")
	require.Equal(t, http.StatusOK, code)
	link := webtest.Between(page, `value="`+h.URL, `"`)[0]
	for says, form := range map[string][]string{"at least 15": {"name", "New", "password", "short"}, "tried first": {"name", "New", "password", "passwordpassword"}, "nobody would put": {"name", "Wren Aldergate", "password", "wren aldergate 1"}, "A name has": {"name", " ", "password", webtest.GoodPassword}} {
		code, page, _ := h.Visitor(t).Post(t, link, false, form...)
		assert.Equal(t, http.StatusUnprocessableEntity, code)
		assert.Contains(t, page, says)
	}
	// Who has not come yet is listed, and can be uninvited.
	_, page = owner.Get(t, "/people")
	assert.Contains(t, page, "Invited, and not come yet")
	assert.Contains(t, page, "withdraw the invitation of new@a.example")
	_, page, _ = owner.Post(t, "/people/invite", false, "email", "gone@a.example", "role", "reader")
	void := webtest.Between(page, `value="`+h.URL, `"`)[0]
	code, _, _ = owner.Post(t, "/people/withdraw", false, "email", "GONE@a.example")
	assert.Equal(t, http.StatusSeeOther, code)
	code, _ = h.Visitor(t).Get(t, void)
	assert.Equal(t, http.StatusNotFound, code)
	_, page = owner.Get(t, "/people")
	assert.NotContains(t, page, "gone@a.example")
	code, _, _ = owner.Post(t, "/people/withdraw", false, "email", "gone@a.example")
	assert.Equal(t, http.StatusSeeOther, code, "twice does no harm")
	editor := h.Visitor(t)
	code, _, _ = editor.Post(t, link, false, "name", "New", "password", webtest.GoodPassword)
	require.Equal(t, http.StatusSeeOther, code)
	code, page = h.Visitor(t).Get(t, link)
	assert.Equal(t, http.StatusNotFound, code)
	assert.Contains(t, page, "not good any more")
	code, page = editor.Get(t, "/people")
	assert.Equal(t, http.StatusForbidden, code)
	assert.Contains(t, page, "As an editor of Quillfen Cycles")

	// An invitation of somebody who has an account sets no password and takes none: they accept it
	// signed in, by whichever means.
	other, err := h.Store.CreatePublication(ctx, "Another", 1)
	require.NoError(t, err)
	token, err := account.Invite(ctx, h.Store, "new@a.example", other.ID, store.Owner, 0)
	require.NoError(t, err)
	for _, b := range []*webtest.Site{h.Visitor(t), owner} {
		for _, password := range []string{"another long password", webtest.GoodPassword} {
			code, page, _ = b.Post(t, "/join/"+token, false, "password", password)
			assert.Equal(t, http.StatusUnprocessableEntity, code, page)
			assert.Contains(t, page, "sign in to it first")
		}
	}
	_, page = h.Visitor(t).Get(t, "/join/"+token)
	assert.Contains(t, page, `href="/sign-in?to=%2fjoin%2f`+token)
	assert.NotContains(t, page, "password")
	_, page = editor.Get(t, "/join/"+token)
	assert.Contains(t, page, "You are signed in as new@a.example.")
	code, _, head := editor.Post(t, "/join/"+token, false)
	assert.Equal(t, http.StatusSeeOther, code)
	assert.Equal(t, "/", head.Get("Location"))
	_, page = editor.Get(t, "/account")
	assert.Contains(t, page, "Another")
	again := h.SignIn(t, "new@a.example") // with the password they had

	// Who is a member of nothing any more is invited as anybody else.
	require.NoError(t, h.Store.RemoveMember(ctx, other.ID, 2))
	require.NoError(t, h.Store.RemoveMember(ctx, 1, 2))
	token, err = account.Invite(ctx, h.Store, "new@a.example", 1, store.Editor, 0)
	require.NoError(t, err)
	_, page = again.Get(t, "/join/"+token)
	assert.Contains(t, page, "You are signed in as new@a.example.")
	code, _, _ = again.Post(t, "/join/"+token, false)
	assert.Equal(t, http.StatusSeeOther, code)
	code, _ = again.Get(t, "/demand")
	assert.Equal(t, http.StatusOK, code)
	require.NoError(t, h.Store.SetMember(ctx, other.ID, 2, store.Owner))

	third, err := h.Store.CreatePublication(ctx, "Third", 2)
	require.NoError(t, err)
	code, page, _ = owner.Post(t, "/people/2/reset", false)
	assert.Equal(t, http.StatusForbidden, code)
	assert.Contains(t, page, "publications that you do not own")
	require.NoError(t, h.Store.SetMember(ctx, third.ID, 1, store.Owner))
	code, page, _ = owner.Post(t, "/people/2/reset", false)
	require.Equal(t, http.StatusOK, code)
	link = webtest.Between(page, `value="`+h.URL, `"`)[0]
	code, _, _ = h.Visitor(t).Post(t, link, false, "password", "quite another password")
	assert.Equal(t, http.StatusSeeOther, code)
	code, _ = editor.Get(t, "/")
	assert.Equal(t, http.StatusSeeOther, code, "a new password ends all sessions")

	code, page, _ = owner.Post(t, "/people/1/role", false, "role", "reader")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, page, "needs an owner")
	code, _, _ = owner.Post(t, "/people/2/remove", false)
	assert.Equal(t, http.StatusSeeOther, code)
	for _, bad := range [][]string{{"email", "no address", "role", "reader"}, {"email", "a@b.example", "role", "king"}} {
		code, _, _ := owner.Post(t, "/people/invite", false, bad...)
		assert.Equal(t, http.StatusUnprocessableEntity, code)
	}
	assert.Empty(t, h.Log.String())
}

// Publications are made, gone over to, renamed and put away; each shows its own.
func TestPublicationsOfOne(t *testing.T) {
	h := webtest.NewHouse(t)
	b := h.Member(t, "owner@a.example", h.First.ID, store.Owner)
	b.Post(t, "/demand", false, "language", "en", "country", "gb", "name", "Of the first", "pasted", "bar mitts")
	code, _, head := b.Post(t, "/publications", false, "name", "Second")
	require.Equal(t, http.StatusSeeOther, code)
	assert.Equal(t, "/publication", head.Get("Location"))
	_, page := b.Get(t, "/demand")
	assert.NotContains(t, page, "Of the first")
	code, _ = b.Get(t, "/demand/1")
	assert.Equal(t, http.StatusNotFound, code)
	code, page, _ = b.Post(t, "/publications", false, "name", "Second")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, page, "is called so")
	b.Post(t, "/people/rename", false, "name", "The second <b>")
	_, page = b.Get(t, "/")
	assert.Contains(t, page, "The second &lt;b&gt;")
	b.Post(t, "/people/archive", false)
	_, page = b.Get(t, "/demand")
	assert.Contains(t, page, "Of the first", "one is in the other then")
	_, page = b.Get(t, "/account")
	require.Contains(t, page, "bring back The second &lt;b&gt;")
	stranger := h.Member(t, "ben@a.example", h.First.ID, store.Editor)
	code, _, _ = stranger.Post(t, "/publications/2/bring-back", false)
	assert.Equal(t, http.StatusNotFound, code, "only owners bring one back")
	code, _, _ = b.Post(t, "/publications/2/bring-back", false)
	assert.Equal(t, http.StatusSeeOther, code)
	_, page = b.Get(t, "/account")
	assert.Contains(t, page, "<strong>The second &lt;b&gt;</strong>", "and one is in it")
	b.Post(t, "/people/archive", false)
	code, page, _ = b.Post(t, "/people/archive", false)
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, page, "your only publication")
	code, page, _ = b.Post(t, "/account/password", false, "was", "wrong", "password", "another long password")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, page, "not the password you have")
	code, page, _ = b.Post(t, "/account/password", false, "was", webtest.GoodPassword, "password", "another long password")
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, page, "signed out everywhere but here")
	code, _ = b.Get(t, "/")
	assert.Equal(t, http.StatusOK, code)
	assert.ErrorIs(t, h.Store.RemoveMember(t.Context(), 1, 1), store.ErrLastOwner)
	assert.Empty(t, h.Log.String())
}
