package entities

import (
	"fmt"
	"strings"
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"
	"corpulan/core/house"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestEntities(t *testing.T) {
	pages := []corpus.RankedPage{
		corpustest.Page(t, 1, "a.example", `<p>We rode to Utrecht with the Road Surface Laboratory. Winter was cold, and the Laboratory measured it. Then Dr. Hartwell spoke about the LED lamp.</p><p>In Utrecht the Road Surface Laboratory has a track.</p>`),
		corpustest.Page(t, 2, "b.example", `<p>Cold winter mornings in Utrecht are long, says Dr. Hartwell. We like winter. Tyres matter, and so do tyres with an LED lamp.</p>`),
	}
	types := map[string]EntityType{}
	for _, x := range Find(corpus.NewField(pages, "en", "winter riding"), nil, nil) {
		types[x.Name] = x.Type
	}
	assert.Equal(t, PlaceType, types["Utrecht"])
	assert.Equal(t, OrganisationType, types["Road Surface Laboratory"])
	assert.Equal(t, PersonType, types["Dr Hartwell"], fmt.Sprint(types))
	assert.Equal(t, ConceptType, types["LED"])
	for _, no := range []string{"Winter", "Cold", "Tyres", "In", "Then", "We"} {
		assert.NotContains(t, types, no)
	}
}

// find names the entities of a field of pages, with their types.
func find(t *testing.T, lang string, pages ...string) map[string]Entity {
	t.Helper()
	var list []corpus.RankedPage
	for i, html := range pages {
		list = append(list, corpustest.PageIn(t, lang, i+1, fmt.Sprintf("site%d.example", i), html))
	}
	all := map[string]Entity{}
	for _, x := range Find(corpus.NewField(list, lang, "winter"), nil, nil) {
		all[x.Name] = x
	}
	return all
}

func TestTypesAreToldWithAReason(t *testing.T) {
	page := `<p>We met Mara Tarn in Utrecht, who runs the Harrow Bridge workshop. Tarn says that Vellum is a library for maps, and that Vellum version 3 reads ISO 4210 files.</p>
<p>She learned German in Sweden. The town of Oxmere has a Winter Festival. Under the Road Traffic Act lamps must work, writes Mara Tarn. Write-ahead logging (WAL) is old, and WAL helps. We use C# and C++ for AT&amp;T. An iPhone shows it, the iPhone too.</p>
<p>On 3 March 2025 it was -5 °C and cost £40.</p>`
	got := find(t, "en", page, page)
	for name, want := range map[string]EntityType{"Mara Tarn": PersonType, "Utrecht": PlaceType, "Vellum": ProductType, "ISO 4210": StandardType, "German": LanguageType, "Sweden": PlaceType,
		"Oxmere": PlaceType, "Winter Festival": EventType, "Road Traffic Act": StandardType, "Harrow Bridge": PlaceType, "3 March 2025": DateType, "-5 °C": QuantityType, "£40": MoneyType} {
		assert.Equal(t, want, got[name].Type, "%s: %s", name, got[name].Why)
		assert.NotEmpty(t, got[name].Why, name)
	}
	assert.Equal(t, "Write-ahead logging", got["WAL"].Long)
	assert.NotContains(t, got, "Tarn", "a last name is the person's")
	assert.Equal(t, 6, got["Mara Tarn"].Mentions)
	for _, name := range []string{"C#", "C++", "AT&T", "iPhone"} {
		assert.Contains(t, got, name)
	}
}

func TestWhatIsSetAsCodeOrShoutedIsNoName(t *testing.T) {
	page := `<p>Set <code>LDFLAGS</code> and press Ctrl and <kbd>Enter</kbd>. A SELECT waits for the UPDATE, and SQLITE_BUSY comes back. Call the Fetch() of it. NEVER do that.</p><p>Then <code>LDFLAGS</code> holds, and a SELECT sees it.</p>`
	got := find(t, "en", page, page)
	for name := range got {
		assert.NotContains(t, []string{"LDFLAGS", "Ctrl", "Enter", "SELECT", "UPDATE", "NEVER", "Fetch", "SQLITE_BUSY"}, name)
	}
}

func TestNamesWrittenSmall(t *testing.T) {
	page := `<p>Convert it with zqplay and wait. With zqplay on the path this is quick. The wuthergrip wears out; a wuthergrip costs little, and the wuthergrip slips. Run zqplay again, since zqplay is fast. Windproof is what the qinproof jacket is.</p>`
	got := find(t, "en", page, page)
	assert.Contains(t, got, "zqplay")
	assert.NotContains(t, got, "wuthergrip", "it takes articles")
}

// Where all nouns have capitals only what something vouches for is a name.
func TestGermanNounsAreNoNames(t *testing.T) {
	page := `<p>Die Kette braucht Öl, und der Spikereifen hält auf Eis. Mit Streusalz kommt Rost. In Hamburg schreibt Frau Tarn darüber. Nach der StVZO muss das Rücklicht leuchten.</p><p>Gegen Streusalz hilft Wasser, sagt Frau Tarn. In Hamburg gilt die StVZO.</p>`
	got := find(t, "de", page, page)
	assert.Equal(t, PlaceType, got["Hamburg"].Type)
	assert.Equal(t, PersonType, got["Frau Tarn"].Type)
	assert.Equal(t, StandardType, got["StVZO"].Type)
	for _, no := range []string{"Kette", "Spikereifen", "Streusalz", "Rost", "Eis", "Wasser", "Öl"} {
		assert.NotContains(t, got, no)
	}
}

// What pages say of themselves in structured data outweighs the form of a name, and what
// the house has taught outweighs all.
func TestStructuredDataAndTheHouse(t *testing.T) {
	page := `<script type="application/ld+json">{"@type":"Organization","name":"Vellum Park"}</script><p>We asked Vellum Park about it. In winter Vellum Park opens late.</p>`
	got := find(t, "en", page, page)
	assert.Equal(t, OrganisationType, got["Vellum Park"].Type, got["Vellum Park"].Why)
	list := []corpus.RankedPage{corpustest.Page(t, 1, "a.example", page), corpustest.Page(t, 2, "b.example", page)}
	f := corpus.NewField(list, "en", "winter")
	for _, x := range Find(f, nil, house.New([]house.Entry{{Kind: house.Type, Term: "Vellum Park", Other: "work"}}, f.Language)) {
		assert.Equal(t, WorkType, x.Type)
		assert.Equal(t, "taught by the house", x.Why.String())
	}
}

// The site's own name is flagged only where nobody else uses it.
func TestTheNameOfASite(t *testing.T) {
	own := corpustest.Page(t, 1, "quillmoor.example", `<p>At Quillmoor we oil chains. The people of Quillmoor do.</p>`)
	flag := func(other string) string {
		for _, x := range Find(corpus.NewField([]corpus.RankedPage{own, corpustest.Page(t, 2, "b.example", other)}, "en", "winter"), nil, nil) {
			if x.Name == "Quillmoor" {
				return x.Flag.String()
			}
		}
		return "not found"
	}
	assert.Equal(t, "the name of a site", flag(`<p>Oil the chain.</p>`))
	assert.Empty(t, flag(`<p>We buy oil from Quillmoor and like it.</p>`))
}

func TestHouseKnowsTheTypes(t *testing.T) {
	var types []string
	for _, x := range Types() {
		types = append(types, string(x))
	}
	assert.ElementsMatch(t, types, house.EntityTypes())
}

func TestAHeadingThatIsPointedAtIsNoName(t *testing.T) {
	html := `<h2>BEFORE THE FIRST FROST</h2><p>Oil the chain. See also BEFORE THE FIRST FROST for what the tyres want, and what the NORTHERN ROAD BOARD says of salt.</p>`
	pages := []corpus.RankedPage{corpustest.Page(t, 1, "a.example", html), corpustest.Page(t, 2, "b.example", html)}
	var names []string
	for _, x := range Find(corpus.NewField(pages, "en", "winter"), nil, nil) {
		names = append(names, strings.ToUpper(x.Name))
	}
	assert.Contains(t, names, "NORTHERN ROAD BOARD")
	for _, n := range names {
		assert.NotContains(t, n, "FROST")
	}
}

// What points at another part of a manual, counts something or is short for something is no name.
func TestPointersAndUnitsAreNoNames(t *testing.T) {
	for lang, text := range map[string]string{
		"en": `See Section 3.3 and Appendix C of the Northern Road Board. As in Section 3.3, the board asks, and Appendix C says why.`,
		"de": `Siehe Abschnitt 3.3 und Anhang C bei Ventovar GmbH, z.B. für Reifen. Wie in Abschnitt 3.3 gilt Anhang C, z.B. im Winter.`,
		"fr": `Voir la Section 3.3 et l'Annexe C de Northern Road Board. Il faut 10 Go pour la Section 3.3, et 20 Go pour l'Annexe C.`,
	} {
		var names []string
		for n, x := range find(t, lang, "<p>"+text+"</p>", "<p>"+text+"</p>") {
			if x.Type.IsNamed() {
				names = append(names, n)
			}
		}
		require.Len(t, names, 1, "%s: %v", lang, names)
		assert.Contains(t, []string{"Northern Road Board", "Ventovar GmbH"}, names[0])
	}
}

// A name with an elision is one name, and its article none of it.
func TestNamesWithElisions(t *testing.T) {
	html := `<p>La route longe la Côte d'Azur, et l'Éclairage Public de Marseille la suit. Les gens de la Côte d’Azur roulent en hiver. On dit que l'éclairage manque.</p>`
	pages := []corpus.RankedPage{corpustest.PageIn(t, "fr", 1, "a.example", html), corpustest.PageIn(t, "fr", 2, "b.example", html)}
	var names []string
	for _, x := range Find(corpus.NewField(pages, "fr", "vélo"), nil, nil) {
		names = append(names, x.Key)
	}
	assert.Contains(t, names, "cote d'azur")
	assert.NotContains(t, names, "l")
}

// Concepts are terms that belong to the subject: in the dictionary or the encyclopedia and
// far beyond general language, or a kind of something that is in it; not a common word.
func TestConcepts(t *testing.T) {
	page := corpustest.Page(t, 1, "a.example", `<p>A studded tyre and a mudguard help on the road, and the zqplx does not.</p>`)
	f := corpus.NewField([]corpus.RankedPage{page, page}, "en", "winter")
	term := func(name string, ratio float64) Concept {
		return Concept{name, name, []int{2, 1}, []int{0}, ratio, map[string]int{name: 3}}
	}
	concepts := map[string]Entity{}
	for _, x := range Find(f, []Concept{term("mudguard", 9), term("road", 2), term("studded tyre", 8), term("zqplx", 12), term("zqplx quoomer", 9), term("Ctrl", 9)}, nil) {
		if x.Type == ConceptType {
			concepts[x.Name] = x
		}
	}
	assert.Len(t, concepts, 2, "%v", concepts)
	assert.Contains(t, concepts["studded tyre"].Why.String(), "a kind of “tyre”")
	assert.Equal(t, 3, concepts["mudguard"].Mentions)
}

// A standard is one whatever edition is named, and abbreviations are neither towns nor people.
func TestStandardsAndAbbreviations(t *testing.T) {
	var pages []corpus.RankedPage
	for i, text := range []string{
		"Säcke tragen die Norm EN 13432, zersetzen sich aber langsam. Die Handwerker von RGE sagen das auch.",
		"Kunststoff, der nach DIN EN 13432 als kompostierbar gilt, bleibt liegen. Das bestätigt RGE.",
		"Beutel nach EN 13432 taugen nicht, wie RGE sagt. Geliefert wird Laub im Gehäcksel R2.",
	} {
		pages = append(pages, corpustest.PageIn(t, "de", i+1, string(rune('a'+i))+".example", "<h1>Kompost</h1><p>"+text+"</p>"))
	}
	found := map[string]Entity{}
	for _, e := range Find(corpus.NewField(pages, "de", "kompost"), nil, nil) {
		found[e.Name] = e
	}
	assert.Equal(t, 3, found["EN 13432"].Pages)
	assert.Equal(t, StandardType, found["EN 13432"].Type)
	assert.NotContains(t, found, "DIN EN 13432")
	assert.Equal(t, ConceptType, found["RGE"].Type)
}
