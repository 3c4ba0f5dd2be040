package store

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"unicode"
)

// Found is something in which words that were looked for stand.
type Found struct {
	Kind        string // "study", "brief", "draft", "page", "text", "remark", "own", "keyword" or "slate"
	StudyID     int64  // 0 for what belongs to none
	Other       int64  // a list or a slate; of a text the result it is of
	Publication string
	Title       string // the keyword of the study, or what it is itself
	Text        string // where the words stand; matches between \x02 and \x03
	Address     string
}

// queryOf is what people type as a query of PostgreSQL: every word, its beginning enough; empty
// for no words.
func queryOf(typed string) string {
	words := wordsOf(typed)
	for i, w := range words {
		words[i] = fmt.Sprintf("'%s':*", w)
	}
	return strings.Join(words, " & ")
}

// wordsOf are the words that are looked for, of letters and digits only.
func wordsOf(typed string) []string {
	words := strings.FieldsFunc(typed, func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsNumber(r) })
	return words[:min(len(words), 12)]
}

// longest is the longest of the words.
func longest(typed string) string {
	return slices.MaxFunc(wordsOf(typed), func(a, b string) int { return cmp.Compare(len(a), len(b)) })
}

// lately is how many of the newest rows are looked through one by one before the index is asked.
// Our own, by measurement: 7 ms for a word on every tenth of 100,000 pages.
const lately = 1000

// newest are the newest rows of a table that have the words, so many at most. Common words stand
// in the newest rows, and are found there without looking at all that have them; for others the
// index is asked. Left to itself PostgreSQL reads backwards through all rows where it takes a word
// for common that has not been written lately.
func newest(table, columns, most string) string {
	const has = "t.publication_id in @publications and t.words @@ to_tsquery('simple', @q)"
	return `with top as (select max(id) - ` + strconv.Itoa(lately) + ` as id from ` + table + `),
		late as materialized (select ` + columns + ` from ` + table + ` t where t.id > (select id from top) and ` + has + ` order by t.id desc limit ` + most + `),
		enough as (select count(*) >= ` + most + ` as yes from late)
		select * from late where (select yes from enough) union all
		(select * from (select ` + columns + ` from ` + table + ` t where not (select yes from enough) and ` + has + ` offset 0) ever order by id desc limit ` + most + `)
		order by id desc limit ` + most
}

