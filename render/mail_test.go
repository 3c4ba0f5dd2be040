package render

import (
	"testing"

	"corpulan/core/brief"
	"corpulan/words"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// A mail to a writer is in the language of the brief, whatever the desk's is.
func TestMail(t *testing.T) {
	b := brief.Brief{Keyword: "pneus clous", Language: "fr", Words: brief.WordRange{Target: 900}}
	assert.Equal(t, "Hello Wren,\n\nhere is the brief for “pneus clous”, about 900 words:\nhttps://c.example/w/x\n\nIt opens without an account. Remarks and what you tick come back to me.", Mail(b, "Wren", "", "https://c.example/w/x"))
	all, err := words.Briefs()
	require.NoError(t, err)
	french := Mail(b.Saying(all["fr"]), "Wren", "2026-12-18", "https://c.example/w/x")
	assert.Contains(t, french, "Bonjour Wren,\n\nvoici le brief pour « pneus clous », environ 900 mots, pour le 18")
	assert.NotContains(t, french, "brief for")
}
