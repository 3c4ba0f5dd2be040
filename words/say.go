package words

import (
	"regexp"
	"slices"
	"strings"
	"unicode"
)

// Texts that the program puts together (“Taken back: Dropped: bar mitts”) stand in the database
// and in its errors in English. Where a page shows one, it is known again by the format it was
// made of, and said in the language; what a person typed stays as it is, within it.

// pattern is a format of the catalogue, to be known again.
type pattern struct {
	made *regexp.Regexp
	to   []string // what stands between the parts that were filled in
	deep []bool   // whether such a part may be a text of the program's itself
	size int      // of its own words: those with more are tried first
}

var verb = regexp.MustCompile(`%(?:\[\d\])?[.\d]*[sdvqf]`)

func patternsOf(texts map[string]string) (list []pattern) {
	for from, to := range texts {
		verbs := verb.FindAllString(from, -1)
		if len(verbs) == 0 || len(verbs) != len(verb.FindAllString(to, -1)) {
			continue
		}
		var made strings.Builder
		made.WriteString(`(?s)^`)
		rest, size := from, 0
		p := pattern{}
		for _, v := range verbs {
			before, after, _ := strings.Cut(rest, v)
			before = strings.ReplaceAll(before, "%%", "%")
			made.WriteString(regexp.QuoteMeta(before))
			size += len(before)
			if v[len(v)-1] == 's' || v[len(v)-1] == 'v' || v[len(v)-1] == 'q' {
				made.WriteString(`(.+?)`)
			} else {
				made.WriteString(`([\d.,]+)`)
			}
			p.deep = append(p.deep, v[len(v)-1] == 'v')
			rest = after
		}
		rest = strings.ReplaceAll(rest, "%%", "%")
		made.WriteString(regexp.QuoteMeta(rest) + `$`)
		p.size = size + len(rest)
		letters := 0
		for _, r := range verb.ReplaceAllString(from, "") {
			if unicode.IsLetter(r) {
				letters++
			}
		}
		if letters < 2 { // hardly words: it would know everything
			continue
		}
		p.made = regexp.MustCompile(made.String())
		p.to = strings.Split(strings.ReplaceAll(verb.ReplaceAllString(strings.ReplaceAll(to, "%%", "\x01"), "\x00"), "\x01", "%"), "\x00")
		list = append(list, p)
	}
	slices.SortFunc(list, func(a, b pattern) int {
		if a.size != b.size {
			return b.size - a.size
		}
		return strings.Compare(a.made.String(), b.made.String())
	})
	return list
}

// Say is a text of the program in the language; itself where it is not known.
func (w *Words) Say(text string) string {
	if w.IsEnglish() || text == "" {
		return text
	}
	if said, ok := w.said.Find(text); ok {
		return said
	}
	said := w.knownAgain(text)
	if len(text) < 500 {
		w.said.Set(text, said)
	}
	return said
}

// knownAgain is Say for a text that was not asked for lately.
func (w *Words) knownAgain(text string) string {
	if said, ok := w.say(text, 3); ok {
		return said
	}
	// Several sentences, or parts of one, each by itself.
	for _, end := range []string{". ", "; "} {
		parts := strings.SplitAfter(text, end)
		if len(parts) < 2 {
			continue
		}
		for i, p := range parts {
			bare := strings.TrimSuffix(p, " ")
			if end == "; " {
				bare = strings.TrimSuffix(p, end)
			}
			if said, ok := w.say(bare, 3); ok {
				parts[i] = said + p[len(bare):]
			}
		}
		text = strings.Join(parts, "")
	}
	return text
}

func (w *Words) say(text string, depth int) (string, bool) {
	if t, ok := w.texts[text]; ok {
		return t, true
	}
	if depth == 0 || len(text) > 2000 {
		return text, false
	}
	for _, p := range w.patterns {
		m := p.made.FindStringSubmatch(text)
		if m == nil {
			continue
		}
		var b strings.Builder
		b.WriteString(p.to[0])
		for i, part := range m[1:] {
			if p.deep[i] {
				part, _ = w.say(part, depth-1)
			}
			b.WriteString(part)
			b.WriteString(p.to[i+1])
		}
		return b.String(), true
	}
	return text, false
}
