package publication_test

import (
	"html"
	"net/http"
	"regexp"
	"strings"
	"testing"

	"corpulan/store"
	"corpulan/web/webtest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

var hiddenField = regexp.MustCompile(`(?s)<input type="hidden" name="([^"]*)" value="([^"]*)">`)

// formOf are the hidden fields of the form with an action, as pairs; the last such form.
func formOf(t *testing.T, page, action string, back bool) (pairs []string) {
	t.Helper()
	for form := range strings.SplitSeq(page, "<form ") {
		form, _, _ = strings.Cut(form, "</form>")
		if !strings.Contains(form, `action="`+action+`"`) || strings.Contains(form, `name="back"`) != back {
			continue
		}
		pairs = nil
		for _, m := range hiddenField.FindAllStringSubmatch(form, -1) {
			pairs = append(pairs, m[1], html.UnescapeString(m[2]))
		}
	}
	require.NotEmpty(t, pairs, action)
	return pairs
}

// What is set up is taken back in one step, with all that stood there before; and of two who
// change it at once nobody's is lost: the second is told, finds what they typed, and decides.
func TestSetUpIsTakenBackAndNeverOverwritten(t *testing.T) {
	s := webtest.NewSite(t)
	const market, aside = "/publication/set-up/market", "/publication/set-up/aside"
	_, page := s.Get(t, "/publication/set-up")
	mine := append(formOf(t, page, market, false), "language", "de", "country", "at", "depth", "30", "aim", "70", "brief_in", "en")
	theirs := append(formOf(t, page, market, false), "language", "fr", "country", "fr", "depth", "10", "aim", "60", "brief_in", "")
	settings := func() (language, country, in string) {
		p, err := s.Scope.Publication(t.Context())
		require.NoError(t, err)
		x := p.Settings.Data()
		return x.Market.Language, x.Market.Country, x.BriefIn
	}
	code, page, _ := s.Post(t, market, false, mine...)
	require.Equal(t, http.StatusOK, code)
	assert.Contains(t, page, "New studies begin so.")
	assert.Contains(t, page, "take it back")
	undo := formOf(t, page, market, true)

	code, refused, _ := s.Post(t, market, false, theirs...)
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, refused, "Somebody has changed this meanwhile")
	assert.Contains(t, refused, `value="fr" selected`, "what they typed")
	l, c, in := settings()
	assert.Equal(t, []string{"de", "at", "en"}, []string{l, c, in})
	// They decide: the form knows now what stands there.
	code, page, _ = s.Post(t, market, false, append(formOf(t, refused, market, false), "language", "fr", "country", "fr", "depth", "10", "aim", "60", "brief_in", "")...)
	assert.Equal(t, http.StatusOK, code)
	l, c, in = settings()
	assert.Equal(t, []string{"fr", "fr", ""}, []string{l, c, in})
	// The first cannot take back what is no longer theirs.
	code, refused, _ = s.Post(t, market, false, undo...)
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, refused, "Somebody has changed this meanwhile")
	code, page, _ = s.Post(t, market, false, formOf(t, page, market, true)...)
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, page, "Taken back.")
	l, c, in = settings()
	assert.Equal(t, []string{"de", "at", "en"}, []string{l, c, in})

	// Lists too, line by line.
	_, page = s.Get(t, "/publication/set-up")
	code, page, _ = s.Post(t, aside, false, append(formOf(t, page, aside, false), "hosts", "a.example\nb.example")...)
	require.Equal(t, http.StatusOK, code)
	code, page, _ = s.Post(t, aside, false, append(formOf(t, page, aside, false), "hosts", "c.example")...)
	require.Equal(t, http.StatusOK, code)
	_, _, _ = s.Post(t, aside, false, formOf(t, page, aside, true)...)
	p, err := s.Scope.Publication(t.Context())
	require.NoError(t, err)
	assert.Equal(t, []string{"a.example", "b.example"}, p.Settings.Data().Aside)
	// Kept as it was, there is nothing to take back.
	_, page = s.Get(t, "/publication/set-up")
	_, page, _ = s.Post(t, aside, false, append(formOf(t, page, aside, false), "hosts", "a.example\nb.example")...)
	assert.NotContains(t, page, "take it back")
	code, _, _ = s.Post(t, market, false, "language", "de", "country", "at", "depth", "30", "aim", "70", "brief_in", "xx")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
}

