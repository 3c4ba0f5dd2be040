package demand

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"corpulan/core/language"
	"corpulan/core/text"
)

// Column is what a column can hold.
type Column string

// The fields of a list.
const (
	KeywordField     Column = "keyword"
	VolumeField      Column = "volume"
	DifficultyField  Column = "difficulty"
	CostField        Column = "cost"
	CompetitionField Column = "competition"
	PositionField    Column = "position"
	AddressField     Column = "address"
	ClicksField      Column = "clicks"
	ImpressionsField Column = "impressions"
	MonthField       Column = "month" // searches of one month; several columns have it
	TrendField       Column = "trend" // searches of several months in one cell, the oldest first
)

// Fields are all fields, in the order they are asked for.
func Fields() []Column {
	return []Column{KeywordField, VolumeField, DifficultyField, CostField, CompetitionField, PositionField, AddressField, ClicksField, ImpressionsField, MonthField, TrendField}
}

// names are what lists call a field in the eight languages, folded. From memory of the trade's
// lists; the longer ones are looked for first, so that "keyword difficulty" is no keyword.
var names = map[Column][]string{
	KeywordField: {"keyword", "keywords", "query", "queries", "top queries", "search term", "search query", "search queries", "term", "phrase",
		"suchbegriff", "suchbegriffe", "suchanfrage", "suchanfragen", "haufigste suchanfragen", "schlusselwort", "begriff",
		"mot cle", "mots cles", "mot-cle", "requete", "requetes", "requetes les plus frequentes", "expression",
		"palabra clave", "palabras clave", "consulta", "consultas", "consultas principales", "parola chiave", "parole chiave", "query di ricerca",
		"zoekwoord", "zoekwoorden", "zoekterm", "zoekopdracht", "zoekopdrachten", "palavra chave", "palavra-chave", "palavras-chave", "termo de pesquisa",
		"sokord", "sokfraga", "sokfragor", "sokterm", "nyckelord"},
	VolumeField: {"volume", "search volume", "searches", "monthly searches", "avg. monthly searches", "avg monthly searches", "average monthly searches", "sv", "msv", "vol", "vol.", "search vol", "search vol.", "suchvol", "suchvol.",
		"suchvolumen", "durchschnittl. suchanfragen pro monat", "suchanfragen pro monat", "volumen", "volume de recherche", "recherches mensuelles", "nombre moyen de recherches mensuelles",
		"volumen de busqueda", "busquedas mensuales", "promedio de busquedas mensuales", "volume di ricerca", "ricerche mensili", "media delle ricerche mensili",
		"zoekvolume", "gem. maandelijkse zoekopdrachten", "volume de pesquisa", "volume de busca", "pesquisas mensais", "media de pesquisas mensais", "sokvolym", "genomsn. antal sokningar per manad"},
	DifficultyField: {"difficulty", "keyword difficulty", "kd", "kd %", "kd-wert", "kd value", "seo difficulty", "schwierigkeit", "keyword-schwierigkeit", "difficulte", "dificultad", "difficolta", "moeilijkheid", "moeilijkheidsgraad", "dificuldade", "svarighet", "svarighetsgrad"},
	CostField: {"cpc", "cost per click", "click price", "price per click", "max. cpc", "klickkosten", "prix par clic", "precio por clic", "prezzo per clic", "prijs per klik", "preco por clique", "klickpris", "avg. cpc", "cost", "bid", "top of page bid", "top of page bid (high range)", "klickpreis", "kosten pro klick", "kosten", "gebot", "cout par clic", "cout", "enchere", "coste por clic", "coste", "puja",
		"costo per clic", "costo", "offerta", "kosten per klik", "bod", "custo por clique", "custo", "lance", "kostnad per klick", "kostnad", "bud"},
	CompetitionField: {"competition", "competition (indexed value)", "wettbewerb", "wettbewerb (indexierter wert)", "concurrence", "competencia", "concorrenza", "concurrentie", "concorrencia", "konkurrens"},
	PositionField:    {"position", "rank", "ranking", "avg. position", "average position", "durchschnittliche position", "rang", "position moyenne", "posicion", "posicion media", "posizione", "posizione media", "positie", "gemiddelde positie", "posicao", "posicao media", "placering", "genomsnittlig position"},
	AddressField:     {"url", "address", "page", "pages", "top pages", "landing page", "seite", "seiten", "adresse", "zielseite", "page de destination", "pagina", "paginas", "pagina de destino", "direccion", "indirizzo", "adres", "endereco", "sida", "sidor", "adress"},
	ClicksField:      {"clicks", "klicks", "clics", "clic", "klikken", "cliques", "klick"},
	TrendField:       {"trend", "trends", "search trend", "monthly trend", "trend 12m", "trendreihe", "trendreihe 12m", "suchtrend", "tendance", "tendances", "tendencia", "tendenza", "tendens"},
	ImpressionsField: {"impressions", "impressionen", "impresiones", "impressioni", "vertoningen", "impressoes", "visningar", "exponeringar"},
}

