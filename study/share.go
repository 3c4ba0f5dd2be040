package study

import (
	"context"
	"crypto/hmac"
	"crypto/rand"
	"crypto/sha256"
	"crypto/subtle"
	"encoding/base64"
	"encoding/hex"
	"errors"
	"fmt"
	"strings"
	"time"

	"corpulan/store"

	"golang.org/x/crypto/argon2"
)

// Sharing is what a link to a brief allows.
type Sharing struct {
	Name     string // whom it is for
	Remarks  bool
	Drafts   bool   // the draft may be written
	Password string // empty for none
	Lasts    time.Duration
}

// tokenBytes is the randomness of a link's address: 256 bits, beyond all guessing.
const tokenBytes = 32

// Share makes a link to a brief. The token stands in its address and is not kept: whoever
// loses it needs a new link.
func (c Commands) Share(ctx context.Context, study int64, s Sharing) (token string, err error) {
	raw := make([]byte, tokenBytes)
	if _, err = rand.Read(raw); err != nil {
		return "", err
	}
	token = base64.RawURLEncoding.EncodeToString(raw)
	l := &store.ShareLink{StudyID: study, Digest: digestOf(token), Name: s.Name, Remarks: s.Remarks, Drafts: s.Drafts}
	if s.Lasts > 0 {
		until := time.Now().Add(s.Lasts)
		l.ExpiresAt = &until
	}
	if s.Password != "" {
		if l.Password, err = hashed(s.Password); err != nil {
			return "", err
		}
	}
	return token, c.scope.CreateLink(ctx, l)
}

// Revoke shuts a link for good.
func (c Commands) Revoke(ctx context.Context, study, link int64) error {
	return c.scope.RevokeLink(ctx, study, link)
}

func digestOf(token string) []byte {
	d := sha256.Sum256([]byte(token))
	return d[:]
}

// OpenLink finds an open link by the token of its address; store.ErrNotFound for every other.
func OpenLink(ctx context.Context, st *store.Store, token string) (store.ShareLink, error) {
	if len(token) != base64.RawURLEncoding.EncodedLen(tokenBytes) {
		return store.ShareLink{}, store.ErrNotFound
	}
	return st.LinkBy(ctx, digestOf(token))
}

// Errors of a link's password.
var (
	ErrWrongPassword = errors.New("this is not the password")
	ErrTooSoon       = errors.New("too many wrong passwords; wait a moment")
)

// Guessing is slowed down from the sixth wrong password on, a link at a time, never for longer
// than the longest pause: whoever knows the password gets in after that. Our own.
const (
	freeGuesses  = 5
	longestPause = 30 * time.Second
)

// CheckPassword tells whether a password opens a link. Wrong ones are counted.
func CheckPassword(ctx context.Context, st *store.Store, l store.ShareLink, password string, now time.Time) error {
	may, err := st.Guess(ctx, l.ID, now, freeGuesses, longestPause)
	switch {
	case err != nil:
		return err
	case !may:
		return ErrTooSoon
	case !matches(l.Password, password):
		return ErrWrongPassword
	}
	return nil
}

// Pass is what a browser keeps once the password of a link was given: it can be made only by
// who has the address and the kept password both, and is void with either.
func Pass(l store.ShareLink, token string) string {
	m := hmac.New(sha256.New, []byte(l.Password))
	m.Write([]byte(token))
	return hex.EncodeToString(m.Sum(nil))
}

// HasPass tells a pass that was made for a link.
func HasPass(l store.ShareLink, token, pass string) bool {
	return subtle.ConstantTimeCompare([]byte(Pass(l, token)), []byte(pass)) == 1
}

// The costs of argon2id: 19 MiB, two passes, one lane (OWASP Password Storage Cheat Sheet).
const (
	argonMemory = 19 * 1024 // KiB
	argonPasses = 2
	argonLanes  = 1
	argonBytes  = 32
)

// hashed is a password as it is kept: salt and hash, each in base64.
func hashed(password string) (string, error) {
	salt := make([]byte, 16)
	if _, err := rand.Read(salt); err != nil {
		return "", err
	}
	key := argon2.IDKey([]byte(password), salt, argonPasses, argonMemory, argonLanes, argonBytes)
	enc := base64.RawStdEncoding
	return fmt.Sprintf("argon2id$%s$%s", enc.EncodeToString(salt), enc.EncodeToString(key)), nil
}

func matches(kept, password string) bool {
	parts := strings.Split(kept, "$")
	if len(parts) != 3 || parts[0] != "argon2id" {
		return false
	}
	salt, err := base64.RawStdEncoding.DecodeString(parts[1])
	if err != nil {
		return false
	}
	want, err := base64.RawStdEncoding.DecodeString(parts[2])
	if err != nil {
		return false
	}
	key := argon2.IDKey([]byte(password), salt, argonPasses, argonMemory, argonLanes, argonBytes)
	return subtle.ConstantTimeCompare(key, want) == 1
}

// Answer answers a remark on a brief.
func (c Commands) Answer(ctx context.Context, study, remark int64, author, body string) error {
	list, err := c.scope.Remarks(ctx, study)
	if err != nil {
		return err
	}
	for _, r := range list {
		if r.ID == remark && r.Answers == nil {
			return c.scope.AddRemark(ctx, &store.Remark{StudyID: study, Answers: &remark, Line: r.Line, SaidOf: r.SaidOf, Author: author, Body: body})
		}
	}
	return store.ErrNotFound
}
