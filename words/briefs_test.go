package words_test

import (
	"fmt"
	"io"
	"os"
	"regexp"
	"strings"
	"testing"

	"corpulan/core/brief"
	"corpulan/core/corpus"
	"corpulan/core/evidence"
	"corpulan/core/links"
	"corpulan/core/reading"
	"corpulan/render"
	"corpulan/words"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// asking are words of a language that note what was asked of them and is not in them.
type asking struct {
	*words.Words
	lacks map[string]bool
}

func (a asking) Look(format string) string {
	if !a.Has(format) && !strings.Contains(format, "|") && hasLetters.MatchString(verbs.ReplaceAllString(format, "")) {
		a.lacks[format] = true
	}
	return a.Words.Look(format)
}

var (
	verbs      = regexp.MustCompile(`%(\[\d\])?(\.\d)?[a-z]`)
	hasLetters = regexp.MustCompile(`\p{L}{2}`)
)

// evaluated is the evidence of a field of the evaluation.
func evaluated(t *testing.T, name string) *evidence.Evidence {
	t.Helper()
	raw, err := os.ReadFile("../evaluate/fields/" + name + "/pages.txt")
	require.NoError(t, err)
	lines := strings.Split(strings.TrimSpace(string(raw)), "\n")
	lang, keyword, _ := strings.Cut(lines[0], "\t")
	var pages []corpus.RankedPage
	for i, line := range lines[1:] {
		file, url, _ := strings.Cut(line, "\t")
		b, err := os.ReadFile("../" + file)
		require.NoError(t, err)
		if url == "" {
			url = fmt.Sprintf("http://s%d.example/", i)
		}
		r, err := reading.Read(reading.Page{URL: url, Body: b})
		require.NoError(t, err)
		pages = append(pages, corpus.RankedPage{Rank: i + 1, Doc: corpus.Prepare(r, lang)})
	}
	e, err := evidence.Compute(t.Context(), evidence.Input{Keyword: keyword, Language: lang, Pages: pages, Asked: []string{"Do you need studded tyres in winter?"}, Related: []string{keyword + " 24"}})
	require.NoError(t, err)
	return e
}

// Whatever a brief and its dossier say, of any kind of page, they say in each of the languages of markets.
func TestBriefsInEveryLanguage(t *testing.T) {
	all, err := words.Briefs()
	require.NoError(t, err)
	require.Len(t, all, 8)
	fields := map[string]*evidence.Evidence{}
	for _, name := range []string{"lights", "tap", "combles", "valdoria", "kaffeemuehle"} {
		fields[name] = evaluated(t, name)
	}
	link := links.Link{URL: "http://own.example/a", Title: "Own", Anchor: "x", Sentence: "We.", Shared: []string{"y"}}
	for code, w := range all {
		if w.IsEnglish() {
			continue
		}
		in := asking{w, map[string]bool{}}
		for name, e := range fields {
			for _, kind := range brief.Templates() {
				var c brief.Choices
				edits, err := c.Use(e, kind.In(in))
				require.NoError(t, err)
				for _, x := range edits {
					require.NoError(t, c.Apply(x))
				}
				if kind.Key != "list" {
					c.Type(brief.FieldLength, "900")
				}
				b := brief.Compose(e, c, brief.Setting{Publication: "Q", Country: "gb", Gathered: "2026-11-25", Version: 7, Words: in, Own: links.Found{To: []links.Link{link}, From: []links.Link{link}}}).WithDossier(true)
				for _, format := range []string{"md", "json"} {
					f, _ := render.FormatNamed(format)
					require.NoError(t, f.Write(io.Discard, b), name)
				}
			}
		}
		assert.Empty(t, in.lacks, code)
	}
}
