package vocabulary

import (
	"maps"
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/house"
	"corpulan/core/language"
	"corpulan/core/text"
)

// merged is one phrase over all documents.
type merged struct {
	key    string
	stems  []string
	uses   []*corpus.Usage // by document, nil where absent
	pages  int
	folded []Shape         // see wordForms
	minor  map[string]bool // shapes that are abbreviations of the term, as written
	joined []string        // keys of the spellings as one word that were added
}

// lot is how many phrases are made at once. Our own.
const lot = 512

// mergePhrases joins the documents' phrases by key, and what is one term written in
// other ways. What a single page uses is left out; where
// the field is a single page, what it uses once.
func mergePhrases(docs []*corpus.Doc, lang *language.Language, taught *house.Lexicon) []*merged {
	most := 0
	for _, d := range docs {
		most = max(most, len(d.Phrases))
	}
	all := make(map[string]*merged, 2*most)
	var room []merged        // most phrases are one page's: made in lots
	var uses []*corpus.Usage // of those in room
	for i, d := range docs {
		for k, u := range d.Phrases {
			m := all[k]
			if m == nil {
				if len(room) == 0 {
					room, uses = make([]merged, lot), make([]*corpus.Usage, lot*len(docs))
				}
				m, room = &room[0], room[1:]
				m.key, m.uses = k, uses[:len(docs):len(docs)]
				uses = uses[len(docs):]
				all[k] = m
			}
			m.uses[i] = u
			m.pages++
		}
	}
	j := joiner{all, taught}
	j.spellings()
	j.turned(lang)
	j.synonyms(lang)
	j.abbreviations(docs)
	j.taughtOnes()
	var list []*merged
	for _, m := range all {
		if m.pages >= 2 || len(docs) == 1 && m.total() >= 2 {
			m.stems = strings.Split(m.key, " ")
			list = append(list, m)
		}
	}
	slices.SortFunc(list, func(a, b *merged) int { return strings.Compare(a.key, b.key) })
	return list
}

// joiner joins what is one term, but where the house tells them apart.
type joiner struct {
	all    map[string]*merged
	taught *house.Lexicon
}

// spellings adds the uses of a word written as one to the phrase of two
// words that it joins. Stems cannot tell ("ebike" has the stem "ebik"), so the
// words as written are compared.
func (j joiner) spellings() {
	all := j.all
	single := map[string]string{} // word as written, folded -> key
	for k, m := range all {
		if strings.Contains(k, " ") {
			continue
		}
		m.eachForm(func(form string) { single[form] = k })
	}
	var pairs []string
	for k := range all {
		if strings.Count(k, " ") == 1 {
			pairs = append(pairs, k)
		}
	}
	slices.Sort(pairs)
	for _, k := range pairs {
		var with []string
		all[k].eachForm(func(form string) {
			if one, ok := single[withoutGap.Replace(form)]; ok && !slices.Contains(with, one) {
				with = append(with, one)
			}
		})
		slices.Sort(with)
		for _, one := range with {
			j.move(one, k)
		}
	}
}

// turned adds "pressure of tyres" to "tyre pressure".
func (j joiner) turned(lang *language.Language) {
	if !lang.Senses {
		return // elsewhere the order with the linking word is the only one
	}
	var linked []string
	for k := range j.all {
		if strings.Count(k, " ") == 2 && lang.Links(strings.Split(k, " ")[1]) {
			linked = append(linked, k)
		}
	}
	slices.Sort(linked)
	for _, k := range linked {
		s := strings.Split(k, " ")
		j.move(k, corpus.Key([]string{s[2], s[0]}))
	}
}

// synonyms adds British and American words for one thing to each other ("fender"
// to "mudguard"), where the field has both.
func (j joiner) synonyms(lang *language.Language) {
	for _, pair := range lang.Synonyms() {
		a, b := j.all[pair[0]], j.all[pair[1]]
		if a != nil && b != nil && a.pages > b.pages {
			pair[0], pair[1] = pair[1], pair[0]
		}
		j.move(pair[0], pair[1])
	}
}

// abbreviations adds abbreviations to their long forms, where one is written out
// somewhere and the same everywhere.
func (j joiner) abbreviations(docs []*corpus.Doc) {
	long := map[string]string{}
	for _, d := range docs {
		for short, form := range d.Abbreviations {
			if known, ok := long[short]; ok && known != form {
				form = "" // two meanings
			}
			long[short] = form
		}
	}
	for _, short := range slices.Sorted(maps.Keys(long)) {
		m, to := j.all[short], j.all[long[short]]
		if m == nil || to == nil || m == to {
			continue
		}
		if to.minor == nil {
			to.minor = map[string]bool{}
		}
		m.eachForm(func(form string) { to.minor[form] = true })
		j.move(short, to.key)
	}
}

// taughtOnes adds what the house says is one term, if the field has but the other word.
func (j joiner) taughtOnes() {
	if j.taught == nil {
		return
	}
	for _, from := range slices.Sorted(maps.Keys(j.taught.Merged)) {
		to := j.taught.Into(from)
		if j.all[from] != nil && j.all[to] == nil {
			named := *j.all[from]
			named.key, named.joined = to, append(slices.Clone(named.joined), from)
			j.all[to] = &named
			delete(j.all, from)
			continue
		}
		j.move(from, to)
	}
}

// move joins one phrase to another, where the field has both.
func (j joiner) move(from, to string) {
	if from != to && j.all[from] != nil && j.all[to] != nil && !j.taught.Parted(from, to) {
		j.all[to].join(j.all[from])
		delete(j.all, from)
	}
}

var withoutGap = strings.NewReplacer(" ", "", "-", "")

// eachForm calls yield with every way the phrase is written, folded.
func (m *merged) eachForm(yield func(form string)) {
	for _, u := range m.uses {
		if u == nil {
			continue
		}
		for _, s := range u.Surfaces {
			yield(text.Fold(s.Text))
		}
	}
}

// join adds the uses of another spelling.
func (open *merged) join(joined *merged) {
	open.joined = append(append(open.joined, joined.key), joined.joined...)
	for i, u := range joined.uses {
		switch {
		case u == nil:
		case open.uses[i] == nil:
			open.uses[i] = u
			open.pages++
		default:
			both := *open.uses[i]
			both.Count += u.Count
			both.Headings += u.Headings
			both.Opening += u.Opening
			both.Images += u.Images
			both.Begun += u.Begun
			both.Bare += u.Bare
			both.Sections = slices.Compact(slices.Sorted(slices.Values(slices.Concat(both.Sections, u.Sections))))
			both.Title = both.Title || u.Title
			both.Surfaces = append(slices.Clone(both.Surfaces), u.Surfaces...)
			open.uses[i] = &both
		}
	}
}

func (m *merged) total() int {
	n := 0
	for _, u := range m.uses {
		if u != nil {
			n += u.Count
		}
	}
	return n
}
