package account

import (
	"context"
	"crypto/hmac"
	"crypto/sha256"
	"crypto/subtle"
	"encoding/hex"
	"fmt"
	"time"

	"corpulan/core/message"
	"corpulan/store"
)

// ErrTooSoon says that there were too many wrong guesses.
var ErrTooSoon = message.Errorf("too many wrong passwords; wait a moment")

// Guess is a try at a secret: a password, a code, the password of a link. Each is counted as a wrong
// one before it is looked at, three times: for this secret from this place, for all secrets from this
// place, and for this secret from anywhere. From the free ones on each of these makes the next guess
// wait for a second, doubled up to a longest pause. A browser that this secret has let in before is
// counted by itself: so nobody's guesses keep the right person out, wherever they come from (OWASP,
// "Slow Down Online Guessing Attacks with Device Cookies").
type Guess struct {
	Kind  Guessed
	Of    string // whose secret it is
	From  string // the place
	Known bool   // the browser was let in by it before
}

// Guessed is a kind of secret.
type Guessed string

// The secrets that can be guessed at.
const (
	APassword     Guessed = "sign-in"
	ACode         Guessed = "code"
	ALinkPassword Guessed = "link"
)

// bounds are how many wrong guesses are free, and the longest pause after them. Our own: a password
// has 15 characters, a code six digits, three of which are good at a time.
type bounds struct {
	free    int
	longest time.Duration
}

var (
	here     = bounds{5, 30 * time.Second}  // one secret, from one place
	place    = bounds{60, 30 * time.Second} // all secrets, from one place: an office signs in
	anywhere = map[Guessed]bounds{APassword: {20, 2 * time.Second}, ACode: {10, 10 * time.Minute}, ALinkPassword: {40, 5 * time.Second}}
)

type count struct {
	key string
	bounds
}

func (g Guess) counts() []count {
	if g.Known {
		return []count{{string(g.Kind) + " known " + g.Of, here}}
	}
	return []count{{string(g.Kind) + " " + g.From + " " + g.Of, here}, {"place " + g.From, place}, {string(g.Kind) + " anywhere " + g.Of, anywhere[g.Kind]}}
}

// Begin counts a guess; ErrTooSoon where it is not to be looked at yet, and then it counts nothing.
func (g Guess) Begin(ctx context.Context, st *store.Store, now time.Time) error {
	counts := g.counts()
	for i, c := range counts {
		may, err := st.Try(ctx, c.key, now, c.free, c.longest)
		if err != nil {
			return err
		}
		if may {
			continue
		}
		for _, c := range counts[:i] {
			if err := st.TakeBack(ctx, c.key); err != nil {
				return err
			}
		}
		return ErrTooSoon
	}
	return nil
}

// Right takes a guess that was right back: from this place there were none.
func (g Guess) Right(ctx context.Context, st *store.Store) error {
	counts := g.counts()
	for i, c := range counts {
		give := st.TakeBack
		if i == 0 {
			give = st.Passed
		}
		if err := give(ctx, c.key); err != nil {
			return err
		}
	}
	return nil
}

// Asker is where somebody who signs in comes from.
type Asker struct {
	From  string // the place
	Agent string // what the browser calls itself
	Had   string // the session that it had
	Known string // what it keeps since it was let in; see KnownBy
}

// KnownBy is what a browser keeps that somebody's password has let in. It can be made only by who
// has the kept password, and is void with it; empty for who has none.
func KnownBy(p store.Person) string {
	if p.Password == "" {
		return ""
	}
	m := hmac.New(sha256.New, []byte(p.Password))
	fmt.Fprintf(m, "known by %d", p.ID)
	return hex.EncodeToString(m.Sum(nil))
}

func (a Asker) knownBy(p store.Person) bool {
	known := KnownBy(p)
	return known != "" && subtle.ConstantTimeCompare([]byte(a.Known), []byte(known)) == 1
}
