package demand

import (
	"cmp"
	"math"
	"slices"

	"corpulan/core/language"
	"corpulan/core/message"
	"corpulan/core/stats"
	"corpulan/core/text"
)

// Planned is a page that a slate proposes.
type Planned struct {
	Key        string       `json:"key"` // of its group
	Keyword    string       `json:"keyword"`
	Secondary  []string     `json:"secondary"` // the other keywords of the group, the most searched first
	Pillar     bool         `json:"pillar"`
	Kind       string       `json:"kind"` // key of a brief template
	KindWhy    message.Kept `json:"kind_why"`
	Intent     string       `json:"intent"`
	Volume     Figure       `json:"volume"`
	Difficulty Figure       `json:"difficulty"`
	Gain       Figure       `json:"gain"`   // clicks a month that the page could bring
	Effort     float64      `json:"effort"` // 0 to 1, by difficulty; a half where that is not known
	Worth      float64      `json:"worth"`  // gain by effort, what the order goes by
	Own        string       `json:"own"`    // a page of ours that stands for the group
	Why        message.Kept `json:"why"`    // why it stands where it does
}

// Redundant is a group that is left out of a slate, and why.
type Redundant struct {
	Key     string       `json:"key"`
	Keyword string       `json:"keyword"`
	Of      string       `json:"of"` // the group that has its page
	Reason  message.Kept `json:"reason"`
}

// Proposal is a slate as the rules propose it.
type Proposal struct {
	Pages     []Planned      `json:"pages"` // the pillar first, the others by worth
	Redundant []Redundant    `json:"redundant"`
	Notes     []message.Kept `json:"notes"`
}

// How many supporting articles a slate has at the least: common practice, no published source.
const fewestSupporting = 5

// When two groups want one page. Shared results as for keywords; words our own.
const (
	tooAlike   = 0.8 // likeness of the words of two leading keywords, where no results are known
	maxWords   = 30  // secondary keywords of a page; our own
	minHard    = 0.1 // effort is never below it; our own
	halfEffort = 0.5 // of a group whose difficulty is not known; our own
)

// SlateOf proposes a slate of some groups: which of them is the pillar page, which are redundant,
// and the order of the others. stands tells where a page of ours stands for a group; nil for
// nowhere. pillar is the key of the group that a person has chosen for it; empty for the rules.
func SlateOf(groups []Group, o Options, pillar string, stands func(Group) Own) Proposal {
	p := Proposal{Pages: []Planned{}, Redundant: []Redundant{}, Notes: []message.Kept{}}
	if o.Curve == nil {
		o.Curve = DefaultCurve()
	}
	groups = slices.Clone(groups)
	slices.SortStableFunc(groups, func(a, b Group) int { return cmp.Compare(b.Volume.Value, a.Volume.Value) })
	lang := language.For(o.Language)
	with := leaders(groups, o, lang)
	kept := []int{}
	for i, g := range groups {
		twin := -1
		reason := message.Message("")
		for _, j := range kept {
			shared, known := meanShared(g, groups[j], o.Results)
			switch {
			case known && shared >= FewestShared:
				twin, reason = j, message.Of("of the first %d results of “%s” and “%s” and those searched most beside them, %.1f are the same on average: one page serves both", FirstResults, g.Name, groups[j].Name, shared)
			case !known && stats.Cosine(with[i].vector, with[j].vector) >= tooAlike:
				twin, reason = j, message.Of("“%s” and “%s” say the same in other words; no results are known that speak against it", g.Name, groups[j].Name)
			}
			if twin >= 0 {
				break
			}
		}
		if twin >= 0 && g.Key != pillar {
			p.Redundant = append(p.Redundant, Redundant{g.Key, g.Name, groups[twin].Name, reason.Keep()})
			continue
		}
		kept = append(kept, i)
	}
	if len(kept) == 0 {
		return p
	}
	top, why := pillarOf(groups, with, kept, lang, pillar)
	for _, i := range kept {
		p.Pages = append(p.Pages, planned(groups[i], i == top, why, o, lang, stands))
	}
	slices.SortStableFunc(p.Pages, func(a, b Planned) int {
		if a.Pillar != b.Pillar {
			if a.Pillar {
				return -1
			}
			return 1
		}
		return cmp.Or(cmp.Compare(b.Worth, a.Worth), cmp.Compare(b.Volume.Value, a.Volume.Value))
	})
	p.Notes = SlateNotes(p.Pages)
	return p
}

// SlateNotes is what a person should know of the pages of a slate.
func SlateNotes(pages []Planned) []message.Kept {
	notes := []message.Kept{}
	if n := len(pages) - 1; n >= 0 && n < fewestSupporting {
		notes = append(notes, message.Of("%d supporting articles: a pillar page has five or six and more, as is common.", n).Keep())
	}
	if len(pages) > 0 && !slices.ContainsFunc(pages, func(p Planned) bool { return p.Pillar }) {
		notes = append(notes, "No page is the pillar: choose one.")
	}
	return notes
}

// leaders are the groups' leading keywords made ready for comparison.
func leaders(groups []Group, o Options, lang *language.Language) []about {
	heads := make([]Keyword, len(groups))
	for i, g := range groups {
		heads[i] = g.Keywords[0]
	}
	return aboutOf(heads, o.Results, lang, vocabularyOf(heads, lang).misspelt())
}

