package web_test

import (
	"fmt"
	"net/http"
	"strings"
	"testing"
	"time"

	"corpulan/core/brief"
	"corpulan/store"
	"corpulan/study"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// begun keeps a study in a publication, with its front filled in.
func (h *house) begun(t *testing.T, publication int64, keyword string, front map[string]string) store.Study {
	t.Helper()
	sc := h.store.In(publication)
	st := store.Study{Keyword: keyword, Language: "en", Country: "gb", Depth: 10}
	_, err := sc.CreateStudy(t.Context(), &st)
	require.NoError(t, err)
	cm := study.For(sc, h.queue, "test")
	for field, value := range front {
		_, err := cm.SetField(t.Context(), st.ID, field, value)
		require.NoError(t, err)
	}
	return st
}

// inOrder tells the order in which texts stand in a page's table.
func inOrder(page string, texts ...string) (order []string) {
	at := map[int]string{}
	body := page[strings.Index(page, "<tbody>")+1:]
	for _, x := range texts {
		if i := strings.Index(body, ">"+x+"<"); i >= 0 {
			at[i] = x
		}
	}
	for i := range len(body) {
		if at[i] != "" {
			order = append(order, at[i])
		}
	}
	return order
}

// The desk is filtered and sorted by what stands in the fronts of briefs, and several studies
// are changed in one step that is undone in one.
func TestTheDeskOfATeam(t *testing.T) {
	h := newHouse(t)
	owner := h.member(t, "ida@a.example", h.first.ID, store.Owner)
	day := func(in int) string { return time.Now().AddDate(0, 0, in).Format(time.DateOnly) }
	a := h.begun(t, h.first.ID, "studded tyres", map[string]string{brief.FieldOwner: "Ida", brief.FieldDue: day(-3), brief.FieldStatus: brief.Approved})
	b := h.begun(t, h.first.ID, "bar mitts", map[string]string{brief.FieldOwner: "Wren", brief.FieldWriter: "Ida", brief.FieldDue: day(2)})
	c := h.begun(t, h.first.ID, "chain wax", map[string]string{brief.FieldDue: day(-9), brief.FieldStatus: brief.Published})
	d := h.begun(t, h.first.ID, "dry socks", nil)
	all := []string{"studded tyres", "bar mitts", "chain wax", "dry socks"}
	for query, want := range map[string][]string{
		"":                           {"dry socks", "chain wax", "bar mitts", "studded tyres"},
		"?sort=keyword":              {"bar mitts", "chain wax", "dry socks", "studded tyres"},
		"?sort=keyword&down=1":       {"studded tyres", "dry socks", "chain wax", "bar mitts"},
		"?sort=due":                  {"chain wax", "studded tyres", "bar mitts", "dry socks"},
		"?sort=due&down=1":           {"bar mitts", "studded tyres", "chain wax", "dry socks"},
		"?sort=owner":                {"studded tyres", "bar mitts", "dry socks", "chain wax"},
		"?sort=stage":                {"dry socks", "bar mitts", "studded tyres", "chain wax"},
		"?owner=ida":                 {"studded tyres"},
		"?writer=Ida":                {"bar mitts"},
		"?stage=published":           {"chain wax"},
		"?stage=proposed":            {"dry socks"},
		"?due=late":                  {"studded tyres"},
		"?due=week":                  {"bar mitts"},
		"?due=none":                  {"dry socks"},
		"?filter=W&owner=Nobody":     nil,
		"?sort=nonsense&due=nothing": {"dry socks", "chain wax", "bar mitts", "studded tyres"},
	} {
		code, page := owner.get(t, "/"+query)
		require.Equal(t, http.StatusOK, code)
		assert.Equal(t, want, inOrder(page, all...), query)
	}
	owner.place = "desk"
	code, page, _ := owner.post(t, "/desk/many", true, "do", "owner", "value", "Wren", "pick", fmt.Sprint(a.ID), "pick", fmt.Sprint(d.ID))
	require.Equal(t, http.StatusOK, code, page)
	assert.Contains(t, page, "2 studies given to Wren.")
	_, page = owner.get(t, "/?owner=Wren&sort=keyword")
	assert.Equal(t, []string{"bar mitts", "dry socks", "studded tyres"}, inOrder(page, all...))
	code, page, _ = owner.post(t, fmt.Sprintf("/desk/many?do=undo&pick=%d&pick=%d", a.ID, d.ID), true)
	require.Equal(t, http.StatusOK, code, page)
	_, page = owner.get(t, "/?owner=Ida")
	assert.Equal(t, []string{"studded tyres"}, inOrder(page, all...))
	owner.post(t, "/desk/many", true, "do", "archive", "pick", fmt.Sprint(a.ID), "pick", fmt.Sprint(b.ID))
	_, page = owner.get(t, "/?shelf=archived&sort=keyword")
	assert.Equal(t, []string{"bar mitts", "studded tyres"}, inOrder(page, all...))
	for _, bad := range [][]string{{"do", "archive"}, {"do", "owner", "pick", "1"}, {"do", "due", "value", "soon", "pick", "1"}, {"do", "dance", "pick", "1"}, {"do", "stage", "value", "eaten", "pick", "1"}, {"do", "owner", "value", strings.Repeat("x", 61), "pick", "1"}} {
		code, _, _ := owner.post(t, "/desk/many", true, bad...)
		assert.Equal(t, http.StatusUnprocessableEntity, code, bad)
	}
	// One that is not there, and nothing of the others is changed.
	code, _, _ = owner.post(t, "/desk/many", true, "do", "archive", "pick", fmt.Sprint(c.ID), "pick", "99999")
	assert.Equal(t, http.StatusNotFound, code)
	_, page = owner.get(t, "/?stage=published")
	assert.Equal(t, []string{"chain wax"}, inOrder(page, all...))
	_, page = owner.get(t, "/week")
	assert.NotContains(t, page, "studded tyres", "archived")
	assert.Empty(t, h.log.String())
}

// Two publications of one person stand in one ledger, and a link to a study leads to it from
// either; a stranger sees neither, by no way.
func TestOneDeskForSeveralPublications(t *testing.T) {
	h := newHouse(t)
	ida := h.member(t, "ida@a.example", h.first.ID, store.Owner)
	code, _, _ := ida.post(t, "/publications", false, "name", "Second")
	require.Equal(t, http.StatusSeeOther, code)
	a := h.begun(t, h.first.ID, "studded tyres", map[string]string{brief.FieldDue: time.Now().Format(time.DateOnly)})
	b := h.begun(t, 2, "bar mitts", map[string]string{brief.FieldNotes: "Only pogies, for \"wide\" bars."})
	_, page := ida.get(t, "/?in=all")
	assert.Equal(t, []string{"bar mitts", "studded tyres"}, inOrder(page, "studded tyres", "bar mitts"))
	assert.NotContains(t, page, fmt.Sprintf(`action="/studies/%d/archive"`, a.ID), "one is in the other publication")
	assert.Contains(t, page, fmt.Sprintf(`action="/studies/%d/archive"`, b.ID))
	_, page = ida.get(t, "/?in=1")
	assert.Equal(t, []string{"studded tyres"}, inOrder(page, "studded tyres", "bar mitts"))
	_, page = ida.get(t, "/week")
	assert.Contains(t, page, "studded tyres")
	code, page = ida.get(t, fmt.Sprintf("/studies/%d/gather", a.ID))
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, page, `href="/publication">Quillfen Cycles`, "and one is there now")
	_, page = ida.get(t, "/search?q=POGI")
	assert.Contains(t, page, "<mark>pogies</mark>, for &#34;wide&#34; bars")
	assert.Contains(t, page, fmt.Sprintf("/studies/%d/brief", b.ID))
	_, page = ida.get(t, "/search?q="+strings.Repeat("%27%3A*%26%21%28+", 20)+"zz")
	assert.Contains(t, page, "stands nowhere")
	other := h.member(t, "ben@b.example", 2, store.Reader)
	for _, path := range []string{"/?in=all", "/?in=1", "/week", "/search?q=studded"} {
		_, page := other.get(t, path)
		assert.NotContains(t, page, "studded tyres", path)
	}
	code, _ = other.get(t, fmt.Sprintf("/studies/%d/gather", a.ID))
	assert.Equal(t, http.StatusNotFound, code)
	assert.Empty(t, h.log.String())
}

