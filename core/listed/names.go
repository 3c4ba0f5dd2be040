package listed

import (
	"cmp"
	"slices"
	"strings"
	"unicode"

	"corpulan/core/corpus"
	"corpulan/core/text"
)

// keyOf is a name without case, spaces, signs and what stands in brackets.
func keyOf(name string) string {
	return strings.ReplaceAll(wordsOf(name), " ", "")
}

// wordsOf are the words of a name, folded, with a space between.
func wordsOf(name string) string {
	if i := strings.IndexAny(name, "(["); i > 0 {
		name = name[:i]
	}
	words := strings.FieldsFunc(text.Fold(name), func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) && r != '+' })
	return strings.Join(words, " ")
}

// bare is a name for comparing: what short leaves of it, without an article before it.
func (f *finder) bare(name string) string {
	words := strings.Fields(f.short(name))
	if len(words) > 1 && f.Language.IsDefinite(text.Fold(words[0])) && f.Language.Senses {
		words = words[1:]
	}
	return strings.Join(words, " ")
}

// short is a name without what only says what it is: words in small letters and words of the keyword after it, "Halvark
// Cinder rear light"; a year at its end.
func (f *finder) short(name string) string {
	words := strings.Fields(name)
	keyword := f.KeywordStems()
	for len(words) > 1 {
		last := words[len(words)-1]
		folded := text.Fold(strings.Trim(last, "()"))
		isYear := len(folded) == 4 && strings.HasPrefix(folded, "20") && strings.Trim(folded, "0123456789") == ""
		small := !f.Language.NounsHaveCapitals && last == strings.ToLower(last) && strings.IndexFunc(last, unicode.IsDigit) < 0 && f.isFull(words[:len(words)-1])
		if !isYear && !small && !(keyword[f.Language.Stem(folded)] && len(words) > 2) {
			break
		}
		words = words[:len(words)-1]
	}
	if f.Language.Stop(text.Fold(words[len(words)-1])) || f.Language.IsPreposition(text.Fold(words[len(words)-1])) {
		return name // "Villa with" is half a name
	}
	return strings.Join(words, " ")
}

// isFull tells the beginning of a name that is one without the rest: two words of which one has a capital or a figure, or one
// that the language does not have.
func (f *finder) isFull(words []string) bool {
	if len(words) == 1 {
		return words[0] != strings.ToLower(words[0]) && f.Language.Rank(text.Fold(words[0])) == 0
	}
	return slices.ContainsFunc(words[1:], func(w string) bool { return w != strings.ToLower(w) || strings.IndexFunc(w, unicode.IsDigit) >= 0 })
}

// joining brings the entries of all lists together by their names.
type joining struct {
	*finder
	things map[string]*Thing
	lists  map[string][]int // numbers of the lists that have a key
}

// join makes things of the lists' entries: those of one name, and of a short name and the one long name that it stands for.
func (f *finder) join(lists []list) []Thing {
	j := joining{f, map[string]*Thing{}, map[string][]int{}}
	for n, l := range lists {
		for _, e := range l.entries {
			k := keyOf(f.bare(e.Name))
			if k == "" || f.taught.Ignores(f.Language.PhraseKey(e.Name)) {
				continue
			}
			t := j.things[k]
			if t == nil {
				t = &Thing{Key: k, Name: f.short(e.Name)}
				j.things[k] = t
			}
			t.add(e)
			if on := j.lists[k]; len(on) == 0 || on[len(on)-1] != n {
				j.lists[k] = append(on, n)
			}
		}
	}
	return j.shortToLong()
}

