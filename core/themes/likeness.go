package themes

import (
	"cmp"
	"maps"
	"math"
	"slices"

	"corpulan/core/corpus"
	"corpulan/core/stats"
)

// trustHeading is how much a heading says beside its section, of which as much is in
// the section's own words. Measured: docs/evaluation.md.
const trustHeading = 0.6

// jointVectors are what the sections are about: the stems of the heading and of the
// section's text in one vector each, weighted by how few sections of the field have
// them, and how few of their own page: a stem all over one page says nothing of its
// sections. A section without text of its own has that of its sub-sections.
func jointVectors(f *corpus.Field, heads []headingVector) []stats.Vector {
	idf := f.SectionIDF()
	ofPage := make([]map[string]int, len(f.Docs))
	for i, d := range f.Docs {
		ofPage[i] = map[string]int{}
		for _, stems := range d.Sections {
			for s := range stems {
				ofPage[i][s]++
			}
		}
	}
	parts := compoundParts(f)
	vectors := make([]stats.Vector, len(heads))
	for n, h := range heads {
		title, body := weights{}, weights{}
		for _, t := range h.title {
			if isFigure(t.Stem) {
				continue
			}
			w := idf(t.Stem)
			if f.Language.Light(t.Stem) {
				w /= 2
			}
			title.add(t.Stem, w, parts, idf)
		}
		page := f.Docs[h.doc]
		for s, count := range textOf(page, h) {
			if isFigure(s) {
				continue
			}
			own := math.Log(float64(1+len(page.Sections)) / float64(ofPage[h.doc][s]))
			body.add(s, (1+math.Log(float64(count)))*idf(s)*own, parts, idf)
		}
		vectors[n] = joined(title.vector(), body.vector())
	}
	return vectors
}

// weights are those of stems.
type weights map[string]float64

// ofPart is what a part of a compound weighs beside the compound. Measured: docs/evaluation.md.
const ofPart = 0.4

// add adds a stem with a weight, and the parts of the compound that it is.
func (w weights) add(stem string, weight float64, parts map[string][]string, idf func(string) float64) {
	w[stem] += weight
	for _, p := range parts[stem] {
		w[p] += ofPart * weight * idf(p) / idf(stem)
	}
}

func (w weights) vector() stats.Vector {
	list := make([]stats.Weighted, 0, len(w))
	for _, s := range slices.Sorted(maps.Keys(w)) {
		list = append(list, stats.Weighted{Stem: s, Weight: w[s]})
	}
	return stats.NewVector(list)
}

func isFigure(stem string) bool { return stem != "" && stem[0] >= '0' && stem[0] <= '9' }

// textOf is the stems of a section's text with their counts, or of its sub-sections'
// where it has a heading and no more.
func textOf(d *corpus.Doc, h headingVector) map[string]int {
	own := d.Sections[h.section]
	words := 0
	for _, n := range own {
		words += n
	}
	if words > len(h.title) {
		return own
	}
	sum := map[string]int{}
	level := d.Reading.Sections[h.section].Level
	for j := h.section; j < len(d.Sections) && (j == h.section || d.Reading.Sections[j].Level > level); j++ {
		for s, n := range d.Sections[j] {
			sum[s] += n
		}
	}
	return sum
}

// joined is one vector of a heading and its section.
func joined(title, body stats.Vector) stats.Vector {
	weights := make([]stats.Weighted, 0, len(title)+len(body))
	i, j := 0, 0
	for i < len(title) || j < len(body) {
		switch {
		case j == len(body) || i < len(title) && title[i].Stem < body[j].Stem:
			weights = append(weights, stats.Weighted{Stem: title[i].Stem, Weight: trustHeading * title[i].Weight})
			i++
		case i == len(title) || body[j].Stem < title[i].Stem:
			weights = append(weights, body[j])
			j++
		default:
			weights = append(weights, stats.Weighted{Stem: body[j].Stem, Weight: trustHeading*title[i].Weight + body[j].Weight})
			i++
			j++
		}
	}
	return stats.NewVector(weights)
}

// How alike two sections are by their words, in docs/evaluation.md with what was tried beside it:
// mostly by which others they are like, since two sections on one matter need not use
// the same words, but use those that the same others use (shared neighbours; Jarvis &
// Patrick 1973), and a little by themselves.
const (
	bySelf   = 0.2  // the rest is by neighbours
	minAlike = 0.08 // below it two sections are no neighbours
	onePage  = 0.5  // two sections of one page divide a matter rather than repeat it
)

// maxNear is how many neighbours of a section are looked at, the nearest: a field of
// thousands of like headings would take minutes. Our own; hardly a section of a field of ten
// pages has as many.
const maxNear = 60

// neighbours are the sections that one is like, ascending, with how much.
type neighbours struct {
	at     []int32
	weight []float32
	length float64
}

// likeness is the similarity of all sections to each other, and their cosines.
func likeness(heads []headingVector, vectors []stats.Vector) (alike, cosines *matrix) {
	n := len(heads)
	cosines = cosinesOf(vectors)
	near := make([]neighbours, n)
	row := make([]float32, n)
	for i := range n {
		for j, s := range cosines.row(i) {
			row[j] = s
			if heads[i].doc == heads[j].doc {
				row[j] *= onePage
			}
			if row[j] < minAlike {
				row[j] = 0
			}
		}
		row[i] = 1
		near[i] = nearest(row)
	}
	// Only sections that have a neighbour in common share any: each is met by way of it.
	type holder struct {
		section int32
		weight  float32
	}
	having := make([][]holder, n)
	for i := range near {
		for at, k := range near[i].at {
			having[k] = append(having[k], holder{int32(i), near[i].weight[at]})
		}
	}
	alike = newMatrix(n)
	shared := make([]float64, n)
	for i := range near {
		clear(shared)
		for at, k := range near[i].at {
			for _, h := range having[k] {
				if int(h.section) > i {
					shared[h.section] += float64(near[i].weight[at]) * float64(h.weight)
				}
			}
		}
		for j := i + 1; j < n; j++ {
			self := cosines.at(i, j)
			if self < minAlike {
				self = 0
			}
			alike.put(i, j, bySelf*self+(1-bySelf)*shared[j]/(near[i].length*near[j].length))
		}
	}
	return alike, cosines
}

// nearest are the neighbours in a row of similarities.
func nearest(row []float32) neighbours {
	var at []int32
	for j, s := range row {
		if s > 0 {
			at = append(at, int32(j))
		}
	}
	if len(at) > maxNear {
		slices.SortStableFunc(at, func(a, b int32) int { return cmp.Compare(row[b], row[a]) })
		at = slices.Clone(at[:maxNear])
		slices.Sort(at)
	}
	list := neighbours{at: at, weight: make([]float32, len(at))}
	for k, j := range at {
		list.weight[k] = row[j]
		list.length += float64(row[j]) * float64(row[j])
	}
	list.length = math.Sqrt(list.length)
	return list
}
