package language

import (
	snowball "github.com/blevesearch/snowballstem/german"
	"github.com/go-playground/locales/de"
)

func german() Rules {
	return Rules{
		Code: "de", Address: "ä=ae ö=oe ü=ue ß=ss", ease: amstad, Nuclei: "aa ee oo ie ei ai ey ay au eu äu", stemmer: snowball.Stem, dates: de.New(),
		Function: `beim dabei dadurch dafür daher daran darauf daraus darin darüber darum davon davor dran ja je jedoch mal mehr meist oft schon sodass somit sowie
			sowohl statt trotz wegen wer wem wen wessen warum weshalb wieso worauf wofür womit etwa eben bereits bisher circa ca bzw falls ganz gar immer ihnen dürfen darf
			mag mögen müssen müsste sollen sollten können könnten hätte hätten wäre wären wurde wurden geworden worden seit samt laut ebenso auch bevor nachdem`,
		Abbreviations: "z.b d.h u.a bzw ca nr str usw dr prof st vgl ggf evtl inkl zzgl max min abs art bd hr fr mio mrd jan feb apr jun jul aug sep sept okt nov dez",
		Definite:      "der die das den dem des",
		Indefinite:    "ein eine einen einem einer eines",
		Determiners:   "mein dein sein ihr unser euer meine deine seine ihre unsere eure meinen deinen seinen ihren unseren meinem deinem seinem ihrem unserem meiner deiner seiner ihrer unserer dieser diese dieses diesen diesem jeder jede jedes jeden jedem kein keine keinen keinem keiner manche viele wenige mehrere einige alle im am vom zum zur beim ins ans mit ohne für bei unter über gegen durch",
		FirstPerson:   "ich mich mir mein meine meinen meinem meiner wir uns unser unsere unseren unserem unserer",
		Numbers:       "eins zwei drei vier fünf sechs sieben acht neun zehn elf zwölf",
		Plurals:       "busse=bus bussen=bus busses=bus kakteen=kaktus lexika=lexikon visa=visum",
		Before:        `konten=konto/6 risiken=risiko/7 themen=thema/6 firmen=firma/6 villen=villa/6 pizzen=pizza/6 dramen=drama/6 skalen=skala/6 agenden=agenda/7 aromen=aroma/6 prismen=prisma/7 traumen=trauma/7 salden=saldo/6 zentren=zentrum/7 museen=museum/6 spektren=spektrum/8 kriterien=kriterium/9 ministerien=ministerium/11 gymnasien=gymnasium/9 foren=forum/5 alben=album/5 rhythmen=rhythmus/8 organismen=organismus/10 mechanismen=mechanismus/11 algorithmen=algorithmus/11 viren=virus/5 zyklen=zyklus/6 praxen=praxis/6 materialien=material/11 prinzipien=prinzip/10 mineralien=mineral/10 praktika=praktikum/8`,
		After:         "tatus=tatus/6 as=a/5 es=e/5 is=i/6 os=o/5 us=u/5 ys=y/5 cs=c/5 ps=p/4 ws=w/5 xs=x/5 zs=z/5 inn=in/6 eln=el/6",
		Units:         "millimeter zentimeter quadratmeter kubikmeter milliliter lumen watt volt bar pfund esslöffel teelöffel km kilometer meter mm cm kg kilo gramm prozent liter euro uhr stunde stunden minute minuten grad sekunde sekunden tag tage tagen woche wochen monat monate monaten jahr jahre jahren",
		Or:            "oder",
		Reasons:       "weil denn darum deshalb daher damit sonst dadurch somit",
		Times:         `sekunde sekunden minute minuten stunde stunden tag tage tagen nacht nächte woche wochen wochenende monat monate monaten jahr jahre jahren jahrzehnt jahrzehnte morgens abends nachts frühjahr frühling sommer herbst winter spätwinter täglich wöchentlich monatlich jährlich stündlich`,
		Shares:        "hälfte drittel viertel mehrheit rest anfang mitte ende beginn teil",
		Superlative: Superlative{Words: "beste besten bester bestes bestem schlechteste schlechtesten meiste meisten größte größten " +
			"größter größtes höchste höchsten höchster", Raising: "", Endings: "ste sten ster stes stem", After: "der die das den dem des am"},
		You: "du dich dir dein deine deinen deinem", YouFormal: "Sie Ihnen Ihr Ihre Ihren Ihrem", We: "wir uns unser unsere unseren unserem",
		Leans: "aber sonst jedoch deshalb darum daher dies diese dieser dieses diesen es sie er dabei dadurch damit dann danach auch so hier dort außerdem stattdessen",
		Turns: "aber und also doch denn nun oder",
		Yes:   "ja", No: "nein",
		Asking:  "brauche brauchst braucht brauchen gebraucht wirklich tatsächlich eigentlich überhaupt unbedingt genau nötig notwendig zwingend immer auch mache macht machen geht gehen gibt geben lässt lassen",
		Knowing: "weiß erkenne erkennt sehe sieht finde heraus",
		Openings: []Opening{{"was wenn", WhatIf}, {"was, wenn", WhatIf}, {"was tun wenn", WhatIf}, {"was tun, wenn", WhatIf}, {"was mache ich, wenn", WhatIf}, {"was passiert, wenn", WhatIf}, {"was ist, wenn", WhatIf},
			{"wie viel", HowMuch}, {"wie viele", HowMuch}, {"wieviel", HowMuch}, {"wieviele", HowMuch}, {"wie lange", HowMuch}, {"wie oft", HowMuch}, {"wie hoch", HowMuch},
			{"wie weit", HowMuch}, {"wie teuer", HowMuch}, {"wie kalt", HowMuch}, {"wie", How}, {"was", What}, {"warum", Why}, {"wieso", Why}, {"weshalb", Why}, {"wann", When},
			{"ab wann", When}, {"wo", Where}, {"wohin", Where}, {"woher", Where}, {"welche", Which}, {"welcher", Which}, {"welches", Which}, {"welchen", Which}, {"welchem", Which},
			{"wer", Who}, {"wem", Who}, {"wen", Who}, {"womit", What}, {"wofür", What}, {"worauf", What}, {"wozu", Why},
			{"ist", YesNo}, {"sind", YesNo}, {"kann", YesNo}, {"können", YesNo}, {"muss", YesNo}, {"müssen", YesNo}, {"darf", YesNo}, {"dürfen", YesNo}, {"soll", YesNo}, {"sollte", YesNo},
			{"sollten", YesNo}, {"brauche", YesNo}, {"braucht", YesNo}, {"gibt es", YesNo}, {"gilt", YesNo}, {"lohnt", YesNo}, {"hat", YesNo}, {"haben", YesNo}, {"hilft", YesNo}, {"wird", YesNo}, {"werden", YesNo}},
		NounsHaveCapitals: true,
		JoinsWords:        true, Linkers: "s es n en er e ns",
		Linking:       "von",
		Joining:       "von der am an im zu",
		Honorifics:    "herr frau dr prof professor",
		Organisations: "gmbh ag ev verein verband amt institut universität hochschule ministerium stiftung gesellschaft gruppe bank behörde agentur bund",
		Places:        "stadt straße strasse platz brücke see park allee tal insel",
		Laws:          "gesetz verordnung richtlinie ordnung norm vertrag verfassung abkommen protokoll gesetzbuch",
		Events:        "festival marathon konferenz meisterschaft pokal olympiade spiele rennen krieg messe kongress tag woche preis",
		Parts:         "abschnitt abschnitte kapitel abbildung abbildungen abb tabelle tabellen anhang teil seite seiten schritt schritte hinweis fußnote beispiel gleichung absatz artikel band heft lektion modul punkt",
		Works:         "buch roman film lied album gedicht gemälde bericht studie handbuch artikel reihe zeitschrift zeitung",
		Versions:      "version ausgabe modell serie plugin app software bibliothek server client programm paket nutzer",
		Speaking:      "sagt sagte schreibt schrieb erklärt erklärte meint meinte erzählt berichtet rät empfiehlt",
		Within:        "in nach aus bei nahe um",
		Generic:       []string{"einleitung", "fazit", "zusammenfassung", "einführung", "überblick", "häufige fragen", "häufig gestellte fragen", "fragen und antworten", "quellen", "hinweise", "schluss", "ausblick", "hinweis", "tipp", "tipps", "warnung", "achtung", "wichtig", "beispiel", "beispiele", "anmerkung", "anmerkungen", "siehe auch", "kommentare", "definition", "allgemeines", "anhang", "literatur", "weiterführende links", "faq"},
		Furniture: Furniture{
			Headings: []string{"inhalt", "inhaltsverzeichnis", "kommentar|kommentare #?", "# kommentar|kommentare", "schreib|schreibe einen kommentar", "kommentar schreiben", "ähnliche artikel|beiträge", "kundenmeinungen", "kundenbewertungen", "leserkommentare", "kunden kauften auch *",
				"das könnte dich|sie auch interessieren", "teilen", "mehr themen|artikel|davon", "mehr zum thema",
				"neueste|aktuelle|empfohlene|weitere|passende|beliebte|verwandte|meistgelesene|ausgewählte artikel|beiträge|themen|meldungen|nachrichten|news|informationen",
				"neueste|aktuelle|empfohlene|weitere|passende|beliebte|verwandte|meistgelesene|ausgewählte pressemitteilungen *3", "auch interessant", "alle artikel *3"},
			Lines: []string{"*8 alle rechte vorbehalten", "weiterlesen", "mehr lesen|erfahren|anzeigen", "lesen sie auch|mehr : *", "siehe auch : *", "mehr dazu : *", "anzeige|werbung",
				"themen|schlagwörter|kategorie|kategorien", "themen|schlagwörter|kategorie|kategorien : *", "#? kommentar|kommentare|aufrufe|antworten :? #?", "klicken sie hier *5",
				"abonnieren|anmelden hier|jetzt?", "jetzt registrieren", "zurück", "zurück zu|zur|zum _ _?", "zurück _ _?"},
			Credits:     []string{"foto|fotos|fotografie|fotograf|bild|bildnachweis|bildquelle :|von|via|©"},
			Stamps:      []string{"zuletzt? veröffentlicht|aktualisiert|erstellt|stand am?"},
			Changes:     "zuletzt aktualisiert",
			DateWords:   "um uhr am den der",
			Press:       "drucken teilen speichern schließen",
			PressedOn:   "diese dieser diesen den artikel seite",
			ReadingTime: []string{"# min|minute|minuten lesezeit"},
		},
		Title: Title{
			Patterns: []Pattern{{"names", "{K}: {1}, {2} und {3}"}, {"number", "{K}: unsere {N} Empfehlungen"}, {"year", "{K} {Y}"}, {"steps", "{K} – Schritt für Schritt"}, {"guide", "{K}: der praktische Ratgeber"}}, And: "und",
			Buying: []string{"kaufen"}, Comparing: []string{"beste|bester|bestes|besten", "test|tests", "testsieger", "vergleich|vergleiche", "erfahrungen", "top #", "vs"},
			Explaining: []string{"anleitung", "ratgeber", "tipps", "wie"}, Guiding: []string{"ratgeber"}, Stepping: []string{"anleitung"},
		},
	}
}
