package words_test

import (
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"corpulan/core/brief"
	"corpulan/core/corpus"
	"corpulan/core/evidence"
	"corpulan/core/reading"
	"corpulan/render"
	"corpulan/words"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// fieldOf is the evidence of pages of the demo, in threes, of which each field is another.
func fieldOf(t *testing.T, keyword string, files ...string) *evidence.Evidence {
	t.Helper()
	var pages []corpus.RankedPage
	for i, f := range files {
		b, err := os.ReadFile(f)
		require.NoError(t, err)
		r, err := reading.Read(reading.Page{URL: "http://" + filepath.Base(filepath.Dir(filepath.Dir(f))) + "/" + filepath.Base(f), Body: b})
		require.NoError(t, err)
		pages = append(pages, corpus.RankedPage{Rank: i + 1, Doc: corpus.Prepare(r, "en")})
	}
	e, err := evidence.Compute(t.Context(), evidence.Input{Keyword: keyword, Language: "en", Pages: pages, Asked: []string{"Do you need studded tyres in winter?"}, Related: []string{"buy winter bike tyres", "frozen locks"}})
	require.NoError(t, err)
	return e
}

var (
	inQuotes = regexp.MustCompile("„[^“]*“|“[^”]*”|\"[^\"]*\"")
	english  = regexp.MustCompile(`(?i)\b(the|of|and|is|with|which|on|by|from|to|has|have|are|it|pages|ranks?|as|or|for)\b`)
)

// A brief in another language proposes and explains everything in it, whatever the field: no text
// of the program's is left in English but what is quoted from the pages.
func TestBriefsInGerman(t *testing.T) {
	all, err := words.All()
	require.NoError(t, err)
	files, err := filepath.Glob("../standin/sites/*/*/*.html")
	require.NoError(t, err)
	require.Greater(t, len(files), 30)
	seen := map[string]bool{}
	check := func(what, text string) {
		seen[what] = true
		assert.NotRegexp(t, english, inQuotes.ReplaceAllString(text, ""), what)
	}
	for from := 0; from < len(files); from += 4 {
		e := fieldOf(t, "winter bike commuting", files[from:min(from+6, len(files))]...)
		for _, kind := range append([]string{""}, kinds()...) {
			c := brief.Choices{}
			if kind != "" {
				c.Typed = map[string]string{brief.FieldKind: kind, brief.FieldLength: "900"}
			}
			b := brief.Compose(e, c, brief.Setting{Publication: "Quillfen Cycles", Words: all["de"], Defaults: map[string]string{brief.FieldNotes: ""}})
			for _, name := range []string{brief.FieldGoal, brief.FieldSearchIntent, brief.FieldAudience, brief.FieldVoice, brief.FieldPointOfView, brief.FieldCallToAction, brief.FieldAvoid, brief.FieldReadingGrade, brief.FieldShortAnswer, brief.FieldMedia, brief.FieldSummary} {
				check(name, b.Field(name))
			}
			for name, why := range b.Why {
				check("why "+name, why.In(all["de"]))
			}
			check("words", b.Words.Why.In(all["de"]))
			check("outline", b.OutlineNote.In(all["de"]))
			for _, x := range append(b.Titles, b.Descriptions...) {
				check("pattern", x.Pattern.In(all["de"]))
			}
			for _, x := range b.Warnings {
				check("warning", x.Text.In(all["de"]))
			}
			for _, x := range b.Openings {
				check("opening", all["de"].Say(x.Why))
			}
		}
	}
	assert.Greater(t, len(seen), 25)
	assert.Contains(t, strings.Join(keysOf(seen), " "), "opening")
}

const reifen = `<html lang=de><title>Welche Winterreifen fürs Fahrrad?</title><article><h1>Winterreifen fürs Fahrrad</h1><p>Winterreifen mit Spikes greifen auf Eis, wo andere Reifen rutschen. Sie kosten 80 Euro.</p>
<h2>Spikes oder nicht?</h2><p>Wer täglich auf Eis fährt, braucht Spikes. Auf nassem Asphalt sind sie laut und bremsen. Spikes halten 3 Winter.</p><p>Mehr weiß <a href="http://norm.example/reifen">der Verband der Reifen</a>.</p>
<h2>Reifendruck im Winter</h2><p>Weniger Druck gibt mehr Fläche und damit mehr Halt im Schnee. Drei Bar reichen oft.</p><table><tr><th>Reifen<th>Druck</tr><tr><td>Schmal<td>4 bar</tr><tr><td>Breit<td>2 bar</tr></table><img src="/r.jpg" alt="Reifen mit Spikes im Schnee">
<h2>Wie montiert man Spikes?</h2><ol><li>Rad ausbauen</li><li>Mantel abziehen</li></ol></article>`

// Whole documents of a German field say nothing in English, in any form.
func TestDocumentsInGerman(t *testing.T) {
	all, err := words.All()
	require.NoError(t, err)
	var pages []corpus.RankedPage
	for i, change := range [][2]string{{"x", "x"}, {"3 Winter", "5 Winter"}, {"Spikes oder nicht?", "Wann lohnen sich Spikes?"}, {"täglich", "jeden Tag"}} {
		r, err := reading.Read(reading.Page{URL: "http://a" + change[0][:1] + ".example/p", Body: []byte(strings.ReplaceAll(reifen, change[0], change[1]))})
		require.NoError(t, err)
		pages = append(pages, corpus.RankedPage{Rank: i + 1, Doc: corpus.Prepare(r, "de")})
	}
	e, err := evidence.Compute(t.Context(), evidence.Input{Keyword: "winterreifen fahrrad", Language: "de", Pages: pages, Asked: []string{"Sind Spikes erlaubt?"}, Related: []string{"winterreifen kaufen"}})
	require.NoError(t, err)
	b := brief.Compose(e, brief.Choices{}, brief.Setting{Publication: "Quillfen", Gathered: "2026-11-20", Version: 3, Words: all["de"]})
	for _, f := range render.Formats() {
		if f.Name != "md" && f.Name != "html" {
			continue
		}
		var out strings.Builder
		require.NoError(t, f.Write(&out, b.WithDossier(true)))
		text := regexp.MustCompile(`(?s)<style>.*?</style>|<[^>]*>|http[^ ]*`).ReplaceAllString(out.String(), " ")
		assert.Greater(t, len(text), 500, f.Name)
		for line := range strings.Lines(text) {
			assert.NotRegexp(t, english, line, f.Name)
		}
	}
	var is, as strings.Builder
	require.NoError(t, render.Markdown(&is, b.Saying(nil).WithDossier(true)))
	require.NoError(t, render.Markdown(&as, brief.Compose(e, brief.Choices{}, brief.Setting{Publication: "Quillfen", Gathered: "2026-11-20", Version: 3}).Saying(all["de"]).WithDossier(true)))
	assert.Contains(t, is.String(), "**Reading level:** Lesbarkeit", "around it English, in it German")
	assert.Contains(t, as.String(), "**Leseniveau:** Reading ease")
}

func kinds() (list []string) {
	for _, x := range brief.Templates() {
		list = append(list, x.Key)
	}
	return list
}

func keysOf(m map[string]bool) (list []string) {
	for k := range m {
		list = append(list, k)
	}
	return list
}
