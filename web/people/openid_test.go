package people_test

import (
	"crypto/rand"
	"crypto/rsa"
	"crypto/sha256"
	"encoding/base64"
	"encoding/json"
	"net/http"
	"net/http/httptest"
	"net/url"
	"strings"
	"sync"
	"testing"
	"time"

	"corpulan/account"
	"corpulan/store"
	"corpulan/web/kit"
	"corpulan/web/webtest"

	"github.com/go-jose/go-jose/v4"
	"github.com/go-jose/go-jose/v4/jwt"
	"github.com/pquerna/otp/totp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// issuer is a stand-in OpenID Connect issuer: discovery, keys, and tokens for the codes it gave.
type issuer struct {
	*httptest.Server
	mu     sync.Mutex
	key    *rsa.PrivateKey
	codes  map[string]url.Values // what was asked for each
	claims map[string]any        // of whoever signs in next
}

func newIssuer(t *testing.T) *issuer {
	t.Helper()
	key, err := rsa.GenerateKey(rand.Reader, 2048)
	require.NoError(t, err)
	i := &issuer{key: key, codes: map[string]url.Values{}}
	mux := http.NewServeMux()
	i.Server = httptest.NewServer(mux)
	t.Cleanup(i.Close)
	answer := func(w http.ResponseWriter, v any) {
		w.Header().Set("Content-Type", "application/json")
		_ = json.NewEncoder(w).Encode(v)
	}
	mux.HandleFunc("/.well-known/openid-configuration", func(w http.ResponseWriter, _ *http.Request) {
		answer(w, map[string]any{"issuer": i.URL, "authorization_endpoint": i.URL + "/authorize", "token_endpoint": i.URL + "/token", "jwks_uri": i.URL + "/keys",
			"response_types_supported": []string{"code"}, "subject_types_supported": []string{"public"}, "id_token_signing_alg_values_supported": []string{"RS256"}})
	})
	mux.HandleFunc("/keys", func(w http.ResponseWriter, _ *http.Request) {
		answer(w, jose.JSONWebKeySet{Keys: []jose.JSONWebKey{{Key: key.Public(), KeyID: "one", Algorithm: "RS256", Use: "sig"}}})
	})
	mux.HandleFunc("/authorize", func(w http.ResponseWriter, r *http.Request) {
		i.mu.Lock()
		defer i.mu.Unlock()
		q, code := r.URL.Query(), rand.Text()
		i.codes[code] = q
		http.Redirect(w, r, q.Get("redirect_uri")+"?"+url.Values{"code": {code}, "state": {q.Get("state")}}.Encode(), http.StatusSeeOther)
	})
	mux.HandleFunc("/token", func(w http.ResponseWriter, r *http.Request) {
		i.mu.Lock()
		defer i.mu.Unlock()
		asked, ok := i.codes[r.PostFormValue("code")]
		delete(i.codes, r.PostFormValue("code"))
		id, secret, _ := r.BasicAuth()
		secret, _ = url.QueryUnescape(secret) // RFC 6749, section 2.3.1
		made := sha256.Sum256([]byte(r.PostFormValue("code_verifier")))
		if !ok || id != "corpulan" || secret != "a client's secret" || asked.Get("code_challenge_method") != "S256" || base64.RawURLEncoding.EncodeToString(made[:]) != asked.Get("code_challenge") {
			w.WriteHeader(http.StatusBadRequest)
			answer(w, map[string]string{"error": "invalid_grant"})
			return
		}
		signer, err := jose.NewSigner(jose.SigningKey{Algorithm: jose.RS256, Key: i.key}, (&jose.SignerOptions{}).WithHeader("kid", "one"))
		if err != nil {
			panic(err)
		}
		claims := map[string]any{"iss": i.URL, "aud": "corpulan", "iat": time.Now().Unix(), "exp": time.Now().Add(time.Minute).Unix(), "nonce": asked.Get("nonce")}
		for k, v := range i.claims {
			claims[k] = v
		}
		token, err := jwt.Signed(signer).Claims(claims).Serialize()
		if err != nil {
			panic(err)
		}
		answer(w, map[string]any{"access_token": "x", "token_type": "Bearer", "id_token": token})
	})
	return i
}

// People sign in by an issuer: those who were invited, and those who have an account under the
// address that it has verified. Nobody else gets in, and no answer that was not asked for.
func TestSigningInByAnIssuer(t *testing.T) {
	i := newIssuer(t)
	sealer, err := account.NewSealer([]byte(account.NewSecret()))
	require.NoError(t, err)
	h := webtest.NewHouse(t, func(o *kit.Options) {
		o.Sealer = sealer
		o.OpenID = &kit.OpenID{Issuer: i.URL, ClientID: "corpulan", Secret: "a client's secret", Name: "the company's account", Address: "https://corpulan.company.example/"}
	})
	ctx := t.Context()
	squatter := h.Member(t, "owner@a.example", h.First.ID, store.Owner)
	_, err = h.Store.SQL().ExecContext(ctx, "update people set proven_at = null") // invited by an owner, and not by who runs the program
	require.NoError(t, err)
	say := func(claims map[string]any) { i.mu.Lock(); i.claims = claims; i.mu.Unlock() }
	b := h.Visitor(t)
	_, page := b.Get(t, "/sign-in?to=/demand")
	assert.Contains(t, page, "Sign in by the company&#39;s account")

	say(map[string]any{"sub": "1", "email": "wren@a.example", "email_verified": true, "name": "Wren"})
	code, page := h.Through(t, b)
	assert.Equal(t, http.StatusForbidden, code)
	assert.Contains(t, page, "Nobody here has invited wren@a.example")
	_, err = account.Invite(ctx, h.Store, "wren@a.example", h.First.ID, store.Editor, 0)
	require.NoError(t, err)
	say(map[string]any{"sub": "1", "email": "wren@a.example", "email_verified": false})
	code, page = h.Through(t, b)
	assert.Equal(t, http.StatusForbidden, code, "an address that the issuer has not seen")
	assert.Contains(t, page, "has not made sure that wren@a.example is your address")
	say(map[string]any{"sub": "1", "email": "wren@a.example", "email_verified": true, "name": "Wren"})
	code, _ = h.Through(t, b)
	require.Equal(t, http.StatusSeeOther, code, h.Log.String())
	_, page = b.Get(t, "/account")
	assert.Contains(t, page, "Wren, wren@a.example")
	code, _ = b.Get(t, "/people")
	assert.Equal(t, http.StatusForbidden, code, "an editor, as invited")
	// Under another address the same person is the same.
	again := h.Visitor(t)
	say(map[string]any{"sub": "1", "email": "another@a.example", "email_verified": true})
	code, _ = h.Through(t, again)
	assert.Equal(t, http.StatusSeeOther, code)
	_, page = again.Get(t, "/account")
	assert.Contains(t, page, "Wren, wren@a.example")
	// An account with a password that is there already.
	owner := h.Visitor(t)
	say(map[string]any{"sub": "2", "email": "Owner@a.example", "email_verified": true})
	code, _ = h.Through(t, owner)
	assert.Equal(t, http.StatusSeeOther, code)
	code, _ = owner.Get(t, "/people")
	assert.Equal(t, http.StatusOK, code)
	// Whoever made it with a link that was meant for the address is out of it, and so is their password.
	code, _ = squatter.Get(t, "/people")
	assert.Equal(t, http.StatusSeeOther, code)
	code, _, _ = h.Visitor(t).Post(t, "/sign-in", false, "email", "owner@a.example", "password", webtest.GoodPassword)
	assert.Equal(t, http.StatusUnprocessableEntity, code)

	assert.Contains(t, h.Log.String(), "a sign-in was refused")
	assert.NotContains(t, h.Log.String(), "wren@a.example", "whose account was meant stands in no log")

	// A second factor here is asked for, unless the issuer has asked for one.
	_, page, _ = owner.Post(t, "/account/factor", false)
	offer, secret := webtest.Between(page, `name="offer" value="`, `"`)[0], webtest.Between(page, `<code class="secret">`, `<`)
	code, page, _ = owner.Post(t, "/account/factor/take", false, "offer", offer, "code", codeOf(t, secret[0], 0), "password", webtest.GoodPassword)
	require.Equal(t, http.StatusOK, code, page)
	spare := webtest.Between(page, "<li><code>", "<")
	d := h.Visitor(t)
	say(map[string]any{"sub": "2", "email": "owner@a.example", "email_verified": true})
	code, page = h.Through(t, d)
	require.Equal(t, http.StatusOK, code)
	code, _ = d.Get(t, "/people")
	assert.Equal(t, http.StatusSeeOther, code, "not signed in yet")
	code, _, _ = d.Post(t, "/sign-in/code", false, "pending", webtest.Between(page, `name="pending" value="`, `"`)[0], "code", spare[0])
	assert.Equal(t, http.StatusSeeOther, code)
	code, _ = d.Get(t, "/people")
	assert.Equal(t, http.StatusOK, code)
	say(map[string]any{"sub": "2", "email": "owner@a.example", "email_verified": true, "amr": []string{"pwd", "mfa"}})
	code, _ = h.Through(t, h.Visitor(t))
	assert.Equal(t, http.StatusSeeOther, code, "the issuer asked for more than one")
	// Signing out everywhere else leaves this browser alone.
	code, page, _ = d.Post(t, "/account/sign-out-elsewhere", false)
	assert.Equal(t, http.StatusOK, code)
	assert.Contains(t, page, "signed out everywhere but here")
	code, _ = owner.Get(t, "/people")
	assert.Equal(t, http.StatusSeeOther, code)

	// What was not begun in this browser, with this state, nonce and code, is refused.
	c := h.Visitor(t)
	code, _ = h.Through(t, c, func(back *url.URL) { back.RawQuery = strings.Replace(back.RawQuery, "state=", "state=x", 1) })
	assert.Equal(t, http.StatusBadRequest, code)
	code, _ = h.Through(t, c, func(back *url.URL) { back.RawQuery = strings.Replace(back.RawQuery, "code=", "code=x", 1) })
	assert.Equal(t, http.StatusBadGateway, code)
	say(map[string]any{"sub": "2", "email": "owner@a.example", "email_verified": true, "nonce": "of another"})
	code, _ = h.Through(t, c)
	assert.Equal(t, http.StatusBadGateway, code)
	say(map[string]any{"sub": "2", "email": "owner@a.example", "email_verified": true, "aud": "another client"})
	code, _ = h.Through(t, c)
	assert.Equal(t, http.StatusBadGateway, code)
	say(map[string]any{"sub": "2", "exp": time.Now().Add(-time.Hour).Unix()})
	code, _ = h.Through(t, c)
	assert.Equal(t, http.StatusBadGateway, code)
	code, _, _ = c.Get3(t, "/sign-in/with/back?code=x&state=y")
	assert.Equal(t, http.StatusBadRequest, code)
	code, to, _ := c.Get3(t, "/account")
	assert.Equal(t, http.StatusSeeOther, code, to)
	assert.NotContains(t, h.Log.String(), "code=", "no code stands in the log")
	assert.NotContains(t, h.Log.String(), "client's secret")
}

// Signing in with a second factor takes password and code; a link for a new password does not
// get around it.
func TestSigningInWithACode(t *testing.T) {
	h := webtest.NewHouse(t, webtest.Sealed(t))
	ctx := t.Context()
	b := h.Member(t, "ida@a.example", h.First.ID, store.Owner)
	_, page, _ := b.Post(t, "/account/factor", false)
	offer := webtest.Between(page, `name="offer" value="`, `"`)[0]
	secret := webtest.Between(page, `<code class="secret">`, `<`)[0]
	code, _, _ := b.Post(t, "/account/factor/take", false, "offer", offer, "code", "000000", "password", webtest.GoodPassword)
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	code, page, _ = b.Post(t, "/account/factor/take", false, "offer", offer, "code", codeOf(t, secret, 0), "password", "a browser left open")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, page, "not the password you have now")
	assert.Contains(t, page, secret, "the telephone has it already")
	code, page, _ = b.Post(t, "/account/factor/take", false, "offer", offer, "code", codeOf(t, secret, 0), "password", webtest.GoodPassword)
	require.Equal(t, http.StatusOK, code, page)
	spare := webtest.Between(page, "<li><code>", "<")
	require.Len(t, spare, 10)
	_, page = b.Get(t, "/account")
	assert.NotContains(t, page, spare[0], "they are shown once")

	c := h.Visitor(t)
	code, page, head := c.Post(t, "/sign-in", false, "email", "ida@a.example", "password", webtest.GoodPassword, "to", "/demand")
	require.Equal(t, http.StatusOK, code)
	assert.NotContains(t, head.Values("Set-Cookie"), "corpulan_session")
	code2, _ := c.Get(t, "/demand")
	assert.Equal(t, http.StatusSeeOther, code2, "not signed in yet")
	pending := webtest.Between(page, `name="pending" value="`, `"`)[0]
	code, page, _ = c.Post(t, "/sign-in/code", false, "pending", pending, "code", "123456", "to", "/demand")
	assert.Equal(t, http.StatusUnprocessableEntity, code)
	assert.Contains(t, page, "not right")
	code, _, head = c.Post(t, "/sign-in/code", false, "pending", pending, "code", spare[0], "to", "/demand")
	assert.Equal(t, http.StatusSeeOther, code)
	assert.Equal(t, "/demand", head.Get("Location"))
	code2, _ = c.Get(t, "/demand")
	assert.Equal(t, http.StatusOK, code2)
	code, _, _ = c.Post(t, "/sign-in/code", false, "pending", "nonsense", "code", spare[1])
	assert.Equal(t, http.StatusUnprocessableEntity, code)

	token, err := account.Invite(ctx, h.Store, "ida@a.example", 0, "", 0)
	require.NoError(t, err)
	d := h.Visitor(t)
	code, _, head = d.Post(t, "/join/"+token, false, "password", "another long password")
	assert.Equal(t, http.StatusSeeOther, code)
	assert.Equal(t, "/sign-in", head.Get("Location"))
	code2, _ = d.Get(t, "/demand")
	assert.Equal(t, http.StatusSeeOther, code2)
	code, _, _ = d.Post(t, "/sign-in/code", false, "pending", pending, "code", spare[1])
	assert.Equal(t, http.StatusUnprocessableEntity, code, "begun with the old password")
	assert.NotContains(t, h.Log.String(), "ERROR")
	assert.Contains(t, h.Log.String(), "why=code")
}

// codeOf is what a telephone shows, some steps from now.
func codeOf(t *testing.T, secret string, steps int) string {
	t.Helper()
	c, err := totp.GenerateCode(secret, time.Now().Add(time.Duration(steps)*30*time.Second))
	require.NoError(t, err)
	return c
}
