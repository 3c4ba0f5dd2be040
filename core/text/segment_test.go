package text

import (
	"bufio"
	"os"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

func cut(s string, spans []Span) []string {
	var parts []string
	for _, sp := range spans {
		parts = append(parts, sp.Of(s))
	}
	return parts
}

func TestWords(t *testing.T) {
	for name, c := range map[string]struct {
		text string
		want []string
	}{
		"apostrophe and hyphen joins": {"Don't take the e-bike -- it's far.", []string{"Don't", "take", "the", "e-bike", "it's", "far"}},
		"typographic":                 {"it’s non‑slip", []string{"it’s", "non‑slip"}},
		"a hyphen at an end":          {"pre- and post-war, -5 °C", []string{"pre", "and", "post-war", "5", "C"}},
		"numbers":                     {"£1,200.50 for 10-15 km", []string{"1,200.50", "for", "10-15", "km"}},
		"a colon between two":         {"Expenses:Food and Fahrer:innen, EU:s 10:30 Assets:Bank:Giro", []string{"Expenses", "Food", "and", "Fahrer:innen", "EU:s", "10", "30", "Assets", "Bank", "Giro"}},
		"nothing but signs":           {"— … !? *", nil},
		"empty":                       {"", nil},
	} {
		assert.Equal(t, c.want, cut(c.text, Words(c.text)), name)
		assert.Equal(t, len(c.want), CountWords(c.text), name)
	}
}

// The published tests of Unicode Standard Annex #29, WordBreakTest.txt, from
// Debian's package unicode-data. Our words are its segments with a letter or
// digit; lines with a hyphen are ours to join and are left out.
// A word of a million colons is parted in one pass: in a pass for each it would take hours.
func TestAWordOfColons(t *testing.T) {
	assert.Equal(t, 1, CountWords("aa"+strings.Repeat(":b", 1_000_000)))
	assert.Equal(t, 300_000, CountWords(strings.Repeat("Bb:", 300_000)))
}

func TestWordsAgainstUAX29(t *testing.T) {
	checked := 0
	eachBreakTest(t, "WordBreakTest.txt", func(line, text string, segments []string) {
		if strings.ContainsAny(text, "-\u2010\u2011") {
			return
		}
		var want []string
		for _, s := range segments {
			if hasLetterOrDigit(s) {
				want = append(want, s)
			}
		}
		got := cut(text, Words(text))
		// A word of ours sheds signs at its ends that UAX #29 leaves on (a
		// combining mark or underscore beside it).
		for i := range want {
			want[i] = trimSigns(want[i])
		}
		assert.Equal(t, want, got, line)
		checked++
	})
	assert.Greater(t, checked, 1700)
}

// SentenceBreakTest.txt of the same annex. None of its texts holds an
// abbreviation of ours, so nothing may be held together that it breaks.
func TestSentencesAgainstUAX29(t *testing.T) {
	checked := 0
	eachBreakTest(t, "SentenceBreakTest.txt", func(line, text string, segments []string) {
		var want []string
		for _, s := range segments {
			if s = trimSpan(s, Span{0, len(s)}).Of(s); s != "" {
				want = append(want, s)
			}
		}
		assert.Equal(t, want, cut(text, Sentences(text, none)), line)
		checked++
	})
	assert.Greater(t, checked, 480)
}

func trimSigns(s string) string {
	spans := Words(s)
	if len(spans) == 0 {
		return s
	}
	return s[spans[0].Start:spans[len(spans)-1].End]
}

func eachBreakTest(t *testing.T, name string, check func(line, text string, segments []string)) {
	t.Helper()
	f, err := os.Open("/usr/share/unicode/auxiliary/" + name)
	if os.IsNotExist(err) {
		t.Fatal("Debian's package unicode-data is not installed; `make test` installs it")
	}
	require.NoError(t, err)
	defer f.Close()
	for in := bufio.NewScanner(f); in.Scan(); {
		line, _, _ := strings.Cut(in.Text(), "#")
		var segments []string
		segment := ""
		for _, field := range strings.Fields(line) {
			switch field {
			case "÷":
				if segment != "" {
					segments = append(segments, segment)
				}
				segment = ""
			case "×":
			default:
				r, err := strconv.ParseInt(field, 16, 32)
				require.NoError(t, err, line)
				segment += string(rune(r))
			}
		}
		if len(segments) > 0 {
			check(in.Text(), strings.Join(segments, ""), segments)
		}
	}
}

func TestSentences(t *testing.T) {
	for name, c := range map[string]struct {
		text string
		want []string
	}{
		"abbreviations":                {"It is far, i.e. Too far. Mr. Hartwell agrees (approx. 5 km).", []string{"It is far, i.e. Too far.", "Mr. Hartwell agrees (approx. 5 km)."}},
		"no as an answer":              {"Is it safe? No. It is not.", []string{"Is it safe?", "No.", "It is not."}},
		"no as a number":               {"See No. 5 there. Then go.", []string{"See No. 5 there.", "Then go."}},
		"initials":                     {"By J. R. Fenwright. She rides.", []string{"By J. R. Fenwright.", "She rides."}},
		"a line ends a sentence":       {"A heading\nA paragraph", []string{"A heading", "A paragraph"}},
		"abbreviation at a line's end": {"Lights etc.\nTyres e.g.\nOther", []string{"Lights etc.", "Tyres e.g.", "Other"}},
		"empty":                        {" \n ", nil},
	} {
		assert.Equal(t, c.want, cut(c.text, Sentences(c.text, few)), name)
	}
}

// Whatever the text: spans stand in order, do not overlap, lie inside the
// text, and no word is lost or cut by a sentence's end.
func TestSpansAreSound(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := rapid.StringOf(rapid.OneOf(rapid.Rune(), rapid.SampledFrom([]rune("ab A.?!-'’\n e1,")))).Draw(t, "text")
		for _, spans := range [][]Span{Words(s), Sentences(s, none)} {
			at := 0
			for _, sp := range spans {
				if sp.Start < at || sp.End <= sp.Start || sp.End > len(s) {
					t.Fatalf("span %v after %d in %q", sp, at, s)
				}
				at = sp.End
			}
		}
		inSentences := 0
		for _, sp := range Sentences(s, few) {
			inSentences += CountWords(sp.Of(s))
		}
		if all := CountWords(s); inSentences < all {
			t.Fatalf("%d words, but %d in sentences: %q", all, inSentences, s)
		}
	})
}

func none(string, string) bool { return false }

// few abbreviations, of those that the languages have.
func few(word, _ string) bool {
	switch strings.ToLower(word) {
	case "e.g", "i.e", "dr", "mr", "mrs", "st", "approx", "vol", "z.b", "ca":
		return true
	}
	return false
}
