package evidence

import (
	"cmp"
	"context"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strings"

	"corpulan/core/language"
	"corpulan/core/listed"
	"corpulan/core/themes"
	"corpulan/core/vocabulary"
	"corpulan/web/kit"
	"corpulan/web/parts"

	"github.com/gin-gonic/gin"
)

// tableColumn is a column of a tab's table, with what it sorts by.
type tableColumn struct {
	Name   string
	Sort   string // empty for none
	Num    bool
	Title  string // what it is for
	Choice string // its name among those that are shown by choice; empty for one that always is
}

// columnsOf are the columns of each tab between the mark and the action.
var columnsOf = map[string][]tableColumn{
	"terms": {{"Term", "name", false, "", ""}, {"Tier", "", false, "whether most of the pages use it, many, or some", "tier"}, {"Presence", "", false, "", ""}, {"Pages", "pages", true, "that use it", ""}, {"Uses", "total", true, "on all pages together", "uses"}, {"Uses per page", "median", false, "lower quartile, median and upper quartile, by the median", ""},
		{"Uses in 1,000 words", "rate", true, "the median over the pages, which long pages do not bend", "rate"}, {"In titles", "titles", true, "pages with it in the title: what they want to be found for", "titles"}, {"In headings", "headings", true, "pages with it in a heading: what they treat by itself", "headings"}, {"In openings", "openings", true, "pages with it in the first hundred words", "openings"}, {"In image texts", "images", true, "pages with it in the text of an image", "images"},
		{"Evenness", "even", true, "how evenly the field uses it, in percent: 100 less Gries's deviation of proportions; low where one page uses it for all", "even"}, {"Keyness", "keyness", true, "how much more the field uses it than general language: doublings (log ratio)", "keyness"}},
	"entities":  {{"Entity", "name", false, "", ""}, {"Type", "note", false, "", ""}, {"Told by", "", false, "what tells its type", "told"}, {"Presence", "", false, "", ""}, {"Pages", "pages", true, "", ""}, {"Mentions", "total", true, "on all pages together", ""}, {"Salience", "even", true, "0 to 100: on how many pages, how often, and whether in titles, headings and openings", "even"}},
	"questions": {{"Question", "name", false, "", ""}, {"Asks", "note", false, "for what: a way, a reason, a sum", "asks"}, {"Asked by", "", false, "the results page, or pages by their ranks", ""}, {"Answered on", "", false, "", ""}, {"Pages", "pages", true, "that answer it", ""}, {"Wordings", "total", true, "in which it is asked", "wordings"}, {"Short answer", "", false, "the form that suits a short answer", "form"}},
	"points":    {{"Point", "name", false, "", ""}, {"Theme", "note", false, "", ""}, {"Presence", "", false, "", ""}, {"Pages", "pages", true, "that say so", ""}},
	"facts":     {{"Sentence", "name", false, "", ""}, {"Kind", "note", false, "", ""}, {"Figures", "", false, "", ""}, {"Presence", "", false, "", ""}, {"Pages", "pages", true, "that give it", ""}, {"Page of", "", false, "when the page was published or changed", ""}},
	"listed":    {{"Thing", "name", false, "", ""}, {"Verdict", "note", false, "as pages have it", ""}, {"Presence", "", false, "the higher in a page's list, the larger", ""}, {"Pages", "pages", true, "that list or name it", ""}, {"Place", "place", true, "median of its place in the lists that have it", ""}, {"Price", "price", true, "", ""}},
	"openings":  {},
	"themes":    {{"Theme", "name", false, "", ""}, {"Level", "note", false, "of its headings, as a rule", "level"}, {"Presence", "", false, "", ""}, {"Pages", "pages", true, "", ""}, {"Usual words", "median", false, "lower and upper quartile, by the median", ""}},
}

// columnChoice is a column that can be shown.
type columnChoice struct {
	tableColumn
	Shown bool
}

// columnsCookie keeps which columns somebody has chosen, by tab: "terms=titles.headings&entities=told".
const columnsCookie = "columns"

// choices are the columns of a tab that are shown by choice.
func choices(c *gin.Context, tab string) (list []columnChoice) {
	kept, _ := c.Cookie(columnsCookie)
	chosen, _ := url.ParseQuery(kept)
	for _, x := range columnsOf[tab] {
		if x.Choice != "" {
			list = append(list, columnChoice{x, slices.Contains(strings.Split(chosen.Get(tab), "."), x.Choice)})
		}
	}
	return list
}

// chooseColumns keeps which columns of a tab are shown, and draws its table anew.
func (s *handlers) chooseColumns(c *gin.Context) {
	tab := c.PostForm("tab")
	kept, _ := c.Cookie(columnsCookie)
	chosen, _ := url.ParseQuery(kept)
	var shown []string
	for _, x := range columnsOf[tab] {
		if x.Choice != "" && slices.Contains(c.PostFormArray("column"), x.Choice) {
			shown = append(shown, x.Choice)
		}
	}
	for name := range chosen { // what nobody could have chosen goes
		if columnsOf[name] == nil {
			chosen.Del(name)
		}
	}
	if columnsOf[tab] != nil {
		chosen.Set(tab, strings.Join(shown, "."))
	}
	http.SetCookie(c.Writer, &http.Cookie{Name: columnsCookie, Value: url.QueryEscape(chosen.Encode()), Path: "/", MaxAge: 365 * 24 * 3600, HttpOnly: true, SameSite: http.SameSiteLaxMode, Secure: kit.Secure(c.Request)})
	kit.Back(c, fmt.Sprintf("/studies/%d/evidence?tab=%s", kit.StudyOf(c).ID, url.QueryEscape(tab)))
}

