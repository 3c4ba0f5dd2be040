package fit

import (
	"corpulan/core/brief"
	"corpulan/core/corpus"
	"corpulan/core/stats"
)

// Aim is the fit that writers are commonly asked for. Common practice, no published source.
const Aim = 80

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
