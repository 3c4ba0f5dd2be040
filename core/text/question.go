package text

import "strings"

// QuestionKind is what a question asks for.
type QuestionKind string

// The kinds of question.
const (
	What    QuestionKind = "what"
	Why     QuestionKind = "why"
	How     QuestionKind = "how"
	HowMuch QuestionKind = "how much"
	When    QuestionKind = "when"
	Where   QuestionKind = "where"
	Which   QuestionKind = "which"
	Who     QuestionKind = "who"
	YesNo   QuestionKind = "yes or no"
)

// opening is a way a question begins, longest first within a language.
type opening struct {
	words string
	kind  QuestionKind
}

var openings = map[string][]opening{
	"en": {{"how much", HowMuch}, {"how many", HowMuch}, {"how long", HowMuch}, {"how often", HowMuch}, {"how far", HowMuch},
		{"how cold", HowMuch}, {"how old", HowMuch}, {"how big", HowMuch}, {"how", How}, {"what's", What}, {"what", What}, {"why", Why}, {"when", When},
		{"where", Where}, {"which", Which}, {"who", Who}, {"whose", Who},
		{"is", YesNo}, {"are", YesNo}, {"do", YesNo}, {"does", YesNo}, {"did", YesNo}, {"can", YesNo}, {"could", YesNo},
		{"should", YesNo}, {"will", YesNo}, {"would", YesNo}, {"has", YesNo}, {"have", YesNo}, {"am", YesNo}},
	"de": {{"wie viel", HowMuch}, {"wie viele", HowMuch}, {"wie lange", HowMuch}, {"wie oft", HowMuch}, {"wie", How}, {"was", What}, {"warum", Why},
		{"wieso", Why}, {"wann", When}, {"wo", Where}, {"wohin", Where}, {"welche", Which}, {"welcher", Which}, {"welches", Which}, {"wer", Who}},
	"fr": {{"combien", HowMuch}, {"comment", How}, {"qu'est-ce", What}, {"que", What}, {"pourquoi", Why}, {"quand", When}, {"où", Where},
		{"quel", Which}, {"quelle", Which}, {"quels", Which}, {"quelles", Which}, {"qui", Who}, {"est-ce", YesNo}, {"faut-il", YesNo}},
	"es": {{"cuánto", HowMuch}, {"cuántos", HowMuch}, {"cuántas", HowMuch}, {"cómo", How}, {"qué", What}, {"por qué", Why}, {"cuándo", When}, {"dónde", Where}, {"cuál", Which}, {"quién", Who}},
	"it": {{"quanto", HowMuch}, {"quanti", HowMuch}, {"come", How}, {"cosa", What}, {"che cosa", What}, {"perché", Why}, {"quando", When}, {"dove", Where}, {"quale", Which}, {"quali", Which}, {"chi", Who}},
	"nl": {{"hoeveel", HowMuch}, {"hoe lang", HowMuch}, {"hoe", How}, {"wat", What}, {"waarom", Why}, {"wanneer", When}, {"waar", Where}, {"welke", Which}, {"wie", Who}},
	"pt": {{"quanto", HowMuch}, {"quantos", HowMuch}, {"como", How}, {"o que", What}, {"por que", Why}, {"quando", When}, {"onde", Where}, {"qual", Which}, {"quem", Who}},
	"sv": {{"hur mycket", HowMuch}, {"hur många", HowMuch}, {"hur länge", HowMuch}, {"hur", How}, {"vad", What}, {"varför", Why}, {"när", When}, {"var", Where}, {"vilken", Which}, {"vilka", Which}, {"vem", Who}},
}

// KindOfQuestion tells what a question asks for, by its opening words. The
// second result is false where no known opening stands at the front; the kind
// is then YesNo, what is left when no question word asks for a thing.
func KindOfQuestion(s, language string) (QuestionKind, bool) {
	s = strings.ToLower(strings.ReplaceAll(strings.TrimLeft(s, " ¿\"'“‘0123456789.):"), "’", "'"))
	best, kind := 0, YesNo
	for _, o := range openings[BaseLanguage(language)] {
		if len(o.words) > best && strings.HasPrefix(s, o.words) && (len(s) == len(o.words) || !isWordByte(s[len(o.words)])) {
			best, kind = len(o.words), o.kind
		}
	}
	return kind, best > 0
}

func isWordByte(b byte) bool { return b >= 'a' && b <= 'z' || b >= 0x80 || b == '\'' }

// IsQuestion tells whether a sentence has the form of a question a reader would
// ask: a question mark at its end, three to thirty words, and not a tag
// ("..., right?") or a quotation's fragment.
func IsQuestion(s, language string) bool {
	s = strings.TrimRight(s, " \"'”’)")
	if !strings.HasSuffix(s, "?") || strings.Count(s, "?") > 1 || strings.Contains(s, "?!") {
		return false
	}
	n := CountWords(s)
	if n < 3 || n > 30 {
		return false
	}
	_, asks := KindOfQuestion(s, language)
	return asks || openings[BaseLanguage(language)] == nil
}

// IsQuestionHeading tells whether a heading asks: it ends in a question mark,
// or, in English, it opens with a question word and an auxiliary ("how do I
// store a bike"), which a heading such as "What to wear" does not.
func IsQuestionHeading(s, language string) bool {
	if strings.HasSuffix(strings.TrimRight(s, " \"'”’)"), "?") {
		return CountWords(s) >= 2
	}
	if BaseLanguage(language) != "en" {
		return false
	}
	words := strings.Fields(strings.ToLower(s))
	if len(words) < 4 {
		return false
	}
	kind, asks := KindOfQuestion(s, language)
	if !asks || kind == YesNo {
		return false
	}
	// The auxiliary follows the question word ("how do I"), or turns round with
	// a pronoun further on ("what tyres do I need", but not "what cities can copy").
	for i := 1; i < min(5, len(words)-1); i++ {
		switch words[i] {
		case "do", "does", "did", "is", "are", "can", "should", "will", "would":
			return i == 1 || pronouns[words[i+1]] && words[i-1] != "to"
		}
	}
	return false
}

var pronouns = map[string]bool{"i": true, "you": true, "we": true, "they": true, "it": true, "my": true, "your": true}
