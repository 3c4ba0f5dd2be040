package demand

import (
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"testing"

	"corpulan/core/language"
	"corpulan/core/message"
	"corpulan/core/stats"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func TestFigures(t *testing.T) {
	for s, want := range map[string]float64{
		"1234": 1234, "1,234": 1234, "1.234.567": 1234567, "1,234,567": 1234567, "1.234,5": 1234.5, "1,234.5": 1234.5, "0,45": 0.45, "1.5": 1.5, "12 %": 12, "€0,45": 0.45, "$1.20": 1.2,
		"1.2K": 1200, "3M": 3e6, "10 – 100": math.Sqrt(1000), "1K–10K": math.Sqrt(1e7), "100-1000": math.Sqrt(1e5), "0-10": 5, "< 10": 10, "1'234": 1234, "1 234": 1234, "1\u202f234": 1234, "0.500": 0.5, "-3": -3, "12,34": 12.34,
	} {
		got := ParseFigure(s)
		assert.True(t, got.Known, s)
		assert.InDelta(t, want, got.Value, 1e-9, s)
	}
	assert.Equal(t, Of(1900), ParseCount("1.900"))
	assert.Equal(t, Of(1.9), ParseFigure("1.900"), "a price may be written so")
	for _, s := range []string{"", "-", "–", "n/a", "none", "k", "1,2,3", "NaN", "Inf", "1e999"} {
		assert.False(t, ParseFigure(s).Known, s)
	}
	b, err := json.Marshal([]Figure{Of(1.5), {}})
	require.NoError(t, err)
	assert.JSONEq(t, "[1.5,null]", string(b))
	var back []Figure
	require.NoError(t, json.Unmarshal(b, &back))
	assert.Equal(t, []Figure{Of(1.5), {}}, back)
}

// Columns by their names in the eight languages, by months, behind lines of title, and by what
// stands in them; what is doubtful is said.
func TestColumns(t *testing.T) {
	fields := func(rows ...string) Columns {
		var table [][]string
		for _, r := range rows {
			table = append(table, strings.Split(r, "|"))
		}
		return Recognise(table)
	}
	for _, x := range []struct {
		head string
		want []Column
	}{
		{"Keyword|Search volume|KD %|CPC (USD)|Competition|URL", []Column{KeywordField, VolumeField, DifficultyField, CostField, CompetitionField, AddressField}},
		{"Top queries|Clicks|Impressions|CTR|Position", []Column{KeywordField, ClicksField, ImpressionsField, "", PositionField}},
		{"Suchbegriff|Suchvolumen|Schwierigkeit|Klickpreis", []Column{KeywordField, VolumeField, DifficultyField, CostField}},
		{"Mot clé|Volume de recherche|Difficulté|Coût par clic", []Column{KeywordField, VolumeField, DifficultyField, CostField}},
		{"Palabra clave|Búsquedas mensuales|Dificultad|Coste por clic", []Column{KeywordField, VolumeField, DifficultyField, CostField}},
		{"Parola chiave|Volume di ricerca|Difficoltà|Costo per clic", []Column{KeywordField, VolumeField, DifficultyField, CostField}},
		{"Zoekwoord|Zoekvolume|Moeilijkheid|Kosten per klik", []Column{KeywordField, VolumeField, DifficultyField, CostField}},
		{"Palavra-chave|Volume de pesquisa|Dificuldade|Custo por clique", []Column{KeywordField, VolumeField, DifficultyField, CostField}},
		{"Sökord|Sökvolym|Svårighetsgrad|Kostnad per klick", []Column{KeywordField, VolumeField, DifficultyField, CostField}},
		{"Keyword|Searches: Jan 2026|Searches: Feb 2026|2026-03", []Column{KeywordField, MonthField, MonthField, MonthField}},
	} {
		c := fields(x.head, "winter tyres|10|20|0.3|x|y")
		assert.Equal(t, x.want, c.Fields[:len(x.want)], x.head)
		assert.True(t, c.Header)
		assert.Empty(t, c.Doubts)
	}
	// What is named among other words is taken, and asked about.
	doubtful := fields("Keyword|Est. Search Vol. (GB)|KD today|Avg CPC in £|Previous position|Landing URL|CTR", "winter tyres|1900|20|0.3|4|https://a.example/|3%")
	assert.Equal(t, []Column{KeywordField, VolumeField, DifficultyField, CostField, PositionField, AddressField, ""}, doubtful.Fields)
	assert.Equal(t, []Column{VolumeField, DifficultyField, CostField, PositionField, AddressField}, doubtful.Doubts)
	c := fields("Keyword ideas", "1 January 2026", "", "Keyword|Volume", "a b|1")
	assert.Equal(t, 3, c.Skipped)
	c = fields("winter tyres|1900|https://a.example/", "bike chain|20|https://b.example/")
	assert.Equal(t, []Column{KeywordField, VolumeField, AddressField}, c.Fields)
	assert.False(t, c.Header)
	assert.Equal(t, []Column{VolumeField}, c.Doubts)
	c = fields("Keyword|Volume|Search volume", "a|1|2")
	assert.Equal(t, []Column{VolumeField}, c.Doubts)
	assert.Equal(t, []Column{KeywordField}, fields("winter tyres").Fields)
}

// The same query in other spellings is one, with the figures of both; rows without one are told.
func TestReading(t *testing.T) {
	rows := [][]string{{"Keyword", "Volume", "CPC", "Jan 2026"}, {"Winter tyres", "100", "", "5"}, {"winter-tyres", "1.900", "0,45", ""}, {"", "5"}, {"=HYPERLINK(1)", "1"}, {"***", "2"}, {strings.Repeat("x", 2000), "3"}, {"[bike chain]", "-", "n/a"}, {}, {"Vélo d'été", "10"}, {"velo d’ete", "20"}}
	list, dropped, err := Read(rows, Recognise(rows))
	require.NoError(t, err)
	require.Len(t, list, 4)
	assert.Equal(t, Keyword{Text: "Winter tyres", Volume: Of(1900), Cost: Of(0.45), Trend: []Figure{Of(5)}, Until: "2026-01", Spellings: []string{"winter-tyres"}}, list[0])
	assert.Equal(t, "HYPERLINK(1)", list[1].Text)
	assert.False(t, list[2].Volume.Known)
	assert.Equal(t, Of(20), list[3].Volume)
	assert.Equal(t, []int{4, 6, 7}, []int{dropped[0].Row, dropped[1].Row, dropped[2].Row})
	_, _, err = Read([][]string{{"1", "2"}}, Recognise([][]string{{"1", "2"}}))
	assert.ErrorIs(t, err, ErrNoKeywords)
	rapid.Check(t, func(r *rapid.T) { // whatever stands in a table, it is read or told
		table := rapid.SliceOfN(rapid.SliceOfN(rapid.String(), 0, 4), 0, 8).Draw(r, "table")
		list, _, err := Read(table, Recognise(table))
		if err == nil {
			GroupOf(list, Options{Language: "en", Width: 0.5})
		}
	})
}

// Months go from the oldest to the newest however a list has them, in all languages.
func TestMonths(t *testing.T) {
	for heading, want := range map[string]string{"Searches: Oct 2026": "2026-10", "2026-03": "2026-03", "3/2026": "2026-03", "Dez. 2025": "2025-12", "févr. 2026": "2026-02", "März 26": "2026-03", "agosto 2026": "2026-08", "Total": "", "May": ""} {
		assert.Equal(t, want, monthOf(heading), heading)
	}
	rows := [][]string{{"Keyword", "Mar 2026", "Feb 2026", "Jan 2026"}, {"winter tyres", "3", "2", "1"}}
	list, _, err := Read(rows, Recognise(rows))
	require.NoError(t, err)
	assert.Equal(t, []Figure{Of(1), Of(2), Of(3)}, list[0].Trend)
	assert.Equal(t, "2026-03", list[0].Until)
	merged, _ := Merge(list, []Keyword{{Text: "winter tyres", Until: "2026-04", Trend: []Figure{Of(2), Of(3), Of(4)}}})
	assert.Equal(t, "2026-04", merged[0].Until, "the newer year")
}

func names2(g Grouping) map[string]string {
	of := map[string]string{}
	for _, x := range g.Groups {
		for _, k := range x.Keywords {
			of[k.Text] = x.Name
		}
	}
	return of
}

// Shared results bring together what words hold apart, and hold apart what words bring
// together; a group sums up its keywords.
func TestGroups(t *testing.T) {
	addresses := func(site string, from, to int) (list []string) {
		for i := from; i < to; i++ {
			list = append(list, fmt.Sprintf("https://%s.example/%d", site, i))
		}
		return list
	}
	list := []Keyword{
		{Text: "bar mitts", Volume: Of(500), Difficulty: Of(20), Cost: Of(1)}, {Text: "how do pogies work", Volume: Of(40), Difficulty: Of(40)}, {Text: "best handlebar mittens", Volume: Of(60), Cost: Of(3)},
		{Text: "chain lube", Volume: Of(900)}, {Text: "chain lube sale", Volume: Of(30)}, {Text: "bike chain 2019", Volume: Of(1)},
	}
	o := Options{Language: "en", Width: 0.4, Year: 2026, Results: Results{
		"bar mitts": addresses("m", 0, 10), "how do pogies work": addresses("m", 3, 13), "best handlebar mittens": addresses("m", 6, 16),
		"chain lube": addresses("l", 0, 10), "chain lube sale": addresses("shop", 0, 10),
	}}
	g := GroupOf(list, o)
	of := names2(g)
	assert.Equal(t, "bar mitts", of["how do pogies work"])
	assert.Equal(t, "bar mitts", of["best handlebar mittens"], "over another that both share results with")
	assert.Equal(t, []Out{{Keyword: "bike chain 2019", Reason: message.Of("it asks for %d, which is past", 2019)}}, g.Out)
	i := 0
	for g.Groups[i].Name != "bar mitts" {
		i++
	}
	m := g.Groups[i]
	assert.Equal(t, Of(600), m.Volume)
	assert.Equal(t, Of(30), m.Difficulty)
	assert.Equal(t, Of(2), m.Cost)
	assert.True(t, m.Shared)
	assert.Equal(t, []string{"how do pogies work"}, m.Questions)
	assert.Equal(t, informational, m.Intent)
	// Order is of no account for who is with whom.
	list[0], list[4] = list[4], list[0]
	assert.Equal(t, of, names2(GroupOf(list, o)))
	assert.Empty(t, GroupOf(nil, Options{}).Groups)
	// By words alone: the same stems are one, whatever the width.
	by := names2(GroupOf([]Keyword{{Text: "clean bike chain"}, {Text: "cleaning bike chains"}, {Text: "cake recipes"}}, Options{Language: "en"}))
	assert.Equal(t, by["clean bike chain"], by["cleaning bike chains"])
	assert.NotEqual(t, by["clean bike chain"], by["cake recipes"])
}

// Words near in meaning bring queries together, in part; in a language without the dictionary
// only the same stems do. Soft cosine worked by hand on two words with weights of one each.
func TestMeaning(t *testing.T) {
	by := names2(GroupOf([]Keyword{{Text: "bicycle storage"}, {Text: "store a bike"}, {Text: "cake recipes"}}, Options{Language: "en", Width: 0.5}))
	assert.Equal(t, by["bicycle storage"], by["store a bike"])
	assert.NotEqual(t, by["bicycle storage"], by["cake recipes"])
	m := meaning{"a": {"b": 0.8}, "b": {"a": 0.8}}
	vector := func(stems ...string) *about {
		w := make([]stats.Weighted, len(stems))
		for i, s := range stems {
			w[i] = stats.Weighted{Stem: s, Weight: 1}
		}
		x := &about{signs: signs{vector: stats.NewVector(w)}}
		x.meet(m)
		return x
	}
	assert.InDelta(t, 0.8, m.cosine(vector("a"), vector("b")), 1e-9)
	assert.InDelta(t, 1, m.cosine(vector("a", "c"), vector("a", "c")), 1e-9)
	assert.InDelta(t, (0.8+1)/2, m.cosine(vector("a", "c"), vector("b", "c")), 1e-9)
	assert.Zero(t, m.cosine(vector("c"), vector("d")))
	assert.Nil(t, meaningOf([]Keyword{{Text: "Fahrrad"}}, language.For("de")))
}

// Compounds meet the words they are made of, and each other, in languages that join words.
func TestCompounds(t *testing.T) {
	list := []Keyword{{Text: "Fahrradhandschuhe Winter"}, {Text: "Winterhandschuhe Fahrrad"}, {Text: "Spikereifen Fahrrad"}, {Text: "Fahrradreifen mit Spikes"}, {Text: "Kettenöl Fahrrad"}, {Text: "Liebesbrief schreiben"}}
	split := compounds(list, language.For("de"))
	assert.Equal(t, []string{"fahrrad", "handschuh"}, split["fahrradhandschuhe"])
	assert.Equal(t, []string{"lieb", "brief"}, split["liebesbrief"], "with the letter that joins them")
	assert.NotContains(t, split, "fahrrad")
	by := names2(GroupOf(list, Options{Language: "de", Width: 0.5}))
	assert.Equal(t, by["Fahrradhandschuhe Winter"], by["Winterhandschuhe Fahrrad"])
	assert.Equal(t, by["Spikereifen Fahrrad"], by["Fahrradreifen mit Spikes"])
	assert.NotEqual(t, by["Kettenöl Fahrrad"], by["Winterhandschuhe Fahrrad"])
	assert.Empty(t, compounds([]Keyword{{Text: "lampshade lamp shade"}}, language.For("en")))
	nl := names2(GroupOf([]Keyword{{Text: "fietshandschoenen winter"}, {Text: "winterhandschoenen fiets"}, {Text: "kettingolie"}}, Options{Language: "nl", Width: 0.5}))
	assert.Equal(t, nl["fietshandschoenen winter"], nl["winterhandschoenen fiets"])
	sv := names2(GroupOf([]Keyword{{Text: "cykelhandskar vinter"}, {Text: "vinterhandskar cykel"}, {Text: "kedjeolja"}}, Options{Language: "sv", Width: 0.5}))
	assert.Equal(t, sv["cykelhandskar vinter"], sv["vinterhandskar cykel"])
}

func TestSeasonality(t *testing.T) {
	year := make([]float64, 12)
	for i := range year {
		year[i] = 10
	}
	assert.Equal(t, Of(1), seasonality(year))
	year[11] = 130
	assert.Equal(t, Of(6.5), seasonality(year))
	assert.False(t, seasonality(year[:6]).Known)
}

func manyKeywords(n int) (list []Keyword) {
	subjects := []string{"tyre", "chain", "glove", "light", "brake", "saddle", "helmet", "pump", "lock", "pedal"}
	for i := range n {
		list = append(list, Keyword{Text: fmt.Sprintf("%s %s thing%d for winter%d", subjects[i%10], subjects[i/10%10], i/40, i/400), Volume: Of(float64(i))})
	}
	return list
}

func BenchmarkGroup5000(b *testing.B) {
	list := manyKeywords(5000)
	for b.Loop() {
		GroupOf(list, Options{Language: "en", Width: 0.5})
	}
}

// What turning the control takes, once a list has been compared.
func BenchmarkWidth5000(b *testing.B) {
	g, err := NewGraph(b.Context(), manyKeywords(5000), Options{Language: "en"}, nil)
	require.NoError(b, err)
	width := 0.0
	for b.Loop() {
		g.Part(Options{Language: "en", Width: math.Mod(width, 1)})
		width += 0.3
	}
}

func BenchmarkGroup50000(b *testing.B) {
	list := manyKeywords(50000)
	for b.Loop() {
		GroupOf(list, Options{Language: "en", Width: 0.5})
	}
}
