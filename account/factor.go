package account

import (
	"bytes"
	"context"
	"crypto/rand"
	"database/sql"
	"encoding/base64"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"image/png"
	"strings"
	"time"

	"corpulan/core/message"
	"corpulan/store"

	"github.com/pquerna/otp"
	"github.com/pquerna/otp/totp"
)

// A second factor for who wants it: time-based one-time passwords (RFC 6238) with SHA-1, six
// digits and steps of 30 seconds, which every program for them knows; a step earlier or later is
// taken, none twice.
const (
	factorStep    = 30
	factorSkew    = 1
	recoveryCodes = 10
	pendingLasts  = 5 * time.Minute
	offerLasts    = 30 * time.Minute
)

// Errors of the second factor.
var (
	ErrOldCode = message.Errorf("the code of the second factor you have now is not right, or was used already")
	ErrCode    = message.Errorf("this code is not right, or was used already")
	ErrStale   = message.Errorf("this took too long; begin again")
)

// sealedAt is what a browser brings back to us within a time.
type sealedAt struct {
	Person int64     `json:"person"`
	At     time.Time `json:"at"`
	Text   string    `json:"text,omitempty"`
}

func (s *Sealer) give(purpose string, x sealedAt) (string, error) {
	b, err := json.Marshal(x)
	if err != nil {
		return "", err
	}
	sealed, err := s.Seal(purpose, b)
	return base64.RawURLEncoding.EncodeToString(sealed), err
}

func (s *Sealer) take(purpose, text string, lasts time.Duration, now time.Time) (x sealedAt, err error) {
	sealed, err := base64.RawURLEncoding.DecodeString(text)
	if err != nil {
		return x, ErrSealed
	}
	b, err := s.Open(purpose, sealed)
	if err != nil {
		return x, err
	}
	if err := json.Unmarshal(b, &x); err != nil {
		return x, ErrSealed
	}
	if now.Sub(x.At) > lasts {
		return x, ErrStale
	}
	return x, nil
}

// pending is what FinishSignIn takes with a code.
func (s *Sealer) pending(p store.Person, now time.Time) (string, error) {
	return s.give("sign-in", sealedAt{p.ID, now, hex.EncodeToString(DigestOf(p.Password))})
}

// FactorOffer is a second factor that somebody may take.
type FactorOffer struct {
	Secret string // in base32, to be typed
	Image  string // the same as a QR code: a PNG in base64
	Sealed string // to be brought back with the first code
}

// OfferFactor makes the secret of a second factor. It is kept once a code of it has been given.
func OfferFactor(s *Sealer, p store.Person, now time.Time) (FactorOffer, error) {
	key, err := totp.Generate(totp.GenerateOpts{Issuer: "Corpulan", AccountName: p.Email})
	if err != nil {
		return FactorOffer{}, err
	}
	return offered(s, p, key, now)
}

// offered shows a secret, the same again where the first code was not right.
func offered(s *Sealer, p store.Person, key *otp.Key, now time.Time) (o FactorOffer, err error) {
	o.Secret = key.Secret()
	if o.Sealed, err = s.give("factor offer", sealedAt{p.ID, now, key.URL()}); err != nil {
		return o, err
	}
	img, err := key.Image(220, 220)
	if err != nil {
		return o, err
	}
	var b bytes.Buffer
	if err := png.Encode(&b, img); err != nil {
		return o, err
	}
	o.Image = base64.StdEncoding.EncodeToString(b.Bytes())
	return o, nil
}

// TakeFactor keeps the second factor that was offered, once its first code is right, and gives
// the codes that are good once each, which are shown this one time. With ErrCode the same offer
// comes back. Who has one already gives a code of that, too. Their other sessions end: who signed in
// without it is not to stay.
func TakeFactor(ctx context.Context, st *store.Store, s *Sealer, v *Visitor, sealed, code, old string, now time.Time) (codes []string, again FactorOffer, err error) {
	x, err := s.take("factor offer", sealed, offerLasts, now)
	if err != nil {
		return nil, again, err
	}
	p, err := st.Person(ctx, v.Person.ID)
	if err != nil {
		return nil, again, err
	}
	if x.Person != p.ID {
		return nil, again, ErrSealed
	}
	key, err := otp.NewKeyFromURL(x.Text)
	if err != nil {
		return nil, again, err
	}
	step, ok := stepOf(key.Secret(), code, now)
	if !ok {
		again, err = offered(s, p, key, x.At)
		return nil, again, errors.Join(ErrCode, err)
	}
	if p.Totp != nil {
		if err := CheckFactor(ctx, st, s, p, old, within(p), now); err != nil {
			again, offerErr := offered(s, p, key, x.At)
			return nil, again, errors.Join(ErrOldCode, err, offerErr)
		}
	}
	kept, err := s.Seal(factorPurpose(p.ID), []byte(key.Secret()))
	if err != nil {
		return nil, again, err
	}
	digests := make([]string, recoveryCodes)
	for i := range digests {
		raw := strings.ToLower(rand.Text()[:12]) // 60 bits
		codes = append(codes, raw[:4]+"-"+raw[4:8]+"-"+raw[8:])
		digests[i] = hex.EncodeToString(DigestOf(raw))
	}
	return codes, again, setFactor(ctx, st, v, kept, step, digests, store.FactorSet)
}

