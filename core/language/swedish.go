package language

import (
	snowball "github.com/blevesearch/snowballstem/swedish"
	"github.com/go-playground/locales/sv"
)

func swedish() Rules {
	return Rules{
		Code: "sv", Address: "å=a ä=a ö=o", ease: lix, stemmer: snowball.Stem, dates: sv.New(),
		Function: `är får få fått måste ska skall skulle bör kommer går gör göra finns hos samt både bara även också ändå alltid aldrig ofta därför eftersom medan innan efter genom längs
			runt trots istället dock varken vilken vilket vilka vem vad hur när där hit dit här mer mest mindre minst några något någon samma andra annan annat hela väl
			så då än ens fram redan inget inga ingen egen eget egna detta dessa denna varandra exempelvis bland mot per cirka ca enligt t.ex
			nedan ovan ovanför nedanför framför bakom bredvid utanför innanför utan utom förutom såsom såväl liksom huruvida ifall därmed därefter därifrån däri härmed härav
			varav varför vardera varefter varpå dels nämligen dessutom däremot alltså således emellertid förrän sedan snart genast kanske nästan ganska mycket lite litet
			flera fler flest somliga sådan sådant sådana vars båda ingenting någonting allting alla allt kunna kunde kunnat vore varit blir blev blivit hade haft låter låta
			borde böra fick etc osv se`,
		Abbreviations:    "t.ex bl.a d.v.s dvs osv m.m m.fl ca kl nr s.k p.g.a jan feb mar apr jun jul aug sep sept okt nov dec",
		Definite:         "den det de",
		Indefinite:       "en ett",
		Determiners:      "min mitt mina din ditt dina sin sitt sina vår vårt våra denna detta dessa varje några många flera",
		FirstPerson:      "jag min mitt mina vi oss vår vårt",
		Numbers:          "ett två tre fyra fem sex sju åtta nio tio elva tolv",
		Prepositions:     "med i på av för utan under mot vid till från om över",
		BeforeVerbs:      "att jag du han hon vi ni man kan ska skall bör måste får vill som",
		AdjectiveEndings: "a e t",
		NounEndings:      "an en et erna orna arna ning het tion skap ningar",
		VerbEndings:      "ade ande ad",
		BeforeAdjectives: "är var mycket väldigt mer mindre så blir bli vara ganska",
		Plurals:          "bocker=bok bockerna=bok bockernas=bok fotter=fot fotterna=fot rotter=rot rotterna=rot museet=museum museer=museum museerna=museum planet=planet internet=internet paket=paket budget=budget raket=raket staket=staket alfabet=alfabet",
		Before:           "orerna=or/8 orer=or/6 orn=or/5 andot=ando/6 andon=ando/6 itet=itet/5 ultet=ultet/5 plet=pel/6 dlet=del/6 itlet=itel/6 klet=kel/6 tret=ter/6 dret=der/6 gret=ger/6 pret=per/6 bret=ber/6 mret=mmer/6 kran=kran/4 eln=el/5 aan=aan/3 ean=ean/3 ian=ian/3 oan=oan/3 plan=plan/4 an=a/5 et=/5",
		After:            "hundr=hundr/5 andr=andr/4 kel=kl/5 gel=gl/5 del=dl/5 pel=pl/5 tel=tl/5 bel=bl/5 mel=ml/5 bs=b/4 ds=d/4 fs=f/4 gs=g/4 ks=k/4 ls=l/4 ms=m/4 ns=n/4 ps=p/4 rs=r/4 ts=t/4 vs=v/4 tr=t/4 dr=d/4 gr=g/4 br=b/4 pr=p/4",
		Units:            "millimeter centimeter milliliter lumen watt volt matsked matskedar tesked teskedar km kilometer meter mil mm cm kg kilo gram procent liter kronor kr timme timmar minut minuter grader sekund sekunder dag dagar vecka veckor månad månader år",
		Or:               "eller",
		Reasons:          "eftersom därför annars ty",
		Times:            `sekund sekunder minut minuter timme timmar dag dagar dagen natt nätter vecka veckor veckan helg månad månader år året årtionde morgon kväll säsong säsonger vår våren sommar somrar höst hösten vinter vintrar dagligen veckovis månatligen årligen`,
		Shares:           "hälften tredjedel fjärdedel majoritet rest början mitten slutet slut del bit",
		Superlative:      Superlative{Words: "bäst bästa sämst sämsta störst största minst minsta", Raising: "", Endings: "aste", After: "den det de"},
		You:              "du dig din ditt dina", YouFormal: "ni er", We: "vi oss vår vårt våra",
		Leans: "men annars dock därför detta denna dessa det då också så sedan här dessutom den de",
		Turns: "men och så eller",
		Yes:   "ja jo", No: "nej",
		Asking:  "verkligen egentligen nödvändigt behöver behövs måste alltid också göra går kan",
		Knowing: "vet veta ser",
		Openings: []Opening{{"vad händer om", WhatIf}, {"tänk om", WhatIf}, {"vad gör jag om", WhatIf},
			{"hur mycket", HowMuch}, {"hur många", HowMuch}, {"hur länge", HowMuch}, {"hur ofta", HowMuch}, {"hur långt", HowMuch}, {"hur", How}, {"vad", What}, {"varför", Why}, {"när", When}, {"var", Where}, {"vart", Where},
			{"vilken", Which}, {"vilket", Which}, {"vilka", Which}, {"vem", Who}, {"är", YesNo}, {"kan", YesNo}, {"måste", YesNo}, {"ska", YesNo}, {"får", YesNo}, {"behöver", YesNo}, {"finns", YesNo}, {"har", YesNo}, {"bör", YesNo}, {"går det", YesNo}},
		JoinsWords: true, Linkers: "s e o u",
		Linking:       "av i",
		Joining:       "av von af",
		Honorifics:    "herr fru dr prof",
		Organisations: "ab förening kommun myndighet universitet institut bank förbund",
		Places:        "stad staden gatan vägen torget bron parken sjön",
		Laws:          "lag lagen förordning förordningen direktiv direktivet norm fördrag balk balken protokoll",
		Events:        "festival festivalen maraton konferens mästerskap cup spelen loppet krig kriget mässan dagen veckan pris",
		Parts:         "avsnitt kapitel figur figurer tabell tabeller bilaga appendix del sida sidor steg not fotnot exempel ekvation stycke artikel volym lektion modul",
		Works:         "bok boken roman film filmen sång album dikt målning rapport studie handbok artikel tidskrift tidning",
		Versions:      "version utgåva modell serie program app programvara bibliotek server klient paket",
		Speaking:      "säger sade skriver skrev förklarar berättar menar anser råder",
		Within:        "i på till från vid nära",
		Generic:       []string{"inledning", "sammanfattning", "slutsats", "vanliga frågor", "frågor och svar", "källor", "referenser", "obs", "tips", "varning", "viktigt", "exempel", "se även", "se också", "kommentarer", "definition", "allmänt", "bilaga", "litteratur", "externa länkar", "översikt", "faq"},
		Furniture: Furniture{
			Headings:    []string{"#? kommentar|kommentarer #?", "lämna ett svar", "kundrecensioner", "läsarkommentarer", "andra köpte också *", "relaterade artiklar|inlägg", "läs också|även", "mest lästa", "dela", "innehåll", "innehållsförteckning"},
			Lines:       []string{"*8 alla rättigheter förbehållna", "läs mer", "läs också : *", "annons|reklam", "ämnen", "ämnen : *", "#? kommentar|kommentarer :? #?", "tillbaka", "tillbaka till _ _?"},
			Credits:     []string{"foto|bild|bilder :|av|via|©"},
			Stamps:      []string{"senast? publicerad|uppdaterad"},
			Changes:     "uppdaterad",
			DateWords:   "kl den klockan",
			Press:       "dela stäng",
			PressedOn:   "ut artikeln sidan",
			ReadingTime: []string{"# min|minut|minuter läsning|lästid"},
		},
		Title: Title{
			Patterns: []Pattern{{"names", "{K}: {1}, {2} och {3}"}, {"number", "{K}: våra {N} favoriter"}, {"year", "{K} {Y}"}, {"steps", "{K}, steg för steg"}, {"guide", "{K}: en praktisk guide"}}, And: "och",
			Comparing: []string{"bäst|bästa", "jämförelse|jämför", "test", "recension|recensioner", "top #", "vs"},
			Buying:    []string{"köpa"},
		},
	}
}
