package standin

import (
	"cmp"
	"fmt"
	"hash/fnv"
	"slices"
	"strconv"
	"strings"
	"unicode"
)

// matter is one page's worth of what people search for, with what there is to say of it.
type matter struct {
	key        string
	other      bool // another trade's
	difficulty float64
	cost       float64
	peak       int    // the month with the most searches, from 1
	index      string // keyword of a results page whose pages are written by hand; empty for none
	pages      []string
	queries    []asked
	sections   []writtenSection
}

// asked is a query with its searches a month.
type asked struct {
	text   string
	volume float64
	words  []string // as same has them
}

// writtenSection is what can be said below one of two headings.
type writtenSection struct {
	headings  []string
	sentences []string
}

// readMatters reads the hand-written seeds; winter.txt says how they are written.
func readMatters() ([]matter, error) {
	var all []matter
	for _, name := range []string{"winter", "other"} {
		b, err := files.ReadFile("matters/" + name + ".txt")
		if err != nil {
			return nil, err
		}
		for n, line := range strings.Split(string(b), "\n") {
			if line = strings.TrimSpace(line); line == "" || line[0] == '#' {
				continue
			}
			if !readLine(&all, line, name == "other") {
				return nil, fmt.Errorf("stand-in: matters/%s.txt, line %d: %q cannot be read", name, n+1, line)
			}
		}
	}
	return all, nil
}

func readLine(all *[]matter, line string, other bool) bool {
	kind, rest, _ := strings.Cut(line, " ")
	parts := strings.Split(rest, " | ")
	if kind == "==" {
		if len(parts) < 4 {
			return false
		}
		m := matter{key: parts[0], other: other}
		var bad [3]error
		m.difficulty, bad[0] = strconv.ParseFloat(parts[1], 64)
		m.cost, bad[1] = strconv.ParseFloat(parts[2], 64)
		m.peak, bad[2] = strconv.Atoi(parts[3])
		if len(parts) > 4 {
			m.index = parts[4]
		}
		*all = append(*all, m)
		return bad == [3]error{}
	}
	if len(*all) == 0 {
		return false
	}
	m := &(*all)[len(*all)-1]
	switch kind {
	case "P":
		m.pages = append(m.pages, rest)
	case "Q":
		if len(parts) != 2 {
			return false
		}
		v, err := strconv.ParseFloat(parts[0], 64)
		m.queries = append(m.queries, asked{parts[1], v, same(parts[1])})
		return err == nil
	case "H":
		m.sections = append(m.sections, writtenSection{headings: parts})
	case "S":
		if len(m.sections) == 0 {
			return false
		}
		s := &m.sections[len(m.sections)-1]
		s.sentences = append(s.sentences, rest)
	default:
		return false
	}
	return true
}

// same are the words of a query that the engine goes by, in any order: spellings of one word
// are one, and small words say nothing.
func same(query string) []string {
	spelt := map[string]string{"bicycle": "bike", "cycle": "bike", "biking": "cycling", "tire": "tyre", "mitten": "mitt", "winterize": "winterise", "psi": "pressure"}
	small := []string{"a", "an", "the", "for", "to", "in", "on", "of", "your", "my", "and", "or", "uk", "best"}
	var list []string
	for _, word := range strings.FieldsFunc(strings.ToLower(strings.ReplaceAll(query, "-", "")), func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) }) {
		word = strings.TrimSuffix(word, "s")
		if s, ok := spelt[word]; ok {
			word = s
		}
		if !slices.Contains(small, word) {
			list = append(list, word)
		}
	}
	slices.Sort(list)
	return slices.Compact(list)
}

// nearest is the query of all matters whose words are most like those of a query, and how
// alike they are (Jaccard's index): from 1, the same words, to none.
func (w *Web) nearest(query string) (m *matter, a asked, like float64) {
	want := same(query)
	for i := range w.matters {
		for _, q := range w.matters[i].queries {
			both := 0
			for _, word := range want {
				if slices.Contains(q.words, word) {
					both++
				}
			}
			if x := float64(both) / float64(len(want)+len(q.words)-both); x > like {
				m, a, like = &w.matters[i], q, x
			}
		}
	}
	return m, a, like
}

// Hosts that the pages of the matters lie on; those of other trades have theirs.
var (
	winterHosts = []string{"northlane.example", "commutecraft.example", "wheelwise.example", "spokeandkettle.example", "greyharbour.example", "loamandlever.example", "thornfieldcycles.example", "tarnandtread.example", "thelongerway.example", "tyrelab.example", "rollingnorth.example", "valleywheelers.example", "mendingbench.example", "cellarrides.example", "ridefacts.example", "harrowmere.example", "frostline.example", "saddleandsleet.example", "grittedlane.example", "wetwool.example", "thecoldmile.example", "panniernotes.example"}
	otherHosts  = []string{"roadready.example", "twowheelpower.example", "paddockandtack.example", "tideandtiller.example", "hearthandholly.example", "pistepost.example", "timberyard.example", "allseasons.example", "frostfree.example", "thebigguide.example", "homeandhedge.example", "steelshelf.example"}
)