// setFactor keeps a factor, or none, and tells them.
func setFactor(ctx context.Context, st *store.Store, v *Visitor, sealed []byte, step int64, recovery []string, told string) error {
	return st.InTx(ctx, func(tx *store.Store, _ *sql.Tx) error {
		if err := tx.SetFactor(ctx, v.Person.ID, sealed, step, recovery, v.Session.ID); err != nil {
			return err
		}
		return tx.Tell(ctx, v.Person.ID, told, BrowserOf(v.Session.Agent), "")
	})
}

func factorPurpose(person int64) string { return fmt.Sprintf("factor of %d", person) }

// stepOf is the step of time whose code this is.
func stepOf(secret, code string, now time.Time) (int64, bool) {
	code = strings.ReplaceAll(strings.TrimSpace(code), " ", "")
	for _, d := range []int64{0, -1, 1} {
		at := now.Unix()/factorStep + d*factorSkew
		ok, err := totp.ValidateCustom(code, secret, time.Unix(at*factorStep, 0), totp.ValidateOpts{Period: factorStep, Digits: otp.DigitsSix, Algorithm: otp.AlgorithmSHA1})
		if err == nil && ok {
			return at, true
		}
	}
	return 0, false
}

// CheckFactor tells whether a code is one of somebody's second factor, or one of those that are
// good once; it is used up then. Wrong ones are counted: only who has the password comes this far.
func CheckFactor(ctx context.Context, st *store.Store, s *Sealer, p store.Person, code string, by Asker, now time.Time) error {
	guess := Guess{ACode, fmt.Sprint(p.ID), by.From, by.knownBy(p)}
	if err := guess.Begin(ctx, st, now); err != nil {
		return err
	}
	secret, err := s.Open(factorPurpose(p.ID), p.Totp)
	if err != nil {
		return err
	}
	used := false
	if step, ok := stepOf(string(secret), code, now); ok {
		used, err = st.UseStep(ctx, p.ID, step)
	} else {
		raw := strings.ToLower(strings.Map(func(r rune) rune {
			if r == '-' || r == ' ' {
				return -1
			}
			return r
		}, code))
		used, err = st.UseRecovery(ctx, p.ID, hex.EncodeToString(DigestOf(raw)))
	}
	if err != nil {
		return err
	}
	if !used {
		return ErrCode
	}
	return guess.Right(ctx, st)
}

// within is somebody who is signed in: a place of their own, which nobody else's guesses slow down.
func within(p store.Person) Asker {
	return Asker{From: fmt.Sprintf("within %d", p.ID), Known: KnownBy(p)}
}

// DropFactor takes the second factor away, for who gives a code of it; their other sessions end.
func DropFactor(ctx context.Context, st *store.Store, s *Sealer, v *Visitor, code string, now time.Time) error {
	p, err := st.Person(ctx, v.Person.ID)
	if err != nil {
		return err
	}
	if p.Totp == nil {
		return nil
	}
	if err := CheckFactor(ctx, st, s, p, code, within(p), now); err != nil {
		return err
	}
	return setFactor(ctx, st, v, nil, 0, []string{}, store.FactorDropped)
}

// FinishSignIn begins the session of somebody who gave their password and now a code.
func FinishSignIn(ctx context.Context, st *store.Store, s *Sealer, pending, code string, by Asker, now time.Time) (string, error) {
	x, err := s.take("sign-in", pending, pendingLasts, now)
	if err != nil {
		return "", err
	}
	p, err := st.Person(ctx, x.Person)
	if err != nil {
		return "", err
	}
	if p.DisabledAt != nil || p.Totp == nil || x.Text != hex.EncodeToString(DigestOf(p.Password)) {
		return "", ErrStale // the password was changed meanwhile
	}
	if err := CheckFactor(ctx, st, s, p, code, by, now); err != nil {
		return "", err
	}
	return enter(ctx, st, p, nil, by)
}
