package themes

import (
	"iter"
	"math"

	"corpulan/core/corpus"
	"corpulan/core/stats"
)

// Trait is one thing by which two sections are judged to treat one matter, or not.
type Trait int

// The traits, each 0 to 1 where nothing else is said.
const (
	Always       Trait = iota // 1
	Cosine                    // of what the sections say
	Alike                     // see likeness: mostly by which others they are like
	HeadCosine                // of the headings
	LeadCosine                // of the stems that lead the sections
	Nearest                   // the cosine as a part of the best that either has on the other's page, the mean of both
	SameMatter                // both headings name one general matter and nothing beside it
	SharedMatter              // both name one, among other words
	Money                     // both name amounts of money
	Apart                     // how far from each other they stand in their pages
	SameWord                  // the headings share a word that is neither the keyword's nor all over the field
	HeadInText                // how much of one heading stands in the other section, the mean of both ways
	HeadInBoth                // the less of both
	Lengths                   // |ln| of the ratio of their lengths
	Around                    // the mean cosine of the sections before them and of those behind them
	traits
)

// Judge are the weights of the traits in the log-odds that two sections treat one matter.
type Judge [traits]float64

// Learned is the judge that thirteen fields taught, labelled by readers, by logistic regression: see
// Learn in evaluate, and docs/evaluation.md for what it judges when it is taught by all but one.
var Learned = Judge{-4.77, 1.65, 4.59, -1.81, 0.81, 3.52, 2.63, 1.38, 2.08, -3.07, 1.16, -2.35, 1.20, -0.75, 3.80}

// Bounds, all our own: what the log-odds of a pair are at least, so that no one pair keeps groups apart;
// how many amounts of money make a section one on money.
const (
	leastOdds   = -4.0
	fewestSums  = 2
	noHeadWords = 0.3 // of a heading stands in another section, where it has no words of its own
	mostAround  = 0.3 // that a cosine of their neighbours counts: pages alike but for one section say nothing of it
	wordsMore   = 10  // are added to lengths before they are compared
)

// pairs are the sections of a field with all by which any two of them are judged.
type pairs struct {
	heads                      []headingVector
	alike, cosines, head, lead *matrix
	headIn                     []float32   // of heading i in section j, at i*n+j
	best                       [][]float64 // cosine of each section to the nearest of each page
	place, long                []float64   // where a section begins in its page, 0 to 1; ln of its length
}

func pairsOf(f *corpus.Field, heads []headingVector, vectors []stats.Vector) *pairs {
	n := len(heads)
	titles, leads := make([]stats.Vector, n), make([]stats.Vector, n)
	p := &pairs{heads: heads, best: make([][]float64, n), place: make([]float64, n), long: make([]float64, n)}
	p.alike, p.cosines = likeness(heads, vectors)
	for i, h := range heads {
		titles[i], leads[i] = h.title, h.body
		r := f.Docs[h.doc].Reading
		p.place[i] = float64(r.Sections[h.section].Offset) / float64(max(r.Counts.Words, 1))
		p.long[i] = math.Log(float64(h.words + wordsMore))
		p.best[i] = make([]float64, len(f.Docs))
		for j, c := range p.cosines.row(i) {
			if page := heads[j].doc; float64(c) > p.best[i][page] {
				p.best[i][page] = float64(c)
			}
		}
	}
	p.head, p.lead = cosinesOf(titles), cosinesOf(leads)
	p.headIn = headingsInText(f, heads)
	return p
}

// headingsInText is how much of each heading stands in each section, by the weights of its stems that are
// not the keyword's, 0 to 1; row by row.
func headingsInText(f *corpus.Field, heads []headingVector) []float32 {
	n, idf := len(heads), f.SectionIDF()
	in := make([]float32, n*n)
	having := map[string][]int32{} // sections by the stems of their headings and texts
	for j, h := range heads {
		stems := map[string]bool{}
		for s := range textOf(f.Docs[h.doc], h) {
			stems[s] = true
		}
		for _, w := range h.title {
			stems[w.Stem] = true
		}
		for s := range stems {
			having[s] = append(having[s], int32(j))
		}
	}
	for i, h := range heads {
		row, all := in[i*n:(i+1)*n], float32(0)
		for _, t := range h.title {
			if f.IsOfKeyword(t.Stem) || isFigure(t.Stem) {
				continue
			}
			w := float32(idf(t.Stem))
			if f.Language.Light(t.Stem) {
				w /= 2
			}
			all += w
			for _, j := range having[t.Stem] {
				row[j] += w
			}
		}
		for j := range row {
			if all == 0 {
				row[j] = noHeadWords
			} else {
				row[j] /= all
			}
		}
	}
	return in
}

