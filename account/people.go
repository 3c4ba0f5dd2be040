// Package account is who asks: people, how they prove who they are, and the members of a
// publication.
//
//   - people.go    signing in and out, accounts, invitations, roles
//   - password.go  passwords and tokens as they are kept
//   - guesses.go   how often may be guessed
//   - factor.go    the second factor (RFC 6238) and spare codes
//   - identity.go  identities that an issuer vouches for
//   - told.go      what people are told of it
//   - seal.go      what must not be read in the database
package account

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"net/mail"
	"strings"
	"time"
	"unicode/utf8"

	"corpulan/core/message"
	"corpulan/store"

	"github.com/trustelem/zxcvbn"
)

// Bounds of accounts. A password's least length is that of NIST SP 800-63B-4 (2025) for one
// that stands alone; the rest our own.
const (
	shortestPassword = 15
	LongestPassword  = 200
	LongestName      = 80
	longestEmail     = 254 // RFC 5321, section 4.5.3.1.3, as errata have it
	ticketLasts      = 7 * 24 * time.Hour
	sessionLasts     = 30 * 24 * time.Hour // unused
	sessionEnds      = 90 * 24 * time.Hour // however much it is used
	seenEvery        = time.Hour
)

// Errors of accounts.
var (
	ErrTheirOwn = message.Errorf("this address has an account: sign in to it first, then join")
	ErrSignIn   = message.Errorf("address and password do not belong together")
	ErrPassword = message.Errorf("a password has at least %d characters and at most %d", shortestPassword, LongestPassword)
	ErrCommon   = message.Errorf("this password is among those that are tried first; take words that nobody would put together")
	ErrEmail    = message.Errorf("this is no e-mail address")
	ErrName     = message.Errorf("a name has between 1 and %d characters", LongestName)
)

// Visitor is who asks: somebody signed in, in one of their publications.
type Visitor struct {
	Person      store.Person
	Session     store.Session
	Publication store.Publication
	Role        store.Role
	Withheld    bool               // they are an owner, and may no more than a strategist until they have a second factor
	Others      []store.Membership // all of them, this one too
}

// IsEmail tells whether a text is one plain address.
func IsEmail(s string) bool {
	a, err := mail.ParseAddress(s)
	return err == nil && a.Address == s && len(s) <= longestEmail
}

// minGuesses is how many tries a password must take of somebody who begins with common ones,
// words, names, dates, keys that lie beside each other, and what repeats: beyond what is tried
// online (zxcvbn's third step; Wheeler 2016). Of a long one its beginning is looked at.
const (
	minGuesses = 1e8
	lookedAt   = 60 // bytes
)

// checkPassword says what is wrong with a new password of somebody; own is what others know of
// them.
func checkPassword(password string, own ...string) error {
	if n := utf8.RuneCountInString(password); n < shortestPassword || n > LongestPassword {
		return ErrPassword
	}
	part := strings.ToValidUTF8(password[:min(len(password), lookedAt)], "")
	if zxcvbn.PasswordStrength(part, append(own, "corpulan")).Guesses < minGuesses {
		return ErrCommon
	}
	return nil
}

// Invite makes a link by which somebody becomes a member of a publication, or, without one, sets
// a new password. The token stands in its address and is not kept; by is who made it, 0 for who
// runs the program. Without an address whoever has the link says theirs: the first account.
func Invite(ctx context.Context, st *store.Store, email string, publication int64, role store.Role, by int64) (token string, err error) {
	if email != "" && !IsEmail(email) {
		return "", ErrEmail
	}
	token, digest, err := NewToken()
	if err != nil {
		return "", err
	}
	t := &store.Ticket{Digest: digest, Email: email, Role: role, ExpiresAt: time.Now().Add(ticketLasts)}
	if publication != 0 {
		t.PublicationID = &publication
	}
	if by != 0 {
		t.MadeBy = &by
	}
	return token, st.CreateTicket(ctx, t)
}

// Ticket finds a link that is still good, and whom it is for, where they have an account.
func Ticket(ctx context.Context, st *store.Store, token string) (t store.Ticket, known *store.Person, err error) {
	if !IsToken(token) {
		return t, nil, store.ErrNotFound
	}
	if t, err = st.Ticket(ctx, DigestOf(token)); err != nil {
		return t, nil, err
	}
	if t.Email == "" {
		return t, nil, nil
	}
	p, err := st.PersonBy(ctx, t.Email)
	if errors.Is(err, store.ErrNotFound) {
		if t.PublicationID == nil {
			return t, nil, store.ErrNotFound // a new password for nobody
		}
		return t, nil, nil
	}
	return t, &p, err
}

