package evidence_test

import (
	"encoding/csv"
	"encoding/json"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"corpulan/web/webtest"
)

// withLists is a site with a study of two pages that list lamps.
func withLists(t *testing.T) *webtest.Site {
	t.Helper()
	s := webtest.WithPages(t, "best bike lamps",
		`<html lang="en"><body><article><h1>The best bike lamps</h1><p>We rode with all of them for a month, through drizzle and through fog, and weighed them on a scale.</p><h2>1. Halvark Beacon 600 – best overall</h2><p>Price: £48 | Weight: 112 g</p><p>The beam is excellent. Sadly the strap tears.</p><h2>2. Vossby Arc – best value</h2><p>Price: £35 | Weight: 98 g</p><h2>3. Skarn <b>Pebble</b> – best spare</h2><p>Price: £12 | Weight: 19 g</p></article>`,
		`<html lang="en"><body><article><h1>Bike lamps compared</h1><p>Measured on a bench in a cellar, on three evenings of October, one after another and twice each.</p><table><tr><th>Model</th><th>Weight</th><th>Price</th></tr><tr><td>Halvark Beacon 600</td><td>115 g</td><td>£50</td></tr><tr><td>Vossby Arc</td><td>98 g</td><td>£35</td></tr><tr><td>Kestow K1</td><td></td><td>£29</td></tr></table></article>`)
	s.LastFails(t)
	return s
}

// Listed things stand in a list and in a table by criteria, open what pages say of them, and are taken along as tables.
func TestListedThings(t *testing.T) {
	s := withLists(t)
	code, page := s.Get(t, s.Path("/evidence?tab=listed"))
	require.Equal(t, http.StatusOK, code)
	for _, want := range []string{"Listed <span", "Halvark Beacon 600", "best overall", "£48–£50", "pages differ: price, Weight", "by criteria", "Kestow K1"} {
		assert.Contains(t, page, want)
	}
	code, page = s.Get(t, s.Path("/evidence?tab=listed&view=criteria"))
	require.Equal(t, http.StatusOK, code)
	for _, want := range []string{"112–115 g", `<span class="unsaid"`, `class="rangemark"`, `<span class="flag">differ`} {
		assert.Contains(t, page, want)
	}
	code, pane := s.Get(t, s.Path("/sources?kind=thing&key=halvarkbeacon600"))
	require.Equal(t, http.StatusOK, code)
	for _, want := range []string{"number 1 of 3", "best overall · £48 · Weight: 112 g", "The beam is excellent.", "criticised", "count it as that"} {
		assert.Contains(t, pane, want)
	}
	_, table := s.Get(t, s.Path("/evidence/as/listed.csv"))
	rows, err := csv.NewReader(strings.NewReader(table)).ReadAll()
	require.NoError(t, err)
	assert.Equal(t, []string{"thing", "written", "pages", "positions", "verdicts", "price"}, rows[0][:6])
	assert.Equal(t, []string{"Halvark Beacon 600", "1, 2", "1, 1"}, []string{rows[1][0], rows[1][2], rows[1][3]})
	_, table = s.Get(t, s.Path("/evidence/as/comparison.csv"))
	rows, err = csv.NewReader(strings.NewReader(table)).ReadAll()
	require.NoError(t, err)
	assert.Equal(t, []string{"thing", "verdicts", "price", "ranks", "Weight", "Weight: ranks"}, rows[0])
	_, data := s.Get(t, s.Path("/evidence/as/listed.json"))
	var things []map[string]any
	require.NoError(t, json.Unmarshal([]byte(data), &things))
	assert.Equal(t, "Halvark Beacon 600", things[0]["thing"])
	code, _ = s.Get(t, s.Path("/evidence/as/nothing.csv"))
	assert.Equal(t, http.StatusNotFound, code)

	other := webtest.WithField(t)
	_, page = other.Get(t, other.Path("/evidence"))
	assert.NotContains(t, page, "tab=listed", "most fields list nothing")
}

// Things are adopted, dropped and added; renamed, merged and told apart by the lexicon; given a verdict and an order; each step is
// undone.
func TestListedThingsByHand(t *testing.T) {
	s := withLists(t)
	brief := func() string {
		_, page := s.Get(t, s.Path("/brief/as/md?dossier=yes"))
		return page
	}
	assert.Contains(t, brief(), "| Halvark Beacon 600 | best overall | £48–£50 ≠ |")
	assert.NotContains(t, brief(), "| Kestow K1")
	s.Post(t, s.Path("/choices"), true, "kind", "thing", "key", "kestowk1", "text", "Kestow K1", "state", "adopted", "view", "evidence")
	s.Post(t, s.Path("/own"), true, "kind", "thing", "text", "Quillfen Glow")
	s.Post(t, s.Path("/brief/fields"), true, "field", "pick:vossbyarc", "value", "for lit streets", "was", "best value", "typed", "false")
	s.Post(t, s.Path("/picks"), true, "key", "vossbyarc", "do", "up")
	said := brief()
	arc, beacon := strings.Index(said, "| Vossby Arc | for lit streets |"), strings.Index(said, "| Halvark Beacon 600 |")
	assert.True(t, arc > 0 && arc < beacon, said)
	assert.Contains(t, said, "| Kestow K1 |")
	assert.Contains(t, said, "| Quillfen Glow |")
	for _, page := range []string{s.Link(t, "dossier", "yes"), s.Path("/brief?dossier=yes")} { // the writer's page and the place Brief
		_, shown := s.Get(t, page)
		assert.Contains(t, shown, `<table class="rows compared">`, page)
		assert.Contains(t, shown, "for lit streets", page)
		assert.Contains(t, shown, "112–115 g ≠", page)
	}
	code, _, _ := s.Post(t, s.Path("/picks"), true, "key", "vossbyarc", "do", "sideways")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	for range 4 {
		code, _, _ := s.Post(t, s.Path("/undo"), true)
		require.Equal(t, http.StatusOK, code)
	}
	assert.Contains(t, brief(), "| Vossby Arc | best value |")
	assert.NotContains(t, brief(), "Quillfen Glow")

	s.Post(t, s.Path("/lexicon"), true, "kind", "prefer", "term", "Halvark Beacon 600", "other", "Halvark Beacon Mk I")
	s.Post(t, s.Path("/lexicon"), true, "kind", "merge", "term", "Kestow K1", "other", "Skarn Pebble")
	_, page := s.Get(t, s.Path("/evidence?tab=listed"))
	assert.Contains(t, page, "Halvark Beacon Mk I")
	assert.NotContains(t, page, ">Kestow K1<")
}
