package entities

import (
	"slices"
	"strings"
	"unicode"

	"corpulan/core/corpus"
	"corpulan/core/language"
	"corpulan/core/reading"
	"corpulan/core/text"
)

// mention is a run of capitalised words, in tokens of its sentence.
type mention struct {
	doc      int
	sentence *corpus.Sentence
	from, to int      // tokens, end exclusive
	words    []string // as written
	start    bool     // it opens its sentence, whose capital may not be its own
}

// longestName is how many words a name may have; a longer run of capitals is a
// line in title case. Our own bound.
const longestName = 12

// maxMentions is how many sentences of one name are read for its type. Our own.
const maxMentions = 60

// namesOf finds the names of a field, each by its folded form, in order of first
// appearance.
func namesOf(t *trimmer) []*named {
	f := t.Field
	headings := map[string]bool{}
	for _, d := range f.Docs {
		for _, h := range d.Reading.Headings {
			headings[text.Fold(h.Text)] = true
		}
	}
	found := map[string]*named{}
	var order []*named
	for i, d := range f.Docs {
		for n := range d.Sentences {
			s := &d.Sentences[n]
			if s.Heading || s.Foreign || s.Kind == reading.LineCode || !f.Language.NounsHaveCapitals && corpus.MostlyCapitals(*s) {
				continue
			}
			for _, m := range runs(i, s, f.Language) {
				m = t.trim(m)
				if len(m.words) == 0 {
					continue
				}
				name := strings.Join(m.words, " ")
				k := text.Fold(name)
				if len(m.words) > 1 && name == strings.ToUpper(name) && headings[k] {
					continue // "see RECOVERING FROM AN ERROR": a heading is pointed at
				}
				e := found[k]
				if e == nil {
					e = &named{Entity: Entity{Key: k, Counts: make([]int, len(f.Docs))}, words: m.words, shapes: map[string]int{}}
					found[k] = e
					order = append(order, e)
				}
				e.saw(m, name)
			}
		}
	}
	for _, e := range order {
		e.count(f)
	}
	for i, d := range f.Docs {
		mark(i, d, found)
	}
	return slices.DeleteFunc(order, func(e *named) bool { return t.isCode(e) || t.isCommon(e) })
}

func (e *named) saw(m mention, name string) {
	e.Counts[m.doc]++
	e.shapes[name]++
	if len(e.mentions) < maxMentions {
		e.mentions = append(e.mentions, m)
	}
	if m.sentence.Opening && !slices.Contains(e.marked, m.doc) {
		e.marked = append(e.marked, m.doc)
	}
}

// mark notes which names stand in the title or the headings of a page.
func mark(doc int, d *corpus.Doc, found map[string]*named) {
	lines := []string{text.Fold(d.Reading.Title)}
	for _, h := range d.Reading.Headings {
		lines = append(lines, text.Fold(h.Text))
	}
	for k, e := range found {
		if e.Counts[doc] > 0 && !slices.Contains(e.marked, doc) && slices.ContainsFunc(lines, func(l string) bool { return strings.Contains(l, k) }) {
			e.marked = append(e.marked, doc)
		}
	}
}

// runs are the stretches of a sentence that are written as names.
func runs(doc int, s *corpus.Sentence, lang *language.Language) []mention {
	var found []mention
	for i := 0; i < len(s.Tokens); i++ {
		if !isNameWord(s, i) || inCodeWord(s, i) {
			continue
		}
		end := runEnds(s, i+1, lang)
		if end-i <= longestName {
			found = append(found, mention{doc: doc, sentence: s, from: i, to: end, start: i == 0, words: wordsOfRun(s, i, end)})
		}
		i = end - 1
	}
	return found
}

// runEnds is the token after a run of which a token is the second.
func runEnds(s *corpus.Sentence, end int, lang *language.Language) int {
	for end < len(s.Tokens) && (!s.Tokens[end].Broken || joined(s, end) || lang.IsHonorific(s.Tokens[end-1].Folded) && between(s, end) == ". ") {
		if isNameWord(s, end) {
			end++
			continue
		}
		joins, next := lang.Joins(s.Tokens[end].Folded), end+1
		if joins && next < len(s.Tokens) && lang.IsDefinite(s.Tokens[next].Folded) {
			next++
		}
		if joins && next < len(s.Tokens) && !s.Tokens[next].Broken && isNameWord(s, next) {
			end = next + 1
			continue
		}
		// "ISO 4210-2", "Windows 10", "Northbound 3": a number belongs to the name.
		if t := s.Tokens[end]; t.Number && !t.Broken && isModelNumber(s, end) {
			for end++; end < len(s.Tokens) && s.Tokens[end].Number && !s.Tokens[end].WordStart && between(s, end) == "-"; {
				end++
			}
		}
		break
	}
	return end
}

