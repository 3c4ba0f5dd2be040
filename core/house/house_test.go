package house

import (
	"bytes"
	"strings"
	"testing"

	"corpulan/core/language"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func TestCheck(t *testing.T) {
	for _, c := range []struct {
		entry Entry
		wrong string
	}{
		{Entry{"ignore", "  road   surface ", "x"}, ""},
		{Entry{"prefer", "tire", "tyre"}, ""},
		{Entry{"prefer", "E-Bike", "e-bike"}, ""},
		{Entry{"prefer", "tire", ""}, "missing"},
		{Entry{"merge", "tyre", "Tyre"}, "itself"},
		{Entry{"love", "tyre", ""}, "no kind"},
		{Entry{"ignore", " ", ""}, "missing"},
		{Entry{"ignore", strings.Repeat("a", 301), ""}, "at most"},
	} {
		e, err := Check(c.entry)
		if c.wrong == "" {
			require.NoError(t, err)
			continue
		}
		assert.ErrorContains(t, err, c.wrong, "%+v", e)
	}
	e, _ := Check(Entry{"ignore", "  road   surface ", "x"})
	assert.Equal(t, Entry{"ignore", "road surface", ""}, e)
}

func TestLexicon(t *testing.T) {
	lang := language.For("en")
	l := New([]Entry{{Ignore, "Harrowmere", ""}, {Merge, "lube", "chain oil"}, {Merge, "grease", "lube"}, {Merge, "chain oil", "grease"}, {Split, "e-bike", "ebike"}, {Prefer, "fender", "mudguard"}}, lang)
	assert.True(t, l.Ignored[lang.PhraseKey("harrowmere")])
	assert.Equal(t, lang.PhraseKey("chain oil"), l.Into(lang.PhraseKey("greases")), "merges are followed to their end, and end")
	assert.True(t, l.Parted(lang.PhraseKey("ebike"), lang.PhraseKey("e-bike")))
	assert.Equal(t, "mudguard", l.Preferred[lang.PhraseKey("mudguards")])
	turned := New([]Entry{{Prefer, "torch", "lamp"}, {Prefer, "lamp", "torch"}}, lang)
	assert.Equal(t, "torch", turned.Into("lamp"), "what is taught later counts")
	assert.Equal(t, "torch", turned.Into("torch"))
	var none *Lexicon
	assert.Equal(t, "lube", none.Into("lube"))
	assert.False(t, none.Parted("a", "b"))
}

func TestCSV(t *testing.T) {
	entries, err := Read(strings.NewReader("\ufeffKind;Term;Other\nignore;Harrowmere\nprefer;tire;tyre\n\n"))
	require.NoError(t, err)
	assert.Equal(t, []Entry{{Ignore, "Harrowmere", ""}, {Prefer, "tire", "tyre"}}, entries)
	_, err = Read(strings.NewReader("kind,term,other\nignore,a\nhate,b\n"))
	assert.ErrorContains(t, err, "line 3")
	_, err = Read(strings.NewReader("ignore,\"a\n"))
	assert.ErrorContains(t, err, "no CSV")
	var out bytes.Buffer
	require.NoError(t, Write(&out, []Entry{{Ignore, "=1+1", ""}}))
	assert.Contains(t, out.String(), "'=1+1", "no formula for a spreadsheet")
}

func TestWhatIsWrittenIsRead(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		word := rapid.StringMatching(`[a-zé=,;"' -]{1,12}[a-z]`)
		var entries []Entry
		for range rapid.IntRange(1, 5).Draw(t, "entries") {
			e, err := Check(Entry{rapid.SampledFrom(Kinds()).Draw(t, "kind"), word.Draw(t, "term"), word.Draw(t, "other")})
			if err == nil {
				entries = append(entries, e)
			}
		}
		var out bytes.Buffer
		require.NoError(t, Write(&out, entries))
		back, err := Read(&out)
		require.NoError(t, err)
		assert.Equal(t, entries, back)
	})
}
