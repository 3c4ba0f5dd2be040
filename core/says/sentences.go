package says

import "slices"

// Sentence is how one sentence of a section answers what is asked.
type Sentence struct {
	At    int     // in the text's sentences
	Share float64 // 0 to 1, of what is asked beyond the keyword: 1 where no more is asked
	Has   bool    // the sum, the number, the time or the reason that is asked for: true where none is
}

// SentencesOf are the sentences of a section that stand in running text, each with how it answers what is asked; none of an
// unknown text.
func (t *Texts) SentencesOf(rank, section int, q Asked) (list []Sentence) {
	i := slices.Index(t.Ranks, rank)
	if i < 0 {
		return nil
	}
	w, want := t.wanted(q), formOfAsked(q)
	for n := t.parts[i][section].from; n < t.parts[i][section].to; n++ {
		if s := &t.Docs[i].Sentences[n]; s.Section != section || s.Heading || s.Again || s.Foreign {
			continue
		}
		said := t.saidBy(i, n, q, w)
		x := Sentence{At: n, Share: 1, Has: want == anyForm || said.have(want)}
		if w.total > 0 {
			x.Share = 0
			for k, word := range w.words {
				part := said.parts[k]
				if word.matter && said.have(want) { // a sum tells the price
					part = 1
				}
				x.Share += part * word.weight / w.total
			}
		}
		list = append(list, x)
	}
	return list
}