// number is a figure of its own for some words, always the same.
func number(words ...string) int {
	h := fnv.New32a()
	for _, s := range words {
		_, _ = h.Write([]byte(s))
		_, _ = h.Write([]byte{0})
	}
	return int(h.Sum32() & 0x7fffffff)
}

const (
	poolPages  = 18 // of a matter, that its queries' results are drawn from
	unlike     = 11 // places by which a page's rank differs from query to query
	fewestNear = 2  // results that are of something near, at the least
	vague      = 5  // and how many more there may be, and one
	answerable = 0.6
)

// pool are the addresses of a matter, the best first.
func (w *Web) pool(m *matter) []string {
	list := slices.Clone(m.pages)
	if p, ok := w.find(m.index); ok && m.index != "" {
		for _, r := range p.Results {
			list = append(list, r.Path)
		}
		return list
	}
	hosts := winterHosts
	if m.other {
		hosts = otherHosts
	}
	hosts = slices.Clone(hosts)
	slices.SortFunc(hosts, func(a, b string) int { return cmp.Compare(number(m.key, a), number(m.key, b)) })
	for _, h := range hosts[:min(len(hosts), poolPages-len(list))] {
		list = append(list, h+"/winter/"+m.key)
	}
	return list
}

// ranked are the addresses of the results of a query of a matter.
func (w *Web) ranked(m *matter, query string, count int) []string {
	var near [][]string
	if !m.other {
		for i := range w.matters {
			if o := &w.matters[i]; o != m && !o.other {
				near = append(near, slices.DeleteFunc(w.pool(o), isOwn)) // our shop is not so strong
			}
		}
	}
	return Draw(w.pool(m), near, query, count)
}

func isOwn(page string) bool {
	return strings.HasPrefix(page, strings.TrimPrefix(OwnSite, "http://")+"/")
}

// Draw simulates the results of a query: of the first ten, between four and eight are pages of
// what it is about, the others of matters near it, as queries differ in how plain they are;
// and each query has the pages in another order. So queries of one matter share some four of
// their results, some of them fewer than three.
func Draw(pool []string, near [][]string, query string, count int) []string {
	out := shuffled(pool, query)
	if len(near) > 0 {
		for n := range fewestNear + number(query, "plain")%vague {
			from := near[(number(query, "near")+n)%len(near)]
			if p := shuffled(from, query)[0]; !slices.Contains(out, p) {
				out = slices.Insert(out, min(len(out), 2+n+n/2), p)
			}
		}
	}
	return out[:min(len(out), count)]
}

// shuffled is a ranking that differs from query to query, the first mostly in front.
func shuffled(pool []string, query string) []string {
	type at struct {
		page string
		rank int
	}
	list := make([]at, len(pool))
	for i, p := range pool {
		list[i] = at{p, 2*i + number(query, p)%(2*unlike)}
	}
	slices.SortStableFunc(list, func(a, b at) int { return a.rank - b.rank })
	out := make([]string, len(list))
	for i, x := range list {
		out[i] = x.page
	}
	return out
}

// answer is the results page of a query that nobody wrote one for by hand.
func (w *Web) answer(query string) (page, bool) {
	m, near, like := w.nearest(query)
	if like < answerable {
		return page{}, false
	}
	p := page{Keyword: query}
	for _, a := range w.ranked(m, near.text, 30) {
		title, snippet := w.about(m, a)
		p.Results = append(p.Results, result{a, title, snippet})
	}
	for _, q := range m.queries {
		switch {
		case slices.Equal(q.words, same(query)):
		case isAsked(q.text):
			p.Questions = append(p.Questions, strings.ToUpper(q.text[:1])+q.text[1:]+"?")
		default:
			p.Related = append(p.Related, q.text)
		}
	}
	for n := range 2 { // and something that is near
		if o := w.matters[number(query, strconv.Itoa(n))%len(w.matters)]; o.key != m.key && !o.other {
			p.Related = append(p.Related, o.queries[0].text)
		}
	}
	return p, true
}

func isAsked(query string) bool {
	first, _, _ := strings.Cut(query, " ")
	return slices.Contains([]string{"how", "what", "why", "when", "where", "do", "does", "is", "are", "can", "should"}, first)
}

// complete are queries that go on as somebody has begun: all words but the last stand in them,
// and one begins with the last.
func (w *Web) complete(begun string) []string {
	words := strings.Fields(strings.ToLower(begun))
	if len(words) == 0 {
		return nil
	}
	var list []asked
	for _, m := range w.matters {
		for _, q := range m.queries {
			have := strings.Fields(q.text)
			all := true
			for i, word := range words {
				all = all && slices.ContainsFunc(have, func(h string) bool { return h == word || i == len(words)-1 && strings.HasPrefix(h, word) })
			}
			if all && q.text != strings.Join(words, " ") {
				list = append(list, q)
			}
		}
	}
	slices.SortStableFunc(list, func(a, b asked) int { return cmp.Compare(b.volume, a.volume) })
	out := []string{}
	for _, q := range list[:min(len(list), 10)] {
		out = append(out, q.text)
	}
	return out
}
