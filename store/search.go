package store

import (
	"context"
	"fmt"
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
	var words []string
	for _, w := range strings.FieldsFunc(typed, func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsNumber(r) }) {
		words = append(words, fmt.Sprintf("'%s':*", w))
		if len(words) == 12 {
			break
		}
	}
	return strings.Join(words, " & ")
}

// Search finds words anywhere in the publications: keywords, what was typed into briefs and
// drafts, titles and texts of ranked pages, remarks, own pages, lists and slates; at most so many of each
// kind, studies first.
func (a Across) Search(ctx context.Context, typed string, most int) ([]Found, error) {
	q := queryOf(typed)
	if q == "" {
		return nil, nil
	}
	const headline = `'StartSel="` + "\x02" + `", StopSel="` + "\x03" + `", MaxWords=22, MinWords=8, MaxFragments=1'`
	// The query stands in each part as it is: joined from one place, it would keep the planner from
	// knowing how many rows it finds.
	var list []Found
	err := a.store.db.WithContext(ctx).Raw(`
		with p as (select id, name from publications where id in @publications and archived_at is null)
		(select 'study' as kind, s.id as study_id, 0 as other, p.name as publication, s.keyword as title, '' as text, '' as address, 1 as place, s.created_at as at
			from studies s join p on p.id = s.publication_id where s.words @@ to_tsquery('simple', @q) and s.deleted_at is null order by at desc limit @most)
		union all
		(select 'brief', s.id, 0, p.name, s.keyword, ts_headline('simple', x.text, to_tsquery('simple', @q), `+headline+`), '', 2, x.updated_at
			from (select b.*, left((select string_agg(v #>> '{}', ' · ') from jsonb_path_query(b.choices, 'strict $.**') v where jsonb_typeof(v) = 'string'), 200000) as text
				from briefs b where b.publication_id in @publications and b.words @@ to_tsquery('simple', @q) order by b.updated_at desc limit @most) x
			join studies s on s.id = x.study_id join p on p.id = s.publication_id where s.deleted_at is null)
		union all
		(select 'draft', s.id, 0, p.name, s.keyword, ts_headline('simple', x.text, to_tsquery('simple', @q), `+headline+`), '', 3, x.changed_at
			from (select d.study_id, d.changed_at, left((select string_agg(v #>> '{}', '') from jsonb_path_query(d.document, 'strict $.**.text') v where jsonb_typeof(v) = 'string'), 200000) as text
				from drafts d where d.publication_id in @publications and d.words_in @@ to_tsquery('simple', @q) order by d.changed_at desc limit @most) x
			join studies s on s.id = x.study_id join p on p.id = s.publication_id where s.deleted_at is null)
		union all
		(select 'remark', s.id, 0, p.name, s.keyword, ts_headline('simple', r.body, to_tsquery('simple', @q), `+headline+`), '', 4, r.made_at
			from remarks r join studies s on s.id = r.study_id join p on p.id = s.publication_id where r.words @@ to_tsquery('simple', @q) and s.deleted_at is null order by r.made_at desc limit @most)
		union all
		(select 'page', s.id, 0, p.name, s.keyword, ts_headline('simple', r.title || ' · ' || r.snippet, to_tsquery('simple', @q), `+headline+`), r.url, 5, s.created_at
			from (select r.* from results r where r.publication_id in @publications and r.words @@ to_tsquery('simple', @q) order by r.id desc limit @most) r
			join studies s on s.id = r.study_id join p on p.id = s.publication_id where s.deleted_at is null)
		union all
		(select 'text', s.id, x.result, p.name, coalesce(nullif(rd.document->>'title', ''), x.title), ts_headline('simple', text_of_page(rd.document), to_tsquery('simple', @q), `+headline+`), x.url, 6, x.at
			from (select * from (select distinct on (r.url) r.id as result, r.study_id, r.url, r.title, rd.id as reading, c.captured_at as at
				from (select rd.id, rd.capture_id from readings rd where rd.publication_id in @publications and rd.words @@ to_tsquery('simple', @q) order by rd.id desc limit @most * 3) rd
				join results r on r.reading_id = rd.id join captures c on c.id = rd.capture_id join studies s on s.id = r.study_id and s.deleted_at is null
				order by r.url, r.id desc) x order by reading desc limit @most) x
			join readings rd on rd.id = x.reading
			join studies s on s.id = x.study_id join p on p.id = s.publication_id order by x.reading desc)
		union all
		(select 'own', 0, 0, p.name, o.title, '', o.url, 7, o.read_at from own_pages o join p on p.id = o.publication_id where o.words @@ to_tsquery('simple', @q) order by o.id desc limit @most)
		union all
		(select 'keyword', 0, l.id, p.name, k.key, coalesce(l.plan->>'name', ''), '', 8, l.created_at
			from keywords k join keyword_lists l on l.id = k.list_id join p on p.id = l.publication_id where k.words @@ to_tsquery('simple', @q) and l.deleted_at is null order by k.volume desc nulls last limit @most)
		union all
		(select 'slate', 0, s.id, p.name, coalesce(s.plan->>'name', ''), '', '', 9, s.created_at
			from slates s join p on p.id = s.publication_id where s.words @@ to_tsquery('simple', @q) and s.deleted_at is null order by s.id desc limit @most)
		order by place, at desc nulls last`,
		map[string]any{"q": q, "publications": append([]int64{0}, a.publications...), "most": most}).Scan(&list).Error
	return list, err
}
