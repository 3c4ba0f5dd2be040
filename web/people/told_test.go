package people_test

import (
	"fmt"
	"net/http"
	"testing"

	"corpulan/account"
	"corpulan/store"
	"corpulan/web/webtest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What happens to an account its person is told of, on the desk until they have seen it and in the
// account: another password, a factor set up or dropped, a place they never were, a role, a removal.
func TestWhatHappensToAnAccountIsTold(t *testing.T) {
	h := webtest.NewHouse(t, webtest.Sealed(t))
	ctx := t.Context()
	owner := h.Member(t, "ida@a.example", h.First.ID, store.Owner)
	b := h.Member(t, "wren@a.example", h.First.ID, store.Owner)
	told := func(says string) {
		t.Helper()
		_, page := b.Get(t, "/account")
		assert.Contains(t, webtest.Between(page+"</ul>", "What happened to this account", "</section>")[0], says)
	}
	_, page := b.Get(t, "/account")
	assert.NotContains(t, page, "What happened to this account", "where they made it is no new place")
	_, _, _ = b.Post(t, "/sign-out", false)
	code, _, _ := b.Post(t, "/sign-in", false, "email", "wren@a.example", "password", webtest.GoodPassword)
	require.Equal(t, http.StatusSeeOther, code)
	_, page = b.Get(t, "/account")
	assert.NotContains(t, page, "What happened to this account", "nor is one that was let in before")
	h.SignIn(t, "wren@a.example")
	told("Somebody signed in as you where you never were before: another program, 127.0.0.1.")
	_, page = b.Get(t, "/")
	assert.Contains(t, page, `<a href="/account">Somebody signed in as you`)

	code, page, _ = b.Post(t, "/account/password", false, "was", webtest.GoodPassword, "password", "another long password")
	require.Equal(t, http.StatusOK, code, page)
	told("Your password was changed, in another program.")
	token, err := account.Invite(ctx, h.Store, "wren@a.example", 0, "", 0)
	require.NoError(t, err)
	code, _, _ = b.Post(t, "/join/"+token, false, "password", webtest.GoodPassword)
	require.Equal(t, http.StatusSeeOther, code)
	_, page = b.Get(t, "/account")
	assert.Len(t, webtest.Between(page, "Your password was changed", "</li>"), 2, "by a link as well")

	_, page, _ = b.Post(t, "/account/factor", false)
	secret := webtest.Between(page, `<code class="secret">`, `<`)[0]
	code, page, _ = b.Post(t, "/account/factor/take", false, "offer", webtest.Between(page, `name="offer" value="`, `"`)[0], "code", codeOf(t, secret, 0), "password", webtest.GoodPassword)
	require.Equal(t, http.StatusOK, code, page)
	told("Signing in asks for a code from now on")
	code, page, _ = b.Post(t, "/account/factor/drop", false, "code", webtest.Between(page, "<li><code>", "<")[0])
	require.Less(t, code, 400, page)
	told("Signing in asks for no code any more")

	wren, err := h.Store.PersonBy(ctx, "wren@a.example")
	require.NoError(t, err)
	code, _, _ = owner.Post(t, at(wren, "/role"), false, "role", "editor")
	require.Equal(t, http.StatusSeeOther, code)
	told("ida made you editor of “Quillfen Cycles”.")
	code, _, _ = owner.Post(t, at(wren, "/remove"), false)
	require.Equal(t, http.StatusSeeOther, code)
	told("ida took you out of “Quillfen Cycles”.")
	_, page = owner.Get(t, "/account")
	assert.NotContains(t, page, "What happened to this account", "nobody is told of another's")
	assert.NotContains(t, h.Log.String(), "ERROR")
}

// A publication may ask its owners for a second factor: those without one may then no more than a
// strategist, and nobody shuts themselves out.
func TestOwnersAreAskedForAFactor(t *testing.T) {
	h := webtest.NewHouse(t, webtest.Sealed(t))
	b := h.Member(t, "ida@a.example", h.First.ID, store.Owner)
	other := h.Member(t, "wren@a.example", h.First.ID, store.Owner)
	code, page, _ := b.Post(t, "/people/factor", false, "factor", "true")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, page, "Set up a second factor of your own first")
	_, page, _ = b.Post(t, "/account/factor", false)
	secret := webtest.Between(page, `<code class="secret">`, `<`)[0]
	code, _, _ = b.Post(t, "/account/factor/take", false, "offer", webtest.Between(page, `name="offer" value="`, `"`)[0], "code", codeOf(t, secret, 0), "password", webtest.GoodPassword)
	require.Equal(t, http.StatusOK, code)
	code, page, _ = b.Post(t, "/people/factor", false, "factor", "true")
	require.Equal(t, http.StatusSeeOther, code, page)

	code, page = other.Get(t, "/people")
	assert.Equal(t, http.StatusForbidden, code, page)
	code, page = other.Get(t, "/account")
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, page, "asks its owners for a second factor")
	code, _ = other.Get(t, "/demand")
	assert.Equal(t, http.StatusOK, code, "what a strategist may")
	code, page = b.Get(t, "/people")
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, page, "ask for none")
	code, _, _ = b.Post(t, "/people/factor", false, "factor", "false")
	require.Equal(t, http.StatusSeeOther, code)
	code, _ = other.Get(t, "/people")
	assert.Equal(t, http.StatusOK, code)
}

func at(p store.Person, what string) string { return fmt.Sprintf("/people/%d%s", p.ID, what) }