// shortToLong brings a short name to the one long name that it is the end of ("Courier 100" to "Glint Courier 100"), or the
// beginning, where the rest says what it is ("Ostrel D2" to "Ostrel D2 Dynamo"). What one list tells apart stays apart.
func (j *joining) shortToLong() []Thing {
	keys := make([]string, 0, len(j.things))
	for k := range j.things {
		keys = append(keys, k)
	}
	slices.SortFunc(keys, func(a, b string) int { return cmp.Or(cmp.Compare(len(b), len(a)), strings.Compare(a, b)) })
	into := map[string]string{}
	ending, beginning := map[string][]string{}, map[string][]string{} // longer names by their ends and their beginnings
	for _, short := range keys {
		name := wordsOf(j.bare(j.things[short].Name))
		var long []string
		for _, k := range ending[name] {
			if into[k] == "" {
				long = append(long, k)
			}
		}
		for _, k := range beginning[name] {
			if into[k] == "" && !slices.Contains(long, k) && j.saysWhat(strings.TrimPrefix(wordsOf(j.bare(j.things[k].Name)), name+" ")) {
				long = append(long, k)
			}
		}
		words := strings.Split(name, " ")
		for n := 1; n < len(words); n++ {
			add := func(by map[string][]string, part string) {
				if list := by[part]; len(list) == 0 || list[len(list)-1] != short {
					by[part] = append(list, short)
				}
			}
			add(beginning, strings.Join(words[:n], " "))
			add(ending, strings.Join(words[n:], " "))
		}
		if to := j.taughtInto(short, keys); to != "" && into[to] == "" {
			long = []string{to}
		} else if len(long) == 1 && j.toldApart(short, long[0]) {
			long = nil
		}
		if len(long) == 1 {
			into[short] = long[0]
			for _, p := range j.things[short].Places {
				j.things[long[0]].add(entry{Place: p})
			}
		}
	}
	list := []Thing{}
	for _, k := range keys {
		if into[k] == "" {
			t := *j.things[k]
			t.Name = j.called(t)
			list = append(list, t)
		}
	}
	return list
}

// taughtInto is the key of the thing before it that a name was taught to be one with; "" for none.
func (j *joining) taughtInto(key string, keys []string) string {
	if j.taught == nil || len(j.taught.Merged) == 0 {
		return ""
	}
	into := func(k string) string { return j.taught.Into(j.Language.PhraseKey(j.things[k].Name)) }
	mine := into(key)
	for _, k := range keys {
		if k == key {
			return ""
		}
		if into(k) == mine {
			return k
		}
	}
	return ""
}

// saysWhat tells the rest of a name that says what it is: words that the field has in small letters, and a number.
func (j *joining) saysWhat(rest string) bool {
	for w := range strings.FieldsSeq(rest) {
		isNumber := strings.Trim(w, "0123456789") == ""
		if !isNumber && !j.isSmall(w) {
			return false
		}
	}
	return rest != ""
}

// isSmall tells a folded word that the field has in small letters; in German, one that the language has.
func (f *finder) isSmall(w string) bool {
	if f.Language.NounsHaveCapitals {
		return f.Language.Rank(w) > 0
	}
	return f.Capitals[w] < mostlyCapital && slices.ContainsFunc(f.Docs, func(d *corpus.Doc) bool { return d.Lower[w] > 0 })
}

// toldApart tells two names that one list has as two things.
func (j *joining) toldApart(a, b string) bool {
	if j.taught.Parted(j.Language.PhraseKey(j.things[a].Name), j.Language.PhraseKey(j.things[b].Name)) {
		return true
	}
	return slices.ContainsFunc(j.lists[a], func(n int) bool { return slices.Contains(j.lists[b], n) })
}

// called is the name that most pages write, the longest of them.
func (j *joining) called(t Thing) string {
	n := map[string]int{}
	best := t.Name
	for _, p := range t.Places {
		name := j.short(p.Name)
		n[name]++
		if cmp.Or(cmp.Compare(n[name], n[best]), cmp.Compare(len(name), len(best)), strings.Compare(best, name)) > 0 {
			best = name
		}
	}
	if j.taught != nil {
		if taught := j.taught.Preferred[j.Language.PhraseKey(best)]; taught != "" {
			return taught
		}
	}
	return best
}
