package desk_test

import (
	"fmt"
	"net/http"
	"strings"
	"testing"
	"time"

	"corpulan/core/brief"
	"corpulan/store"
	"corpulan/study"
	"corpulan/web/webtest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

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
	h := webtest.NewHouse(t)
	owner := h.Member(t, "ida@a.example", h.First.ID, store.Owner)
	day := func(in int) string { return time.Now().AddDate(0, 0, in).Format(time.DateOnly) }
	a := h.Begun(t, h.First.ID, "studded tyres", map[string]string{brief.FieldOwner: "Ida", brief.FieldDue: day(-3), brief.FieldStatus: brief.Approved})
	b := h.Begun(t, h.First.ID, "bar mitts", map[string]string{brief.FieldOwner: "Wren", brief.FieldWriter: "Ida", brief.FieldDue: day(2)})
	c := h.Begun(t, h.First.ID, "chain wax", map[string]string{brief.FieldDue: day(-9), brief.FieldStatus: brief.Published})
	d := h.Begun(t, h.First.ID, "dry socks", nil)
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
		code, page := owner.Get(t, "/"+query)
		require.Equal(t, http.StatusOK, code)
		assert.Equal(t, want, inOrder(page, all...), query)
	}
	owner.Place = "desk"
	code, page, _ := owner.Post(t, "/desk/many", true, "do", "owner", "value", "Wren", "pick", fmt.Sprint(a.ID), "pick", fmt.Sprint(d.ID))
	require.Equal(t, http.StatusOK, code, page)
	assert.Contains(t, page, "2 studies given to Wren.")
	_, page = owner.Get(t, "/?owner=Wren&sort=keyword")
	assert.Equal(t, []string{"bar mitts", "dry socks", "studded tyres"}, inOrder(page, all...))
	code, page, _ = owner.Post(t, fmt.Sprintf("/desk/many?do=undo&pick=%d&pick=%d", a.ID, d.ID), true)
	require.Equal(t, http.StatusOK, code, page)
	_, page = owner.Get(t, "/?owner=Ida")
	assert.Equal(t, []string{"studded tyres"}, inOrder(page, all...))
	owner.Post(t, "/desk/many", true, "do", "archive", "pick", fmt.Sprint(a.ID), "pick", fmt.Sprint(b.ID))
	_, page = owner.Get(t, "/?shelf=archived&sort=keyword")
	assert.Equal(t, []string{"bar mitts", "studded tyres"}, inOrder(page, all...))
	for _, bad := range [][]string{{"do", "archive"}, {"do", "owner", "pick", "1"}, {"do", "due", "value", "soon", "pick", "1"}, {"do", "dance", "pick", "1"}, {"do", "stage", "value", "eaten", "pick", "1"}, {"do", "owner", "value", strings.Repeat("x", 61), "pick", "1"}} {
		code, _, _ := owner.Post(t, "/desk/many", true, bad...)
		assert.Equal(t, http.StatusUnprocessableEntity, code, bad)
	}
	// One that is not there, and nothing of the others is changed.
	code, _, _ = owner.Post(t, "/desk/many", true, "do", "archive", "pick", fmt.Sprint(c.ID), "pick", "99999")
	assert.Equal(t, http.StatusNotFound, code)
	_, page = owner.Get(t, "/?stage=published")
	assert.Equal(t, []string{"chain wax"}, inOrder(page, all...))
	_, page = owner.Get(t, "/week")
	assert.NotContains(t, page, "studded tyres", "archived")
	assert.Empty(t, h.Log.String())
}

// Two publications of one person stand in one ledger, and a link to a study leads to it from
// either; a stranger sees neither, by no way.
func TestOneDeskForSeveralPublications(t *testing.T) {
	h := webtest.NewHouse(t)
	ida := h.Member(t, "ida@a.example", h.First.ID, store.Owner)
	code, _, _ := ida.Post(t, "/publications", false, "name", "Second")
	require.Equal(t, http.StatusSeeOther, code)
	a := h.Begun(t, h.First.ID, "studded tyres", map[string]string{brief.FieldDue: time.Now().Format(time.DateOnly)})
	b := h.Begun(t, 2, "bar mitts", map[string]string{brief.FieldNotes: "Only pogies, for \"wide\" bars."})
	_, page := ida.Get(t, "/?in=all")
	assert.Equal(t, []string{"bar mitts", "studded tyres"}, inOrder(page, "studded tyres", "bar mitts"))
	assert.NotContains(t, page, fmt.Sprintf(`action="/studies/%d/archive"`, a.ID), "one is in the other publication")
	assert.Contains(t, page, fmt.Sprintf(`action="/studies/%d/archive"`, b.ID))
	_, page = ida.Get(t, "/?in=1")
	assert.Equal(t, []string{"studded tyres"}, inOrder(page, "studded tyres", "bar mitts"))
	_, page = ida.Get(t, "/week")
	assert.Contains(t, page, "studded tyres")
	code, page = ida.Get(t, fmt.Sprintf("/studies/%d/gather", a.ID))
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, page, `<span class="head-of quiet">Quillfen Cycles</span>`, "and one is there now")
	_, page = ida.Get(t, "/search?q=POGI")
	assert.Contains(t, page, "<mark>pogies</mark>, for &#34;wide&#34; bars")
	assert.Contains(t, page, fmt.Sprintf("/studies/%d/brief", b.ID))
	_, page = ida.Get(t, "/search?q="+strings.Repeat("%27%3A*%26%21%28+", 20)+"zz")
	assert.Contains(t, page, "stands nowhere")
	other := h.Member(t, "ben@b.example", 2, store.Reader)
	for _, path := range []string{"/?in=all", "/?in=1", "/week", "/search?q=studded"} {
		_, page := other.Get(t, path)
		assert.NotContains(t, page, "studded tyres", path)
	}
	code, _ = other.Get(t, fmt.Sprintf("/studies/%d/gather", a.ID))
	assert.Equal(t, http.StatusNotFound, code)
	assert.Empty(t, h.Log.String())
}

