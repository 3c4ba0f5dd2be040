package account_test

import (
	"bytes"
	"encoding/base32"
	"encoding/base64"
	"fmt"
	"image/png"
	"strings"
	"testing"
	"time"

	"corpulan/account"
	"corpulan/store"
	"corpulan/store/storetest"

	"github.com/pquerna/otp/totp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// What is sealed opens for its purpose with its secret, and for nothing else.
func TestSealing(t *testing.T) {
	_, err := account.NewSealer([]byte("short"))
	require.Error(t, err)
	s, err := account.NewSealer([]byte(account.NewSecret()))
	require.NoError(t, err)
	other, err := account.NewSealer([]byte(account.NewSecret()))
	require.NoError(t, err)
	sealed, err := s.Seal("a key", []byte("plain words"))
	require.NoError(t, err)
	again, err := s.Seal("a key", []byte("plain words"))
	require.NoError(t, err)
	assert.NotEqual(t, sealed, again, "nothing tells that two are the same")
	assert.NotContains(t, string(sealed), "plain")
	plain, err := s.Open("a key", sealed)
	require.NoError(t, err)
	assert.Equal(t, "plain words", string(plain))
	for i := range sealed {
		bad := bytes.Clone(sealed)
		bad[i] ^= 1
		_, err := s.Open("a key", bad)
		require.ErrorIs(t, err, account.ErrSealed, "byte %d", i)
	}
	_, err = s.Open("another", sealed)
	assert.ErrorIs(t, err, account.ErrSealed)
	_, err = other.Open("a key", sealed)
	assert.ErrorIs(t, err, account.ErrSealed)
	_, err = (*account.Sealer)(nil).Seal("a key", nil)
	assert.ErrorIs(t, err, account.ErrNoSecret)
}

// The codes of RFC 6238's Appendix B for SHA-1, whose eight digits end in our six.
func TestCodesOfTheStandard(t *testing.T) {
	secret := base32.StdEncoding.WithPadding(base32.NoPadding).EncodeToString([]byte("12345678901234567890"))
	for at, code := range map[int64]string{59: "94287082", 1111111109: "07081804", 1111111111: "14050471", 1234567890: "89005924", 2000000000: "69279037", 20000000000: "65353130"} {
		step, ok := account.StepOf(secret, code[2:], time.Unix(at, 0))
		assert.True(t, ok, code)
		assert.Equal(t, at/30, step)
		_, ok = account.StepOf(secret, code[2:], time.Unix(at+61, 0))
		assert.False(t, ok, "two steps later")
	}
}

// A second factor is taken by a code of it; then each code is good once, wrong ones are slowed
// down, and each of the spare codes is good once too.
func TestSecondFactor(t *testing.T) {
	st, _ := storetest.Open(t)
	ctx, now := t.Context(), time.Unix(1_800_000_000, 0)
	s, err := account.NewSealer([]byte(account.NewSecret()))
	require.NoError(t, err)
	p := store.Person{Email: "ida@a.example", Name: "Ida"}
	require.NoError(t, st.CreatePerson(ctx, &p))
	stranger := store.Person{Email: "wren@a.example", Name: "Wren"}
	require.NoError(t, st.CreatePerson(ctx, &stranger))
	v := &account.Visitor{Person: p}
	offer, err := account.OfferFactor(s, p, now)
	require.NoError(t, err)
	raw, err := base64.StdEncoding.DecodeString(offer.Image)
	require.NoError(t, err)
	_, err = png.Decode(bytes.NewReader(raw))
	require.NoError(t, err)
	_, again, err := account.TakeFactor(ctx, st, s, v, offer.Sealed, "000000", "", now)
	require.ErrorIs(t, err, account.ErrCode)
	assert.Equal(t, offer.Secret, again.Secret, "the telephone has it already")
	_, _, err = account.TakeFactor(ctx, st, s, &account.Visitor{Person: stranger}, offer.Sealed, code(t, offer.Secret, now), "", now)
	assert.ErrorIs(t, err, account.ErrSealed, "somebody else's offer")
	_, _, err = account.TakeFactor(ctx, st, s, v, offer.Sealed, code(t, offer.Secret, now.Add(time.Hour)), "", now.Add(time.Hour))
	assert.ErrorIs(t, err, account.ErrStale)
	codes, _, err := account.TakeFactor(ctx, st, s, v, again.Sealed, code(t, offer.Secret, now), "", now)
	require.NoError(t, err)
	require.Len(t, codes, 10)
	p, err = st.Person(ctx, p.ID)
	require.NoError(t, err)
	assert.NotContains(t, string(p.Totp), offer.Secret)
	assert.NotContains(t, fmt.Sprint(p.Recovery), codes[0])

	check := func(code string, at time.Time) error {
		q, err := st.Person(ctx, p.ID)
		require.NoError(t, err)
		return account.CheckFactor(ctx, st, s, q, code, account.Asker{From: "10.0.0.1"}, at)
	}
	assert.ErrorIs(t, check(code(t, offer.Secret, now), now), account.ErrCode, "the code that it was taken with")
	next := now.Add(30 * time.Second)
	assert.NoError(t, check(" "+code(t, offer.Secret, next)[:3]+" "+code(t, offer.Secret, next)[3:], next))
	assert.ErrorIs(t, check(code(t, offer.Secret, next), next), account.ErrCode, "twice")
	assert.NoError(t, check(strings.ToUpper(codes[0]), next))
	assert.ErrorIs(t, check(codes[0], next), account.ErrCode)
	for range 4 {
		assert.ErrorIs(t, check("123456", next), account.ErrCode)
	}
	later := next.Add(30 * time.Second)
	assert.ErrorIs(t, check(code(t, offer.Secret, later), next), account.ErrTooSoon)
	assert.NoError(t, check(code(t, offer.Secret, later), later))
	q, err := st.Person(ctx, p.ID)
	require.NoError(t, err)
	assert.Len(t, q.Recovery, 9)
	// Another one takes a code of the one there is.
	other, err := account.OfferFactor(s, p, later)
	require.NoError(t, err)
	_, again, err = account.TakeFactor(ctx, st, s, v, other.Sealed, code(t, other.Secret, later), "000000", later)
	require.ErrorIs(t, err, account.ErrOldCode)
	assert.Equal(t, other.Secret, again.Secret)
	more, _, err := account.TakeFactor(ctx, st, s, v, other.Sealed, code(t, other.Secret, later), codes[2], later)
	require.NoError(t, err)
	assert.ErrorIs(t, check(codes[3], later), account.ErrCode, "of the one before")
	// Who is signed in is slowed down by their own wrong codes, and by nobody else's.
	for i := range 13 {
		other := store.Person{Email: fmt.Sprintf("fern%d@a.example", i), Name: "Fern"}
		require.NoError(t, st.CreatePerson(ctx, &other))
		theirs, err := account.OfferFactor(s, other, later)
		require.NoError(t, err)
		_, _, err = account.TakeFactor(ctx, st, s, &account.Visitor{Person: other}, theirs.Sealed, code(t, theirs.Secret, later), "", later)
		require.NoError(t, err)
		for range 5 {
			require.ErrorIs(t, account.DropFactor(ctx, st, s, &account.Visitor{Person: other}, "000000", later), account.ErrCode)
		}
		require.ErrorIs(t, account.DropFactor(ctx, st, s, &account.Visitor{Person: other}, "000000", later), account.ErrTooSoon)
	}
	require.NoError(t, account.DropFactor(ctx, st, s, v, more[1], later))
	q, err = st.Person(ctx, p.ID)
	require.NoError(t, err)
	assert.Nil(t, q.Totp)
	assert.Empty(t, q.Recovery)
}

// code is what a telephone shows at a time.
func code(t *testing.T, secret string, at time.Time) string {
	t.Helper()
	c, err := totp.GenerateCode(secret, at)
	require.NoError(t, err)
	return c
}
