package people

import (
	"context"
	"crypto/rand"
	"crypto/subtle"
	"encoding/base64"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strings"
	"sync"
	"time"

	"corpulan/account"
	"corpulan/core/message"
	"corpulan/web/kit"

	"github.com/coreos/go-oidc/v3/oidc"
	"github.com/gin-gonic/gin"
	"golang.org/x/oauth2"
)

// openID signs people in by an issuer: the authorisation code flow of OpenID Connect Core 1.0
// with PKCE (RFC 7636). The issuer is asked about itself once somebody comes.
type openID struct {
	kit.OpenID
	mu       sync.Mutex
	provider *oidc.Provider
}

const (
	openIDCookie = "corpulan_openid"
	openIDPath   = "/sign-in/with"
	openIDLasts  = 10 * time.Minute
	openIDAsks   = 15 * time.Second // longest wait for the issuer
)

// journey is what a browser keeps on its way to the issuer and back, sealed.
type journey struct {
	State    string    `json:"state"`
	Nonce    string    `json:"nonce"`
	Verifier string    `json:"verifier"`
	To       string    `json:"to"`
	At       time.Time `json:"at"`
}

// config finds out about the issuer, once.
func (o *openID) config(ctx context.Context) (*oauth2.Config, *oidc.Provider, error) {
	o.mu.Lock()
	defer o.mu.Unlock()
	if o.provider == nil {
		// Its keys are asked for with this context later, too: it must outlive the request.
		p, err := oidc.NewProvider(context.WithoutCancel(ctx), o.Issuer)
		if err != nil {
			return nil, nil, fmt.Errorf("asking %s about itself: %w", o.Issuer, err)
		}
		o.provider = p
	}
	return &oauth2.Config{ClientID: o.ClientID, ClientSecret: o.Secret, Endpoint: o.provider.Endpoint(),
		RedirectURL: strings.TrimRight(o.Address, "/") + openIDPath + "/back", Scopes: []string{oidc.ScopeOpenID, "email", "profile"}}, o.provider, nil
}

// toIssuer sends a browser to the issuer.
func (s *handlers) toIssuer(c *gin.Context) {
	ctx, cancel := s.issuerContext(c)
	defer cancel()
	config, _, err := s.openID.config(ctx)
	if err != nil {
		s.issuerFails(c, "/", err)
		return
	}
	p := journey{State: rand.Text(), Nonce: rand.Text(), Verifier: oauth2.GenerateVerifier(), To: ourPath(c.Query("to")), At: time.Now()}
	b, err := json.Marshal(p)
	if err == nil {
		b, err = s.Sealer.Seal("openid", b)
	}
	if err != nil {
		s.Fail(c, err)
		return
	}
	http.SetCookie(c.Writer, &http.Cookie{Name: openIDCookie, Value: base64.RawURLEncoding.EncodeToString(b), Path: openIDPath, MaxAge: int(openIDLasts.Seconds()), HttpOnly: true, SameSite: http.SameSiteLaxMode, Secure: kit.Secure(c.Request)})
	c.Redirect(http.StatusSeeOther, config.AuthCodeURL(p.State, oidc.Nonce(p.Nonce), oauth2.S256ChallengeOption(p.Verifier)))
}

// issuerContext bounds what we ask the issuer.
func (s *handlers) issuerContext(c *gin.Context) (context.Context, context.CancelFunc) {
	ctx, cancel := context.WithTimeout(c.Request.Context(), openIDAsks)
	return oidc.ClientContext(ctx, &http.Client{Timeout: openIDAsks}), cancel
}

// journeyOf is what the browser brought back, used up with it.
func (s *handlers) journeyOf(c *gin.Context) (p journey, err error) {
	text, err := c.Cookie(openIDCookie)
	if err != nil {
		return p, account.ErrStale
	}
	http.SetCookie(c.Writer, &http.Cookie{Name: openIDCookie, Path: openIDPath, MaxAge: -1, HttpOnly: true, SameSite: http.SameSiteLaxMode, Secure: kit.Secure(c.Request)})
	sealed, err := base64.RawURLEncoding.DecodeString(text)
	if err != nil {
		return p, account.ErrSealed
	}
	b, err := s.Sealer.Open("openid", sealed)
	if err == nil {
		err = json.Unmarshal(b, &p)
	}
	if err == nil && (time.Since(p.At) > openIDLasts || subtle.ConstantTimeCompare([]byte(p.State), []byte(c.Query("state"))) != 1) {
		err = account.ErrStale
	}
	return p, err
}

