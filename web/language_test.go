package web_test

import (
	"net/http"
	"testing"

	"corpulan/store"
	"corpulan/web/webtest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Every place is there in German, for a browser that asks for it; what pages and people say
// stays as it is, and what one person reads in German another reads in English.
func TestPlacesInGerman(t *testing.T) {
	s := webtest.WithField(t)
	for path, says := range map[string]string{"/": "Eine Studie beginnen", s.Path("/gather"): "Noch einmal sammeln", s.Path("/field"): "Gemeinsame Themen", s.Path("/evidence"): "Das Briefing bisher", s.Path("/evidence?tab=themes"): "Themen",
		s.Path("/brief"): "Wer dafür einsteht", s.Path("/draft"): "Passung", s.Path("/lexicon"): "Hauslexikon", s.Path("/standing"): "Stand", s.Path("/searched"): "Gesucht gegen gefunden", s.Path("/share"): "Wer schreibt",
		s.Path("/brief/revisions"): "Fassungen", s.Path("/history"): "Wer was getan hat", s.Path("/pages/1"): "Wie diese Seite gelesen wurde", "/demand": "Nachfrage", "/publication": "In allen Briefings", "/publication/set-up": "Stufen eines Briefings",
		"/account": "Zweiter Faktor", "/people": "Einladen", "/week": "Die Woche", "/search?q=tyre": "Suche", "/sign-in": "Anmelden", "/studies/99/gather": "Unter dieser Adresse ist nichts."} {
		_, page := s.In(t, "de-AT,de;q=0.9,en;q=0.5", path)
		assert.Contains(t, page, `<html lang="de"`, path)
		assert.Contains(t, page, says, path)
		_, page = s.In(t, "fr,en;q=0.5", path)
		assert.Contains(t, page, `<html lang="en"`, path)
		assert.NotContains(t, page, says+"<", path)
	}
	_, page := s.In(t, "de", s.Path("/field"))
	assert.Contains(t, page, "Tyre pressure", "a heading of a page")
	// A fragment, and what was done, in words.
	req, err := http.NewRequestWithContext(t.Context(), http.MethodPost, s.URL+s.Path("/archive"), nil)
	require.NoError(t, err)
	req.Header.Set("Accept-Language", "de")
	req.Header.Set("HX-Request", "true")
	req.Header.Set("X-Place", "desk")
	resp, err := s.Browser.Do(req)
	require.NoError(t, err)
	_, text := webtest.Body(t, resp)
	assert.Contains(t, text, "Archiviert: winter riding")
	assert.Contains(t, text, "Rückgängig (u)")
	assert.Empty(t, s.Logged())
}

// The account's language goes before the browser's.
func TestTheLanguageOfAnAccount(t *testing.T) {
	h := webtest.NewHouse(t)
	b := h.Member(t, "ida@a.example", h.First.ID, store.Owner)
	code, _, _ := b.Post(t, "/account/reading", false, "language", "de")
	assert.Equal(t, http.StatusSeeOther, code)
	_, page := b.In(t, "en", "/")
	assert.Contains(t, page, `<html lang="de"`)
	code, _, _ = b.Post(t, "/account/reading", false, "language", "tlh")
	assert.Equal(t, http.StatusNotFound, code)
	p, err := h.Store.PersonBy(t.Context(), "ida@a.example")
	require.NoError(t, err)
	assert.False(t, p.Mail, "the box was not ticked")
	b.Post(t, "/account/reading", false, "language", "", "mail", "1")
	_, page = b.In(t, "en", "/")
	assert.Contains(t, page, `<html lang="en"`)
	assert.Empty(t, h.Log.String())
}
