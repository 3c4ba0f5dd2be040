package fit

import (
	"math"

	"corpulan/core/brief"
	"corpulan/core/corpus"
	"corpulan/core/stats"
)

// Aim is the fit that writers are commonly asked for. Common practice, no published source.
const Aim = 80

// AimByField lets the field set the aim, in place of a number.
const AimByField = -1

// beyond is how many points beyond the field's best page the aim is that the field sets. Our own: a page that comes after it has to
// be worth more, and past a few points the gain per hour falls off.
const beyond = 3

// Field is how the kept pages of a field fit a brief, by the same rule as drafts.
type Field struct {
	Pages []PageFit
	Range stats.Range
}

// PageFit is the fit of one page.
type PageFit struct {
	Rank int
	Fit  float64
}

// AimOf is the aim that is meant by a number as it was set: 0 for the common one, AimByField for a step beyond the best page.
func (f Field) AimOf(set int) float64 {
	switch {
	case set == AimByField && f.Range.N > 0:
		return math.Min(100, math.Ceil(f.Best()+beyond))
	case set > 0:
		return float64(set)
	}
	return Aim
}

// Best is the fit of the page that fits best; 0 without pages.
func (f Field) Best() (best float64) {
	for _, p := range f.Pages {
		best = math.Max(best, p.Fit)
	}
	return best
}

// OfField measures all pages of a field.
func OfField(b *brief.Brief, pages []corpus.RankedPage) Field {
	f := Field{Pages: make([]PageFit, len(pages))}
	scores := make([]float64, len(pages))
	for i, p := range pages {
		scores[i] = Of(b, p.Doc, nil).Fit
		f.Pages[i] = PageFit{p.Rank, scores[i]}
	}
	f.Range = stats.RangeOf(scores)
	return f
}