// fromIssuer signs in whoever comes back from the issuer.
func (s *handlers) fromIssuer(c *gin.Context) {
	ctx, cancel := s.issuerContext(c)
	defer cancel()
	c.Header("Referrer-Policy", "no-referrer") // the address holds a code
	p, err := s.journeyOf(c)
	if err != nil {
		s.showSignIn(c, http.StatusBadRequest, signInBody{Wrong: "That sign-in was not begun here, or took too long. Begin again."})
		return
	}
	if c.Query("error") != "" {
		s.showSignIn(c, http.StatusForbidden, signInBody{To: p.To, Wrong: message.Of("%s did not sign you in.", kit.Capitalised(s.openID.Name))})
		return
	}
	id, err := s.identity(ctx, c.Query("code"), p)
	if err != nil {
		s.issuerFails(c, p.To, err)
		return
	}
	token, pending, err := account.SignInBy(ctx, s.Store, s.Sealer, id, askerOf(c), time.Now())
	switch {
	case errors.Is(err, account.ErrUnproven):
		s.refused(c, "unproven address of the issuer")
		s.showSignIn(c, http.StatusForbidden, signInBody{To: p.To, Wrong: message.Of("%s has not made sure that %s is your address, and so nobody is let in by it.", kit.Capitalised(s.openID.Name), id.Email)})
	case errors.Is(err, account.ErrUninvited):
		s.refused(c, "uninvited")
		s.showSignIn(c, http.StatusForbidden, signInBody{To: p.To, Wrong: message.Of("Nobody here has invited %s. An owner of a publication does, under People.", id.Email)})
	case err != nil:
		s.Fail(c, err)
	case pending != "":
		s.askCode(c, http.StatusOK, codeBody{Pending: pending, To: p.To})
	default:
		s.letIn(c, token, p.To)
	}
}

// identity is whom the issuer names for a code.
func (s *handlers) identity(ctx context.Context, code string, p journey) (id account.Identity, err error) {
	config, provider, err := s.openID.config(ctx)
	if err != nil {
		return id, err
	}
	tokens, err := config.Exchange(ctx, code, oauth2.VerifierOption(p.Verifier))
	if err != nil {
		return id, err
	}
	raw, ok := tokens.Extra("id_token").(string)
	if !ok {
		return id, errors.New("the issuer sent no ID token")
	}
	token, err := provider.VerifierContext(ctx, &oidc.Config{ClientID: config.ClientID}).Verify(ctx, raw)
	if err != nil {
		return id, err
	}
	if subtle.ConstantTimeCompare([]byte(token.Nonce), []byte(p.Nonce)) != 1 {
		return id, errors.New("the ID token was made for another sign-in")
	}
	var claims struct {
		Email    string   `json:"email"`
		Verified bool     `json:"email_verified"`
		Name     string   `json:"name"`
		Methods  []string `json:"amr"` // RFC 8176: "mfa" where more than one factor was asked for
	}
	if err := token.Claims(&claims); err != nil {
		return id, err
	}
	return account.Identity{Issuer: token.Issuer, Subject: token.Subject, Email: claims.Email, Verified: claims.Verified, Name: claims.Name, Factors: slices.Contains(claims.Methods, "mfa")}, nil
}

// issuerFails says that the issuer cannot be asked, or answered nonsense.
func (s *handlers) issuerFails(c *gin.Context, to string, err error) {
	s.Log.Warn("signing in by the issuer failed", "issuer", s.openID.Issuer, "error", withoutQuery(err))
	s.showSignIn(c, http.StatusBadGateway, signInBody{To: to, Wrong: message.Of("%s could not be asked. Try again, or sign in with your password.", kit.Capitalised(s.openID.Name))})
}

// withoutQuery is an error without what an address asked: it may hold a code.
func withoutQuery(err error) error {
	var u *url.Error
	if errors.As(err, &u) {
		if at, parseErr := url.Parse(u.URL); parseErr == nil {
			at.RawQuery = ""
			return fmt.Errorf("%s %s: %w", u.Op, at, u.Err)
		}
	}
	return err
}