// A brief of a German study is German, whatever the language of who looks, and another where the
// publication says so; the words around it are those of who looks.
func TestTheLanguageOfABrief(t *testing.T) {
	s := webtest.WithField(t)
	_, page := s.Get(t, s.Path("/brief?dossier=yes"))
	assert.Contains(t, page, "Grade 8 or below")
	code, _, _ := s.Post(t, "/publication/set-up/market", false, "language", "en", "country", "gb", "depth", "20", "aim", "75", "brief_in", "de")
	require.Equal(t, http.StatusOK, code)
	_, page = s.Get(t, s.Path("/brief?dossier=yes"))
	assert.Contains(t, page, "Stufe 8 oder")
	assert.Contains(t, page, ">Reading level<")
	_, text := s.Get(t, s.Path("/brief/as/md?dossier=yes"))
	assert.Contains(t, text, "**Leseniveau:** Stufe 8")
	_, text = s.Get(t, s.Path("/brief/as/json"))
	assert.Contains(t, text, `"schema"`)
	assert.Contains(t, text, "Stufe 8 oder")
}

// An aim that is left empty is set by the field, and stays empty in the form.
func TestTheAimOfTheField(t *testing.T) {
	s := webtest.WithField(t)
	set := func(aim string) int {
		code, _, _ := s.Post(t, "/publication/set-up/market", false, "language", "en", "country", "gb", "depth", "20", "aim", aim, "brief_in", "")
		return code
	}
	require.Equal(t, http.StatusOK, set(""))
	_, page := s.Get(t, "/publication/set-up")
	assert.Contains(t, page, `name="aim" value=""`)
	_, page = s.Get(t, s.Path("/draft"))
	assert.NotContains(t, page, "; 80 is the aim")
	for _, wrong := range []string{"0", "-1", "101", "x"} {
		assert.Equal(t, http.StatusUnprocessableEntity, set(wrong), wrong)
	}
}

// What is taken away in the set-up comes back in one press, for a while; services come back without
// their keys having stood in a page.
func TestTokensWebhooksAndServicesComeBack(t *testing.T) {
	s := webtest.NewSite(t, webtest.Sealed(t))
	press := func(path string, code int, pairs ...string) string {
		t.Helper()
		got, page, head := s.Post(t, "/publication/set-up/"+path, false, pairs...)
		require.Equal(t, code, got, page)
		if to := head.Get("Location"); to != "" {
			_, page = s.Get(t, to)
		}
		return page
	}
	press("tokens", 200, "name", "the importer", "days", "30")
	page := press("tokens/1/revoke", 303)
	assert.Contains(t, page, "The token is revoked.")
	assert.NotContains(t, page, "revoke the importer")
	assert.Contains(t, page, `action="/publication/set-up/tokens/1/back"`)
	page = press("tokens/1/back", 303)
	assert.Contains(t, page, "revoke the importer")
	press("tokens/1/back", 404)
	press("tokens/1/revoke", 303)
	_, err := s.Store.SQL().ExecContext(t.Context(), "update tokens set revoked_at = now() - interval '2 hours'")
	require.NoError(t, err)
	press("tokens/1/back", 404)

	for _, inner := range []string{"http://127.0.0.1:9/x", "http://localhost/x", "https://[::1]/x", "http://10.1.2.3/", "http://printer.local/", "http://[fe80::1%25eth0]/", "http://169.254.169.254/latest"} {
		assert.Contains(t, press("webhooks", 422, "address", inner, "event", store.EventGathered), "nothing is sent there", inner)
	}
	press("webhooks", 200, "address", "https://told.example/x", "event", store.EventGathered)
	page = press("webhooks/1/remove", 303)
	assert.Contains(t, page, "The webhook is removed.")
	assert.NotContains(t, page, "remove told.example")
	assert.Contains(t, press("webhooks/1/back", 303), "remove told.example")
	press("webhooks/7/back", 404)

	press("services", 200, "search", "https://one.example/?key=SECRET&q={searchTerms}")
	page = press("services", 200, "none", "1")
	assert.NotContains(t, page, "one.example")
	assert.NotContains(t, page, "SECRET")
	shown := formOf(t, page, "/publication/set-up/services/back", true)
	page = press("services/back", 200, shown...)
	assert.Contains(t, page, "one.example")
	assert.NotContains(t, page, "SECRET")
	assert.Contains(t, press("services/back", 422, shown...), "Somebody has changed the services since")
	page = press("services/back", 200, formOf(t, page, "/publication/set-up/services/back", true)...)
	assert.NotContains(t, page, "one.example", "taking back is taken back")
}