// TakeTicket uses a link: it makes the account where there is none, sets the password where the
// link is for that, and makes the person a member. An invitation of somebody who has an account
// neither sets nor checks a password, since whoever invites knows the link too: the person, signed
// in by their own means (signedIn is their number, 0 for nobody), accepts it. It returns a new
// session's token, or none where there is one or a second factor is still to be given.
func TakeTicket(ctx context.Context, st *store.Store, token, email, name, password, agent string, signedIn int64) (string, error) {
	var session string
	err := st.InTx(ctx, func(tx *store.Store, _ *sql.Tx) error {
		t, known, err := Ticket(ctx, tx, token)
		if err != nil {
			return err
		}
		if err := tx.UseTicket(ctx, DigestOf(token)); err != nil {
			return err
		}
		var p store.Person
		switch {
		case known == nil:
			if name = strings.Join(strings.Fields(name), " "); name == "" || utf8.RuneCountInString(name) > LongestName {
				return ErrName
			}
			if err := checkPassword(password, name, t.Email, email); err != nil {
				return err
			}
			if t.Email != "" {
				email = t.Email
			}
			if email = strings.TrimSpace(email); !IsEmail(email) {
				return ErrEmail
			}
			p = store.Person{Email: email, Name: name}
			if t.MadeBy == nil { // whoever runs the program knows to whom they gave it
				p.ProvenAt = justNow()
			}
			if p.Password, err = Hashed(password); err != nil {
				return err
			}
			if err := tx.CreatePerson(ctx, &p); err != nil {
				return err
			}
		case t.PublicationID != nil:
			if known.ID != signedIn {
				return ErrTheirOwn
			}
			return tx.SetMember(ctx, *t.PublicationID, known.ID, t.Role)
		default:
			if err := checkPassword(password, known.Name, known.Email); err != nil {
				return err
			}
			p = *known
			kept, err := Hashed(password)
			if err != nil {
				return err
			}
			if err := tx.SetPassword(ctx, p.ID, kept, 0); err != nil {
				return err
			}
			if err := tx.Tell(ctx, p.ID, store.PasswordSet, BrowserOf(agent), ""); err != nil {
				return err
			}
		}
		if t.PublicationID != nil {
			if err := tx.SetMember(ctx, *t.PublicationID, p.ID, t.Role); err != nil {
				return err
			}
		}
		if p.Totp != nil {
			return nil // a link is one factor, and the second is asked for at signing in
		}
		session, err = begin(ctx, tx, p.ID, t.PublicationID, agent)
		return err
	})
	return session, err
}

func justNow() *time.Time {
	t := time.Now()
	return &t
}

// begin makes a session and gives its token.
func begin(ctx context.Context, st *store.Store, person int64, publication *int64, agent string) (string, error) {
	token, digest, err := NewToken()
	if err != nil {
		return "", err
	}
	return token, st.CreateSession(ctx, &store.Session{Digest: digest, PersonID: person, PublicationID: publication, Agent: agentOf(agent), ExpiresAt: time.Now().Add(sessionLasts)})
}

// agentOf is what a browser calls itself, as far as it is kept.
func agentOf(agent string) string {
	if r := []rune(agent); len(r) > 200 {
		return string(r[:200])
	}
	return agent
}

// nobody is a password that no one has: an address without an account takes as long to refuse
// as one with.
const nobody = "argon2id$AAAAAAAAAAAAAAAAAAAAAA$AAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAA"

// SignIn begins a session of somebody who gives their password, and ends the one the browser had
// (against session fixation). Wrong ones are counted, see Guess. Who has a second factor gets no
// session yet, but what FinishSignIn takes with a code of it.
func SignIn(ctx context.Context, st *store.Store, s *Sealer, email, password string, by Asker, now time.Time) (token, pending string, err error) {
	p, err := st.PersonBy(ctx, strings.TrimSpace(email))
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return "", "", err
	}
	guess := Guess{APassword, strings.TrimSpace(email), by.From, by.knownBy(p)}
	if err := guess.Begin(ctx, st, now); err != nil {
		return "", "", err
	}
	kept := p.Password
	if kept == "" {
		kept = nobody
	}
	if !Matches(kept, password) || p.ID == 0 || p.DisabledAt != nil {
		return "", "", ErrSignIn
	}
	if err := guess.Right(ctx, st); err != nil {
		return "", "", err
	}
	if p.Totp != nil {
		pending, err = s.pending(p, now)
		return "", pending, err
	}
	token, err = enter(ctx, st, p, nil, by)
	return token, "", err
}

