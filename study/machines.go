package study

import (
	"context"
	"crypto/hmac"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"net/url"
	"strconv"
	"strings"
	"time"

	"corpulan/account"
	"corpulan/core/message"
	"corpulan/store"
)

// Services are a publication's own: templates and addresses with whatever keys they hold. They
// are kept sealed, and shown as the names of their hosts alone.
type Services struct {
	Search   string `json:"search,omitempty"`   // OpenSearch template
	Suggest  string `json:"suggest,omitempty"`  // of its suggestions
	Keywords string `json:"keywords,omitempty"` // address of a keyword service
}

// ErrService says that a service's address is none.
var ErrService = message.Errorf("the address of a service begins with https:// or http://, and a search template holds {searchTerms}")

func servicesPurpose(publication int64) string { return fmt.Sprintf("services of %d", publication) }

// ServicesOf are a publication's own services; nil where it uses the installation's.
func ServicesOf(s *account.Sealer, p store.Publication) (*Services, error) {
	if p.Services == nil {
		return nil, nil
	}
	b, err := s.Open(servicesPurpose(p.ID), p.Services)
	if err != nil {
		return nil, err
	}
	var x Services
	return &x, json.Unmarshal(b, &x)
}

// SetServices keeps a publication's own services; none at all for the installation's.
func SetServices(ctx context.Context, sc store.Scope, s *account.Sealer, publication int64, x Services) error {
	if x == (Services{}) {
		return sc.SetServices(ctx, nil)
	}
	for _, a := range []struct {
		at    string
		terms bool
	}{{x.Search, true}, {x.Suggest, true}, {x.Keywords, false}} {
		u, err := url.Parse(strings.NewReplacer("{", "", "}", "").Replace(a.at))
		if a.at != "" && (err != nil || u.Host == "" || u.Scheme != "http" && u.Scheme != "https" || a.terms && !strings.Contains(a.at, "{searchTerms}")) {
			return ErrService
		}
	}
	b, err := json.Marshal(x)
	if err != nil {
		return err
	}
	sealed, err := s.Seal(servicesPurpose(publication), b)
	if err != nil {
		return err
	}
	return sc.SetServices(ctx, sealed)
}

// TokenPrefix stands before the tokens of programs, so that they are known for what they are
// where they do not belong.
const TokenPrefix = "corpulan_"

// MakeToken makes a token for programs. It is shown once, and kept as its digest.
func MakeToken(ctx context.Context, sc store.Scope, name string, scopes []string, lasts time.Duration) (string, error) {
	token, _, err := account.NewToken()
	if err != nil {
		return "", err
	}
	token = TokenPrefix + token
	t := &store.Token{Digest: account.DigestOf(token), Name: name, Scopes: scopes}
	if lasts > 0 {
		until := time.Now().Add(lasts)
		t.ExpiresAt = &until
	}
	return token, sc.CreateToken(ctx, t)
}

// TokenOf finds an open token; store.ErrNotFound for everything else.
func TokenOf(ctx context.Context, st *store.Store, token string) (store.Token, store.Publication, error) {
	if rest, ok := strings.CutPrefix(token, TokenPrefix); !ok || !account.IsToken(rest) {
		return store.Token{}, store.Publication{}, store.ErrNotFound
	}
	return st.TokenBy(ctx, account.DigestOf(token))
}

// MakeWebhook keeps a webhook with a secret to sign what it is told, which is shown once.
func MakeWebhook(ctx context.Context, sc store.Scope, s *account.Sealer, address string, events []string) (secret string, err error) {
	u, err := url.Parse(address)
	if err != nil || u.Host == "" || u.Scheme != "http" && u.Scheme != "https" || u.User != nil {
		return "", ErrService
	}
	secret = account.NewSecret()
	w := &store.Webhook{Address: address, Events: events}
	if w.Secret, err = s.Seal(webhookPurpose, []byte(secret)); err != nil {
		return "", err
	}
	return secret, sc.CreateWebhook(ctx, w)
}

const webhookPurpose = "webhook"

// WebhookSecret opens the secret of a webhook.
func WebhookSecret(s *account.Sealer, w store.Webhook) (string, error) {
	b, err := s.Open(webhookPurpose, w.Secret)
	return string(b), err
}

// Sign is the signature of what a webhook is told at a time: HMAC-SHA-256 (RFC 2104) over the
// seconds since 1970, a point, and the body, in hexadecimal figures.
func Sign(secret string, at time.Time, body []byte) string {
	m := hmac.New(sha256.New, []byte(secret))
	m.Write([]byte(strconv.FormatInt(at.Unix(), 10) + "."))
	m.Write(body)
	return hex.EncodeToString(m.Sum(nil))
}
