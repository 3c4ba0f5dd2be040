package language

import (
	snowball "github.com/blevesearch/snowballstem/french"
	"github.com/go-playground/locales/fr"
)

func french() Rules {
	return Rules{
		Code: "fr", ease: kandelMoles, Nuclei: "ai ei oi au eu ou eau œu oui ouai ouè ieu io ia ié iè ie ui ue uei oî aî eû oû aou aie oie euil uei ée ées ie ies ue ues oue oues ion ien", Mute: "e es", stemmer: snowball.Stem, dates: fr.New(),
		Function: `ils elles qu jusqu lorsqu puisqu quoiqu où donc car ni comme si plus moins très trop aussi ainsi alors après avant bien chaque chez ceci cela celle celles celui ceux
			cet cette déjà depuis dès dont encore entre être avoir faire fait font peut peuvent faut doit doivent ici là jamais lors lorsque malgré parce pendant peu plusieurs
			puis quand quel quelle quelles quels quelque quelques quelqu'un quoi rien sans selon sinon sous souvent tant tel telle tels telles toujours tous tout toute toutes
			vers via voici voilà aujourd'hui autre autres beaucoup combien comment contre également ensuite environ hors leurs même mêmes ni notamment nul parmi pourquoi pourtant abord ailleurs
			afin auparavant auprès aussitôt autant autour auquel auxquels auxquelles duquel desquels desquelles laquelle lequel lesquels lesquelles dessous dessus dedans
			dehors devant derrière durant excepté sauf hormis moyennant outre suivant quant jusque grâce plutôt presque parfois bientôt maintenant désormais hier demain
			enfin néanmoins toutefois cependant certes tandis puisque quoique aucun aucune certains certaines chacun chacune plupart pourra pourront pourrait pourraient
			puisse puissent pouvons pouvez devra devront devrait devraient devons devez aura auront aurait auraient sera seront serait seraient soient fera feront va vont
			aller veut veulent voulez etc`,
		Content:          "été", // summer as well as "been"
		Abbreviations:    "m mm mme mmes mlle dr pr st ste env art cf ex etc éd vol p av apr j.-c janv févr avr juil sept oct nov déc",
		Elisions:         "l d j m t s c n qu jusqu lorsqu puisqu quoiqu",
		Definite:         "le la les l",
		Indefinite:       "un une des du",
		Determiners:      "mon ton son ma ta sa mes tes ses notre votre leur nos vos leurs ce cet cette ces au aux chaque quelques plusieurs",
		FirstPerson:      "je j mon ma mes nous notre nos",
		Numbers:          "un deux trois quatre cinq six sept huit neuf dix onze douze",
		Prepositions:     "avec dans sur sous chez contre entre",
		BeforeVerbs:      "je tu il elle on nous vous ils elles ne n se s peut peuvent doit doivent faut veut pourra permet qui",
		AdjectivesFollow: true,
		NounEndings:      "tion sion age ure ette eur esse ence ance",
		VerbEndings:      "er ant ez",
		BeforeAdjectives: "est sont était étaient être soit très trop plus moins aussi assez reste restent",
		Plurals:          "travaux=travail vitraux=vitrail baux=bail coraux=corail emaux=email soupiraux=soupirail bijoux=bijou cailloux=caillou choux=chou genoux=genou hiboux=hibou joujoux=joujou poux=pou feux=feu jeux=jeu enjeux=enjeu lieux=lieu milieux=milieu cheveux=cheveu neveux=neveu aveux=aveu voeux=voeu yeux=oeil messieurs=monsieur mesdames=madame essieux=essieu materiaux=materiau",
		Before:           "yaux=yau/5 as=a/4 is=i/4 os=o/4 us=u/4",
		Units:            "millimètre millimètres centimètre centimètres millilitre millilitres lumen lumens watt watts volt volts cuillères cuillère km kilomètre kilomètres mètre mètres mm cm kg kilo kilos gramme grammes litre litres euro euros heure heures minute minutes degré degrés seconde secondes jour jours semaine semaines mois an ans année années ko mo go to octet octets",
		Or:               "ou",
		Reasons:          "car parce puisque donc sinon afin pourquoi ainsi",
		Times:            `seconde secondes minute minutes heure heures jour jours journée nuit nuits semaine semaines mois an ans année années décennie matin soir saison saisons printemps été étés automne hiver hivers quotidien hebdomadaire mensuel annuel demi-journée`,
		Shares:           "moitié tiers quart majorité reste début milieu fin partie plupart",
		Superlative:      Superlative{Words: "meilleur meilleure meilleurs meilleures pire pires", Raising: "plus moins", Endings: "", After: "le la les"},
		You:              "tu te toi ton ta tes", YouFormal: "vous votre vos", We: "nous notre nos",
		Leans: "mais sinon cependant donc ce cet cette ces il elle ils elles cela alors aussi ainsi ensuite ici puis",
		Turns: "mais et alors donc or ou",
		Yes:   "oui", No: "non",
		Asking:  "vraiment faut nécessaire obligatoirement absolument besoin fait faire peut doit toujours aussi",
		Knowing: "savoir sais sait",
		Openings: []Opening{{"et si", WhatIf}, {"et s'il", WhatIf}, {"que faire si", WhatIf}, {"que faire s'il", WhatIf}, {"que se passe-t-il si", WhatIf},
			{"combien", HowMuch}, {"comment", How}, {"qu'est-ce", What}, {"que", What}, {"qu", What}, {"à quoi", What}, {"pourquoi", Why}, {"quand", When}, {"à quel moment", When}, {"où", Where},
			{"quel", Which}, {"quelle", Which}, {"quels", Which}, {"quelles", Which}, {"lequel", Which}, {"qui", Who}, {"est-ce", YesNo}, {"faut-il", YesNo},
			{"peut-on", YesNo}, {"puis-je", YesNo}, {"dois-je", YesNo}, {"doit-on", YesNo}, {"est-il", YesNo}, {"y a-t-il", YesNo}, {"existe-t-il", YesNo}, {"ai-je", YesNo}, {"peut-il", YesNo}},
		Linking:       "de du des d à",
		Joining:       "de la du des d le les sur en",
		Honorifics:    "m mme mlle dr prof",
		Organisations: "association ministère université institut société mairie préfecture agence fédération banque fondation syndicat",
		Places:        "ville village quartier rue avenue boulevard place pont lac parc vallée gare île",
		Laws:          "loi règlement directive code norme traité décret arrêté convention protocole",
		Events:        "festival marathon conférence championnat coupe olympiade jeux tour course guerre salon journée semaine prix",
		Parts:         "section sections chapitre chapitres figure figures fig tableau tableaux annexe partie page pages étape étapes note exemple équation paragraphe article volume numéro leçon module",
		Works:         "livre roman film chanson album poème tableau rapport étude manuel article revue journal",
		Versions:      "version édition modèle série logiciel application bibliothèque serveur client programme paquet",
		Speaking:      "dit écrit explique affirme raconte estime précise conseille recommande ajoute",
		Within:        "à en dans vers depuis près chez",
		Generic:       []string{"introduction", "conclusion", "résumé", "en résumé", "en bref", "questions fréquentes", "foire aux questions", "sources", "références", "notes", "présentation", "note", "remarque", "remarques", "astuce", "conseil", "attention", "avertissement", "important", "exemple", "exemples", "voir aussi", "commentaires", "définition", "généralités", "annexe", "bibliographie", "liens externes", "aperçu", "faq"},
		Furniture: Furniture{
			Headings: []string{"sommaire", "table des matières", "#? commentaire|commentaires #?", "laisser un commentaire", "avis clients", "avis de nos clients", "commentaires des lecteurs", "les clients ont aussi acheté *", "articles similaires|liés|connexes", "partager", "partager cet article",
				"à? lire|voir aussi", "sur le même sujet", "les plus lus", "à découvrir"},
			Lines: []string{"*8 tous droits réservés", "lire la suite", "lire plus", "en savoir plus", "à? lire|voir aussi? : *", "publicité", "mots-clés|étiquettes", "mots-clés|étiquettes : *",
				"#? commentaire|commentaires :? #?", "cliquez ici *5", "s'abonner", "s abonner", "retour", "retour au|à|a _ _?", "retour à la _ _?", "retour _ _?"},
			Credits:     []string{"photo|photos|image|images|illustration|crédit|crédits photo|photos? :|par|via|©"},
			Stamps:      []string{"publié|publiée|modifié|modifiée|actualisé le?", "mis|mise à jour le?"},
			Changes:     "mis mise modifié modifiée actualisé",
			DateWords:   "à le h heures er",
			Press:       "partager imprimer fermer",
			PressedOn:   "cet article cette page",
			ReadingTime: []string{"# min|minute|minutes de lecture"},
		},
		Title: Title{
			Patterns: []Pattern{{"names", "{K} : {1}, {2} et {3}"}, {"number", "{K} : nos {N} favoris"}, {"year", "{K} en {Y}"}, {"steps", "{K} pas à pas"}, {"guide", "{K} : le guide pratique"}}, And: "et",
			Buying: []string{"acheter"}, Comparing: []string{"meilleur|meilleure|meilleurs|meilleures", "comparatif|comparaison", "avis", "top #", "vs"}, Explaining: []string{"comment"}, Stepping: []string{"comment"},
		},
	}
}
