package web_test

import (
	"net/http"
	"testing"

	"corpulan/store"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// in asks for a page as a browser of some languages does.
func (s *site) in(t *testing.T, languages, path string) (int, string) {
	t.Helper()
	req, err := http.NewRequestWithContext(t.Context(), http.MethodGet, s.URL+path, nil)
	require.NoError(t, err)
	req.Header.Set("Accept-Language", languages)
	resp, err := s.client.Do(req)
	require.NoError(t, err)
	return body(t, resp)
}

// Every place is there in German, for a browser that asks for it; what pages and people say
// stays as it is, and what one person reads in German another reads in English.
func TestPlacesInGerman(t *testing.T) {
	s := withField(t)
	for path, says := range map[string]string{"/": "Eine Studie beginnen", s.path("/gather"): "Noch einmal sammeln", s.path("/field"): "Gemeinsame Themen", s.path("/evidence"): "Das Briefing bisher", s.path("/evidence?tab=themes"): "Themen",
		s.path("/brief"): "Wer dafür einsteht", s.path("/draft"): "Passung", s.path("/lexicon"): "Hauslexikon", s.path("/standing"): "Stand", s.path("/searched"): "Gesucht gegen gefunden", s.path("/share"): "Links zu diesem Briefing",
		s.path("/brief/revisions"): "Fassungen", s.path("/history"): "Wer was getan hat", s.path("/pages/1"): "Wie diese Seite gelesen wurde", "/demand": "Nachfrage", "/publication": "In allen Briefings", "/publication/set-up": "Stufen eines Briefings",
		"/account": "Zweiter Faktor", "/people": "Einladen", "/week": "Die Woche", "/search?q=tyre": "Suche", "/sign-in": "Anmelden", "/studies/99/gather": "Unter dieser Adresse ist nichts."} {
		_, page := s.in(t, "de-AT,de;q=0.9,en;q=0.5", path)
		assert.Contains(t, page, `<html lang="de"`, path)
		assert.Contains(t, page, says, path)
		_, page = s.in(t, "fr,en;q=0.5", path)
		assert.Contains(t, page, `<html lang="en"`, path)
		assert.NotContains(t, page, says+"<", path)
	}
	_, page := s.in(t, "de", s.path("/field"))
	assert.Contains(t, page, "Tyre pressure", "a heading of a page")
	// A fragment, and what was done, in words.
	req, err := http.NewRequestWithContext(t.Context(), http.MethodPost, s.URL+s.path("/archive"), nil)
	require.NoError(t, err)
	req.Header.Set("Accept-Language", "de")
	req.Header.Set("HX-Request", "true")
	req.Header.Set("X-Place", "desk")
	resp, err := s.client.Do(req)
	require.NoError(t, err)
	_, text := body(t, resp)
	assert.Contains(t, text, "Archiviert: winter riding")
	assert.Contains(t, text, "Rückgängig (u)")
	assert.Empty(t, s.logged())
}

// The account's language goes before the browser's.
func TestTheLanguageOfAnAccount(t *testing.T) {
	h := newHouse(t)
	b := h.member(t, "ida@a.example", h.first.ID, store.Owner)
	code, _, _ := b.post(t, "/account/reading", false, "language", "de")
	assert.Equal(t, http.StatusSeeOther, code)
	_, page := b.in(t, "en", "/")
	assert.Contains(t, page, `<html lang="de"`)
	code, _, _ = b.post(t, "/account/reading", false, "language", "tlh")
	assert.Equal(t, http.StatusNotFound, code)
	p, err := h.store.PersonBy(t.Context(), "ida@a.example")
	require.NoError(t, err)
	assert.False(t, p.Mail, "the box was not ticked")
	b.post(t, "/account/reading", false, "language", "", "mail", "1")
	_, page = b.in(t, "en", "/")
	assert.Contains(t, page, `<html lang="en"`)
	assert.Empty(t, h.log.String())
}
