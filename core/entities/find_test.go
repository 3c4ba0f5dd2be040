package entities

import (
	"fmt"
	"strings"
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"

	"github.com/stretchr/testify/assert"
)

func TestEntities(t *testing.T) {
	pages := []corpus.Page{
		corpustest.Page(t, 1, "a.example", `<p>We rode to Utrecht with the Road Surface Laboratory. Winter was cold, and the Laboratory measured it. Then Dr. Hartwell spoke about the LED lamp.</p><p>In Utrecht the Road Surface Laboratory has a track.</p>`),
		corpustest.Page(t, 2, "b.example", `<p>Cold winter mornings in Utrecht are long, says Dr. Hartwell. We like winter. Tyres matter, and so do tyres with an LED lamp.</p>`),
	}
	types := map[string]EntityType{}
	for _, x := range Find(corpus.NewField(pages, "en", "winter riding")) {
		types[x.Name] = x.Type
	}
	assert.Equal(t, PlaceType, types["Utrecht"])
	assert.Equal(t, OrganisationType, types["Road Surface Laboratory"])
	assert.Equal(t, PersonType, types["Dr Hartwell"], fmt.Sprint(types))
	assert.Equal(t, AbbreviationType, types["LED"])
	for _, no := range []string{"Winter", "Cold", "Tyres", "In", "Then", "We"} {
		assert.NotContains(t, types, no)
	}
}

func TestAHeadingThatIsPointedAtIsNoName(t *testing.T) {
	html := `<h2>BEFORE THE FIRST FROST</h2><p>Oil the chain. See also BEFORE THE FIRST FROST for what the tyres want, and what the NORTHERN ROAD BOARD says of salt.</p>`
	pages := []corpus.Page{corpustest.Page(t, 1, "a.example", html), corpustest.Page(t, 2, "b.example", html)}
	var names []string
	for _, x := range Find(corpus.NewField(pages, "en", "winter")) {
		names = append(names, strings.ToUpper(x.Name))
	}
	assert.Contains(t, names, "NORTHERN ROAD BOARD")
	for _, n := range names {
		assert.NotContains(t, n, "FROST")
	}
}

// A name with an elision is one name, and its article none of it.
func TestNamesWithElisions(t *testing.T) {
	html := `<p>La route longe la Côte d'Azur, et l'Éclairage Public de Marseille la suit. Les gens de la Côte d’Azur roulent en hiver. On dit que l'éclairage manque.</p>`
	pages := []corpus.Page{corpustest.PageIn(t, "fr", 1, "a.example", html), corpustest.PageIn(t, "fr", 2, "b.example", html)}
	var names []string
	for _, x := range Find(corpus.NewField(pages, "fr", "vélo")) {
		names = append(names, x.Key)
	}
	assert.Contains(t, names, "cote d'azur")
	assert.NotContains(t, names, "l")
}
