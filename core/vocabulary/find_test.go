package vocabulary

import (
	"fmt"
	"strings"
	"testing"

	"corpulan/core/corpus"
	"corpulan/core/corpus/corpustest"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func termNamed(terms []Term, text string) *Term {
	for i := range terms {
		if terms[i].Text == text {
			return &terms[i]
		}
		for _, s := range terms[i].Shapes {
			if s.Text == text {
				return &terms[i]
			}
		}
	}
	return nil
}

func TestTermShapesAreOneTerm(t *testing.T) {
	pages := []corpus.RankedPage{
		corpustest.Page(t, 1, "a.example", `<h1>On it</h1><p>An e-bike needs a charger. The ebike charger is heavy, and every e bike has one.</p>`),
		corpustest.Page(t, 2, "b.example", `<h1>More</h1><p>E-bikes are quick. A studded tyre grips. Our e-bike is parked.</p>`),
		corpustest.Page(t, 3, "c.example", `<h1>Less</h1><p>Studded tyres grip; the studded tyre’s pins wear.</p>`),
	}
	terms := Find(t.Context(), corpus.NewField(pages, "en", "winter riding"), nil)
	bike := termNamed(terms, "e-bike")
	require.NotNil(t, bike)
	assert.Equal(t, []int{3, 2, 0}, bike.Counts, "hyphen, joined and open spelling, singular and plural")
	assert.Equal(t, "e-bike", bike.Text)
	tyre := termNamed(terms, "studded tyre")
	require.NotNil(t, tyre)
	assert.Equal(t, []int{0, 1, 2}, tyre.Counts)
}

func TestWhatIsNoTerm(t *testing.T) {
	text := `<h1>Guide</h1><p>You should get the best out of it, really. In January 2026 the ride was 12 km. Northlane says: wear wool gloves, and keep the wool gloves dry.</p><pre>npm install gloves</pre>`
	terms := Find(t.Context(), corpus.NewField([]corpus.RankedPage{
		corpustest.Page(t, 1, "northlane.example", text), corpustest.Page(t, 2, "other.example", text), corpustest.Page(t, 3, "third.example", strings.ReplaceAll(text, "wool", "silk"))}, "en", "winter riding"), nil)
	for _, junk := range []string{"you", "best", "get", "really", "2026", "12 km", "npm", "npm install", "should get", "ride was"} {
		assert.Nil(t, termNamed(terms, junk), junk)
	}
	for _, flagged := range []string{"northlane", "January", "Northlane", "km"} {
		if term := termNamed(terms, flagged); term != nil {
			assert.False(t, term.Recommended(), flagged)
		}
	}
	require.NotNil(t, termNamed(terms, "wool gloves"))
	assert.Nil(t, termNamed(terms, "silk gloves"), "one page only")
}

func TestTiers(t *testing.T) {
	for _, c := range []struct {
		pages, of int
		want      Tier
	}{{6, 10, Staple}, {5, 10, Frequent}, {3, 10, Frequent}, {2, 10, Occasional}, {1, 10, Hapax}, {1, 1, Hapax}, {2, 2, Staple}, {2, 3, Staple}} {
		assert.Equal(t, c.want, TierOf(c.pages, c.of), fmt.Sprint(c))
	}
}

// The same matter in languages without a dictionary here: nouns are told by what
// they follow, by their endings and by their capitals, and general words by their rank. The prose is
// our own.
func TestTermsOfOtherLanguages(t *testing.T) {
	for language, c := range map[string]struct {
		one, two    string
		terms, junk []string
	}{
		"de": {`<p>Die Winterreifen halten auf Eis besser, weil der Reifen weicher ist. Wer im Winter fährt, braucht gute Winterreifen und eine helle Lampe. Drei Stunden reichen, um die Winterreifen zu wechseln. Man muss die helle Lampe jeden Tag laden.</p><h2>Winterreifen wechseln</h2><p>Der Wechsel dauert zwei Stunden, wenn der Reifen alt ist.</p>`,
			`<p>Ohne Winterreifen rutscht das Rad. Ein weicher Reifen greift, und die helle Lampe zeigt den Weg. Im Abschnitt steht ein Beispiel dafür, wie der Reifen altert.</p><p>Mit zwei Winterreifen fährt man ruhig; drei Lampen braucht niemand, der eine helle Lampe hat.</p>`,
			[]string{"Winterreifen", "Reifen", "helle Lampe"}, []string{"fährt", "braucht", "zwei", "drei", "drei Stunden", "weicher", "Abschnitt", "Beispiel", "winterreifen"}},
		"fr": {`<p>Les pneus d'hiver tiennent sur la glace. Quand l'hiver vient, les pneus d'hiver évitent la chute, et l'éclairage aide à voir. Il faut deux heures pour monter les pneus.</p><h2>Choisir ses pneus d'hiver</h2><p>Un bon éclairage se charge chaque jour.</p>`,
			`<p>Sur la neige, des pneus d'hiver cloutés font la différence. Cet éclairage évite l'accident, et les pneus restent souples. Par exemple, un pneu froid glisse.</p>`,
			[]string{"pneus d'hiver", "éclairage", "pneus"}, []string{"évitent", "évite", "il faut", "les pneus", "deux", "exemple", "faut"}},
		"es": {`<p>Los neumáticos de invierno agarran en el hielo. Cuando llega el hielo, una luz trasera potente ayuda. Hay que limpiar la cadena con un cepillo. La luz trasera se carga cada día.</p><h2>Limpiar la cadena</h2><p>El cepillo y la cadena van juntos.</p>`,
			`<p>Sin neumáticos de invierno la bicicleta patina en el hielo. La cadena se oxida, y el cepillo la limpia. Para ver, la luz trasera es obligatoria.</p>`,
			[]string{"neumáticos de invierno", "luz trasera", "cadena", "cepillo", "hielo"}, []string{"agarran", "limpia", "los neumáticos", "hay", "cuando", "patina"}},
		"it": {`<p>Gli pneumatici invernali tengono sul ghiaccio. La catena arrugginisce con il sale, e la luce posteriore aiuta. Bisogna pulire la catena con uno straccio.</p><h2>Pulire la catena</h2><p>Lo straccio toglie il sale dalla catena.</p>`,
			`<p>Senza pneumatici invernali la bici scivola sul ghiaccio. Il sale rovina la catena; lo straccio serve ogni sera. La luce posteriore è obbligatoria.</p>`,
			[]string{"pneumatici invernali", "luce posteriore", "catena", "straccio", "ghiaccio"}, []string{"tengono", "bisogna", "gli pneumatici", "serve", "scivola"}},
		"nl": {`<p>De winterbanden houden grip op het ijs. Een ketting roest door het strooizout, en het achterlicht helpt. Je moet de ketting elke week smeren.</p><h2>De ketting smeren</h2><p>Het strooizout vreet de ketting aan.</p>`,
			`<p>Zonder winterbanden glijdt de fiets op het ijs. Het strooizout is slecht voor de ketting. Het achterlicht is verplicht.</p>`,
			[]string{"winterbanden", "ketting", "strooizout", "achterlicht", "ijs"}, []string{"houden", "moet", "de ketting", "glijdt", "elke week"}},
		"pt": {`<p>Os pneus de inverno agarram no gelo. A corrente enferruja com o sal, e a luz traseira ajuda. É preciso limpar a corrente com um pano.</p><h2>Limpar a corrente</h2><p>O pano tira o sal da corrente.</p>`,
			`<p>Sem pneus de inverno a bicicleta escorrega no gelo. O sal estraga a corrente; o pano serve todas as noites. A luz traseira é obrigatória.</p>`,
			[]string{"pneus de inverno", "luz traseira", "corrente", "pano", "gelo"}, []string{"agarram", "os pneus", "escorrega", "serve", "preciso"}},
		"sv": {`<p>Vinterdäcken greppar på isen. Kedjan rostar av saltet, och baklyktan hjälper. Man måste smörja kedjan varje vecka.</p><h2>Smörj kedjan</h2><p>Saltet fräter på kedjan.</p>`,
			`<p>Utan vinterdäck glider cykeln på isen. Saltet är dåligt för kedjan. Baklyktan är obligatorisk, och vinterdäcken håller.</p>`,
			[]string{"vinterdäcken", "kedjan", "saltet", "baklyktan", "isen"}, []string{"greppar", "måste", "glider", "varje vecka"}},
	} {
		pages := []corpus.RankedPage{corpustest.PageIn(t, language, 1, "a.example", c.one), corpustest.PageIn(t, language, 2, "b.example", c.two)}
		terms := Find(t.Context(), corpus.NewField(pages, language, "vélo"), nil)
		proposed := map[string]bool{}
		for _, term := range terms {
			if term.Recommended() {
				proposed[term.Text] = true
			}
		}
		for _, want := range c.terms {
			assert.True(t, proposed[want], "%s: %s among %v", language, want, proposed)
		}
		for _, no := range c.junk {
			assert.False(t, proposed[no], "%s: %s", language, no)
		}
		for _, term := range terms {
			if !proposed[term.Text] {
				continue
			}
			lines := corpus.Concordance(pages, term.Keys...)
			assert.Len(t, lines, term.Count, "every count has its places: %s", term.Text)
		}
	}
}

// A page that says one sentence five hundred times says it once; what it says in
// other words counts each time.
func TestRepeatedSentencesCountOnce(t *testing.T) {
	pages := []corpus.RankedPage{
		corpustest.Page(t, 1, "a.example", "<p>"+strings.Repeat("Buy the studded tyre of our shop today. ", 500)+"</p><p>A studded tyre grips. The studded tyre wears.</p>"),
		corpustest.Page(t, 2, "b.example", "<p>The studded tyre grips on ice. Yes. Yes.</p>"),
	}
	tyre := termNamed(Find(t.Context(), corpus.NewField(pages, "en", "winter"), nil), "studded tyre")
	require.NotNil(t, tyre)
	assert.Equal(t, []int{3, 1}, tyre.Counts)
	assert.Len(t, corpus.Concordance(pages, tyre.Keys...), 4)
}

// A name that is written as one keeps all its capitals, though its words are
// mostly written small.
func TestTermsThatAreNamesKeepTheirCapitals(t *testing.T) {
	text := "<p>The Road Surface Laboratory measured it. A road is a surface, and the road surface is wet; the road dries. Then the Road Surface Laboratory said so.</p>"
	pages := []corpus.RankedPage{corpustest.Page(t, 1, "a.example", text), corpustest.Page(t, 2, "b.example", text+"<p>So does the Road Surface Laboratory of the north.</p>")}
	terms := Find(t.Context(), corpus.NewField(pages, "en", "winter"), nil)
	assert.NotNil(t, termNamed(terms, "Road Surface Laboratory"))
	assert.NotNil(t, termNamed(terms, "road surface"))
}

func TestSpellingsAreOneTerm(t *testing.T) {
	pages := []corpus.RankedPage{
		corpustest.Page(t, 1, "a.example", "<p>A studded tire grips on ice. Studded tires wear on tarmac.</p>"),
		corpustest.Page(t, 2, "b.example", "<p>The studded tyre is heavy, and I am tired of studded tyres. Tyres wear; the studded tyre hums.</p>"),
	}
	terms := Find(t.Context(), corpus.NewField(pages, "en", "winter"), nil)
	tyre := termNamed(terms, "studded tyre")
	require.NotNil(t, tyre)
	assert.Equal(t, []int{2, 3}, tyre.Counts)
	assert.Equal(t, "studded tyre", tyre.Text, "the commonest spelling is shown")
	assert.NotNil(t, termNamed(terms, "studded tire"), "the other is a shape of it")
}

// Fixed shapes stay whole, whatever their parts are alone; what only begins a phrase is no term.
func TestFixedShapes(t *testing.T) {
	find := func(language, text string) map[string]string {
		var pages []corpus.RankedPage
		for i := range 3 {
			pages = append(pages, corpustest.PageIn(t, language, i+1, string(rune('a'+i))+".example", "<h1>X</h1><p>"+text+"</p>"))
		}
		found := map[string]string{}
		for _, x := range Find(t.Context(), corpus.NewField(pages, language, "x"), nil) {
			if x.YieldsTo == "" {
				found[x.Text] = string(x.Flag)
			}
		}
		return found
	}
	en := find("en", "Change the O-ring of the quarter-turn tap. A new O-ring costs little. The isolating valve is below, and the pH of the water is low. A steel called X50CrMoV15 is hard, and a VG-10 blade is harder.")
	for _, want := range []string{"O-ring", "quarter-turn tap", "isolating valve", "pH", "X50CrMoV15", "VG-10 blade"} {
		flag, ok := en[want]
		assert.True(t, ok && flag == "", "%s: %v %q", want, ok, flag)
	}
	es := find("es", "Hasta la mitad del skimmer llega el agua a finales de octubre. Cepilla las paredes y cepilla el fondo. El liner se raja, quien lava el liner lo sabe, y un liner es caro.")
	for _, out := range []string{"mitad del skimmer", "finales de octubre", "cepilla"} {
		assert.NotEqual(t, "", es[out], out)
	}
	assert.Contains(t, es, "liner")
	assert.Empty(t, es["liner"])
}
