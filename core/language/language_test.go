package language

import (
	"fmt"
	"os"
	"strings"
	"testing"

	"corpulan/core/lexicon"
	"corpulan/core/text"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Stems as the vocabularies published with the Snowball stemmers give them
// (from memory).
func TestStem(t *testing.T) {
	for lang, pairs := range map[string]map[string]string{
		"en": {"tyres": "tyre", "commuting": "commut", "commuter": "commut", "mudguards": "mudguard", "happily": "happili", "consistency": "consist"},
		"de": {"aufeinander": "aufeinand", "katers": "kat"},
		"fr": {"continuellement": "continuel"},
		"es": {"cheques": "chequ"},
	} {
		l := For(lang)
		for in, want := range pairs {
			assert.Equal(t, want, l.Stem(in), lang+" "+in)
		}
	}
	assert.Equal(t, "bicykl", For("pl").Stem("Bicykl"), "a language without a stemmer keeps its words")
}

func TestContentStems(t *testing.T) {
	l := For("en-GB")
	assert.Equal(t, []string{"need", "stud", "tyre", "bike"}, l.ContentStems("Do I need studded tyres for my e-bike?"))
	assert.True(t, l.Stop("don't"))
	assert.True(t, l.Stop("you'll"))
	assert.False(t, l.Stop("tyre"))
}

func TestQuestions(t *testing.T) {
	en := For("en")
	for q, want := range map[string]QuestionKind{
		"Do I need studded tyres?": YesNo, "How cold is too cold to ride?": HowMuch, "How do I clean a chain?": How, "What should I wear?": What,
		"Why is ice slippery?": Why, "When does the council grit?": When, "Which tyre should you buy?": Which, "Where can I park?": Where, "Who clears the path?": Who,
	} {
		kind, asks := en.KindOfQuestion(q)
		assert.True(t, asks, q)
		assert.Equal(t, want, kind, q)
		assert.True(t, en.IsQuestion(q), q)
	}
	for _, s := range []string{"Really?", "You ride in winter, right?", "What?!", "He asked: why? And how?", "Nice day.", "", "Think about it?"} {
		assert.False(t, en.IsQuestion(s), s)
	}
	for lang, q := range map[string]string{"de": "Wie lange hält ein Akku?", "fr": "Comment choisir un pneu ?", "es": "¿Cómo elegir una rueda?", "it": "Quanto costa una gomma?", "nl": "Hoe kies je een band?", "pt": "Como escolher um pneu?", "sv": "Hur väljer man ett däck?"} {
		_, asks := For(lang).KindOfQuestion(q)
		assert.True(t, asks, q)
	}
}

func TestQuestionHeadings(t *testing.T) {
	en := For("en")
	for _, s := range []string{"Is it worth it?", "How do I store a bike", "What tyres do I need", "Why should you ride"} {
		assert.True(t, en.IsQuestionHeading(s), s)
	}
	for _, s := range []string{"What to wear", "How studs work", "HOW CONFLICTS ARE PRESENTED", "What to do when a push fails", "What other cities can copy", "When snow falls", "Do it yourself"} {
		assert.False(t, en.IsQuestionHeading(s), s)
	}
}

func TestDetect(t *testing.T) {
	assert.Equal(t, "en", Detect("Winter riding is mostly a question of habit, good tyres and a light that does not fail you on the way home."))
	assert.Equal(t, "de", Detect("Wer im Winter mit dem Fahrrad zur Arbeit fährt, braucht gute Reifen, helles Licht und trockene Schuhe für den Weg."))
	assert.Empty(t, Detect("Winter"))
}

// prose is testdata/prose.txt by language.
func prose(t *testing.T) map[string]string {
	t.Helper()
	b, err := os.ReadFile("testdata/prose.txt")
	require.NoError(t, err)
	all := map[string]string{}
	for line := range strings.Lines(string(b)) {
		if code, s, ok := strings.Cut(strings.TrimSpace(line), "\t"); ok {
			all[code] = s
		}
	}
	require.Len(t, all, len(Codes()))
	return all
}

// Prose of each language is told from that of all others, whole, by sentences
// of it, and when it is typed without accents.
func TestProseOfEveryLanguageIsTold(t *testing.T) {
	for code, s := range prose(t) {
		assert.Equal(t, code, Detect(s), code)
		half := s[strings.IndexAny(s, ".,")+1:]
		assert.Equal(t, code, Detect(half), code)
		plain := strings.Map(func(r rune) rune { return []rune(text.Fold(string(r)) + " ")[0] }, s)
		assert.Equal(t, code, Detect(plain), "without accents: "+code)
		assert.Equal(t, code, Detect(strings.ToUpper(s)), "in capitals: "+code)
	}
}

// Sentences of newspapers' kind, and a language we have no rules for.
func TestOtherProseIsTold(t *testing.T) {
	for page, want := range map[string]string{
		"À la une, les députés ont adopté jeudi soir le projet de loi qui doit encore être examiné par le Sénat dans les prochaines semaines.":                "fr",
		"Der Bundestag hat am Donnerstag nach langer Debatte das Gesetz beschlossen, das nun noch im Bundesrat beraten werden muss, bevor es in Kraft tritt.": "de",
		"Ząb zupa zębowa, dąb zupa dębowa; w Szczebrzeszynie chrząszcz brzmi w trzcinie i Szczebrzeszyn z tego słynie, a stary szewc szyje but przy oknie.":   "pl",
	} {
		assert.Equal(t, want, Detect(page), page)
	}
}

// A function word is one as it is written: where the accent is there it counts.
func TestFunctionWords(t *testing.T) {
	for tag, words := range map[string]string{
		"fr": "les ils où OÙ ou à jusqu'à qu'il d'un l'on même MEME c'est n'est", "de": "für über FÜR Über während", "es": "también tambien más qué QUÉ", "it": "perché più è dell'altra",
		"pt": "não são também é há", "sv": "är på när för ÄR", "nl": "omdat toch", "en": "don't you'll won’t What's it’s",
	} {
		l := For(tag)
		for w := range strings.FieldsSeq(words) {
			assert.True(t, l.Stop(w), tag+" "+w)
		}
	}
	for tag, words := range map[string]string{"fr": "d'hiver l'éclairage été maïs pneu qu'Alice s'arrêter", "it": "dell'inverno l'asfalto olio", "en": "tyre maïs", "de": "Reifen", "pt": "d'água"} {
		l := For(tag)
		for w := range strings.FieldsSeq(words) {
			assert.False(t, l.Stop(w), tag+" "+w)
		}
	}
	// Snowball's lists, every word of them: none is there in vain.
	for l := range Each {
		lang, content := For(l.Code), Set(l.Content)
		for w := range lexicon.Stop(l.Code) {
			if !content[text.Fold(w)] {
				assert.True(t, lang.Stop(w), l.Code+" "+w)
				assert.True(t, lang.Stop(text.Fold(w)), l.Code+" "+w)
			}
		}
	}
}

func TestElisions(t *testing.T) {
	fr, it, en := For("fr"), For("it"), For("en")
	assert.Equal(t, []string{"pneu", "hiv"}, fr.ContentStems("Des pneus d'hiver"))
	parts := func(l *Language, w string) (list []string) {
		l.EachPart(w, func(p Part) { list = append(list, fmt.Sprintf("%s %v", w[p.Start:p.End], p.Begins)) })
		return list
	}
	assert.Equal(t, []string{"d true", "hiver true"}, parts(fr, "d'hiver"))
	assert.Equal(t, []string{"L true", "Éclairage true"}, parts(fr, "L’Éclairage"))
	assert.Equal(t, []string{"aujourd'hui true"}, parts(fr, "aujourd'hui"))
	assert.Equal(t, []string{"l true", "avant true", "bras false"}, parts(fr, "l'avant-bras"))
	assert.Equal(t, []string{"dell true", "inverno true"}, parts(it, "dell'inverno"))
	assert.Equal(t, []string{"d'hiver true"}, parts(en, "d'hiver"))
	assert.Equal(t, []string{"e true", "bike false"}, parts(en, "e-bike"))
	assert.Equal(t, "azur", fr.Bare("d'azur"))
}

// Names of the CLDR, and how people cut them short.
func TestCalendar(t *testing.T) {
	for word, want := range map[string]int{"January": 1, "févr.": 2, "März": 3, "mrt": 3, "avril": 4, "Mai": 5, "giugno": 6, "jul": 7, "août": 8, "aout": 8, "Sept.": 9, "outubro": 10, "nov": 11, "dic.": 12, "grudzień": 0, "ja": 0, "": 0} {
		assert.Equal(t, want, Month(word), word)
	}
	assert.True(t, Weekday("Donnerstag"))
	assert.True(t, Weekday("miércoles"))
	assert.True(t, Weekday("Sat"))
	assert.False(t, Weekday("bike"))
	assert.True(t, For("en").InCalendar("May"))
	assert.False(t, For("de").InCalendar("may"))
}

// Tags as BCP 47 has them, and as pages write them.
func TestTags(t *testing.T) {
	for tag, want := range map[string]string{"en-GB": "en", "EN_us": "en", "de": "de", "zh-Hans-CN": "zh", "deu": "de", "pt-BR, en": "pt", "": "", "x": "x"} {
		assert.Equal(t, want, Base(tag), tag)
	}
	assert.True(t, Known("sv-SE"))
	assert.False(t, Known("qx"))
	assert.False(t, Known("english"))
	assert.Equal(t, "German", Name("de"))
	assert.Equal(t, "Polish", Name("pl"))
	assert.Equal(t, "??", Name("??"))
}

func TestQuestionsInEveryLanguage(t *testing.T) {
	for tag, questions := range map[string]map[string]QuestionKind{
		"de": {"Welche Reifen brauche ich?": Which, "Muss man im Winter anders fahren?": YesNo, "Wozu dient ein Schutzblech?": Why},
		"fr": {"Est-ce que les pneus d’hiver sont obligatoires ?": YesNo, "OU ranger son vélo ?": Where, "Peut-on rouler sur la neige ?": YesNo, "Et s'il neige fort ?": WhatIf, "Qu'est-ce qu'un antivol ?": What},
		"es": {"¿Es seguro ir en bici?": YesNo, "¿POR QUÉ resbala el hielo?": Why, "¿Y si nieva mucho?": WhatIf}, "it": {"È obbligatorio il casco?": YesNo, "Cos'è un portapacchi?": What, "E se nevica?": WhatIf},
		"nl": {"Moet ik mijn banden wisselen?": YesNo, "Wat als het sneeuwt?": WhatIf}, "pt": {"É perigoso pedalar na chuva?": YesNo, "Por que usar luvas?": Why, "E se nevar muito?": WhatIf}, "sv": {"Är dubbdäck tillåtna?": YesNo, "Måste man ha ringklocka?": YesNo, "Vad händer om det snöar?": WhatIf},
	} {
		l := For(tag)
		for q, want := range questions {
			kind, asks := l.KindOfQuestion(q)
			assert.True(t, asks, q)
			assert.Equal(t, want, kind, q)
			assert.True(t, l.IsQuestion(q), q)
		}
	}
}

func TestSentencesOfALanguage(t *testing.T) {
	count := func(tag, s string) int { return len(For(tag).Sentences(s)) }
	assert.Equal(t, 2, count("es", "El agua del mar. La arena."), "the sea is no abbreviation of March")
	assert.Equal(t, 1, count("de", "Reifen, z.B. Spikes, halten ca. Drei Jahre."))
	assert.Equal(t, 1, count("pl", "Opony, approx. Ten."), "English ones where none are known")
	assert.Equal(t, 2, count("en", "Is it? No. 12 is."))
	assert.Equal(t, 1, count("de", "Seit dem 3. März 2024 gilt es."))
	assert.Equal(t, 2, count("de", "Es waren 30. Regen fiel."))
}

// One word in two spellings has one stem; words that only look like it keep theirs.
func TestSpellings(t *testing.T) {
	en := For("en")
	for other, ours := range map[string]string{"tire": "tyre", "Tires": "tyres", "color": "colours", "organize": "organise", "organized": "organising", "optimization": "optimisation", "analyze": "analyse", "center": "centres", "fibers": "fibre"} {
		assert.Equal(t, en.Stem(ours), en.Stem(other), other)
	}
	for a, b := range map[string]string{"tired": "tyred", "size": "sise", "prize": "prise", "tiring": "tyre"} {
		assert.NotEqual(t, en.Stem(b), en.Stem(a), a)
	}
	assert.Equal(t, "organiz", For("xx").Stem("organiz"), "elsewhere words stay")
}

// An answer says yes or no by its first word, if it stops or pauses there.
func TestStanceOfAnAnswer(t *testing.T) {
	for code, answers := range map[string]map[string]Stance{
		"en": {"Yes, if it is dry.": SaysYes, "No.": SaysNo, "No matter what you do, it rusts.": "", "Never! It rots.": SaysNo, "Nothing helps.": "", "": "", "Absolutely – within limits.": SaysYes, "2 of them": ""},
		"de": {"Ja, vor allem beim ersten Mal.": SaysYes, "Nein, es geht nur schneller.": SaysNo, "Nein zu sagen hilft nicht.": ""},
		"fr": {"Oui : deux couches.": SaysYes, "Non. Ces feuilles plafonnent.": SaysNo},
		"es": {"Sí, siempre.": SaysYes, "Si llueve, no.": "", "No, salvo que vaya a repararse.": SaysNo, "No bajes el nivel.": ""},
		"it": {"Sì, ma piano.": SaysYes}, "nl": {"Nee, dat hoeft niet.": SaysNo}, "pt": {"Não, nunca.": SaysNo}, "sv": {"Jo, det går.": SaysYes},
	} {
		for answer, want := range answers {
			assert.Equal(t, want, For(code).StanceOf(answer), "%s: %s", code, answer)
		}
	}
}

// What one asks how to know is what one asks.
func TestWhatOneWantsToKnow(t *testing.T) {
	for code, questions := range map[string]map[string]string{
		"en": {"How do I know what size mudguards I need?": "what size mudguards I need?", "How do I know when it is worn?": "How do I know when it is worn?", "What do mechanics know?": "What do mechanics know?"},
		"de": {"Woher weiß ich, welche Größe passt?": "welche Größe passt?"},
		"fr": {"Comment savoir quelle taille choisir ?": "quelle taille choisir ?"},
		"es": {"¿Cómo saber qué talla necesito?": "qué talla necesito?"},
		"it": {"Come sapere quale misura serve?": "quale misura serve?"},
		"nl": {"Hoe weet ik welke maat past?": "welke maat past?"},
		"pt": {"Como saber qual tamanho serve?": "qual tamanho serve?"},
		"sv": {"Hur vet jag vilken storlek som passar?": "vilken storlek som passar?"},
	} {
		for q, want := range questions {
			assert.Equal(t, want, For(code).Asked(q), code)
		}
	}
}

// A question may stand behind a turn, or in the last clause of its sentence.
func TestQuestionsWithinASentence(t *testing.T) {
	for code, sentences := range map[string]map[string]QuestionKind{
		"en": {"But what if it rains all week?": WhatIf, "Once you have the tyres, what pressure is right?": What, "If the road is icy, do I need studs?": YesNo, "So how cold is too cold?": HowMuch, "And then, how do you store it?": How},
		"de": {"Aber was tun, wenn es regnet?": WhatIf, "Wenn die Straße vereist ist, wie viel Reifendruck ist richtig?": HowMuch},
		"fr": {"Mais comment choisir ses pneus ?": How},
		"es": {"Pero ¿cómo se limpia la cadena?": How},
		"sv": {"Men hur ofta ska kedjan smörjas?": HowMuch},
	} {
		lang := For(code)
		for s, want := range sentences {
			assert.True(t, lang.IsQuestion(s), "%s: %s", code, s)
			kind, _ := lang.KindOfQuestion(s)
			assert.Equal(t, want, kind, "%s: %s", code, s)
		}
	}
	for _, no := range []string{"It is cold today, right?", "It is cold, isn't it?", "You have read this far, and?", "She said so, did she?"} {
		assert.False(t, For("en").IsQuestion(no), no)
	}
}

func TestSentencesThatLean(t *testing.T) {
	for code, sentences := range map[string][2]string{"en": {"Otherwise, the seal fails.", "Close the stopcock first."}, "de": {"Darum kommt das Äußere nach innen.", "Das Umsetzen bringt Luft."}, "fr": {"Cela suffit.", "La ouate isole mieux."}, "es": {"Así no se hiela.", "La arena se cambia."}, "it": {"Quindi si annaffia.", "Il vaso ha un foro."}, "nl": {"Daarna spoel je.", "Azijn lost kalk op."}, "pt": {"Depois, enxague.", "A parede seca devagar."}, "sv": {"Därför rostar kedjan.", "Smörj kedjan varje vecka."}} {
		lang := For(code)
		assert.True(t, lang.LeansBack(sentences[0]), sentences[0])
		assert.False(t, lang.LeansBack(sentences[1]), sentences[1])
	}
}
