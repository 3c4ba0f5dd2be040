package demand

import (
	"slices"
	"strings"
	"unicode/utf8"

	"corpulan/core/message"
	"corpulan/core/text"
)

// Bounds of a list. Our own: the largest export of a tool has some tens of thousands of rows.
const (
	MaxKeywords    = 50_000
	LongestKeyword = 200 // characters; a query of search engines has at most 128 or so
)

// ErrNoKeywords says that no column of a table holds keywords.
var ErrNoKeywords = message.Errorf("no column of this table holds keywords")

// Dropped is a row that was not taken, and why.
type Dropped struct {
	Row    int             `json:"row"` // from 1, as spreadsheets count
	Text   string          `json:"text"`
	Reason message.Message `json:"reason"`
}

// Read takes keywords from a table by its columns. Rows that hold none are told; the same query
// in other spellings (case, accents, hyphens, order of words left as it is) becomes one, whose
// figures are the first ones known, the largest of volumes.
func Read(rows [][]string, c Columns) ([]Keyword, []Dropped, error) {
	at := slices.Index(c.Fields, KeywordField)
	if at < 0 {
		return nil, nil, ErrNoKeywords
	}
	list, dropped := []Keyword{}, []Dropped{}
	index := map[string]int{}
	begin := min(c.Skipped+bool2int(c.Header), len(rows))
	c.thousands = thousandsOf(rows[begin:], len(c.Fields))
	last := len(rows) - 1
	for last > begin && isEmpty(rows[last]) {
		last--
	}
	for n := begin; n < len(rows); n++ {
		row := rows[n]
		if len(row) <= at || isEmpty(row) {
			continue
		}
		word := Tidy(row[at])
		drop := func(why message.Message) { dropped = append(dropped, Dropped{n + 1, shorten(word), why}) }
		switch {
		case word == "" || !text.HasWord(word):
			drop("there is no keyword in it")
			continue
		case (n == last || n == begin) && sums[text.Fold(strings.Trim(word, ":"))] && len(c.Fields) > 1:
			drop("it sums the others up")
			continue
		case utf8.RuneCountInString(word) > LongestKeyword:
			drop(message.Of("it is longer than %d characters", LongestKeyword))
			continue
		}
		k := keywordOf(word, row, c)
		key := Same(word)
		if i, ok := index[key]; ok {
			list[i].merge(k)
			continue
		}
		if len(list) == MaxKeywords {
			drop(message.Of("a list has at most %d keywords", MaxKeywords))
			continue
		}
		index[key] = len(list)
		list = append(list, k)
	}
	return list, dropped, nil
}

// sums are what the line is called that sums a list up, in the eight languages, folded. From memory.
var sums = map[string]bool{"total": true, "totals": true, "grand total": true, "gesamt": true, "insgesamt": true, "summe": true, "gesamtsumme": true,
	"total general": true, "suma": true, "totale": true, "somma": true, "totaal": true, "totalt": true, "summa": true}

func isEmpty(row []string) bool { return strings.TrimSpace(strings.Join(row, "")) == "" }

// thousandsOf tells for each column which sign marks thousands in it, by its own cells, or by all of the table where they do not say.
func thousandsOf(rows [][]string, columns int) []byte {
	rows = rows[:min(len(rows), sampledForSigns)]
	marks := make([]byte, columns)
	var all []string
	for i := range marks {
		var cells []string
		for _, r := range rows {
			if i < len(r) && ParseFigure(r[i]).Known {
				cells = append(cells, r[i])
			}
		}
		marks[i] = thousandsIn(cells)
		all = append(all, cells...)
	}
	whole := thousandsIn(all)
	for i := range marks {
		if marks[i] == 0 {
			marks[i] = whole
		}
	}
	return marks
}

// sampledForSigns is how many rows are looked at for that. Our own.
const sampledForSigns = 500

// Tidy is a keyword as it is shown: without formulas' signs, quotes and operators around it.
func Tidy(s string) string {
	s = strings.Map(func(r rune) rune {
		if r < ' ' || r == utf8.RuneError {
			return ' '
		}
		return r
	}, s)
	return strings.Join(strings.Fields(strings.Trim(s, "\ufeff \"'[]=+@")), " ")
}

// Same is the same for spellings of one query.
func Same(s string) string {
	return strings.Join(strings.FieldsFunc(text.Fold(s), func(r rune) bool { return r == ' ' || r == '-' || r == '\'' }), " ")
}

func shorten(s string) string {
	const most = 80 // characters; our own
	if r := []rune(s); len(r) > most {
		return string(r[:most]) + "…"
	}
	return s
}

