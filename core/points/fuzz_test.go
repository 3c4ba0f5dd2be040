package points

import (
	"strings"
	"testing"
	"unicode/utf8"

	"corpulan/core/corpus"
	"corpulan/core/language"
	"corpulan/core/reading"
)

// A figure is written in its sentence, whatever that is.
func FuzzFigures(f *testing.F) {
	f.Add("Drop it by 10 to 15 psi, at −5 °C, for £40 or 20 %.")
	f.Add("-1-2-3 km − 4 ° 5€")
	f.Fuzz(func(t *testing.T, line string) {
		if !utf8.ValidString(line) {
			return
		}
		r := &reading.Reading{URL: "https://a.example/", Sections: []reading.Section{{Text: strings.ReplaceAll(line, "\n", " ")}}}
		d := corpus.Prepare(r, "en")
		for i := range d.Sentences {
			for _, x := range d.Sentences[i].Figures(language.For("en")) {
				if !strings.Contains(d.Sentences[i].Text, x.Text) || x.To < x.From {
					t.Fatalf("%+v in %q", x, d.Sentences[i].Text)
				}
			}
		}
	})
}
