package store

import (
	"context"
	"encoding/json"
	"slices"
	"time"

	"corpulan/core/demand"

	"gorm.io/gorm/clause"
)

// ResultsPage is what a search engine gave for a query, to compare keywords by.
type ResultsPage struct {
	PublicationID int64
	Language      string
	Country       string
	Key           string // the query as demand.Same has it
	Addresses     JSONSlice[string]
	Offered       JSONSlice[string] // related searches and suggestions
	Asked         JSONSlice[string]
	MadeAt        time.Time
}

// KeepResultsPage keeps what was given for a query; what was given before goes.
func (s Scope) KeepResultsPage(ctx context.Context, p ResultsPage) error {
	p.PublicationID, p.MadeAt = s.publication, time.Now()
	for _, l := range []*JSONSlice[string]{&p.Addresses, &p.Offered, &p.Asked} {
		*l = append(JSONSlice[string]{}, *l...) // an empty list and never null
	}
	return s.store.db.WithContext(ctx).Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "publication_id"}, {Name: "language"}, {Name: "country"}, {Name: "key"}}, UpdateAll: true}).Create(&p).Error
}

// firstOfResults is how many addresses of a study's results are compared.
const firstOfResults = 20

// Ranked are the addresses of those queries of a market of which results are known: of results
// pages that were asked for, and of the latest gatherings of studies, which go before.
func (s Scope) Ranked(ctx context.Context, language, country string, keys []string) (demand.Results, error) {
	out := demand.Results{}
	for part := range slices.Chunk(keys, 5000) {
		rows, err := s.store.db.WithContext(ctx).Raw("select key, addresses from results_pages where publication_id = ? and language = ? and country = ? and key in ?", s.publication, language, country, part).Rows()
		if err != nil {
			return nil, err
		}
		for rows.Next() {
			var key string
			var raw []byte
			var list []string
			if err := rows.Scan(&key, &raw); err != nil {
				_ = rows.Close()
				return nil, err
			}
			if err := json.Unmarshal(raw, &list); err != nil {
				_ = rows.Close()
				return nil, err
			}
			out[key] = list
		}
		if err := rows.Close(); err != nil {
			return nil, err
		}
	}
	wanted := make(map[string]bool, len(keys))
	for _, k := range keys {
		wanted[k] = true
	}
	rows, err := s.store.db.WithContext(ctx).Raw(`select s.keyword, r.url from studies s
		join lateral (select id from gatherings g where g.study_id = s.id and g.searched order by id desc limit 1) g on true
		join results r on r.gathering_id = g.id and not r.added and r.rank <= ?
		where s.publication_id = ? and s.language = ? and s.country = ? and s.deleted_at is null order by s.id, r.rank`, firstOfResults, s.publication, language, country).Rows()
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	found := demand.Results{}
	for rows.Next() {
		var keyword, url string
		if err := rows.Scan(&keyword, &url); err != nil {
			return nil, err
		}
		if key := demand.Same(keyword); wanted[key] {
			found[key] = append(found[key], url)
		}
	}
	for k, v := range found {
		out[k] = v
	}
	return out, rows.Err()
}

// ResultsMark changes whenever results of a market become known.
func (s Scope) ResultsMark(ctx context.Context, language, country string) (string, error) {
	var mark string
	err := s.store.db.WithContext(ctx).Raw(`select
		(select count(*) || ' ' || coalesce(max(made_at), 'epoch') from results_pages where publication_id = ? and language = ? and country = ?) || ' ' ||
		(select coalesce(max(g.id), 0) || ' ' || count(*) filter (where g.searched) from gatherings g join studies s on s.id = g.study_id
		 where s.publication_id = ? and s.language = ? and s.country = ? and s.deleted_at is null)`,
		s.publication, language, country, s.publication, language, country).Scan(&mark).Error
	return mark, err
}