// enter begins the session of somebody who has given all that is asked for, in place of the one that
// the browser had, and tells them where they never were before.
func enter(ctx context.Context, st *store.Store, p store.Person, into *int64, by Asker) (token string, err error) {
	err = st.InTx(ctx, func(tx *store.Store, _ *sql.Tx) error {
		if err := SignOut(ctx, tx, by.Had); err != nil {
			return err
		}
		been, elsewhere, err := tx.SignedInBefore(ctx, p.ID, agentOf(by.Agent))
		if err != nil {
			return err
		}
		// A browser that the password has let in keeps a mark; who has none is known by what it calls itself.
		if p.Password != "" && !by.knownBy(p) && (been || elsewhere) || p.Password == "" && elsewhere && !been {
			if err := tx.Tell(ctx, p.ID, store.NewPlace, BrowserOf(by.Agent)+", "+by.From, ""); err != nil {
				return err
			}
		}
		token, err = begin(ctx, tx, p.ID, into, by.Agent)
		return err
	})
	return token, err
}

// SignInAs begins a session of somebody without a password: the demo's visitor.
func SignInAs(ctx context.Context, st *store.Store, person int64, agent string) (string, error) {
	return begin(ctx, st, person, nil, agent)
}

// SignOut ends a session by its token; one that is none is none the worse.
func SignOut(ctx context.Context, st *store.Store, token string) error {
	if !IsToken(token) {
		return nil
	}
	x, p, err := st.SessionBy(ctx, DigestOf(token))
	if errors.Is(err, store.ErrNotFound) {
		return nil
	}
	if err != nil {
		return err
	}
	err = st.RevokeSession(ctx, p.ID, x.ID)
	if errors.Is(err, store.ErrNotFound) {
		return nil
	}
	return err
}

// ErrNowhere says that somebody is a member of no publication.
var ErrNowhere = message.Errorf("you are a member of no publication")

// Who finds who asks by the token of their session: store.ErrNotFound where it opens nothing,
// ErrNowhere where they are a member of nothing any more.
func Who(ctx context.Context, st *store.Store, token string, now time.Time) (*Visitor, error) {
	if !IsToken(token) {
		return nil, store.ErrNotFound
	}
	x, p, err := st.SessionBy(ctx, DigestOf(token))
	if err != nil {
		return nil, err
	}
	if now.Sub(x.SeenAt) > seenEvery {
		if err := st.SeeSession(ctx, x.ID, earlier(now.Add(sessionLasts), x.MadeAt.Add(sessionEnds))); err != nil {
			return nil, err
		}
	}
	v := &Visitor{Person: p, Session: x}
	if v.Others, err = st.Memberships(ctx, p.ID); err != nil {
		return nil, err
	}
	for i, m := range v.Others {
		if i == 0 || x.PublicationID != nil && m.ID == *x.PublicationID {
			v.Publication, v.Role = m.Publication, m.Role
		}
	}
	if len(v.Others) == 0 {
		return v, ErrNowhere
	}
	if v.Role == store.Owner && p.Totp == nil && v.Publication.Settings.Data().Factor {
		v.Role, v.Withheld = store.Strategist, true
	}
	return v, nil
}

func earlier(a, b time.Time) time.Time {
	if b.Before(a) {
		return b
	}
	return a
}

// Confirm tells whether somebody who is signed in gives their own password: a browser that was
// left open must not be enough to change how they sign in. Who has none is known by an issuer
// alone, or is the demo's visitor.
func Confirm(ctx context.Context, st *store.Store, p store.Person, password string, now time.Time) error {
	if p.Password == "" {
		return nil
	}
	guess := Guess{APassword, fmt.Sprintf("of %d", p.ID), "within", true} // they are signed in
	if err := guess.Begin(ctx, st, now); err != nil {
		return err
	}
	if !Matches(p.Password, password) {
		return ErrSignIn
	}
	return guess.Right(ctx, st)
}

// ChangePassword sets another password for somebody who gives theirs, and ends their other
// sessions.
func ChangePassword(ctx context.Context, st *store.Store, v *Visitor, was, next string, now time.Time) error {
	if v.Person.Password == "" {
		return ErrSignIn // there is none to change; a link sets one
	}
	if err := Confirm(ctx, st, v.Person, was, now); err != nil {
		return err
	}
	if err := checkPassword(next, v.Person.Name, v.Person.Email); err != nil {
		return err
	}
	kept, err := Hashed(next)
	if err != nil {
		return err
	}
	return st.InTx(ctx, func(tx *store.Store, _ *sql.Tx) error {
		if err := tx.SetPassword(ctx, v.Person.ID, kept, v.Session.ID); err != nil {
			return err
		}
		return tx.Tell(ctx, v.Person.ID, store.PasswordSet, BrowserOf(v.Session.Agent), "")
	})
}
