package text

import (
	"math"
	"strings"

	"corpulan/core/lexicon"
)

// Prose are the counts of running text that formulas of readability are made of.
type Prose struct {
	Words, Sentences, Syllables int
	Letters                     int // of the words
	Long                        int // words of more than six letters
}

// LongWord is how many letters a word has at most that is not long, for Björnsson's LIX (1968).
const LongWord = 6

// Readability holds how easily a text reads: by the formula made for its language, and of English the two Flesch measures.
type Readability struct {
	Ease    float64 `json:"ease,omitempty"`
	Formula string  `json:"formula,omitempty"` // whose Ease is by
	// FleschReadingEase is 206.835 - 1.015 words/sentence - 84.6 syllables/word
	// (Flesch 1948); higher is easier, 60 to 70 is plain English.
	FleschReadingEase float64 `json:"flesch_reading_ease"`
	// FleschKincaidGrade is 0.39 words/sentence + 11.8 syllables/word - 15.59
	// (Kincaid, Fishburne, Rogers & Chissom 1975), in years of schooling.
	FleschKincaidGrade float64 `json:"flesch_kincaid_grade"`
}

// Flesch computes both measures from plain counts; zero if there is no text.
// The formulas are those of Flesch (1948) and Kincaid et al. (1975).
func Flesch(words, sentences, syllables int) Readability {
	if words == 0 || sentences == 0 {
		return Readability{}
	}
	perSentence := float64(words) / float64(sentences)
	perWord := float64(syllables) / float64(words)
	return Readability{
		FleschReadingEase:  Round2(206.835 - 1.015*perSentence - 84.6*perWord),
		FleschKincaidGrade: Round2(0.39*perSentence + 11.8*perWord - 15.59),
	}
}

// Round2 rounds to two decimals.
func Round2(x float64) float64 { return math.Round(x*100) / 100 }

// Syllables counts the syllables of an English word: by the CMU Pronouncing
// Dictionary where it has the word, by vowel groups otherwise. At least 1.
func Syllables(word string) int {
	if IsASCII(word) && !strings.Contains(word, "-") {
		// The common case, without a copy where the word is in small letters already.
		return max(syllablesOf(Fold(word)), 1)
	}
	total := 0
	for part := range strings.SplitSeq(Fold(word), "-") {
		if part == "" {
			continue
		}
		total += syllablesOf(part)
	}
	return max(total, 1)
}

func syllablesOf(folded string) int {
	if w, ok := lexicon.English(folded); ok && w.Syllables > 0 {
		return w.Syllables
	}
	return syllablesByRule(folded)
}

func syllablesByRule(w string) int {
	n, inVowels := 0, false
	for _, r := range w {
		v := strings.ContainsRune("aeiouy", r)
		if v && !inVowels {
			n++
		}
		inVowels = v
	}
	// A last e is silent ("tyre"), but not after a consonant and l ("bicycle").
	silent := strings.HasSuffix(w, "e") && !strings.HasSuffix(w, "ee") &&
		!(len(w) > 2 && strings.HasSuffix(w, "le") && !strings.ContainsRune("aeiouy", rune(w[len(w)-3])))
	if silent || (strings.HasSuffix(w, "ed") && len(w) > 3 && w[len(w)-3] != 't' && w[len(w)-3] != 'd' && !strings.ContainsRune("aeiouy", rune(w[len(w)-3]))) {
		n--
	}
	return max(n, 1)
}
