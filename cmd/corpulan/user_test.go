package main

import (
	"regexp"
	"testing"

	"corpulan/account"
	"corpulan/store"
	"corpulan/store/storetest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Whoever runs the program makes links by which people come in, and no others.
func TestUser(t *testing.T) {
	st, url := storetest.Open(t)
	t.Setenv("DATABASE_URL", url)
	code, out, said := call(t, "", "user", "add", "ida@a.example", "--publication", "New one", "--role", "strategist", "--address", "https://c.example/")
	require.Equal(t, exitDone, code, said)
	link := regexp.MustCompile(`https://c\.example/join/(\S+)\n`).FindStringSubmatch(out)
	require.NotNil(t, link, out)
	ticket, known, err := account.Ticket(t.Context(), st, link[1])
	require.NoError(t, err)
	assert.Nil(t, known)
	assert.Equal(t, store.Strategist, ticket.Role)
	code, _, said = call(t, "", "user", "add", "wren@a.example", "--publication", "Nope")
	assert.Equal(t, exitFailed, code)
	assert.Contains(t, said, `there is no publication "Nope"; there are New one`)
	code, _, said = call(t, "", "user", "reset", "ida@a.example")
	assert.Equal(t, exitFailed, code)
	assert.Contains(t, said, "nobody has an account under ida@a.example")
	_, err = account.TakeTicket(t.Context(), st, link[1], "", "Ida", "a long winter evening", "x", 0)
	require.NoError(t, err)
	code, out, _ = call(t, "", "user", "reset", "IDA@a.example")
	assert.Equal(t, exitDone, code)
	assert.Contains(t, out, "http://localhost:8080/join/")
	for _, bad := range [][]string{{"user", "add"}, {"user", "add", "no address"}, {"user", "drop", "a@b.example"}, {"user", "add", "a@b.example", "--role", "king"}, {"user", "add", "a@b.example", "more"}} {
		code, _, _ := call(t, "", bad...)
		assert.Equal(t, exitWrongUse, code, bad)
	}
	t.Setenv("DATABASE_URL", "")
	code, _, _ = call(t, "", "user", "add", "a@b.example")
	assert.Equal(t, exitWrongUse, code)
}
