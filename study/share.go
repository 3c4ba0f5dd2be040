package study

import (
	"context"
	"crypto/hmac"
	"crypto/sha256"
	"crypto/subtle"
	"encoding/hex"
	"fmt"
	"time"

	"corpulan/account"
	"corpulan/core/message"
	"corpulan/store"
)

// Sharing is what a link to a brief allows.
type Sharing struct {
	Name     string // whom it is for
	Remarks  bool
	Drafts   bool   // the draft may be written
	Password string // empty for none
	Lasts    time.Duration
}

// Share makes a link to a brief. The token stands in its address and is not kept: whoever
// loses it needs a new link.
func (c Commands) Share(ctx context.Context, study int64, s Sharing) (token string, err error) {
	token, digest, err := account.NewToken()
	if err != nil {
		return "", err
	}
	l := &store.ShareLink{StudyID: study, Digest: digest, Name: s.Name, Remarks: s.Remarks, Drafts: s.Drafts}
	if s.Lasts > 0 {
		until := time.Now().Add(s.Lasts)
		l.ExpiresAt = &until
	}
	if s.Password != "" {
		if l.Password, err = account.Hashed(s.Password); err != nil {
			return "", err
		}
	}
	return token, c.scope.CreateLink(ctx, l)
}

// Revoke shuts a link for good.
func (c Commands) Revoke(ctx context.Context, study, link int64) error {
	return c.scope.RevokeLink(ctx, study, link)
}

// OpenLink finds an open link by the token of its address; store.ErrNotFound for every other.
func OpenLink(ctx context.Context, st *store.Store, token string) (store.ShareLink, error) {
	if !account.IsToken(token) {
		return store.ShareLink{}, store.ErrNotFound
	}
	return st.LinkBy(ctx, account.DigestOf(token))
}

// Errors of a link's password.
var (
	ErrWrongPassword = message.Errorf("this is not the password")
)

// CheckPassword tells whether a password opens a link. Wrong ones are counted, by link and by place.
func CheckPassword(ctx context.Context, st *store.Store, l store.ShareLink, password, from string, now time.Time) error {
	guess := account.Guess{Kind: account.ALinkPassword, Of: fmt.Sprint(l.ID), From: from}
	if err := guess.Begin(ctx, st, now); err != nil {
		return err
	}
	if !account.Matches(l.Password, password) {
		return ErrWrongPassword
	}
	return guess.Right(ctx, st)
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

// Answer answers a remark on a brief.
func (c Commands) Answer(ctx context.Context, study, remark int64, author, body string) error {
	list, err := c.scope.Remarks(ctx, study)
	if err != nil {
		return err
	}
	for _, r := range list {
		if r.ID == remark && r.Answers == nil {
			return c.Remark(ctx, &store.Remark{StudyID: study, Answers: &remark, Line: r.Line, SaidOf: r.SaidOf, Author: author, Body: body})
		}
	}
	return store.ErrNotFound
}

// NoteOpened notes that a link was opened.
func NoteOpened(ctx context.Context, st *store.Store, link int64) error {
	return st.NoteOpened(ctx, link)
}
