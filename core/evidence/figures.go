package evidence

import (
	"slices"

	"corpulan/core/corpus"
	"corpulan/core/language"
	"corpulan/core/stats"
)

// Figure is one count or measure of the pages, over the field.
type Figure struct {
	Key    string    `json:"key"`
	Name   string    `json:"name"`
	Group  string    `json:"group"`  // length, structure, media, links, language or keyword
	Unit   string    `json:"unit"`   // empty for plain counts
	Digits int       `json:"digits"` // after the decimal point, as it is shown
	Values []float64 `json:"values"` // per page, in the order of Evidence.Sources
	stats.Range
	Target    stats.Range `json:"target"`    // the same without outliers
	Outliers  []int       `json:"outliers"`  // ranks of the pages beyond Tukey's fences
	Leaders   stats.Range `json:"leaders"`   // over the first ranks alone
	Followers stats.Range `json:"followers"` // over the others
}

// kindOfFigure is what is measured of a page.
type kindOfFigure struct {
	key, name, group, unit string
	digits                 int
	of                     func(*corpus.Doc, Placement) float64
}

func count(n int) float64 { return float64(n) }

// kindsOfFigure in the order they are shown.
var kindsOfFigure = []kindOfFigure{
	{"words", "Words", "length", "", 0, func(d *corpus.Doc, _ Placement) float64 { return count(d.Reading.Counts.Words) }},
	{"characters", "Characters", "length", "", 0, func(d *corpus.Doc, _ Placement) float64 { return count(d.Reading.Counts.Characters) }},
	{"sentences", "Sentences", "length", "", 0, func(d *corpus.Doc, _ Placement) float64 { return count(d.Reading.Counts.Sentences) }},
	{"paragraphs", "Paragraphs", "length", "", 0, func(d *corpus.Doc, _ Placement) float64 { return count(d.Reading.Counts.Paragraphs) }},
	{"headings", "Headings", "structure", "", 0, func(d *corpus.Doc, _ Placement) float64 { return count(len(d.Reading.Headings)) }},
	{"second_level", "Headings of level 2", "structure", "", 0, func(d *corpus.Doc, _ Placement) float64 { return headingsOf(d, 2) }},
	{"third_level", "Headings of level 3", "structure", "", 0, func(d *corpus.Doc, _ Placement) float64 { return headingsOf(d, 3) }},
	{"lists", "Lists", "structure", "", 0, func(d *corpus.Doc, _ Placement) float64 { return count(d.Reading.Counts.Lists) }},
	{"tables", "Tables", "structure", "", 0, func(d *corpus.Doc, _ Placement) float64 { return count(d.Reading.Counts.Tables) }},
	{"questions", "Questions asked", "structure", "", 0, func(d *corpus.Doc, _ Placement) float64 { return count(len(d.Reading.Questions)) }},
	{"images", "Images", "media", "", 0, func(d *corpus.Doc, _ Placement) float64 { return count(d.Reading.Counts.Images) }},
	{"videos", "Videos and embeds", "media", "", 0, func(d *corpus.Doc, _ Placement) float64 {
		return count(d.Reading.Counts.Videos + d.Reading.Counts.Embeds)
	}},
	{"internal_links", "Links within the site", "links", "", 0, func(d *corpus.Doc, _ Placement) float64 { return count(d.Reading.Counts.InternalLinks) }},
	{"external_links", "Links to other sites", "links", "", 0, func(d *corpus.Doc, _ Placement) float64 { return count(d.Reading.Counts.ExternalLinks) }},
	{"paragraph", "Usual paragraph", "language", "words", 0, func(d *corpus.Doc, _ Placement) float64 { return count(d.Reading.Paragraphs.Median) }},
	{"grade", "Reading grade", "language", "Flesch–Kincaid", 1, func(d *corpus.Doc, _ Placement) float64 { return d.Reading.Readability.FleschKincaidGrade }},
	{"ease", "Reading ease", "language", "", 0, func(d *corpus.Doc, _ Placement) float64 { return d.Reading.Readability.Ease }},
	{"stop_words", "Stop words", "language", "%", 0, func(d *corpus.Doc, _ Placement) float64 { return 100 * d.Reading.StopShare }},
	{"keyword_uses", "Uses of the keyword", "keyword", "", 0, func(_ *corpus.Doc, p Placement) float64 { return count(p.Uses) }},
	{"keyword_density", "Keyword density", "keyword", "%", 2, func(_ *corpus.Doc, p Placement) float64 { return 100 * p.Density }},
}

func headingsOf(d *corpus.Doc, level int) float64 {
	n := 0
	for _, h := range d.Reading.Headings {
		if h.Level == level {
			n++
		}
	}
	return float64(n)
}

// Figure is the figure of a key; the zero Figure for one that is not known.
func (e *Evidence) Figure(key string) Figure {
	for _, f := range e.Figures {
		if f.Key == key {
			return f
		}
	}
	return Figure{}
}

// Measure measures one page by itself, a page of ours beside the field: where
// it puts the keyword, and its figures by their keys.
func Measure(d *corpus.Doc, keyword string) (Placement, map[string]float64) {
	at := PlacementOf(d, keyword)
	all := map[string]float64{}
	for _, k := range kindsOfFigure {
		all[k.key] = k.of(d, at)
	}
	return at, all
}

// figures measures every page.
func figures(f *corpus.Field, placements []Placement) []Figure {
	all := make([]Figure, 0, len(kindsOfFigure))
	for _, k := range kindsOfFigure {
		values := make([]float64, len(f.Docs))
		for i, d := range f.Docs {
			values[i] = k.of(d, placements[i])
		}
		figure := k.over(values, f.Ranks)
		if k.key == "ease" {
			ease, _ := language.EaseOf(f.Language.Code)
			figure.Unit = ease.Formula
		}
		all = append(all, figure)
	}
	return all
}

// Lengths is the figure "words" of pages with the given words and ranks, for
// those who need nothing else of the evidence.
func Lengths(words, ranks []int) Figure {
	values := make([]float64, len(words))
	for i, n := range words {
		values[i] = count(n)
	}
	return kindsOfFigure[0].over(values, ranks)
}

// over is the figure of some values, outliers set apart.
func (k kindOfFigure) over(values []float64, ranks []int) Figure {
	fig := Figure{Key: k.key, Name: k.name, Group: k.group, Unit: k.unit, Digits: k.digits, Values: values, Outliers: []int{}}
	fig.Range = stats.RangeOf(fig.Values)
	usual := slices.Clone(fig.Values)[:0]
	for i, out := range stats.Outliers(fig.Values) {
		if out {
			fig.Outliers = append(fig.Outliers, ranks[i])
		} else {
			usual = append(usual, fig.Values[i])
		}
	}
	fig.Target = stats.RangeOf(usual)
	return fig
}