// aMonth is how the column of a month is called: "Jan 2026", "2026-01", "Searches: Jan 2026".
var aMonth = regexp.MustCompile(`^(searches:? |suchanfragen:? |recherches ?:? |busquedas:? |ricerche:? )?(\p{L}{3,10}\.?[ -]\d{2,4}|\d{4}[-/.]\d{1,2}|\d{1,2}[-/.]\d{4})$`)

// Columns says which column holds what: a field for each, empty for one that is not read.
type Columns struct {
	Fields  []Column `json:"fields"`
	Months  []string `json:"months,omitempty"` // which month a column is of, as 2026-10; empty where it is of none
	Header  bool     `json:"header"`           // the first row names the columns
	Doubts  []Column `json:"doubts"`           // fields of which it is not sure, to be asked
	Skipped int      `json:"skipped"`          // rows before the header

	thousands []byte // which sign marks thousands in each column; 0 where nobody can tell
}

// sampled is how many rows the values are judged by. Our own.
const sampled = 50

// maxLead is how many rows may stand above the header: a title, a date, an empty one. Our own.
const maxLead = 5

// Recognise tells the columns of a table by their names, and where it has none by their values.
func Recognise(rows [][]string) Columns {
	width := 0
	for _, r := range rows[:min(len(rows), sampled)] {
		width = max(width, len(r))
	}
	best := Columns{Fields: make([]Column, width), Doubts: []Column{}}
	for at, row := range rows[:min(len(rows), maxLead+1)] {
		found := make([]Column, width)
		n := 0
		for i, cell := range row {
			if found[i] = named(cell); found[i] != "" {
				n++
			}
		}
		if n > 0 && slices.Contains(found, KeywordField) || n > 1 {
			best.Fields, best.Header, best.Skipped = found, true, at
			break
		}
	}
	best.once()
	if best.Header {
		for i, f := range best.Fields {
			if f == MonthField {
				if best.Months == nil {
					best.Months = make([]string, width)
				}
				best.Months[i] = monthOf(rows[best.Skipped][i])
			}
		}
	}
	if best.Header {
		best.guess(rows[best.Skipped])
	}
	body := rows[min(best.Skipped+bool2int(best.Header), len(rows)):]
	best.byValues(body)
	return best
}

// longestHeader is how long a header is at most that is remembered. Our own.
const longestHeader = 2000

// HeaderOf tells tables of one source by their headings; empty where a table has none, or too many.
func (c Columns) HeaderOf(rows [][]string) string {
	if !c.Header || c.Skipped >= len(rows) {
		return ""
	}
	header := text.Fold(strings.Join(rows[c.Skipped], "\t"))
	if len(header) > longestHeader {
		return ""
	}
	return header
}

// Remembered are the columns as a person said that those below this header are; nobody need be asked again.
func (c Columns) Remembered(fields []string) Columns {
	if len(fields) < len(c.Fields) {
		return c
	}
	c.Fields = slices.Clone(c.Fields)
	for i := range c.Fields {
		c.Fields[i] = Column(fields[i])
	}
	c.Doubts = []Column{}
	return c
}

// Unread are the headings of columns that are not read although something stands in them.
func (c Columns) Unread(rows [][]string) (list []string) {
	if c.HeaderOf(rows) == "" {
		return nil
	}
	body := rows[c.Skipped+1:]
	for i, name := range rows[c.Skipped] {
		name = strings.Join(strings.Fields(name), " ")
		held := slices.ContainsFunc(body[:min(len(body), sampled)], func(r []string) bool { return i < len(r) && strings.TrimSpace(r[i]) != "" })
		if i < len(c.Fields) && c.Fields[i] == "" && name != "" && held {
			list = append(list, name)
		}
	}
	return list
}

func bool2int(b bool) int {
	if b {
		return 1
	}
	return 0
}

