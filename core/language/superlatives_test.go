package language

import (
	"strings"
	"testing"

	"corpulan/core/text"

	"github.com/stretchr/testify/assert"
)

// What is said to go beyond all others, in eight languages; from memory.
func TestSuperlatives(t *testing.T) {
	for _, x := range []struct{ code, said, want string }{
		{"en", "the warmest gloves", "warmest"}, {"en", "the most reliable lamp", "most reliable"}, {"en", "most riders rest in the forest", ""}, {"en", "it is the best", "best"},
		{"de", "der wärmste Handschuh", "warmste"}, {"de", "am sichersten fährt man", "sichersten"}, {"de", "das Fenster ist das erste", ""}, {"de", "die besten Reifen", "besten"},
		{"fr", "le gant le plus chaud", "plus chaud"}, {"fr", "les meilleurs gants", "meilleurs"}, {"fr", "plus de gants", ""},
		{"es", "el guante más cálido", "mas calido"}, {"es", "más guantes", ""}, {"it", "il guanto più caldo", "piu caldo"}, {"nl", "de warmste handschoen", "warmste"},
		{"pt", "a luva mais quente", "mais quente"}, {"sv", "den varmaste handsken", "varmaste"},
	} {
		words := strings.Fields(text.Fold(x.said))
		var got []string
		written := strings.Fields(x.said)
		for _, p := range For(x.code).Superlatives(words, func(i int) bool { return written[i] != strings.ToLower(written[i]) }) {
			got = append(got, strings.Join(words[p[0]:p[1]], " "))
		}
		assert.Equal(t, x.want, strings.Join(got, " | "), "%s: %s", x.code, x.said)
	}
}
