package language

import (
	"strings"
	"testing"

	"corpulan/core/text"

	"github.com/stretchr/testify/assert"
)

// A word and its plural, or its form with the article in Swedish, are one term; the pairs are of any
// grammar of the languages (common practice, no published source).
func TestPluralsAreOneTerm(t *testing.T) {
	for code, pairs := range map[string]string{
		"en": "knife/knives shelf/shelves leaf/leaves foot/feet tooth/teeth mouse/mice child/children man/men fireman/firemen woman/women battery/batteries index/indices analysis/analyses bus/buses gas/gases lens/lenses life/lives half/halves",
		"de": "Konto/Konten Girokonto/Girokonten Konto/Kontos Auto/Autos Pedelec/Pedelecs Tipp/Tipps App/Apps Handy/Handys Kamera/Kameras Thema/Themen Firma/Firmen Zentrum/Zentren Museum/Museen Rad/Räder Haus/Häuser Preis/Preise Studio/Studios Virus/Viren Bus/Busse Laptop/Laptops Team/Teams Ergebnis/Ergebnisse Shop/Shops Risiko/Risiken Fahrradschloss/Fahrradschlösser",
		"fr": "cheval/chevaux travail/travaux bijou/bijoux œil/yeux pneu/pneus vélo/vélos photo/photos feu/feux vitrail/vitraux cœur/coeur menu/menus loi/lois caméra/caméras",
		"es": "luz/luces lápiz/lápices voz/voces camión/camiones rey/reyes neumático/neumáticos",
		"it": "amico/amici mano/mani lago/laghi braccio/braccia uomo/uomini pneumatico/pneumatici",
		"pt": "animal/animais papel/papéis mão/mãos pão/pães balão/balões luz/luzes homem/homens viagem/viagens túnel/túneis fácil/fáceis pneu/pneus",
		"nl": "huis/huizen brief/brieven auto/auto's foto/foto's stad/steden kind/kinderen schijf/schijven band/banden fiets/fietsen ei/eieren rem/remmen schip/schepen museum/musea lens/lenzen",
		"sv": "bok/böcker däck/däcken cykel/cyklar cykeln/cyklarna lampa/lampor lampan/lamporna bil/bilar hand/händer museum/museer nyckel/nycklar fönster/fönstret hus/huset system/systemet kedja/kedjan",
	} {
		l := For(code)
		for p := range strings.FieldsSeq(pairs) {
			one, many, _ := strings.Cut(p, "/")
			assert.Equal(t, l.Stem(one), l.Stem(many), "%s %s", code, p)
		}
	}
}

// What only looks like a plural is none.
func TestWordsThatStayApart(t *testing.T) {
	for code, pairs := range map[string]string{
		"en": "bus/busy gas/gasp index/indicate men/mend news/new",
		"de": "Studie/Studio Datum/Daten Porto/Port Kamera/Kammer Radio/Radius Basis/Base Dynamo/Dynamik Karte/Karton Pasta/Paste Kurs/Kurier Haus/Haut",
		"fr": "pneu/pneumatique tapis/tape velo/velours roue/rouet boue/bouée prix/prise pays/paie",
		"pt": "bala/balão carta/cartão porta/portão mãe/mão mais/mal",
		"nl": "spaak/spa ketting/ket vork/voor rest/res",
		"sv": "plan/planet glas/glass internet/intern cykel/cyklist buss/bus",
	} {
		l := For(code)
		for p := range strings.FieldsSeq(pairs) {
			one, other, _ := strings.Cut(p, "/")
			assert.NotEqual(t, l.Stem(one), l.Stem(other), "%s %s", code, p)
		}
	}
}

func TestEndings(t *testing.T) {
	out, done := replaced("kontos", endingsOf("os=o/5"))
	assert.Equal(t, "konto", out)
	assert.True(t, done)
	out, done = replaced("kos", endingsOf("os=o/5"))
	assert.Equal(t, "kos", out)
	assert.False(t, done, "too short")
	out, done = replaced("plan", endingsOf("plan=plan/4 an=a/4"))
	assert.Equal(t, "plan", out)
	assert.False(t, done, "an exception")
	assert.Panics(t, func() { endingsOf("os") })
	assert.Panics(t, func() { pairsOf("knives") })
	assert.Equal(t, "coeur", text.Fold("cœur"))
}
