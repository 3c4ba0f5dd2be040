package evidence

import (
	"math"
	"slices"

	"corpulan/core/brief"
	"corpulan/core/language"
	"corpulan/core/listed"
	"corpulan/core/stats"
	"corpulan/web/kit"
	"corpulan/web/parts"
)

// compared is the table of the listed things by the criteria, each column to its own scale.
type compared struct {
	Criteria []listed.Criterion
	Rows     []comparedRow
}

type comparedRow struct {
	parts.FindingRow
	Cells []comparedCell
}

// comparedCell is what pages give for a thing by a criterion; no text where none does.
type comparedCell struct {
	Text    string
	Ranks   []int
	Range   stats.Range // of the values in their base unit
	Most    float64     // of the column
	Differs bool
}

// maxColumns is how many criteria the table has, those of most pages. Our own.
const maxColumns = 8

// compare makes the table of those rows that are shown.
func compare(an *kit.Analysis, rows []parts.FindingRow) *compared {
	t := &compared{}
	for _, c := range an.Evidence.Criteria {
		if c.Kind != listed.Use && len(t.Criteria) < maxColumns {
			t.Criteria = append(t.Criteria, c)
		}
	}
	lang := language.For(an.Evidence.Language)
	currency := mainCurrency(rows)
	most := make([]float64, len(t.Criteria))
	for _, r := range rows {
		row := comparedRow{FindingRow: r}
		for n, c := range t.Criteria {
			cell := comparedCell{Differs: slices.Contains(r.Thing.Differs, c.Key)}
			var values []float64
			if c.Kind == listed.Costs {
				cell.Text, cell.Ranks = brief.PriceOf(*r.Thing, lang)
				values = amounts(r.Thing, currency)
			} else {
				cell.Text, cell.Ranks = brief.ValueOf(*r.Thing, c.Key, lang)
				for _, a := range r.Thing.Attributes {
					if amount, unit, ok := a.Base(); ok && a.Key == c.Key && unit == c.Unit {
						values = append(values, amount)
					}
				}
			}
			cell.Range = stats.RangeOf(values)
			for _, v := range values {
				most[n] = max(most[n], v)
			}
			row.Cells = append(row.Cells, cell)
		}
		t.Rows = append(t.Rows, row)
	}
	for i := range t.Rows {
		for n := range t.Rows[i].Cells {
			t.Rows[i].Cells[n].Most = most[n]
		}
	}
	return t
}

// mainCurrency is the one that most prices of the rows are in: amounts in others are on no scale with them.
func mainCurrency(rows []parts.FindingRow) (currency string) {
	n := map[string]int{}
	for _, r := range rows {
		if r.Thing == nil {
			continue
		}
		for _, p := range r.Thing.Prices {
			if n[p.Currency]++; n[p.Currency] > n[currency] {
				currency = p.Currency
			}
		}
	}
	return currency
}

// amounts are the prices of a thing in a currency.
func amounts(t *listed.Thing, currency string) (values []float64) {
	for _, p := range t.Prices {
		if p.Currency == currency {
			values = append(values, p.Amount)
		}
	}
	return values
}

// priceIn is the median price of a thing in a currency; beyond all where it has none.
func priceIn(t *listed.Thing, currency string) float64 {
	values := amounts(t, currency)
	if len(values) == 0 {
		return math.Inf(1)
	}
	return stats.RangeOf(values).Median
}
