package listed

import (
	"cmp"
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/text"
)

// Criterion is something by which pages compare the things that they list.
type Criterion struct {
	Key    string        `json:"key"`
	Name   string        `json:"name"` // as most pages call it
	Kind   CriterionKind `json:"kind"`
	Unit   string        `json:"unit,omitempty"` // of its figures, as most give it
	Said   []string      `json:"said"`           // all ways in which it is called
	Pages  int           `json:"pages"`
	Ranks  []int         `json:"ranks"`           // of the pages that compare by it
	Things int           `json:"things"`          // that have a value
	Theme  string        `json:"theme,omitempty"` // key of the theme that is a section on it; whoever has themes fills it in
}

// CriterionKind is what sort of criterion one is.
type CriterionKind string

// The kinds of criteria.
const (
	Measure CriterionKind = "measure" // pages give a value of each thing: weight, run time
	Use     CriterionKind = "use"     // verdicts name it: "best for children"
	Costs   CriterionKind = "price"
)

// CostsKey is the key of the price among the criteria.
const CostsKey = "price"

// criteria are the measures that pages give of the things, under one key where they are the same, and the uses that
// verdicts name; those of most pages first. Attributes get the keys of theirs.
func (f *finder) criteria(things []Thing) []Criterion {
	c := criteria{finder: f, by: map[string]*Criterion{}, ranks: map[string]map[int]bool{}}
	units := map[string]map[string]int{} // of labels, how often each unit
	together := map[[2]string]bool{}     // labels that one place has both
	for i := range things {
		for _, p := range things[i].Places {
			for n, a := range p.Attributes {
				k := f.labelKey(a.Name)
				if units[k] == nil {
					units[k] = map[string]int{}
				}
				units[k][unitOf(a)]++
				for _, b := range p.Attributes[:n] {
					together[[2]string{k, f.labelKey(b.Name)}], together[[2]string{f.labelKey(b.Name), k}] = true, true
				}
			}
		}
	}
	same := f.sameLabels(units, together)
	for i := range things {
		had := map[string]bool{}
		for j := range things[i].Places {
			p := &things[i].Places[j]
			for n := range p.Attributes {
				a := &p.Attributes[n]
				a.Key = cmp.Or(same[f.labelKey(a.Name)], f.labelKey(a.Name))
				c.add(a.Key, a.Name, Measure, p.Rank, !had[a.Key])
				had[a.Key] = true
			}
			if len(p.Prices) > 0 {
				c.add(CostsKey, CostsKey, Costs, p.Rank, !had[CostsKey])
				had[CostsKey] = true
			}
			if use := f.useOf(p.Verdict); use != "" {
				k := "for " + use
				p.Use = k
				c.add(k, p.Verdict, Use, p.Rank, !had[k])
				had[k] = true
			}
		}
	}
	for k, n := range units {
		if x := c.by[cmp.Or(same[k], k)]; x != nil && x.Unit == "" {
			x.Unit = commonest(n)
		}
	}
	return c.list()
}

type criteria struct {
	*finder
	by    map[string]*Criterion
	ranks map[string]map[int]bool
	said  map[string]int
}

func (c *criteria) add(key, called string, kind CriterionKind, rank int, another bool) {
	x := c.by[key]
	if x == nil {
		x = &Criterion{Key: key, Kind: kind}
		c.by[key], c.ranks[key] = x, map[int]bool{}
	}
	c.ranks[key][rank] = true
	if !slices.Contains(x.Said, called) {
		x.Said = append(x.Said, called)
	}
	if c.said == nil {
		c.said = map[string]int{}
	}
	c.said[key+"\x00"+called]++
	if another {
		x.Things++
	}
}

// Bounds of criteria, our own: a use that one page names once is that thing's alone; so is a measure of one thing.
const fewestThings = 2

