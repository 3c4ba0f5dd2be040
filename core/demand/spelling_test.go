package demand

import (
	"testing"

	"corpulan/core/language"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func keywordsOf(texts ...string) (list []Keyword) {
	for _, t := range texts {
		list = append(list, Keyword{Text: t})
	}
	return list
}

// A word that no dictionary has is the word of the list that it is one edit from; forms, numbers, short and common words stay.
func TestMisspeltWords(t *testing.T) {
	list := keywordsOf("mudguard for road bike", "mudguard sizes", "mudgaurd set", "mudgurd fitting", "best mudguard", "quenlin lamp", "quenlins lamp", "quenlin review", "helmet covers", "helmets", "model 4501", "model 4502")
	v := vocabularyOf(list, language.For("en"))
	assert.Equal(t, map[string]string{"mudgaurd": "mudguard", "mudgurd": "mudguard"}, v.misspelt())
	assert.Equal(t, "Mudguard – mudguard set", respelled("Mudguard – mudgaurd set", v.misspelt()))
	german := vocabularyOf(keywordsOf("schutzblech montieren", "schutzblech breite", "schutzblech set", "shutzblech kaufen", "schutzbleche", "reifen kaufen", "reifen breite", "reiten lernen"), language.For("de"))
	assert.Equal(t, map[string]string{"shutzblech": "schutzblech"}, german.misspelt())

	g, err := NewGraph(t.Context(), list, Options{Language: "en"}, nil)
	require.NoError(t, err)
	assert.Equal(t, g.all[0].stems[len(g.all[0].stems)-2:], []string{"mudguard", "road"})
	assert.Contains(t, g.all[2].stems, "mudguard")
}

// Keywords in another language are put aside with the reason; names, words of a trade and English phrases in lists of other languages
// are not.
func TestKeywordsInAnotherLanguage(t *testing.T) {
	for code, want := range map[string]map[string]string{
		"en": {"winter tyres": "", "fahrrad im winter": "German", "vélo en hiver": "French", "quenlin skorvit": "", "paella pan": "", "pneus pour la neige": "French", "bike": ""},
		"de": {"winterreifen fahrrad": "", "bike fitting": "", "bohrer 8mm beton": "", "schrauben din 7504": "", "how to ride in the snow": "English", "pneus pour la neige": "French", "schutzblech montieren": ""},
		"fr": {"pneus neige": "", "fahrrad im winter": "German", "bike packing": ""},
	} {
		var texts []string
		for s := range want {
			texts = append(texts, s)
		}
		list := keywordsOf(texts...)
		said := vocabularyOf(list, language.For(code)).otherLanguages()
		for i, k := range list {
			if want[k.Text] == "" {
				assert.Empty(t, said[i], "%s: %s", code, k.Text)
			} else {
				assert.Contains(t, said[i].String(), "it is "+want[k.Text], "%s: %s", code, k.Text)
			}
		}
	}
	list := keywordsOf("fahrrad im winter", "winter tyres", "winter tyres for bikes")
	g, err := NewGraph(t.Context(), list, Options{Language: "en"}, nil)
	require.NoError(t, err)
	require.Len(t, g.Part(Options{Language: "en"}).Out, 1)
	assert.Empty(t, g.Part(Options{Language: "en", Hand: Hand{In: map[string]bool{Same("fahrrad im winter"): true}}}).Out, "a person takes it back")
}