// Whoever is named, remarked on, or has a brief approved is told once, and by nobody's own deed.
func TestNotices(t *testing.T) {
	h := newHouse(t)
	ida := h.member(t, "ida@a.example", h.first.ID, store.Owner)
	wren := h.member(t, "wren@a.example", h.first.ID, store.Editor)
	a := h.begun(t, h.first.ID, "studded tyres", nil)
	field := func(name, was, value string, typed bool) {
		code, page, _ := ida.post(t, fmt.Sprintf("/studies/%d/brief/fields", a.ID), true, "field", name, "was", was, "value", value, "typed", fmt.Sprint(typed))
		require.Equal(t, http.StatusOK, code, page)
	}
	field(brief.FieldOwner, "", "ida", false)
	field(brief.FieldWriter, "", "WREN@a.example", false)
	field(brief.FieldWriter, "WREN@a.example", "", true)
	field(brief.FieldWriter, "", "WREN@a.example", true)
	_, page := ida.get(t, "/")
	assert.NotContains(t, page, "for-you", "one's own deed")
	_, page = wren.get(t, "/")
	assert.Equal(t, 1, strings.Count(page, "ida asks you to write “studded tyres”"))
	field(brief.FieldStatus, "composed", "approved", false)
	_, page = wren.get(t, "/")
	assert.Contains(t, page, "ida approved “studded tyres”")
	up := between(page, `name="up_to" value="`, `"`)[0]
	code, _, _ := wren.post(t, "/account/notices", true, "up_to", up)
	assert.Equal(t, http.StatusOK, code)
	_, page = wren.get(t, "/")
	assert.NotContains(t, page, "for-you")
	// What somebody writes who came by a link reaches owner and writer.
	require.NoError(t, study.For(h.store.In(h.first.ID), h.queue, "link 1").Remark(t.Context(), &store.Remark{StudyID: a.ID, Line: "term x", Author: "Client", Body: "Too <long>."}))
	for _, who := range []*site{ida, wren} {
		_, page = who.get(t, "/")
		assert.Contains(t, page, "Client says of “studded tyres”: Too &lt;long&gt;.")
	}
	_, page = ida.get(t, fmt.Sprintf("/studies/%d/history", a.ID))
	assert.Contains(t, page, "Typed: Writer")
	assert.Contains(t, page, ">you<")
	_, page = wren.get(t, fmt.Sprintf("/studies/%d/history", a.ID))
	assert.Contains(t, page, ">ida<")
	assert.Empty(t, h.log.String())
}
