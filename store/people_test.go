package store_test

import (
	"errors"
	"sync"
	"testing"
	"time"

	"corpulan/store"
	"corpulan/store/storetest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func person(t *testing.T, st *store.Store, email string) store.Person {
	t.Helper()
	p := store.Person{Email: email, Name: email, Password: "x"}
	require.NoError(t, st.CreatePerson(t.Context(), &p))
	return p
}

// An address has one account, whatever its letters' size; two owners who leave at once leave one.
func TestPeopleAndOwners(t *testing.T) {
	st, _ := storetest.Open(t)
	ctx := t.Context()
	a, b := person(t, st, "a@x.example"), person(t, st, "b@x.example")
	assert.ErrorIs(t, st.CreatePerson(ctx, &store.Person{Email: "A@X.example", Name: "again"}), store.ErrTaken)
	p, err := st.CreatePublication(ctx, "Two owners", a.ID)
	require.NoError(t, err)
	_, err = st.CreatePublication(ctx, "Two owners", b.ID)
	assert.ErrorIs(t, err, store.ErrTaken)
	for range 10 {
		require.NoError(t, st.SetMember(ctx, p.ID, a.ID, store.Owner))
		require.NoError(t, st.SetMember(ctx, p.ID, b.ID, store.Owner))
		var work sync.WaitGroup
		left := make(chan error, 2)
		for _, who := range []int64{a.ID, b.ID} {
			work.Go(func() { left <- st.RemoveMember(ctx, p.ID, who) })
		}
		work.Wait()
		one, two := <-left, <-left
		assert.True(t, (one == nil) != (two == nil), "%v and %v", one, two)
		assert.True(t, errors.Is(one, store.ErrLastOwner) || errors.Is(two, store.ErrLastOwner))
	}
	assert.ErrorIs(t, st.SetMember(ctx, 999, a.ID, store.Owner), store.ErrNotFound)
	require.NoError(t, st.In(p.ID).ArchivePublication(ctx, false))
	list, err := st.Memberships(ctx, a.ID)
	require.NoError(t, err)
	assert.Empty(t, list)
	require.NoError(t, st.In(p.ID).ArchivePublication(ctx, true))
}

// A session opens until it is revoked, has expired, or its person is shut out; a ticket is good
// once, however many come with it at the same time, and a newer one voids it.
func TestSessionsAndTickets(t *testing.T) {
	st, _ := storetest.Open(t)
	ctx := t.Context()
	a := person(t, st, "a@x.example")
	session := func(digest string, lasts time.Duration) store.Session {
		x := store.Session{Digest: []byte(digest), PersonID: a.ID, ExpiresAt: time.Now().Add(lasts)}
		require.NoError(t, st.CreateSession(ctx, &x))
		return x
	}
	one, two := session("one", time.Hour), session("two", time.Hour)
	session("old", -time.Second)
	_, _, err := st.SessionBy(ctx, []byte("old"))
	assert.ErrorIs(t, err, store.ErrNotFound)
	_, who, err := st.SessionBy(ctx, []byte("one"))
	require.NoError(t, err)
	assert.Equal(t, a.ID, who.ID)
	b := person(t, st, "b@x.example")
	assert.ErrorIs(t, st.RevokeSession(ctx, b.ID, one.ID), store.ErrNotFound, "nobody ends another's")
	require.NoError(t, st.SetPassword(ctx, a.ID, "y", two.ID))
	_, _, err = st.SessionBy(ctx, []byte("one"))
	assert.ErrorIs(t, err, store.ErrNotFound)
	_, _, err = st.SessionBy(ctx, []byte("two"))
	assert.NoError(t, err, "the one in which it was changed")

	ticket := func(digest string) {
		require.NoError(t, st.CreateTicket(ctx, &store.Ticket{Digest: []byte(digest), Email: "c@x.example", ExpiresAt: time.Now().Add(time.Hour)}))
	}
	ticket("first")
	ticket("second")
	_, err = st.Ticket(ctx, []byte("first"))
	assert.ErrorIs(t, err, store.ErrNotFound)
	used := make(chan error, 8)
	var work sync.WaitGroup
	for range 8 {
		work.Go(func() { used <- st.UseTicket(ctx, []byte("second")) })
	}
	work.Wait()
	close(used)
	n := 0
	for err := range used {
		if err == nil {
			n++
		}
	}
	assert.Equal(t, 1, n)

	// Guesses at once are one after another: of twenty no more are looked at than are free.
	may := make(chan bool, 20)
	now := time.Now()
	for range 20 {
		work.Go(func() {
			ok, err := st.Try(ctx, "here c@x.example", now, 5, 30*time.Second)
			assert.NoError(t, err)
			may <- ok
		})
	}
	work.Wait()
	close(may)
	n = 0
	for ok := range may {
		if ok {
			n++
		}
	}
	assert.Equal(t, 5, n)
	require.NoError(t, st.Passed(ctx, "HERE c@x.example"))
	ok, err := st.Try(ctx, "here c@x.example", now, 5, 30*time.Second)
	require.NoError(t, err)
	assert.True(t, ok)
}