// maxPaired is how many keywords of each of two groups are looked at for whether both want one
// page: those searched most. Our own.
const maxPaired = 3

// meanShared is how many of the first results two groups have in common, on average over their
// most searched keywords whose results are known; and whether any are.
func meanShared(a, b Group, results Results) (mean float64, known bool) {
	first := func(g Group) (list []map[string]bool) {
		for _, k := range g.Keywords {
			if urls, ok := results[Same(k.Text)]; ok && len(list) < maxPaired {
				pages, _ := resultsOf(urls)
				list = append(list, pages)
			}
		}
		return list
	}
	pairs, sum := 0, 0
	for _, x := range first(a) {
		for _, y := range first(b) {
			pairs++
			for u := range x {
				if y[u] {
					sum++
				}
			}
		}
	}
	if pairs == 0 {
		return 0, false
	}
	return float64(sum) / float64(pairs), true
}

// pillarOf chooses the pillar page: the group that is about the whole of which the others are
// parts. Its leading keyword's words stand in the others' keywords, on average the largest share
// of them, and it is searched: the square of that share times the root of the volume. Our own.
func pillarOf(groups []Group, with []about, kept []int, lang *language.Language, chosen string) (at int, why message.Message) {
	stems := map[int]map[string]bool{}
	for _, i := range kept {
		stems[i] = map[string]bool{}
		for _, k := range groups[i].Keywords {
			for _, s := range stemsOf(lang, k.Text) {
				stems[i][s] = true
			}
		}
	}
	best, most := -1, -1.0
	for _, i := range kept {
		if groups[i].Key == chosen {
			return i, "you chose it"
		}
		share, whole := 0.0, 0
		for _, j := range kept {
			if i == j || len(with[i].stems) == 0 {
				continue
			}
			n := 0
			for _, s := range with[i].stems {
				if stems[j][s] {
					n++
				}
			}
			share += float64(n) / float64(len(with[i].stems)) / math.Max(1, float64(len(kept)-1))
			if n == len(with[i].stems) {
				whole++
			}
		}
		if score := share * share * math.Sqrt(1+groups[i].Volume.Value); score > most {
			best, most = i, score
			why = "it shares most words with the others, weighed by how much it is searched"
			if whole > 0 {
				why = message.Of("its words stand in the keywords of the others, all of them in %d of %d: it is about the whole of which they are parts", whole, len(kept)-1)
			}
		}
	}
	if most <= 0 {
		why = "it is searched most; no other has its words"
	}
	return best, why
}

func planned(g Group, pillar bool, why message.Message, o Options, lang *language.Language, stands func(Group) Own) Planned {
	p := Planned{Key: g.Key, Keyword: g.Keywords[0].Text, Pillar: pillar, Intent: g.Intent, Volume: g.Volume, Difficulty: g.Difficulty, Secondary: []string{}}
	for _, k := range g.Keywords[1:min(len(g.Keywords), maxWords+1)] {
		p.Secondary = append(p.Secondary, k.Text)
	}
	p.Kind, p.KindWhy = kindOf(g, lang)
	if pillar {
		p.Kind, p.KindWhy = "pillar", why.Keep()
	}
	p.Gain = g.Potential
	if g.Volume.Known {
		p.Gain = Of(math.Round(g.Volume.Value * o.Curve.At(aimed)))
	}
	if stands != nil {
		if own := stands(g); own.Page != "" {
			p.Own, p.Gain = own.Page, own.Gain
		}
	}
	p.Effort = halfEffort
	hard := message.Message("its difficulty is not known")
	if g.Difficulty.Known {
		p.Effort = math.Max(minHard, math.Min(1, g.Difficulty.Value/100))
		hard = message.Of("difficulty %.0f", g.Difficulty.Value)
	}
	p.Worth = p.Gain.Value / p.Effort
	p.Why = message.Of("%v a month to gain at position 3, %v", message.Counted(int(p.Gain.Value), "click"), hard).Keep()
	switch {
	case pillar:
		p.Why = why.Keep()
	case !p.Gain.Known:
		p.Why = message.Of("its volume is not known; %v", hard).Keep()
	}
	return p
}

// mostlyHow is the share of a group's searches that ask how, from which it wants steps. Our own.
const mostlyHow = 0.25

// kindOf is the kind of page that a group asks for, by its intent and its words. The keys are
// those of the briefs' templates.
func kindOf(g Group, lang *language.Language) (key string, why message.Kept) {
	comparing := text.NewPhrases(lang.Title.Comparing...)
	how, all, example := 0.0, 0.0, ""
	compares := false
	for _, k := range g.Keywords {
		w := math.Max(1, k.Volume.Value)
		all += w
		if kind, asks := lang.KindOfQuestion(k.Text); asks && kind == language.How {
			if how += w; example == "" {
				example = k.Text
			}
		}
		compares = compares || comparing.Find(k.Text) != ""
	}
	switch {
	case g.Intent == transactional:
		return "product", g.IntentWhy
	case g.Intent == commercial && compares:
		return "comparison", g.IntentWhy
	case how >= mostlyHow*all:
		return "how-to", message.Of("%.0f %% of its searches ask how, such as “%s”", 100*how/all, example).Keep()
	}
	return "supporting", g.IntentWhy
}
