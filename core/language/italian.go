package language

import (
	snowball "github.com/blevesearch/snowballstem/italian"
	"github.com/go-playground/locales/it"
)

func italian() Rules {
	return Rules{
		Code: "it", ease: gulpease, Nuclei: "ai ei oi au eu ia ie io iu ua ue ui uo iò ià iè iù uò uà uè iei uoi", stemmer: snowball.Stem, dates: it.New(),
		Function: `d s t v m n all poi già ancora solo sempre molto molta molti molte poco pochi ogni essere avere fare può possono deve devono dopo prima durante senza sotto sopra
			verso fino oltre circa così però quindi mentre quando dunque oppure invece altro altra altri altre stesso stessa stessi stesse alcuni alcune nessuno tra fra qualche qui là lì
			cosa niente nulla neanche nemmeno anzi infatti cioè pure proprio ecco
			tramite mediante nonostante sebbene benché affinché purché poiché siccome finché altrimenti inoltre infine tuttavia comunque pertanto ossia ovvero nonché eccetto
			tranne entro presso attraverso intorno ormai oggi domani ieri subito spesso talvolta magari forse quasi appena soprattutto almeno tanto tanta tanti tante troppo
			troppa troppi troppe parecchio tutto tutta tutti tutte ciascuno ciascuna ognuno chiunque qualcuno qualcosa qualsiasi qualunque nessun alcun quale quali quanto
			quanta quanti quante cui chi ciò vari varie vario varia etc eccetera viene vengono venire venga vengano verrà verranno occorre occorrono bisogna dovrebbe
			dovrebbero dovrà dovranno dobbiamo dovete potrebbe potrebbero potrà potranno potete possiamo possa possano vuole vogliono volete vorrebbe sarà saranno sarebbe
			sarebbero fa fanno va vanno`,
		Abbreviations:    "sig sigg sig.ra dott dott.ssa ing avv prof ecc es art pag n vol gen feb apr giu lug ago set ott nov dic",
		Elisions:         "l un d c m t s v n all dall dell nell sull coll quest quell com dov",
		Definite:         "il lo la i gli le l",
		Indefinite:       "un uno una",
		Determiners:      "mio mia tuo tua suo sua nostro nostra miei tuoi suoi sue questo questa questi queste quel quello quella quelli quelle del dello della dei degli delle dell al allo alla ai agli alle all dal dallo dalla dai dagli dalle dall nel nello nella nei negli nelle nell sul sullo sulla sui sugli sulle sull ogni alcuni alcune",
		FirstPerson:      "io mio mia mi noi nostro nostra",
		Numbers:          "uno due tre quattro cinque sei sette otto nove dieci undici dodici",
		Prepositions:     "con in su tra fra sotto contro",
		BeforeVerbs:      "si non io tu noi voi può possono deve devono ci vi bisogna che",
		AdjectivesFollow: true,
		NounEndings:      "zione sione mento tore aggio ura",
		VerbEndings:      "ato ata ati ate uto uta uti ute ito ita iti ite ando endo are ere ire",
		BeforeAdjectives: "è sono era erano essere molto più meno troppo così abbastanza resta",
		Plurals:          "uomini=uomo buoi=bue templi=tempio",
		After:            "ch=c/4 gh=g/4",
		Units:            "millimetro millimetri centimetro centimetri millilitro millilitri lumen watt volt cucchiaio cucchiai cucchiaino cucchiaini km chilometro chilometri metro metri mm cm kg chilo chili grammo grammi litro litri euro ora ore minuto minuti grado gradi secondo secondi giorno giorni settimana settimane mese mesi anno anni",
		Or:               "o oppure",
		Reasons:          "perché poiché quindi altrimenti così siccome",
		Times:            `secondo secondi minuto minuti ora ore giorno giorni notte notti settimana settimane mese mesi anno anni decennio mattina sera stagione stagioni primavera estate estati autunno inverno inverni quotidiano settimanale mensile annuale`,
		Shares:           "metà terzo quarto maggioranza resto inizio fine parte pezzo",
		Superlative:      Superlative{Words: "migliore migliori peggiore peggiori", Raising: "più meno", Endings: "", After: "il lo la i gli le"},
		You:              "tu ti tuo tua tuoi tue", YouFormal: "lei", We: "noi nostro nostra nostri nostre",
		Leans: "ma altrimenti però quindi questo questa questi queste così anche poi qui inoltre dopo",
		Turns: "ma e allora quindi o",
		Yes:   "sì", No: "no",
		Asking:  "davvero veramente necessario indispensabile serve servono bisogna fare può deve sempre anche",
		Knowing: "sapere so capire capisco",
		Openings: []Opening{{"e se", WhatIf}, {"cosa succede se", WhatIf}, {"che succede se", WhatIf}, {"cosa fare se", WhatIf},
			{"quanto", HowMuch}, {"quanta", HowMuch}, {"quanti", HowMuch}, {"quante", HowMuch}, {"come", How}, {"cosa", What}, {"che cosa", What}, {"che", What}, {"cos'è", What}, {"perché", Why}, {"quando", When},
			{"dove", Where}, {"dov'è", Where}, {"quale", Which}, {"quali", Which}, {"qual", Which}, {"chi", Who}, {"è", YesNo}, {"si può", YesNo}, {"si possono", YesNo}, {"posso", YesNo}, {"bisogna", YesNo},
			{"serve", YesNo}, {"devo", YesNo}, {"conviene", YesNo}, {"ci sono", YesNo}, {"c'è", YesNo}},
		Linking:       "di del della dello dell dei degli delle d da",
		Joining:       "di del della dei da de la",
		Honorifics:    "sig sig.ra dott prof",
		Organisations: "associazione ministero università istituto comune federazione fondazione banca agenzia società",
		Places:        "città paese quartiere via piazza viale corso ponte parco lago valle isola",
		Laws:          "legge regolamento direttiva codice norma trattato decreto convenzione protocollo",
		Events:        "festival maratona conferenza campionato coppa olimpiade giochi giro gara guerra fiera giorno giornata settimana premio",
		Parts:         "sezione sezioni capitolo capitoli figura figure fig tabella tabelle appendice allegato parte pagina pagine passo passi passaggio nota esempio equazione paragrafo articolo volume lezione modulo",
		Works:         "libro romanzo film canzone album poesia quadro rapporto studio manuale articolo rivista giornale",
		Versions:      "versione edizione modello serie programma applicazione libreria server client pacchetto",
		Speaking:      "dice disse scrive spiega afferma racconta sostiene aggiunge consiglia",
		Within:        "a in da verso presso vicino",
		Generic:       []string{"introduzione", "conclusione", "conclusioni", "riassunto", "in sintesi", "domande frequenti", "fonti", "riferimenti", "note", "nota", "suggerimento", "consiglio", "avvertenza", "attenzione", "importante", "esempio", "esempi", "vedi anche", "vedere anche", "commenti", "definizione", "generalità", "appendice", "bibliografia", "collegamenti esterni", "panoramica", "faq"},
		Furniture: Furniture{
			Headings: []string{"lascia un commento", "recensioni dei clienti", "commenti dei lettori", "chi ha visto|acquistato questo *", "#? commento|commenti #?", "articoli correlati", "leggi anche", "potrebbe|potrebbero interessarti anche?", "ultimi articoli", "più letti", "condividi", "indice", "indice dei contenuti"},
			Lines: []string{"*8 tutti i diritti riservati", "leggi tutto", "leggi di più", "leggi anche : *", "pubblicità", "argomenti", "argomenti : *", "#? commenti|commento :? #?", "clicca qui *5", "iscriviti",
				"indietro", "indietro a|alla _ _?"},
			Credits:     []string{"foto|immagine|immagini|crediti :|di|da|via|©"},
			Stamps:      []string{"pubblicato|aggiornato il?"},
			Changes:     "aggiornato",
			DateWords:   "alle ore il",
			Press:       "stampa condividi chiudi",
			ReadingTime: []string{"# min|minuto|minuti di lettura"},
		},
		Title: Title{
			Patterns: []Pattern{{"names", "{K}: {1}, {2} e {3}"}, {"number", "{K}: i nostri {N} consigli"}, {"year", "{K} nel {Y}"}, {"steps", "{K} passo per passo"}, {"guide", "{K}: guida pratica"}}, And: "e",
			Comparing: []string{"migliore|migliori", "confronto", "recensione|recensioni", "opinioni", "top #", "vs"}, Explaining: []string{"consigli", "come"}, Guiding: []string{"guida"}, Stepping: []string{"come"},
		},
	}
}