// wordsOfRun are the words of a name: hyphens and elisions join tokens to one, an ampersand
// stands between two or within one.
func wordsOfRun(s *corpus.Sentence, from, end int) (words []string) {
	for j := from; j < end; j++ {
		begin := s.Tokens[j].Start
		for j+1 < end && elided(s, j) { // "d'Azur" is one word of a name
			j++
		}
		w := s.Text[begin:s.Tokens[j].End] + signs(s, j)
		if j > from && joined(s, j) && between(s, j) != "" {
			if g := between(s, j); strings.Contains(g, " ") {
				words = append(words, "&", w)
			} else {
				words[len(words)-1] += g + w
			}
			continue
		}
		if !s.Tokens[j].WordStart && len(words) > 0 { // parts of a hyphenated name
			words[len(words)-1] += "-" + w
			continue
		}
		words = append(words, strings.TrimSuffix(strings.TrimSuffix(w, "'s"), "’s"))
	}
	return words
}

// between is what stands between a token and the one before it.
func between(s *corpus.Sentence, i int) string {
	return s.Text[s.Tokens[i-1].End:s.Tokens[i].Start]
}

// joined tells two capital words with an ampersand between them, "AT&T", "Hale & Sons", and two abbreviations
// with a stroke: "NSF/ANSI 61".
func joined(s *corpus.Sentence, i int) bool {
	if i == 0 || !isNameWord(s, i) || !isNameWord(s, i-1) {
		return false
	}
	g := between(s, i)
	before, after := s.Tokens[i-1], s.Tokens[i]
	return g == "&" || g == " & " || g == "/" && isAbbreviation(s.Text[before.Start:before.End]) && isAbbreviation(s.Text[after.Start:after.End])
}

// signs are those that belong to the word before them: "C#", "C++".
func signs(s *corpus.Sentence, i int) string {
	rest := s.Text[s.Tokens[i].End:]
	for _, sign := range []string{"#", "++"} {
		if after, ok := strings.CutPrefix(rest, sign); ok && s.Tokens[i].End-s.Tokens[i].Start == 1 && (after == "" || !unicode.IsLetter(rune(after[0])) && !unicode.IsDigit(rune(after[0]))) {
			return sign
		}
	}
	return ""
}

// isModelNumber tells a short number that stands right after a name, and no year, hour
// or amount that something is counted by. Our own bounds.
func isModelNumber(s *corpus.Sentence, i int) bool {
	n := s.Text[s.Tokens[i].Start:s.Tokens[i].End]
	if len(n) > 6 || between(s, i) != " " && between(s, i) != "-" || strings.ContainsAny(n, ",:") {
		return false
	}
	if len(n) == 4 && (n[:2] == "19" || n[:2] == "20") {
		return false // a year
	}
	if before := s.Tokens[i-1]; isAbbreviation(s.Text[before.Start:before.End]) {
		return true
	}
	rest := s.Text[s.Tokens[i].End:]
	if rest != "" && strings.ContainsAny(rest[:1], "%°€/") || i+1 < len(s.Tokens) && !s.Tokens[i+1].Stop && !s.Tokens[i+1].Broken && !s.Tokens[i+1].Capital {
		return false // "In Hull 30 cyclists"
	}
	return true
}

// inCodeWord tells a token within a word that only programs have: "SQLITE_BUSY",
// "fetchAll()", "$HOME", "--All".
func inCodeWord(s *corpus.Sentence, i int) bool {
	t := s.Tokens[i]
	if strings.Contains(s.Text[t.Start:t.End], "_") {
		return true
	}
	before, after := s.Text[:t.Start], s.Text[t.End:]
	return strings.HasSuffix(before, "--") || strings.HasSuffix(before, "$") || strings.HasSuffix(before, "_") || strings.HasSuffix(before, "<") ||
		strings.HasPrefix(after, "(") || strings.HasPrefix(after, "_") || strings.HasPrefix(after, "=") || strings.HasPrefix(after, ">")
}

// elided tells a token that an apostrophe joins to the next: the "d" of "d'Azur".
func elided(s *corpus.Sentence, i int) bool {
	return i+1 < len(s.Tokens) && s.Tokens[i+1].WordStart && !s.Tokens[i+1].Broken && strings.ContainsAny(s.Text[s.Tokens[i].End:s.Tokens[i+1].Start], "'’")
}

func isNameWord(s *corpus.Sentence, i int) bool {
	t := s.Tokens[i]
	if !t.Capital {
		return isBranded(s.Text[t.Start:t.End])
	}
	return t.Folded != "i" && !strings.HasPrefix(t.Folded, "i'") && !strings.HasPrefix(t.Folded, "i’")
}

// isBranded tells a word that begins small and has its capitals within: "iPhone", "macOS".
// What has more small letters before its capital is rather a word of a program.
func isBranded(w string) bool {
	small := strings.IndexFunc(w, unicode.IsUpper)
	if small <= 0 || small > 3 || strings.ContainsAny(w, "_'’.") { // "z.B."
		return false
	}
	return small == 1 && len(w) > 3 || strings.ToUpper(w[small:]) == w[small:]
}
