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
	"corpulan/analysis"
	"corpulan/core/brief"
	"corpulan/core/message"
	"corpulan/store"
)

// Sharing is what a link to a brief allows.
type Sharing struct {
	Name     string // whom it is for
	Remarks  bool
	Drafts   bool   // the draft may be written
	Dossier  bool   // stands behind the brief
	Due      string // YYYY-MM-DD; empty where nothing is said
	Password string // empty for none
	Lasts    time.Duration
}

// HandOver hands a brief over as it stands: it says who writes it and by when, keeps this state, and makes a link that shows it.
func (c Commands) HandOver(ctx context.Context, study int64, s Sharing) (token string, err error) {
	handed := brief.Handed
	fields := map[string]*string{brief.FieldStatus: &handed, brief.FieldWriter: &s.Name}
	if s.Due != "" {
		fields[brief.FieldDue] = &s.Due
	}
	if _, err := c.SetParts(ctx, study, message.Of("Handed over to %s", s.Name), fields); err != nil {
		return "", err
	}
	document, revision, err := c.asItStands(ctx, study)
	if err != nil {
		return "", err
	}
	return c.share(ctx, study, s, document, &revision)
}

// HandAgain has a link show the brief as it now is.
func (c Commands) HandAgain(ctx context.Context, study, link int64) error {
	document, revision, err := c.asItStands(ctx, study)
	if err != nil {
		return err
	}
	return c.scope.ShowBy(ctx, study, link, document, revision)
}

// HandBack has a link show again what it showed before it was handed over again.
func (c Commands) HandBack(ctx context.Context, study, link int64) error {
	return c.scope.ShowBefore(ctx, study, link)
}

// asItStands is the brief as the document it is now. It goes with the link, and is not that of the revision: what the brief says
// changes also with the pages that count.
func (c Commands) asItStands(ctx context.Context, study int64) (document []byte, revision int, err error) {
	an, err := c.exactly(ctx, study)
	if err != nil {
		return nil, 0, err
	}
	document, err = an.Brief.Encode()
	return document, an.Saved.Revision, err
}

// HandedOver is the brief that a link shows: as it was handed over, else as it now is.
func HandedOver(l store.ShareLink, an *analysis.Analysis) (brief.Brief, error) {
	b := an.Brief
	if l.Document != nil {
		var err error
		if b, err = brief.Decode(l.Document); err != nil {
			return b, err
		}
		b = b.Saying(an.Setting.Words)
	}
	return b.WithDossier(l.Dossier), nil
}

// Share makes a link to a brief, which shows what becomes of it. The token stands in its address and is not kept: whoever
// loses it needs a new link.
func (c Commands) Share(ctx context.Context, study int64, s Sharing) (token string, err error) {
	return c.share(ctx, study, s, nil, nil)
}

func (c Commands) share(ctx context.Context, study int64, s Sharing, document []byte, revision *int) (token string, err error) {
	token, digest, err := account.NewToken()
	if err != nil {
		return "", err
	}
	l := &store.ShareLink{StudyID: study, Digest: digest, Name: s.Name, Remarks: s.Remarks, Drafts: s.Drafts, Dossier: s.Dossier, Document: document, Revision: revision}
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
