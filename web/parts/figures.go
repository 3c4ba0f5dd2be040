package parts

import (
	"fmt"
	"math"
	"slices"
	"strconv"

	"corpulan/core/evidence"
	"corpulan/core/stats"
	"corpulan/web/draw"
	"corpulan/web/kit"
	"corpulan/words"
)

// FigureRow is a figure with the same of pages of ours.
type FigureRow struct {
	evidence.Figure
	Most float64 // the scale of its mark
	in   *words.Words
	Ours []draw.Pointer
}

// FigureRows are the figures of the keys, or all of them, each with the same
// of our pages.
func FigureRows(an *kit.Analysis, ours []OwnPage, keys ...string) []FigureRow {
	var rows []FigureRow
	for _, f := range an.Evidence.Figures {
		if len(keys) > 0 && !slices.Contains(keys, f.Key) {
			continue
		}
		row := FigureRow{Figure: f, Most: scaleOf(f), in: an.In}
		for _, o := range ours {
			v := o.figures[f.Key]
			row.Ours = append(row.Ours, draw.Pointer{Name: o.Host, Value: v})
			row.Most = max(row.Most, v*1.05)
		}
		rows = append(rows, row)
	}
	return rows
}

// Show writes a value of the figure with its digits.
func (f FigureRow) Show(v float64) string {
	if f.in == nil {
		return strconv.FormatFloat(v, 'f', f.Digits, 64)
	}
	return f.in.Decimal(f.Digits, v)
}

// Span writes a range of the figure: "4–13", or "1" where both ends are the same.
func (f FigureRow) Span(r stats.Range) string {
	from, to := f.Show(r.Lower), f.Show(r.Upper)
	if from == to {
		return from
	}
	return from + "–" + to
}

// Compare says how the leaders' median stands to the followers'; empty where
// they cannot be compared.
func (f FigureRow) Compare() string {
	unit := math.Pow10(f.Digits)
	a, b := math.Round(f.Leaders.Median*unit)/unit, math.Round(f.Followers.Median*unit)/unit // as they are shown
	if f.Leaders.N == 0 || a == b {
		return ""
	}
	sign := "+"
	if a < b {
		sign = "−"
	}
	if b < fewToCompare || f.Unit != "" {
		return sign + f.Show(math.Abs(a-b))
	}
	return fmt.Sprintf("%s%.0f %%", sign, 100*math.Abs(a-b)/b)
}

// fewToCompare is the median up to which a difference is told in units: twelve
// headings more than one are no twelvefold.
const fewToCompare = 20

// OwnPage is a page of ours, measured as those of the field are.
type OwnPage struct {
	Host    string
	Placed  evidence.Placement
	figures map[string]float64
}

// OwnPages measures the study's own pages.
func OwnPages(an *kit.Analysis) []OwnPage {
	var list []OwnPage
	for _, r := range an.Results {
		if r.Own && r.ReadingID != nil && an.Ours[*r.ReadingID] != nil {
			placed, figures := evidence.Measure(an.Ours[*r.ReadingID], an.Study.Keyword)
			list = append(list, OwnPage{r.Host, placed, figures})
		}
	}
	return list
}

// scaleOf is where the scale of a figure's mark ends: beyond all that is drawn
// on it, so that marks of the same figure can be compared.
func scaleOf(f evidence.Figure) float64 {
	most := max(f.Target.Upper, f.Leaders.Upper, f.Followers.Upper) * 1.15
	if most == 0 {
		return 1
	}
	return most
}
