package words

import (
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"

	"corpulan/core/message"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func sources(t *testing.T) map[string]string {
	t.Helper()
	all := map[string]string{}
	for _, glob := range []string{"../web/*/templates/*.html", "../web/*/templates/parts/*.html"} {
		files, err := filepath.Glob(glob)
		require.NoError(t, err)
		for _, f := range files {
			b, err := os.ReadFile(f)
			require.NoError(t, err)
			all[f] = Folded(string(b))
		}
	}
	require.Greater(t, len(all), 40)
	return all
}

// Every message of every template stands in every catalogue, with the same placeholders.
func TestCataloguesAreComplete(t *testing.T) {
	all, err := All()
	require.NoError(t, err)
	for code, w := range all {
		if w.IsEnglish() {
			continue
		}
		for file, source := range sources(t) {
			for _, m := range Messages(source) {
				to, ok := w.texts[m]
				if !assert.True(t, ok, "%s lacks %q of %s", code, m, file) {
					continue
				}
				for _, p := range []string{"{1}", "{2}", "{3}", "{4}", "{5}", "{6}"} {
					assert.Equal(t, strings.Count(m, p), strings.Count(to, p), "%s in %q and %q", p, m, to)
				}
				assert.NotContains(t, to, "<")
			}
		}
		for from, to := range w.texts {
			assert.NotEmpty(t, to, from)
			assert.Equal(t, message.Verbs(message.Format(from)), message.Verbs(message.Format(to)), "%q and %q", from, to)
		}
	}
}

// Every text that a script says stands in its table, and nothing else does.
func TestScriptsAreTranslated(t *testing.T) {
	table, err := os.ReadFile("../web/kit/static/words.js")
	require.NoError(t, err)
	said := map[string]bool{}
	for _, glob := range []string{"../web/*/static/*.js", "../web/draft/editor/*.js"} {
		files, err := filepath.Glob(glob)
		require.NoError(t, err)
		for _, f := range files {
			b, err := os.ReadFile(f)
			require.NoError(t, err)
			for _, m := range regexp.MustCompile(`tell\(\s*'([^']+)'`).FindAllSubmatch(b, -1) {
				said[string(m[1])] = true
				assert.Regexp(t, "'"+regexp.QuoteMeta(string(m[1]))+`':\s+['"]`, string(table), f)
			}
		}
	}
	assert.Greater(t, len(said), 30)
}

// A template that is not translated is as it was, byte for byte; one that is parses to the same
// tags and actions.
func TestTemplatesKeepTheirShape(t *testing.T) {
	same := func(m string) string { return m }
	for file, source := range sources(t) {
		assert.Equal(t, source, walk(source, same), file)
		loud := walk(source, func(m string) string { return strings.ToUpper(strings.NewReplacer("{1}", "{1}").Replace(m)) })
		assert.Equal(t, strings.Count(source, "<"), strings.Count(loud, "<"), file)
		assert.Equal(t, strings.Count(source, "{{"), strings.Count(loud, "{{"), file)
	}
}

func TestFolded(t *testing.T) {
	for from, to := range map[string]string{
		"<p\n    class=\"a  b\">\n  Open\n  it\n</p>":             `<p class="a  b"> Open it </p>`,
		"<pre>\n a\n  b</pre>\n\n<i>":                             "<pre>\n a\n  b</pre> <i>",
		"<textarea\n rows=2>a\n\nb</textarea>":                    "<textarea rows=2>a\n\nb</textarea>",
		"{{if\n  eq .A \"x  y\"}}\n{{end}}":                       `{{if eq .A "x  y"}} {{end}}`,
		"<a {{if\n .A}}\n href=\"{{.B\n | c \"d  e\"}}\"{{end}}>": `<a {{if .A}} href="{{.B | c "d  e"}}"{{end}}>`,
		"<i title=\"a\n   b  c\">":                                `<i title="a b  c">`,
		"a > b\n < c":                                             "a > b < c",
	} {
		assert.Equal(t, to, Folded(from))
		assert.Equal(t, to, Folded(Folded(from)))
	}
}

func TestTemplate(t *testing.T) {
	de := map[string]string{"{1} of {2} pages": "von {2} Seiten {1}", "Open it": "Öffnen", "take out {1}": "{1} herausnehmen", "a term": "ein Begriff", "s": "n"}
	look := func(m string) string {
		if t, ok := de[m]; ok {
			return t
		}
		return "?" + m + "?"
	}
	for from, to := range map[string]string{
		`<p title="Open it"> Open  it </p>`:                                   `<p title="Öffnen"> Öffnen </p>`,
		`<b>{{.A}} of {{thousands .B}} pages</b>`:                             `<b>von {{thousands .B}} Seiten {{said .A}}</b>`,
		`<a href="/x?q={{.A}}" aria-label="take out {{.Name}}">{{.Name}}</a>`: `<a href="/x?q={{said .A}}" aria-label="{{said .Name}} herausnehmen">{{said .Name}}</a>`,
		`{{if .A}}Open it{{else}}{{.B}}{{end}} 12 %`:                          `{{if .A}}Öffnen{{else}}{{said .B}}{{end}} 12 %`,
		`{{template "own" dict "What" (word "a term") "Kind" "term"}}`:        `{{template "own" dict "What" (word "ein Begriff") "Kind" "term"}}`,
		`<script>Open it</script><!-- Open it -->`:                            `<script>Open it</script><!-- Open it -->`,
		`<input{{if .A}} title="Open it"{{end}} value="Open it">`:             `<input{{if .A}} title="Öffnen"{{end}} value="Open it">`,
		`{{/* Open it */}}{{$x := "Open it"}}&nbsp;·`:                         `{{/* Open it */}}{{$x := "Open it"}}&nbsp;·`,
		"{{with index .M \"}}\"}}Open it{{end}}":                              "{{with index .M \"}}\"}}Öffnen{{end}}",
	} {
		assert.Equal(t, to, Template(from, look), from)
	}
}

// Numbers, nouns and dates by the rules of the language (CLDR, by way of x/text and locales).
func TestNumbersAndDates(t *testing.T) {
	all, err := All()
	require.NoError(t, err)
	de, en := all["de"], all["en"]
	at := time.Date(2026, 3, 9, 7, 5, 0, 0, time.UTC)
	for _, x := range [][2]string{
		{en.Decimal(1, 3.84), "3.8"}, {de.Decimal(2, 1203.5), "1.203,50"}, {en.Decimal(0, 59.5), "60"}, {en.Number(12480), "12,480"}, {de.Number(12480), "12.480"},
		{en.Counted(1, "query"), "1 query"}, {en.Counted(1200, "query"), "1,200 queries"}, {en.Counted(0, "entry"), "0 entries"},
		{de.Counted(1, "heading"), "1 Überschrift"}, {de.Counted(1200, "heading"), "1.200 Überschriften"}, {de.Noun(2, "page"), "Seiten"}, {de.Noun(1, "page"), "Seite"},
		{en.Day(at), "9 Mar 2026"}, {de.Day(at), "09.03.2026"}, {en.DayTime(at), "9 Mar 2026, 07:05"}, {en.ShortTime(at), "9 Mar 07:05"}, {de.ShortTime(at), "9. März 07:05"},
		{en.LongDay(at), "9 March 2026"}, {de.LongDay(at), "9. März 2026"}, {en.WeekDay(at), "Monday, 9 March"}, {de.WeekDay(at), "Montag, 9. März"},
		{en.Language("pt"), "Portuguese"}, {de.Language("pt"), "Portugiesisch"},
	} {
		assert.Equal(t, x[1], x[0])
	}
}

func FuzzTemplate(f *testing.F) {
	f.Add(`<p title="a {{.B}}">c {{if .D}}e{{end}}</p>`)
	f.Add(`{{word "a"}}<a b="{{word "c"}}">`)
	f.Add("{{")
	f.Add("<")
	f.Add(`{{word "`)
	f.Fuzz(func(t *testing.T, source string) {
		Template(source, func(m string) string { return m })
	})
}