// Search finds words anywhere in the publications: keywords, what was typed into briefs and
// drafts, titles and texts of ranked pages, remarks, own pages, lists and slates; at most so many of each
// kind, studies first.
func (a Across) Search(ctx context.Context, typed string, most int) ([]Found, error) {
	q := queryOf(typed)
	if q == "" {
		return nil, nil
	}
	const marks = `StartSel="` + "\x02" + `", StopSel="` + "\x03" + `"`
	const headline = `to_tsquery('simple', @q), '` + marks + `, MaxWords=22, MinWords=8, MaxFragments=1')`
	// Of a long text what is around the first of the longest word: to choose the best place
	// PostgreSQL would take all of it to words again, 3 ms a page.
	const near = `ts_headline('simple', substring('` + end + `' || x.text || '` + end + `' from greatest(1, 1 + length(x.text) - coalesce(length(substring(x.text, @from)), length(x.text)) - @before) for @around), to_tsquery('simple', @q), '` + marks + `, HighlightAll=true')`
	// The query stands in each part as it is: joined from one place, it would keep the planner from
	// knowing how many rows it finds.
	var list []Found
	err := a.store.db.WithContext(ctx).Raw(`
		with p as (select id, name from publications where id in @publications and archived_at is null)
		(select 'study' as kind, s.id as study_id, 0 as other, p.name as publication, s.keyword as title, '' as text, '' as address, 1 as place, s.created_at as at
			from studies s join p on p.id = s.publication_id where s.words @@ to_tsquery('simple', @q) and s.deleted_at is null order by at desc limit @most)
		union all
		(select 'brief', s.id, 0, p.name, s.keyword, `+near+`, '', 2, x.updated_at
			from (select b.*, left((select string_agg(v #>> '{}', ' · ') from jsonb_path_query(b.choices, 'strict $.**') v where jsonb_typeof(v) = 'string'), 200000) as text
				from briefs b where b.publication_id in @publications and b.words @@ to_tsquery('simple', @q) order by b.updated_at desc limit @most) x
			join studies s on s.id = x.study_id join p on p.id = s.publication_id where s.deleted_at is null)
		union all
		(select 'draft', s.id, 0, p.name, s.keyword, `+near+`, '', 3, x.changed_at
			from (select d.study_id, d.changed_at, left((select string_agg(v #>> '{}', '') from jsonb_path_query(d.document, 'strict $.**.text') v where jsonb_typeof(v) = 'string'), 200000) as text
				from drafts d where d.publication_id in @publications and d.words_in @@ to_tsquery('simple', @q) order by d.changed_at desc limit @most) x
			join studies s on s.id = x.study_id join p on p.id = s.publication_id where s.deleted_at is null)
		union all
		(select 'remark', s.id, 0, p.name, s.keyword, ts_headline('simple', r.body, `+headline+`, '', 4, r.made_at
			from remarks r join studies s on s.id = r.study_id join p on p.id = s.publication_id where r.words @@ to_tsquery('simple', @q) and s.deleted_at is null order by r.made_at desc limit @most)
		union all
		(select 'page', s.id, 0, p.name, s.keyword, ts_headline('simple', r.title || ' · ' || r.snippet, `+headline+`, r.url, 5, s.created_at
			from (`+newest("results", "id, study_id, url, title, snippet", "@most")+`) r
			join studies s on s.id = r.study_id join p on p.id = s.publication_id where s.deleted_at is null)
		union all
		(select 'text', s.id, x.result, p.name, x.title, `+near+`, x.url, 6, x.at
			from (select x.*, coalesce(nullif(rd.document->>'title', ''), x.title_there) as title, text_of_page(rd.document) as text
				from (select distinct on (r.url) r.id as result, r.study_id, r.url, r.title as title_there, rd.id as reading, c.captured_at as at
					from (`+newest("readings", "id, capture_id", "@most * 3")+`) rd
					join results r on r.reading_id = rd.id join captures c on c.id = rd.capture_id join studies s on s.id = r.study_id and s.deleted_at is null
					order by r.url, r.id desc) x
				join readings rd on rd.id = x.reading order by x.reading desc limit @most) x
			join studies s on s.id = x.study_id join p on p.id = s.publication_id)
		union all
		(select 'own', 0, 0, p.name, o.title, '', o.url, 7, o.read_at from own_pages o join p on p.id = o.publication_id where o.words @@ to_tsquery('simple', @q) order by o.id desc limit @most)
		union all
		(select 'keyword', 0, l.id, p.name, k.key, coalesce(l.plan->>'name', ''), '', 8, l.created_at
			from keywords k join keyword_lists l on l.id = k.list_id join p on p.id = l.publication_id where k.words @@ to_tsquery('simple', @q) and l.deleted_at is null order by k.volume desc nulls last limit @most)
		union all
		(select 'slate', 0, s.id, p.name, coalesce(s.plan->>'name', ''), '', '', 9, s.created_at
			from slates s join p on p.id = s.publication_id where s.words @@ to_tsquery('simple', @q) and s.deleted_at is null order by s.id desc limit @most)
		order by place, at desc nulls last`,
		map[string]any{"q": q, "from": `(?i)\m` + longest(typed) + `.*`, "publications": append([]int64{0}, a.publications...), "most": most, "before": before, "around": around}).Scan(&list).Error
	for i, f := range list {
		if f.Kind == "brief" || f.Kind == "draft" || f.Kind == "text" {
			list[i].Text = cutOut(f.Text)
		}
	}
	return list, err
}

// How much of a long text is shown, in characters: before the word that is looked for, and in all.
// Our own: a line of the page.
const (
	before = 80
	around = 190
)

// end marks both ends of a long text: where it is not in what was cut out, there is more.
const end = "\x04"

// cutOut is a text that was cut out of a longer one, without what is left of words at its ends.
func cutOut(text string) string {
	whole, begins := strings.CutPrefix(text, end)
	if !begins {
		_, rest, _ := strings.Cut(text, " ")
		whole = "…\u00a0" + rest
	}
	if all, ends := strings.CutSuffix(whole, end); ends {
		return all
	}
	if i := strings.LastIndex(whole, " "); i > 0 {
		whole = whole[:i]
	}
	return whole + "\u00a0…"
}
