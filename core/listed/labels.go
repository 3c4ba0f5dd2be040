package listed

import (
	"regexp"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"corpulan/core/language"
	"corpulan/core/text"
)

// longestLabel is how many words "Light output: 300 lumens" has before its colon at most. Our own.
const longestLabel = 4

// pair is a label with what is told by it.
type pair struct{ label, told string }

// pairs reads "Price: £69 | Weight: 168 g" and the like; nil for a line that is none.
func (f *finder) pairs(line string) (pairs []pair) {
	if !strings.Contains(line, ":") {
		return nil
	}
	for part := range strings.FieldsFuncSeq(line, func(r rune) bool { return strings.ContainsRune("|·•", r) }) {
		for _, p := range f.colons(part) {
			label := f.labelOf(p.label)
			if text.CountWords(p.label) > longestLabel || !text.HasWord(p.label) || label == "" && text.CountWords(p.told) > longestTold {
				continue
			}
			pairs = append(pairs, p)
		}
	}
	return pairs
}

var beforeColon = regexp.MustCompile(`[\p{L}\d()/’' -]{2,60}:\s`)

// colons cuts a line before its labels: "Price: £69 Weight: 168 g" has two, the second beginning at its capital. What is told
// ends with its sentence.
func (f *finder) colons(part string) (pairs []pair) {
	part = strings.TrimSpace(part) + " "
	label, start, inside := "", 0, false
	end := func(to int) {
		if label == "" {
			return
		}
		told := strings.TrimSpace(part[start:max(start, to)])
		if sentences := f.Language.Sentences(told); len(sentences) > 1 {
			told = sentences[0].Of(told)
		}
		told = strings.TrimRight(told, " .")
		// Within a sentence a colon tells figures, or what the language has a label for.
		if v, ok := f.valueOf(told); !inside || ok && v.isQuantity() || f.labelOf(label) != "" {
			pairs = append(pairs, pair{label, told})
		}
	}
	for _, m := range beforeColon.FindAllStringIndex(part, -1) {
		begin := labelStart(part, m[1]-2)
		if m[0] == 0 && text.CountWords(part[:m[1]]) <= longestLabel {
			begin = 0
		}
		end(begin)
		label, start, inside = strings.TrimSpace(part[begin:m[1]-2]), m[1], begin > 0
	}
	end(len(part))
	return pairs
}

// labelStart is where the label begins that ends at a byte: at the word with a capital that is followed by none.
func labelStart(s string, end int) int {
	words := strings.Fields(s[:end])
	at, start := end, end
	for i := len(words) - 1; i >= 0 && i >= len(words)-longestLabel; i-- {
		at = strings.LastIndex(s[:at], words[i])
		if first, _ := utf8.DecodeRuneInString(words[i]); unicode.IsUpper(first) {
			return at
		}
		if strings.ContainsAny(words[i], "0123456789€£$*") {
			break
		}
		start = at
	}
	return start
}

var labels = []language.Label{language.LabelPrice, language.LabelPros, language.LabelCons, language.LabelVerdict, language.LabelRating, language.LabelPosition, language.LabelPressed}

// labelOf is what a label of the language says; "" for one of the page's own.
func (f *finder) labelOf(s string) language.Label {
	if l, known := f.labels[s]; known {
		return l
	}
	i := slices.IndexFunc(labels, func(l language.Label) bool { return f.Language.IsLabel(l, s) })
	if i < 0 {
		f.labels[s] = ""
		return ""
	}
	f.labels[s] = labels[i]
	return labels[i]
}

// after is what a line has behind the last that it tells by a label.
func after(line, told string) string {
	i := strings.LastIndex(line, told)
	if i < 0 {
		return ""
	}
	return strings.TrimSpace(strings.TrimLeft(line[i+len(told):], ". "))
}