func keywordOf(word string, row []string, c Columns) Keyword {
	k := Keyword{Text: word}
	for i, f := range c.Fields {
		if i >= len(row) || f == "" {
			continue
		}
		cell, figure := row[i], ParseFigure(row[i])
		if i < len(c.thousands) {
			figure = parse(cell, c.thousands[i])
		}
		switch f {
		case VolumeField:
			k.Volume = ParseCount(cell)
		case DifficultyField:
			k.Difficulty = figure
		case CostField:
			k.Cost = figure
		case CompetitionField:
			k.Competition = figure
		case PositionField:
			k.Position = figure
		case TrendField:
			k.Trend = trendIn(cell)
		case ClicksField:
			k.Clicks = ParseCount(cell)
		case ImpressionsField:
			k.Impressions = ParseCount(cell)
		case AddressField:
			k.Address = strings.TrimSpace(cell)
		}
	}
	for _, i := range c.monthColumns() {
		if i < len(row) {
			k.Trend = append(k.Trend, ParseCount(row[i]))
		}
		if i < len(c.Months) {
			k.Until = c.Months[i]
		}
	}
	if k.Address != "" {
		k.Places = []Place{{k.Address, k.Position, k.Clicks, k.Impressions}}
	}
	return k
}

// trendIn are the searches of several months in one cell: "880|1.000|1.300", "[10, 20, 30]", "0.1,0.2,1". Fewer than fewestInCell
// are none.
func trendIn(cell string) (list []Figure) {
	cell = strings.Trim(strings.TrimSpace(cell), "[](){}\"")
	for _, mark := range []string{"|", ";", "/", ", ", " ", ","} {
		parts := strings.Split(cell, mark)
		if len(parts) < fewestInCell {
			continue
		}
		for _, p := range parts {
			x := ParseCount(strings.Trim(p, ", \""))
			if !x.Known {
				return nil
			}
			list = append(list, x)
		}
		return list
	}
	return nil
}

// fewestInCell are in a cell that tells a trend. Our own.
const fewestInCell = 6

// monthColumns are the columns of months, the oldest first; those whose month is not clear stay
// where they stand.
func (c Columns) monthColumns() (list []int) {
	for i, f := range c.Fields {
		if f == MonthField {
			list = append(list, i)
		}
	}
	if len(c.Months) < len(c.Fields) || slices.ContainsFunc(list, func(i int) bool { return c.Months[i] == "" }) {
		return list
	}
	slices.SortStableFunc(list, func(a, b int) int { return strings.Compare(c.Months[a], c.Months[b]) })
	return list
}

// Merge puts what a second list says of queries to a first: figures it does not have, places,
// and the queries that are new. It tells how many those are.
func Merge(list, more []Keyword) ([]Keyword, int) {
	list = slices.Clone(list)
	index := make(map[string]int, len(list))
	for i, k := range list {
		index[Same(k.Text)] = i
	}
	fresh := 0
	for _, k := range more {
		key := Same(k.Text)
		if i, ok := index[key]; ok {
			list[i].Spellings, list[i].Places = slices.Clone(list[i].Spellings), slices.Clone(list[i].Places)
			list[i].merge(k)
			continue
		}
		if len(list) < MaxKeywords {
			index[key] = len(list)
			list = append(list, k)
			fresh++
		}
	}
	return list, fresh
}

// merge takes over what another row says of the same query.
func (k *Keyword) merge(o Keyword) {
	if strings.EqualFold(o.Text, k.Text) && o.Text > k.Text { // small letters are how it is mostly typed
		k.Text, o.Text = o.Text, k.Text
	}
	if !strings.EqualFold(o.Text, k.Text) && !slices.Contains(k.Spellings, o.Text) {
		k.Spellings = append(k.Spellings, o.Text)
	}
	if o.Volume.Known && (!k.Volume.Known || o.Volume.Value > k.Volume.Value) {
		k.Volume = o.Volume // lists give spellings the volume of all of them together
	}
	for _, x := range []struct{ mine, theirs *Figure }{{&k.Difficulty, &o.Difficulty}, {&k.Cost, &o.Cost}, {&k.Competition, &o.Competition}, {&k.Position, &o.Position}, {&k.Clicks, &o.Clicks}, {&k.Impressions, &o.Impressions}} {
		if !x.mine.Known {
			*x.mine = *x.theirs
		}
	}
	k.place(o.Places)
	if len(k.Trend) == 0 || o.Until > k.Until && len(o.Trend) >= len(k.Trend) {
		k.Trend, k.Until = o.Trend, o.Until
	}
}

// maxPlaces is how many own pages are kept of one query. Our own.
const maxPlaces = 20

// place adds where pages of ours stand; what is said of a page anew takes the place of what was
// said before. The keyword's own figures are those of the page that stands best.
func (k *Keyword) place(more []Place) {
	for _, p := range more {
		if i := slices.IndexFunc(k.Places, func(x Place) bool { return x.Address == p.Address }); i >= 0 {
			k.Places[i] = p
		} else if len(k.Places) < maxPlaces {
			k.Places = append(k.Places, p)
		}
	}
	for _, p := range k.Places {
		if k.Address == "" || p.Position.Known && (!k.Position.Known || p.Position.Value < k.Position.Value) {
			k.Address, k.Position = p.Address, p.Position
		}
	}
}