// traits are those of two sections.
func (p *pairs) traits(i, j int) (t Judge) {
	n := len(p.heads)
	a, b := &p.heads[i], &p.heads[j]
	cosine := p.cosines.at(i, j)
	t[Always], t[Cosine], t[Alike], t[HeadCosine], t[LeadCosine] = 1, cosine, p.alike.at(i, j), p.head.at(i, j), p.lead.at(i, j)
	if cosine > 0 {
		t[Nearest] = (cosine/p.best[i][b.doc] + cosine/p.best[j][a.doc]) / 2
	}
	switch {
	case a.bare != "" && a.bare == b.bare:
		t[SameMatter] = 1
	case a.names&b.names != 0:
		t[SharedMatter] = 1
	}
	if a.sums >= fewestSums && b.sums >= fewestSums {
		t[Money] = 1
	}
	t[Apart] = math.Abs(p.place[i] - p.place[j])
	if a.bare == "" && b.bare == "" && sharesWord(a.beside, b.beside) {
		t[SameWord] = 1
	}
	one, other := float64(p.headIn[i*n+j]), float64(p.headIn[j*n+i])
	t[HeadInText], t[HeadInBoth] = (one+other)/2, min(one, other)
	t[Lengths] = math.Abs(p.long[i] - p.long[j])
	for _, step := range []int{-1, 1} {
		x, y := p.beside(i, step), p.beside(j, step)
		if x >= 0 && y >= 0 {
			t[Around] += min(p.cosines.at(x, y), mostAround) / 2
		}
	}
	return t
}

// beside is the section before or behind one on its page; -1 where there is none.
func (p *pairs) beside(i, step int) int {
	if j := i + step; j >= 0 && j < len(p.heads) && p.heads[j].doc == p.heads[i].doc {
		return j
	}
	return -1
}

func sharesWord(a, b []string) bool {
	for _, x := range a {
		for _, y := range b {
			if x == y {
				return true
			}
		}
	}
	return false
}

// odds are the log-odds that two sections treat one matter, as a judge has them. Two sections of one
// page rather divide a matter than repeat it.
func (p *pairs) odds(judge *Judge, i, j int) float64 {
	z := 0.0
	for k, v := range p.traits(i, j) {
		z += judge[k] * v
	}
	if p.heads[i].doc == p.heads[j].doc {
		share := onePage / (1 + math.Exp(-z))
		z = math.Log(share / (1 - share))
	}
	return max(z, leastOdds)
}

// meanOdds are the log-odds between the sections of two groups, on the mean.
func (p *pairs) meanOdds(judge *Judge, a, b []int) float64 {
	sum := 0.0
	for _, i := range a {
		for _, j := range b {
			sum += p.odds(judge, i, j)
		}
	}
	return sum / float64(len(a)*len(b))
}

// Example is two sections of different pages with their traits.
type Example struct {
	A, B   ThemeHeading
	Traits Judge
}

// Examples are all pairs of sections of a field by which a judge is taught; those that only hold others are
// left out.
func Examples(f *corpus.Field) iter.Seq[Example] {
	heads, _ := headingVectors(f, nil)
	p := pairsOf(f, heads, jointVectors(f, heads))
	of := func(h headingVector) ThemeHeading {
		return ThemeHeading{f.Ranks[h.doc], h.section, h.text, h.level, h.words}
	}
	return func(yield func(Example) bool) {
		for i, a := range heads {
			for j, b := range heads[:i] {
				if a.doc != b.doc && !yield(Example{of(b), of(a), p.traits(j, i)}) {
					return
				}
			}
		}
	}
}