// named is the field that a heading names.
func named(cell string) Column {
	folded := strings.Join(strings.Fields(text.Fold(strings.Trim(cell, "\ufeff \"#"))), " ")
	if folded == "" {
		return ""
	}
	if aMonth.MatchString(folded) {
		return MonthField
	}
	bare, _, _ := strings.Cut(folded, " (") // "CPC (USD)"
	bare, _, _ = strings.Cut(bare, " [")
	bare = strings.TrimRight(bare, " €$£")
	for _, f := range Fields() {
		if slices.Contains(names[f], folded) || slices.Contains(names[f], strings.TrimSuffix(bare, " %")) {
			return f
		}
	}
	return ""
}

// shorter are words of headings that name a field among others: "Search Vol.", "Pos. today".
var shorter = map[Column][]string{VolumeField: {"vol", "searches", "suchvolumen"}, DifficultyField: {"kd"}, CostField: {"cpc"}, PositionField: {"pos"}, AddressField: {"url"}, KeywordField: {"keyword", "keywords", "query"}, TrendField: {"trend", "trendreihe"}}

// guess takes headings that hold the name of a field among other words for that field, where no
// other column has it, and notes the doubt.
func (c *Columns) guess(head []string) {
	for _, f := range Fields() {
		if f == MonthField || slices.Contains(c.Fields, f) {
			continue
		}
		for i, cell := range head {
			if i >= len(c.Fields) || c.Fields[i] != "" {
				continue
			}
			said := " " + strings.Join(strings.FieldsFunc(text.Fold(cell), func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) }), " ") + " "
			if slices.ContainsFunc(slices.Concat(names[f], shorter[f]), func(name string) bool { return strings.Contains(said, " "+name+" ") }) {
				c.Fields[i] = f
				c.Doubts = append(c.Doubts, f)
				break
			}
		}
	}
}

// monthOf is the month that a heading names, as 2026-10; empty where its year is not clear.
func monthOf(heading string) string {
	year, month := 0, 0
	for _, w := range strings.FieldsFunc(text.Fold(heading), func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) }) {
		n, err := strconv.Atoi(w)
		switch {
		case err == nil && n > 999:
			year = n
		case err == nil && month == 0 && n >= 1 && n <= 12:
			month = n
		case err == nil && n < 100 && month > 0:
			year = 2000 + n
		case err != nil && language.Month(w) > 0:
			month = language.Month(w)
		}
	}
	if year == 0 || month == 0 {
		return ""
	}
	return fmt.Sprintf("%04d-%02d", year, month)
}

// once leaves the first of several columns that claim one field, and notes the doubt.
func (c *Columns) once() {
	seen := map[Column]bool{}
	for i, f := range c.Fields {
		if f == "" || f == MonthField {
			continue
		}
		if seen[f] {
			c.Fields[i] = ""
			if !slices.Contains(c.Doubts, f) {
				c.Doubts = append(c.Doubts, f)
			}
		}
		seen[f] = true
	}
}

// byValues finds the keywords, and in a table without a header the addresses and the volume,
// by what stands in the columns.
func (c *Columns) byValues(rows [][]string) {
	rows = rows[:min(len(rows), sampled)]
	if len(rows) == 0 {
		return
	}
	type column struct{ text, figures, addresses, words int }
	cols := make([]column, len(c.Fields))
	for _, r := range rows {
		for i := range cols {
			if i >= len(r) {
				continue
			}
			switch cell := strings.TrimSpace(r[i]); {
			case cell == "":
			case strings.HasPrefix(cell, "http://") || strings.HasPrefix(cell, "https://"):
				cols[i].addresses++
			case ParseFigure(cell).Known:
				cols[i].figures++
			default:
				cols[i].text++
				cols[i].words += text.CountWords(cell)
			}
		}
	}
	most := func(of func(column) int) int {
		at := -1
		for i, col := range cols {
			if c.Fields[i] == "" && 2*of(col) > len(rows) && (at < 0 || of(col) > of(cols[at])) {
				at = i
			}
		}
		return at
	}
	if !slices.Contains(c.Fields, KeywordField) {
		if at := most(func(x column) int { return x.text }); at >= 0 {
			c.Fields[at] = KeywordField
			if c.Header {
				c.Doubts = append(c.Doubts, KeywordField)
			}
		}
	}
	if c.Header {
		return
	}
	if at := most(func(x column) int { return x.addresses }); at >= 0 {
		c.Fields[at] = AddressField
	}
	if at := most(func(x column) int { return x.figures }); at >= 0 {
		c.Fields[at] = VolumeField
		c.Doubts = append(c.Doubts, VolumeField)
	}
}
