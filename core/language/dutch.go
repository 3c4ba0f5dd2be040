package language

import (
	snowball "github.com/blevesearch/snowballstem/dutch"
	"github.com/go-playground/locales/nl"
)

func dutch() Rules {
	return Rules{
		Code: "nl", ease: douma, Nuclei: "aa ee oo uu ie oe eu ui ij ei ou au aai ooi oei eeu ieu auw ouw", stemmer: snowball.Stem, dates: nl.New(),
		Function: `'s 't 'n jij jouw jouwe wij we jullie hen hún welke welk waarom wanneer waarbij waardoor waarmee waarop elke elk enkele enige vaak soms steeds alleen zelfs zowel
			tussen tijdens binnen buiten volgens vanaf via per sinds terwijl hoewel zodat indien mits echter daarom daarbij daarna daarnaast dan dit deze die bijvoorbeeld
			mogen mag moeten zullen zal zouden kunnen kan willen wil hadden waren bent beter best graag goed gaan gaat laten laat maken maakt krijgen komt komen staat wel nou toe af heen
			veel meer meest minder weinig net pas heel erg
			vooraleer alvorens nadat voordat totdat zodra zolang opdat omdat doordat aangezien tenzij ofwel hetzij noch evenals alsook alsmede niettemin desondanks bovendien
			overigens eveneens tevens immers althans toch toen thans straks meteen vervolgens daarentegen daarvoor daarvan daarin daarop daartoe daarmee daaronder hiervoor
			hiervan hierin hierop hiermee hierbij hieronder hierboven waarvan waarin waarvoor waaronder waarna waartoe ervan ervoor erin erop ermee eronder eruit ertoe erbij
			eraan naargelang behalve ondanks dankzij wegens omtrent sommige alle allen allemaal beide iedereen iemand niemand niets iets zoiets meerdere zelf zulke zodanig
			dergelijke degene diegene kon konden moest moesten mocht mochten wilde wilden werd werden geworden worden wordt hoeft hoeven dient dienen vooraf achteraf
			bovenaan onderaan opnieuw ook nog reeds enzovoort zie`,
		Abbreviations:    "bv bijv dhr mevr mw dr prof ing drs nr ca enz o.a d.w.z m.b.t evt incl excl max min jan feb mrt apr jun jul aug sep sept okt nov dec",
		Definite:         "de het",
		Indefinite:       "een",
		Determiners:      "mijn jouw zijn haar ons onze jullie hun dit dat deze die elke elk iedere enkele veel",
		FirstPerson:      "ik mijn me wij we ons onze",
		Numbers:          "één twee drie vier vijf zes zeven acht negen tien elf twaalf",
		Prepositions:     "met in op van voor zonder onder tegen bij uit over door naar",
		BeforeVerbs:      "te ik je jij hij ze we wij men u kan kunnen moet moeten zal zullen mag wil",
		AdjectiveEndings: "e",
		NounEndings:      "ing heid isme tie teit sel ingen",
		VerbEndings:      "end ende",
		BeforeAdjectives: "is zijn was waren wordt worden erg zeer heel meer minder zo blijft blijven",
		Plurals:          "steden=stad schepen=schip leden=lid smeden=smid kinderen=kind kleinkinderen=kleinkind eieren=ei bladeren=blad liederen=lied volkeren=volk kalveren=kalf lammeren=lam raderen=rad hoenderen=hoen koeien=koe musea=museum centra=centrum criteria=criterium",
		Before:           "adres=adres/5 proces=proces/6 congres=congres/7 succes=succes/6 expres=expres/6 ies=ie/5 jes=je/5 eeen=ee/5 es=e/6",
		After:            "v=f/3 z=s/3 bb=b/3 ff=f/3 gg=g/3 ll=l/3 mm=m/3 nn=n/3 pp=p/3 rr=r/3 ss=s/3 tt=t/3 bs=b/4 ds=d/4 fs=f/4 gs=g/4 ks=k/4 ls=l/4 ms=m/4 ns=n/4 ps=p/4 rs=r/4 ts=t/4 aar=ar/4 oor=or/4 eer=er/4 uur=ur/4",
		Units:            "millimeter centimeter milliliter lumen watt volt eetlepel eetlepels theelepel theelepels km kilometer kilometers meter meters mm cm kg kilo gram procent liter euro uur minuut minuten graden seconde seconden dag dagen week weken maand maanden jaar jaren",
		Or:               "of",
		Reasons:          "omdat want daarom zodat anders doordat dus",
		Times:            `seconde seconden minuut minuten uur uren dag dagen nacht nachten week weken weekend maand maanden jaar jaren ochtend avond seizoen seizoenen lente voorjaar zomer zomers herfst najaar winter winters dagelijks wekelijks maandelijks jaarlijks`,
		Shares:           "helft derde kwart meerderheid rest begin midden einde eind deel stuk",
		Superlative:      Superlative{Words: "beste slechtste meeste minste", Raising: "", Endings: "ste", After: "de het"},
		You:              "je jij jou jouw", YouFormal: "u uw", We: "we wij ons onze",
		Leans: "maar anders echter daarom dit deze dat die dan ook zo hier daarna bovendien het hij",
		Turns: "maar en dus of",
		Yes:   "ja", No: "nee neen",
		Asking:  "echt werkelijk nodig noodzakelijk absoluut eigenlijk altijd ook doen moet kan gaat",
		Knowing: "weet weten zie",
		Openings: []Opening{{"wat als", WhatIf}, {"wat gebeurt er als", WhatIf}, {"wat te doen als", WhatIf}, {"wat doe ik als", WhatIf},
			{"hoeveel", HowMuch}, {"hoe lang", HowMuch}, {"hoelang", HowMuch}, {"hoe vaak", HowMuch}, {"hoe ver", HowMuch}, {"hoe", How}, {"wat", What}, {"waarom", Why}, {"wanneer", When}, {"waar", Where},
			{"welke", Which}, {"welk", Which}, {"wie", Who}, {"waarmee", What}, {"is", YesNo}, {"zijn", YesNo}, {"kan", YesNo}, {"kun", YesNo}, {"kunnen", YesNo}, {"moet", YesNo}, {"moeten", YesNo}, {"mag", YesNo},
			{"heb", YesNo}, {"heeft", YesNo}, {"wordt", YesNo}, {"zal", YesNo}, {"werkt", YesNo}},
		JoinsWords: true, Linkers: "s e en n",
		Linking:       "van",
		Joining:       "van de der den het ter ten",
		Honorifics:    "dhr mevr mw dr prof",
		Organisations: "bv nv vereniging stichting gemeente ministerie universiteit instituut bank bond",
		Places:        "stad dorp straat laan plein brug park meer gracht kade",
		Laws:          "wet verordening richtlijn wetboek norm verdrag besluit protocol",
		Events:        "festival marathon conferentie kampioenschap beker spelen ronde wedstrijd oorlog beurs dag week prijs",
		Parts:         "sectie secties paragraaf hoofdstuk hoofdstukken figuur figuren afbeelding tabel tabellen bijlage appendix deel pagina stap stappen noot voetnoot voorbeeld vergelijking artikel les module",
		Works:         "boek roman film lied album gedicht schilderij rapport studie handboek artikel tijdschrift krant",
		Versions:      "versie uitgave model serie programma app software bibliotheek server client pakket",
		Speaking:      "zegt zei schrijft schreef vertelt legt meent vindt adviseert",
		Within:        "in te naar uit bij nabij",
		Generic:       []string{"inleiding", "conclusie", "samenvatting", "overzicht", "veelgestelde vragen", "bronnen", "tot slot", "opmerking", "opmerkingen", "tip", "waarschuwing", "let op", "belangrijk", "voorbeeld", "voorbeelden", "zie ook", "reacties", "definitie", "algemeen", "bijlage", "literatuur", "externe links", "faq"},
		Furniture: Furniture{
			Headings:    []string{"#? reactie|reacties #?", "geef een reactie", "klantbeoordelingen", "ervaringen van klanten", "anderen bekeken|kochten ook *", "gerelateerde artikelen|berichten", "lees ook", "meest gelezen", "delen", "inhoud", "inhoudsopgave"},
			Lines:       []string{"*8 alle rechten voorbehouden", "lees verder|meer", "lees ook : *", "advertentie", "trefwoorden", "trefwoorden : *", "#? reacties|reactie :? #?", "terug", "terug naar _ _?", "terug naar de _ _?"},
			Credits:     []string{"foto|foto's|beeld|afbeelding :|door|via|©"},
			Stamps:      []string{"laatst? gepubliceerd|bijgewerkt op|om?"},
			Changes:     "bijgewerkt",
			DateWords:   "om op uur de",
			Press:       "delen afdrukken sluiten",
			ReadingTime: []string{"# min|minuut|minuten leestijd"},
		},
		Title: Title{
			Patterns: []Pattern{{"names", "{K}: {1}, {2} en {3}"}, {"number", "{K}: onze {N} favorieten"}, {"year", "{K} in {Y}"}, {"steps", "{K}, stap voor stap"}, {"guide", "{K}: de praktische gids"}}, And: "en", Comparing: []string{"beste", "vergelijking|vergelijken", "test", "ervaringen", "top #", "vs"}, Buying: []string{"kopen"}, Explaining: []string{"gids"}, Guiding: []string{"gids"}},
	}
}
