package main

import (
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Of the first terms most are on a specialist's list, and hardly one is on that of what nobody wants.
func TestTheFirstTermsAreWanted(t *testing.T) {
	sum, bad, all := 0, 0, 0
	for _, name := range []string{"combles", "knives", "kompost", "piscina", "tap"} {
		_, c := standinField(t, name)
		w, err := readWishes(filepath.Join("fields", name))
		require.NoError(t, err)
		wanted, unwanted, shown, neither := wishesMet(c, w)
		t.Logf("%s: %d of %d wanted, %d unwanted; neither: %v", name, wanted, shown, unwanted, neither)
		sum, bad, all = sum+wanted, bad+unwanted, all+shown
	}
	assert.Greater(t, share(sum, all), .68)
	assert.Less(t, share(bad, all), .04)
	assert.Equal(t, "o ring", plain("O-Ring"))
}