func (c *criteria) list() []Criterion {
	list := []Criterion{}
	for k, x := range c.by {
		for r := range c.ranks[k] {
			x.Ranks = append(x.Ranks, r)
		}
		slices.Sort(x.Ranks)
		x.Pages = len(x.Ranks)
		if x.Kind == Use && x.Pages < fewestThings || x.Things < fewestThings && x.Pages < fewestThings {
			continue
		}
		x.Name = x.Said[0]
		for _, s := range x.Said {
			if cmp.Or(cmp.Compare(c.calls(s, x), c.calls(x.Name, x)), cmp.Compare(c.said[k+"\x00"+s], c.said[k+"\x00"+x.Name]), cmp.Compare(len(x.Name), len(s))) > 0 {
				x.Name = s
			}
		}
		list = append(list, *x)
	}
	slices.SortFunc(list, func(a, b Criterion) int {
		return cmp.Or(cmp.Compare(b.Pages, a.Pages), cmp.Compare(b.Things, a.Things), strings.Compare(a.Key, b.Key))
	})
	return list
}

// calls tells by 1 a way of calling a criterion that says more than others: of a measure one that does more than name the unit, of a
// use one that recommends.
func (c *criteria) calls(said string, x *Criterion) int {
	if x.Kind == Use && c.tellsVerdict(said) || x.Kind != Use && c.labelKey(said) == x.Key {
		return 1
	}
	return 0
}

// labelKey is what labels are told apart by: their stems.
func (f *finder) labelKey(label string) string {
	if stems := f.Language.ContentStems(label); len(stems) > 0 {
		return corpus.Key(stems)
	}
	return text.Fold(label)
}

func unitOf(a Attribute) string {
	if _, _, unit, ok := inBase(a); ok {
		return unit
	}
	return ""
}

// sameLabels brings a label that is the name of its unit ("Lumens") to the one that another page gives that unit under
// ("Output"), where no page has both.
func (f *finder) sameLabels(units map[string]map[string]int, together map[[2]string]bool) map[string]string {
	same := map[string]string{}
	var labels []string
	for k := range units {
		labels = append(labels, k)
	}
	slices.Sort(labels)
	for _, k := range labels {
		unit := commonest(units[k])
		if unit == "" || !f.isNameOf(k, unit) {
			continue
		}
		best := ""
		for _, other := range labels {
			if other != k && same[other] == "" && commonest(units[other]) == unit && !together[[2]string{k, other}] && !f.isNameOf(other, unit) && (best == "" || sumOf(units[other]) > sumOf(units[best])) {
				best = other
			}
		}
		if best != "" {
			same[k] = best
		}
	}
	return same
}

// isNameOf tells a label that says no more than its unit does: the unit itself, or what the language calls what it measures.
func (f *finder) isNameOf(label, unit string) bool {
	if b, ok := measures()[label]; ok && b.base == unit || label == f.labelKey(unit) {
		return true
	}
	name := f.Language.Measured(unit)
	return name != "" && f.labelKey(name) == label
}

func commonest(n map[string]int) string {
	best := ""
	for u, times := range n {
		if best == "" && u != "" || u != "" && (times > n[best] || times == n[best] && u < best) {
			best = u
		}
	}
	return best
}

func sumOf(n map[string]int) (sum int) {
	for _, times := range n {
		sum += times
	}
	return sum
}

// useOf is what a verdict is about beside that it recommends: the stems of "town" in "best for town", without the keyword's.
func (f *finder) useOf(verdict string) string {
	const longest = 3 // stems; our own
	keyword := f.KeywordStems()
	var stems []string
	text.EachWord(verdict, func(w text.Span) {
		folded := text.Fold(w.Of(verdict))
		if f.Language.TellsVerdict(folded) || f.Language.Stop(folded) {
			return
		}
		if s := f.Language.StemFolded(folded); !keyword[s] && !slices.Contains(stems, s) {
			stems = append(stems, s)
		}
	})
	if len(stems) == 0 || len(stems) > longest {
		return ""
	}
	slices.Sort(stems)
	return corpus.Key(stems)
}
