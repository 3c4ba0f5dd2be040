package questions

import (
	"cmp"
	"slices"

	"corpulan/core/house"
	"corpulan/core/language"
	"corpulan/core/says"
)

// Bounds of what is offered as perhaps the same, all our own: stems alone say too little
// for more than an offer (of paraphrases that a reader wrote, they find half at best).
const (
	maybeSame   = 0.28 // weighted Jaccard similarity, of two of one kind
	maybeOther  = 0.4  // of two kinds
	sameAnswers = 0.5  // share of the answering sections of the one that answer the other
	maxPerhaps  = 3
)

// perhaps notes for each question those that may be the same: their words are alike, or
// the same sections answer them.
func perhaps(list []Question, groups [][]says.Asked, common map[string]bool) {
	type offer struct {
		key   string
		alike float64
	}
	having := map[string][]int{} // questions by their stems beyond the keyword
	for i, g := range groups {
		for _, s := range g[0].Stems {
			if !common[s] {
				having[s] = append(having[s], i)
			}
		}
	}
	looked := make([]int, len(list)) // for which question one was looked at last, less one
	for i := range list {
		var offers []offer
		for _, j := range others(groups[i][0].Stems, having) {
			if i == j || looked[j] == i+1 || !says.KindsAgree(list[i].Kind, list[j].Kind) {
				continue
			}
			looked[j] = i + 1
			alike := says.Likeness(groups[i][0], groups[j][0], common)
			answered := sharedAnswers(list[i].AnsweredBy, list[j].AnsweredBy)
			least := maybeSame
			if list[i].Kind != list[j].Kind {
				least = maybeOther
			}
			if alike >= least || alike > 0 && answered >= sameAnswers {
				offers = append(offers, offer{list[j].Key, alike + answered})
			}
		}
		slices.SortStableFunc(offers, func(a, b offer) int { return cmp.Compare(b.alike, a.alike) })
		list[i].Perhaps = []string{}
		for _, o := range offers[:min(len(offers), maxPerhaps)] {
			list[i].Perhaps = append(list[i].Perhaps, o.key)
		}
	}
}

// maxAlike is how many questions with one stem in common are compared with each other. The
// bound is our own.
const maxAlike = 100

// others are the questions that have a stem of one.
func others(stems []string, having map[string][]int) []int {
	var list []int
	for _, s := range stems {
		list = append(list, having[s][:min(len(having[s]), maxAlike)]...)
	}
	return list
}

// sharedAnswers is the share of the sections that answer either of two questions which
// answer both; 0 where fewer than two do.
func sharedAnswers(a, b []says.Answer) float64 {
	both := 0
	for _, x := range a {
		if slices.ContainsFunc(b, func(y says.Answer) bool { return x.Rank == y.Rank && x.Section == y.Section }) {
			both++
		}
	}
	if both < 2 {
		return 0
	}
	return float64(both) / float64(max(len(a), len(b)))
}

// joinTaught brings together the groups that a person has joined, each by any of its
// wordings.
func joinTaught(groups [][]says.Asked, lang *language.Language, taught *house.Lexicon) [][]says.Asked {
	if taught == nil || len(taught.Asked) == 0 {
		return groups
	}
	at := map[string]int{}
	for i, g := range groups {
		for _, w := range g {
			at[lang.PhraseKey(w.Text)] = i
		}
	}
	into := make([]int, len(groups)) // the group that one is part of, itself where it is none
	for i := range groups {
		into[i] = i
	}
	end := func(i int) int {
		for into[i] != i {
			i = into[i]
		}
		return i
	}
	for i, g := range groups {
		for _, w := range g {
			if to, ok := at[taught.AsksTheSame(lang.PhraseKey(w.Text))]; ok && end(to) != end(i) {
				into[end(i)] = end(to)
			}
		}
	}
	joined := make([][]says.Asked, len(groups))
	for i, g := range groups { // the wordings of what they were joined to lead
		if end(i) == i {
			joined[i] = append(slices.Clone(g), joined[i]...)
		} else {
			joined[end(i)] = append(joined[end(i)], g...)
		}
	}
	list := slices.DeleteFunc(joined, func(g []says.Asked) bool { return len(g) == 0 })
	return list
}
