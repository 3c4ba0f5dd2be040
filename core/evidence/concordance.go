package evidence

import "strings"

// Line is one occurrence of a phrase in its sentence.
type Line struct {
	Rank    int    `json:"rank"`
	Section int    `json:"section"`
	Heading string `json:"heading"` // of the section it stands under
	InHead  bool   `json:"in_heading"`
	Left    string `json:"left"`
	Hit     string `json:"hit"`
	Right   string `json:"right"`
}

// Concordance lists every occurrence of a phrase, given by the key of a term,
// in the pages' order. It counts just as the vocabulary does: over the same
// tokens, code left out.
func Concordance(pages []Page, termKey string) []Line {
	stems := strings.Fields(termKey)
	joined := strings.Join(stems, "")
	var lines []Line
	for _, p := range pages {
		for i := range p.Doc.sentences {
			s := &p.Doc.sentences[i]
			s.occurrences(stems, joined, func(from, to int) {
				start, end := s.tokens[from].start, s.tokens[to-1].end
				lines = append(lines, Line{Rank: p.Rank, Section: s.section, Heading: p.Doc.Reading.Sections[s.section].Heading, InHead: s.heading,
					Left: s.text[:start], Hit: s.text[start:end], Right: s.text[end:]})
			})
		}
	}
	return lines
}

// occurrences finds the phrase among the sentence's tokens.
func (s *sentence) occurrences(stems []string, joined string, yield func(from, to int)) {
	if s.kind == 'c' || len(stems) == 0 {
		return
	}
	for i := range s.tokens {
		if len(stems) > 1 && s.tokens[i].stem == joined && !midWord(s.tokens, i, i+1) {
			yield(i, i+1)
			continue
		}
		to := i + len(stems)
		if to > len(s.tokens) || midWord(s.tokens, i, to) {
			continue
		}
		match := true
		for k, stem := range stems {
			if s.tokens[i+k].stem != stem || k > 0 && s.tokens[i+k].broken {
				match = false
				break
			}
		}
		if match {
			yield(i, to)
		}
	}
}

// Mentions lists the sentences that name an entity, given by its name.
func Mentions(pages []Page, name string) []Line {
	var lines []Line
	for _, p := range pages {
		for _, s := range p.Doc.sentences {
			if i := indexWord(s.text, name); i >= 0 && !s.heading {
				lines = append(lines, Line{Rank: p.Rank, Section: s.section, Heading: p.Doc.Reading.Sections[s.section].Heading,
					Left: s.text[:i], Hit: s.text[i : i+len(name)], Right: s.text[i+len(name):]})
			}
		}
	}
	return lines
}

// indexWord finds a name in a text where no letter or digit touches it.
func indexWord(s, name string) int {
	for at := 0; at <= len(s)-len(name); {
		i := strings.Index(s[at:], name)
		if i < 0 {
			return -1
		}
		i += at
		if (i == 0 || !wordByte(s[i-1])) && (i+len(name) == len(s) || !wordByte(s[i+len(name)])) {
			return i
		}
		at = i + 1
	}
	return -1
}

func wordByte(b byte) bool {
	return b >= 'a' && b <= 'z' || b >= 'A' && b <= 'Z' || b >= '0' && b <= '9' || b >= 0x80
}