// columnsFor are the columns of a tab; searched says that lists of keywords are there, which
// know how much terms and questions are searched.
func columnsFor(tab string, searched bool) []tableColumn {
	columns := columnsOf[tab]
	if at := map[string]string{"terms": "Pages", "questions": "Pages"}[tab]; searched && at != "" {
		i := slices.IndexFunc(columns, func(c tableColumn) bool { return c.Name == at })
		return slices.Insert(slices.Clone(columns), i+1, tableColumn{"Searched", "volume", true, "a month, as keyword lists say", ""})
	}
	return columns
}

// byTerm compares rows of terms by a figure.
func byTerm(figure func(*vocabulary.Term) float64) func(a, b parts.FindingRow) int {
	return func(a, b parts.FindingRow) int {
		if a.Term == nil || b.Term == nil {
			return 0
		}
		return cmp.Compare(figure(a.Term), figure(b.Term))
	}
}

// byThing compares rows of listed things by a figure.
func byThing(figure func(*listed.Thing) float64) func(a, b parts.FindingRow) int {
	return func(a, b parts.FindingRow) int {
		if a.Thing == nil || b.Thing == nil {
			return 0
		}
		return cmp.Compare(figure(a.Thing), figure(b.Thing))
	}
}

// sortRows orders rows by a column; the field's own order stays for what is the same.
func sortRows(rows []parts.FindingRow, by string, down bool) {
	currency := mainCurrency(rows)
	compare := map[string]func(a, b parts.FindingRow) int{
		"name": func(a, b parts.FindingRow) int {
			return strings.Compare(strings.ToLower(a.Text), strings.ToLower(b.Text))
		},
		"note":   func(a, b parts.FindingRow) int { return strings.Compare(a.Note, b.Note) },
		"volume": func(a, b parts.FindingRow) int { return cmp.Compare(a.Asked.Volume.Value, b.Asked.Volume.Value) },
		"pages":  func(a, b parts.FindingRow) int { return a.Pages - b.Pages },
		"total":  func(a, b parts.FindingRow) int { return a.Total - b.Total },
		"median": func(a, b parts.FindingRow) int { return cmp.Compare(a.Range.Median, b.Range.Median) },
		"place":  byThing(parts.PlaceOf),
		"price":  byThing(func(t *listed.Thing) float64 { return priceIn(t, currency) }),
		"even":   func(a, b parts.FindingRow) int { return a.Even - b.Even },
		"rate":   byTerm(func(t *vocabulary.Term) float64 { return t.Rate.Median }), "keyness": byTerm(func(t *vocabulary.Term) float64 { return t.LogRatio }),
		"titles": byTerm(func(t *vocabulary.Term) float64 { return float64(t.Titles) }), "headings": byTerm(func(t *vocabulary.Term) float64 { return float64(t.Headings) }),
		"openings": byTerm(func(t *vocabulary.Term) float64 { return float64(t.Openings) }), "images": byTerm(func(t *vocabulary.Term) float64 { return float64(t.Images) }),
	}[by]
	if compare == nil {
		return
	}
	slices.SortStableFunc(rows, func(a, b parts.FindingRow) int {
		if down {
			return compare(b, a)
		}
		return compare(a, b)
	})
}

// against names the general language that terms are compared with.
func against(code string) string {
	switch name := language.Name(code); {
	case code == "en":
		return "English as films speak it and encyclopedias and newspapers write it"
	case slices.Contains(language.Codes(), code):
		return name + " as films speak it"
	}
	return ""
}

// semanticFields groups rows by their semantic field, in the order of the leading terms; what stands
// alone comes last. A field has the name of the theme that its terms mostly stand in, else that of
// its leading term.
func semanticFields(ctx context.Context, an *kit.Analysis, rows []parts.FindingRow) ([]semanticField, error) {
	var list []semanticField
	at := map[string]int{}
	var alone []parts.FindingRow
	for _, r := range rows {
		if r.Term == nil || r.Term.Field == "" {
			alone = append(alone, r)
			continue
		}
		i, ok := at[r.Term.Field]
		if !ok {
			i = len(list)
			at[r.Term.Field] = i
			list = append(list, semanticField{Lead: r.Lead})
		}
		list[i].Rows = append(list[i].Rows, r)
	}
	groups := make([][][]string, len(list))
	for i, f := range list {
		for _, r := range f.Rows {
			groups[i] = append(groups[i], r.Term.Keys)
		}
	}
	names, err := themes.Naming(ctx, an.Pages, an.Study.Language, an.Evidence.Themes, groups)
	for i, t := range names {
		if t >= 0 {
			list[i].Lead = an.Evidence.Themes[t].Label
		}
	}
	if len(alone) > 0 {
		list = append(list, semanticField{Rows: alone})
	}
	return list, err
}
