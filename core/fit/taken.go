package fit

import (
	"maps"
	"slices"

	"corpulan/core/corpus"
)

// Taken are sentences of a draft that stand on a page, word for word or lightly reworded, each with
// the rank of that page, OfOurs for another page of ours. They are the page's and earn a draft nothing.
type Taken map[string]int // by what saidAs says of them

// OfOurs stands for the rank of a page of ours.
const OfOurs = -1

// And adds what stands on pages of ours.
func (t Taken) And(ours Taken) Taken {
	for key := range ours {
		if t[key] == 0 {
			t[key] = OfOurs
		}
	}
	return t
}

// When a sentence is like one of a page, and when it is taken from it: what is short or reworded stands beside others of the same
// page, since two writers who know a subject do say the same now and then. Our own, measured in docs/evaluation.md.
const (
	mostShared   = 0.6  // of its words stand in runs of shingleWords words that the page has
	shortestRun  = 8    // words of such runs, with those of the sentences beside it
	longestAlone = 12   // words of them in one sentence; from there on it stands for itself
	mostLike     = 0.65 // Dice's coefficient of its content stems and of those of a sentence of the page
	fewestStems  = 5    // with which likeness says something
	nearBy       = 2    // sentences
	commonestFor = 400  // sentences that a stem may stand in to be looked up by
)

// said is a sentence of a page by its content stems.
type said struct {
	page  int32
	stems int32 // how many different ones
}

// sentencesOf are the sentences of the pages, and by stem those that have it.
func sentencesOf(pages []shingled) (list []said, having map[string][]int32) {
	having = map[string][]int32{}
	for p := range pages {
		for i := range pages[p].Doc.Sentences {
			s := &pages[p].Doc.Sentences[i]
			if s.Heading || s.Again {
				continue
			}
			stems := contentStems(s)
			if len(stems) < fewestStems {
				continue
			}
			for _, st := range stems {
				having[st] = append(having[st], int32(len(list)))
			}
			list = append(list, said{int32(p), int32(len(stems))})
		}
	}
	return list, having
}

// contentStems are the different stems of a sentence but those of function words.
func contentStems(s *corpus.Sentence) (stems []string) {
	for _, t := range s.Tokens {
		if !t.Stop && !slices.Contains(stems, t.Stem) {
			stems = append(stems, t.Stem)
		}
	}
	return stems
}

// Taken finds the sentences of a draft that stand on the pages, quoted or not.
func (s *Shingles) Taken(draft *corpus.Doc) Taken {
	return s.TakenFrom(draft, func(string) bool { return true })
}

// TakenFrom is Taken from those pages alone at whose addresses nothing may be taken.
func (s *Shingles) TakenFrom(draft *corpus.Doc, guarded func(url string) bool) Taken {
	guards := make([]bool, len(s.pages))
	for i := range s.pages {
		guards[i] = guarded(s.pages[i].Doc.Reading.URL)
	}
	like := make([]map[int]bool, len(draft.Sentences)) // by sentence the pages that have one like it
	taken := Taken{}
	mine := wordsOf(draft)
	shingles := shinglesOf(s.seed, mine)
	for i := range s.pages {
		if !guards[i] {
			continue
		}
		s.pages[i].verbatim(mine, shingles, func(sentence, words int) {
			if like[sentence] == nil {
				like[sentence] = map[int]bool{}
			}
			like[sentence][i] = true
			if key := saidAs(&draft.Sentences[sentence]); words >= longestAlone && taken[key] == 0 {
				taken[key] = s.pages[i].Rank
			}
		})
	}
	for i := range draft.Sentences {
		if x := &draft.Sentences[i]; !x.Heading && like[i] == nil {
			like[i] = s.like(x, guards)
		}
	}
	for i := range draft.Sentences {
		key := saidAs(&draft.Sentences[i])
		for _, page := range slices.Sorted(maps.Keys(like[i])) {
			for k := max(i-nearBy, 0); k <= min(i+nearBy, len(like)-1); k++ {
				if k != i && like[k][page] && taken[key] == 0 {
					taken[key] = s.pages[page].Rank
				}
			}
		}
	}
	return taken
}

// verbatim tells of the sentences of a draft most of whose words stand in runs that the page has, and how many do.
func (x *shingled) verbatim(mine []word, shingles []uint64, tell func(sentence, words int)) {
	shared := make([]bool, len(mine))
	for i, h := range shingles {
		if len(x.spots(h)) > 0 {
			for k := i; k < i+shingleWords; k++ {
				shared[k] = true
			}
		}
	}
	for from := 0; from < len(mine); {
		to, n := from, 0
		for ; to < len(mine) && mine[to].sentence == mine[from].sentence; to++ {
			if shared[to] {
				n++
			}
		}
		if float64(n) >= mostShared*float64(to-from) && n+beside(shared, from, to) >= shortestRun {
			tell(mine[from].sentence, n)
		}
		from = to
	}
}

// beside is how many shared words stand directly before and behind a run of words.
func beside(shared []bool, from, to int) (n int) {
	for i := from - 1; i >= 0 && shared[i]; i-- {
		n++
	}
	for i := to; i < len(shared) && shared[i]; i++ {
		n++
	}
	return n
}

// like are the pages that have a sentence like another (Dice 1945, "Measures of the amount of ecologic association between species");
// nil for none; of those pages that are guarded.
func (s *Shingles) like(x *corpus.Sentence, guards []bool) (pages map[int]bool) {
	stems := contentStems(x)
	if len(stems) < fewestStems {
		return nil
	}
	both := map[int32]int{}
	for _, st := range stems {
		if list := s.having[st]; len(list) <= commonestFor {
			for _, at := range list {
				both[at]++
			}
		}
	}
	for at, n := range both {
		if y := s.sentences[at]; guards[y.page] && 2*float64(n) >= mostLike*float64(len(stems)+int(y.stems)) {
			if pages == nil {
				pages = map[int]bool{}
			}
			pages[int(y.page)] = true
		}
	}
	return pages
}