// Who is in a study is seen by the others there, and what they say of it on the desk of those who have not looked since.
func TestTogether(t *testing.T) {
	h := webtest.NewHouse(t)
	ida := h.Member(t, "ida@a.example", h.First.ID, store.Owner)
	wren := h.Member(t, "wren@a.example", h.First.ID, store.Reader)
	st := h.Begun(t, h.First.ID, "studded tyres", nil)
	here := fmt.Sprintf("/studies/%d/here", st.ID)
	_, said, _ := ida.Post(t, here, false, "place", "evidence")
	assert.Empty(t, said, "she is alone")
	code, said, _ := wren.Post(t, here, false, "place", "brief")
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, said, "is in Evidence")
	_, said, _ = ida.Post(t, here, false, "place", "standing") // a page of Evidence
	assert.Contains(t, said, "is in Brief")
	code, _, _ = ida.Post(t, here, false, "place", "<b>")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	require.NoError(t, h.Store.In(h.First.ID).AddRemark(t.Context(), &store.Remark{StudyID: st.ID, Line: "h1", Author: "Cleo", Body: "Shorter?"}))
	_, page := ida.Get(t, "/")
	assert.Contains(t, page, "1 remark, <strong>1 new</strong>")
	_, _, _ = ida.Post(t, here, false, "place", "brief")
	_, page = ida.Get(t, "/")
	assert.NotContains(t, page, "1 new")
	assert.Contains(t, page, "1 remark")
}

// Whoever is named, remarked on, or has a brief approved is told once, and by nobody's own deed.
func TestNotices(t *testing.T) {
	h := webtest.NewHouse(t)
	ida := h.Member(t, "ida@a.example", h.First.ID, store.Owner)
	wren := h.Member(t, "wren@a.example", h.First.ID, store.Editor)
	a := h.Begun(t, h.First.ID, "studded tyres", nil)
	field := func(name, was, value string, typed bool) {
		code, page, _ := ida.Post(t, fmt.Sprintf("/studies/%d/brief/fields", a.ID), true, "field", name, "was", was, "value", value, "typed", fmt.Sprint(typed))
		require.Equal(t, http.StatusOK, code, page)
	}
	field(brief.FieldOwner, "", "ida", false)
	field(brief.FieldWriter, "", "WREN@a.example", false)
	field(brief.FieldWriter, "WREN@a.example", "", true)
	field(brief.FieldWriter, "", "WREN@a.example", true)
	_, page := ida.Get(t, "/")
	assert.NotContains(t, page, "for-you", "one's own deed")
	_, page = wren.Get(t, "/")
	assert.Equal(t, 1, strings.Count(page, "ida asks you to write “studded tyres”"))
	field(brief.FieldStatus, "composed", "approved", false)
	_, page = wren.Get(t, "/")
	assert.Contains(t, page, "ida approved “studded tyres”")
	up := webtest.Between(page, `name="up_to" value="`, `"`)[0]
	code, _, _ := wren.Post(t, "/account/notices", true, "up_to", up)
	assert.Equal(t, http.StatusOK, code)
	_, page = wren.Get(t, "/")
	assert.NotContains(t, page, "for-you")
	// What somebody writes who came by a link reaches owner and writer.
	require.NoError(t, study.For(h.Store.In(h.First.ID), h.Queue, "link 1").Remark(t.Context(), &store.Remark{StudyID: a.ID, Line: "term x", Author: "Client", Body: "Too <long>."}))
	for _, who := range []*webtest.Site{ida, wren} {
		_, page = who.Get(t, "/")
		assert.Contains(t, page, "Client says of “studded tyres”: Too &lt;long&gt;.")
	}
	_, page = ida.Get(t, fmt.Sprintf("/studies/%d/history", a.ID))
	assert.Contains(t, page, "Typed: Writer")
	assert.Contains(t, page, ">you<")
	_, page = wren.Get(t, fmt.Sprintf("/studies/%d/history", a.ID))
	assert.Contains(t, page, ">ida<")
	assert.Empty(t, h.Log.String())
}
