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
		"en": "knife/knives shelf/shelves leaf/leaves foot/feet tooth/teeth mouse/mice child/children man/men fireman/firemen woman/women battery/batteries index/indices analysis/analyses bus/buses gas/gases lens/lenses life/lives half/halves tomato/tomatoes box/boxes dish/dishes quiz/quizzes photo/photos hero/heroes tie/ties shoe/shoes video/videos ski/skis taxi/taxis menu/menus glove/gloves brush/brushes roof/roofs key/keys toe/toes echo/echoes piano/pianos series/series species/species chassis/chassis wheel/wheels tyre/tyres bike/bikes",
		"de": "Konto/Konten Girokonto/Girokonten Konto/Kontos Auto/Autos Pedelec/Pedelecs Tipp/Tipps App/Apps Handy/Handys Kamera/Kameras Thema/Themen Firma/Firmen Zentrum/Zentren Museum/Museen Rad/Räder Haus/Häuser Preis/Preise Studio/Studios Virus/Viren Bus/Busse Laptop/Laptops Team/Teams Ergebnis/Ergebnisse Shop/Shops Risiko/Risiken Fahrradschloss/Fahrradschlösser Lampe/Lampen Schraube/Schrauben Bremse/Bremsen Kette/Ketten Schlauch/Schläuche Zahn/Zähne Fuß/Füße Straße/Straßen Stadt/Städte Wort/Wörter Bild/Bilder Fahrer/Fahrern Lehrerin/Lehrerinnen Party/Partys Hotel/Hotels Test/Tests Tasse/Tassen Schuh/Schuhe Kind/Kindern Zeugnis/Zeugnisse Bedürfnis/Bedürfnissen Mantel/Mäntel Vogel/Vögel Feder/Federn Muskel/Muskeln Nummer/Nummern Leiter/Leitern Akku/Akkus Foto/Fotos E-Bike/E-Bikes Helm/Helme Schloss/Schlösser Pumpe/Pumpen Felge/Felgen Speiche/Speichen Sattel/Sättel Ventil/Ventile",
		"fr": "cheval/chevaux travail/travaux bijou/bijoux œil/yeux pneu/pneus vélo/vélos photo/photos feu/feux vitrail/vitraux cœur/coeur menu/menus loi/lois caméra/caméras gâteau/gâteaux journal/journaux tuyau/tuyaux noyau/noyaux genou/genoux clou/clous trou/trous canapé/canapés clé/clés roue/roues essieu/essieux bleu/bleus gant/gants frein/freins chaîne/chaînes matériau/matériaux détail/détails portail/portails pays/pays",
		"es": "luz/luces lápiz/lápices voz/voces camión/camiones rey/reyes neumático/neumáticos color/colores mes/meses pez/peces sofá/sofás menú/menús luz/luces bici/bicis club/clubs jersey/jerséis examen/exámenes joven/jóvenes canción/canciones pie/pies té/tés",
		"it": "amico/amici mano/mani lago/laghi braccio/braccia uomo/uomini pneumatico/pneumatici problema/problemi tema/temi luce/luci freno/freni ruota/ruote catena/catene guanto/guanti ciclista/ciclisti camicia/camicie valigia/valigie spiaggia/spiagge arancia/arance banca/banche medico/medici dialogo/dialoghi occhio/occhi dito/dita",
		"pt": "animal/animais papel/papéis mão/mãos pão/pães balão/balões luz/luzes homem/homens viagem/viagens túnel/túneis fácil/fáceis pneu/pneus luva/luvas capacete/capacetes travão/travões cor/cores mês/meses flor/flores irmão/irmãos alemão/alemães lençol/lençóis cidadão/cidadãos automóvel/automóveis hotel/hotéis som/sons item/itens jardim/jardins atum/atuns gás/gases canal/canais nível/níveis chuva/chuvas",
		"nl": "huis/huizen brief/brieven auto/auto's foto/foto's stad/steden kind/kinderen schijf/schijven band/banden fiets/fietsen ei/eieren rem/remmen schip/schepen museum/musea lens/lenzen lamp/lampen zak/zakken bos/bossen handschoen/handschoenen wiel/wielen zadel/zadels slot/sloten jas/jassen laars/laarzen muts/mutsen trui/truien batterij/batterijen helm/helmen partitie/partities bel/bellen pomp/pompen idee/ideeën gebruiker/gebruikers vrouw/vrouwen mens/mensen prijs/prijzen reis/reizen glas/glazen dief/dieven golf/golven weg/wegen spaak/spaken boom/bomen vuur/vuren lampje/lampjes keuze/keuzes methode/methodes adres/adressen proces/processen foto/foto's ketting/kettingen rem/remmen band/banden",
		"sv": "bok/böcker däck/däcken cykel/cyklar cykeln/cyklarna lampa/lampor lampan/lamporna bil/bilar hand/händer museum/museer nyckel/nycklar fönster/fönstret hus/huset system/systemet kedja/kedjan hjul/hjulet/hjulen däck/däcket kedja/kedjor/kedjorna/kedjan skruv/skruvar/skruven ljus/ljuset/ljusen handske/handskar/handsken/handskarna mössa/mössor/mössan väg/vägar/vägen/vägarna broms/bromsar/bromsen ram/ramen/ramar batteri/batterier/batteriet/batterierna pedal/pedaler styre/styret hjälm/hjälmen/hjälmar lås/låset/låsen pump/pumpen/pumpar stad/städer/staden pris/priser/priset test/tester/testet bild/bilder/bilden vinter/vintern/vintrar motor/motorn/motorer dator/datorn/datorer användare/användaren tjänst/tjänster/tjänsten kommando/kommandot/kommandon nyckel/nyckeln/nycklar fönster/fönstret/fönstren",
	} {
		l := For(code)
		for p := range strings.FieldsSeq(pairs) {
			forms := strings.Split(p, "/")
			for _, form := range forms[1:] {
				assert.Equal(t, l.Stem(forms[0]), l.Stem(form), "%s %s: %s", code, p, form)
			}
		}
	}
}

// What only looks like a plural is none.
func TestWordsThatStayApart(t *testing.T) {
	for code, pairs := range map[string]string{
		"en": "bus/busy gas/gasp index/indicate men/mend news/new",
		"de": "Studie/Studio Datum/Daten Porto/Port Kamera/Kammer Radio/Radius Basis/Base Dynamo/Dynamik Karte/Karton Pasta/Paste Kurs/Kurier Haus/Haut Status/Statue",
		"es": "poca/pozo taza/taco placa/plaza marca/marzo velocidad/veloz precio/precisa enlace/enlatar",
		"fr": "cri/crise loi/loisir pneu/pneumatique tapis/tape velo/velours roue/rouet boue/bouée prix/prise pays/paie",
		"pt": "bala/balão carta/cartão porta/portão mãe/mão mais/mal caos/cão",
		"nl": "spaak/spa ketting/ket vork/voor rest/res",
		"sv": "hund/hundra plan/planet glas/glass internet/intern cykel/cyklist buss/bus",
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
