package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"slices"
	"time"

	"corpulan/core/demand"
	"corpulan/core/message"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// KeywordList is a list of keywords for one market.
type KeywordList struct {
	ID            int64
	PublicationID int64
	Language      string // ISO 639-1
	Country       string // ISO 3166-1 alpha-2, lower case
	Width         float64
	Plan          JSONType[ListPlan]
	Work          JSONType[Work]
	Change        int64 // rises with every keyword and every result
	CreatedAt     time.Time
	DeletedAt     *time.Time
}

// Name is how a person calls the list.
func (l KeywordList) Name() string { return l.Plan.Data().Name }

// ListPlan is what people do to a list.
type ListPlan struct {
	Name string      `json:"name"`
	Hand demand.Hand `json:"hand"`
}

// Work is what is done to a list in the background, or was done last.
type Work struct {
	Kind    string       `json:"kind,omitempty"` // as queue.DemandArgs has it
	Done    int          `json:"done"`
	Of      int          `json:"of"`
	Fresh   int          `json:"fresh"` // keywords it brought
	Running bool         `json:"running"`
	Stop    bool         `json:"stop"` // a person has asked it to
	Problem message.Kept `json:"problem,omitempty"`
	At      time.Time    `json:"at"`
}

// Listed is a list as the overview shows it.
type Listed struct {
	KeywordList
	Keywords int
	Volume   float64
}

// MaxLists is how many lists of keywords a publication keeps. Our own.
const MaxLists = 500

// CreateList keeps a new list.
func (s Scope) CreateList(ctx context.Context, l *KeywordList) error {
	var have int64
	if err := s.db(ctx).Model(&KeywordList{}).Count(&have).Error; err != nil {
		return err
	}
	if have >= MaxLists {
		return ErrTooMany
	}
	l.PublicationID, l.CreatedAt = s.publication, time.Now()
	if l.Width == 0 {
		l.Width = 0.5
	}
	return s.store.db.WithContext(ctx).Create(l).Error
}

// List finds a list by its number, one that was deleted too.
func (s Scope) List(ctx context.Context, id int64) (KeywordList, error) {
	return take[KeywordList](s.db(ctx), id)
}

// Lists are the lists of the publication, the newest first.
func (s Scope) Lists(ctx context.Context, deleted bool) ([]Listed, error) {
	q := s.db(ctx).Table("keyword_lists l").Select("l.*, (select count(*) from keywords k where k.list_id = l.id) as keywords, (select coalesce(sum(volume), 0) from keywords k where k.list_id = l.id) as volume").Order("id desc")
	if deleted {
		q = q.Where("deleted_at is not null")
	} else {
		q = q.Where("deleted_at is null")
	}
	return find[Listed](q)
}

// lockList makes others who would change the same list wait.
func (s Scope) lockList(ctx context.Context, id int64) (KeywordList, error) {
	return take[KeywordList](s.db(ctx).Clauses(forChange), id)
}

// Keywords are those of a list, the most searched first.
func (s Scope) Keywords(ctx context.Context, list int64) ([]demand.Keyword, error) {
	rows, err := s.store.db.WithContext(ctx).Raw("select keyword from keywords where publication_id = ? and list_id = ? order by volume desc nulls last, key", s.publication, list).Rows()
	if err != nil {
		return nil, err
	}
	return scanKeywords(rows)
}

func scanKeywords(rows *sql.Rows) ([]demand.Keyword, error) {
	defer rows.Close()
	out := []demand.Keyword{}
	for rows.Next() {
		var raw []byte
		if err := rows.Scan(&raw); err != nil {
			return nil, err
		}
		var k demand.Keyword
		if err := json.Unmarshal(raw, &k); err != nil {
			return nil, err
		}
		out = append(out, k)
	}
	return out, rows.Err()
}

// Merged tells what became of keywords that were put to a list.
type Merged struct{ Fresh, Known, Left int }

// PutKeywords puts keywords to a list, or what they say to those it has.
func (s Scope) PutKeywords(ctx context.Context, list int64, more []demand.Keyword) (Merged, error) {
	var m Merged
	err := s.InTx(ctx, func(tx Scope, _ *sql.Tx) error {
		if _, err := tx.lockList(ctx, list); err != nil {
			return err
		}
		have, err := tx.Keywords(ctx, list)
		if err != nil {
			return err
		}
		before := map[string]demand.Keyword{}
		for _, k := range have {
			before[demand.Same(k.Text)] = k
		}
		all, fresh := demand.Merge(have, more)
		m.Fresh, m.Known = fresh, 0
		touched := map[string]bool{}
		for _, k := range more {
			touched[demand.Same(k.Text)] = true
		}
		var rows []keywordRow
		kept := map[string]bool{}
		for _, k := range all {
			key := demand.Same(k.Text)
			if !touched[key] {
				continue
			}
			kept[key] = true
			if _, known := before[key]; known {
				m.Known++
			}
			rows = append(rows, rowOf(s.publication, list, key, k))
		}
		m.Left = len(touched) - len(kept)
		for part := range slices.Chunk(rows, 2000) {
			if err := tx.store.db.WithContext(ctx).Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "list_id"}, {Name: "key"}}, DoUpdates: clause.AssignmentColumns([]string{"volume", "keyword"})}).Create(&part).Error; err != nil {
				return err
			}
		}
		return tx.TouchList(ctx, list)
	})
	return m, err
}

// keywordRow is a keyword as the table has it.
type keywordRow struct {
	PublicationID int64
	ListID        int64
	Key           string
	Volume        *float64
	Keyword       JSON
}

// TableName implements gorm's Tabler.
func (keywordRow) TableName() string { return "keywords" }

func rowOf(publication, list int64, key string, k demand.Keyword) keywordRow {
	b, _ := json.Marshal(k) // figures and texts always can be
	r := keywordRow{publication, list, key, nil, b}
	if k.Volume.Known {
		r.Volume = &k.Volume.Value
	}
	return r
}

// TouchList says that something of a list has changed that groups depend on.
func (s Scope) TouchList(ctx context.Context, list int64) error {
	return s.db(ctx).Model(&KeywordList{}).Where("id = ?", list).Update("change", gorm.Expr("change + 1")).Error
}

// SetWidth keeps how wide the groups of a list are.
func (s Scope) SetWidth(ctx context.Context, list int64, width float64) error {
	return affected(s.db(ctx).Model(&KeywordList{}).Where("id = ?", list).Update("width", width))
}

// DeleteList deletes a list, or brings it back.
func (s Scope) DeleteList(ctx context.Context, list int64, back bool) error {
	var at *time.Time
	if !back {
		now := time.Now()
		at = &now
	}
	return affected(s.db(ctx).Model(&KeywordList{}).Where("id = ?", list).Update("deleted_at", at))
}

// EditWork changes what is said of the work in the background, under the list's lock.
func (s Scope) EditWork(ctx context.Context, list int64, f func(*Work) error) error {
	return s.InTx(ctx, func(tx Scope, _ *sql.Tx) error {
		l, err := tx.lockList(ctx, list)
		if err != nil {
			return err
		}
		w := l.Work.Data()
		if err := f(&w); err != nil {
			return err
		}
		w.At = time.Now()
		return tx.db(ctx).Model(&KeywordList{}).Where("id = ?", list).Update("work", NewJSONType(w)).Error
	})
}

// FiguresOf is what the lists of a market know of some queries, by the query as demand.Same
// has it; of several lists the newest that knows the volume.
func (s Scope) FiguresOf(ctx context.Context, language, country string, keys []string) (map[string]demand.Keyword, error) {
	out := map[string]demand.Keyword{}
	for part := range slices.Chunk(keys, 5000) {
		rows, err := s.store.db.WithContext(ctx).Raw(`select k.key, k.keyword from keywords k join keyword_lists l on l.id = k.list_id
			where k.publication_id = ? and l.publication_id = ? and l.deleted_at is null and l.language = ? and l.country = ? and k.key in ?
			order by (k.volume is not null), l.id`, s.publication, s.publication, language, country, part).Rows()
		if err != nil {
			return nil, err
		}
		for rows.Next() {
			var key string
			var raw []byte
			var k demand.Keyword
			if err := rows.Scan(&key, &raw); err != nil {
				_ = rows.Close()
				return nil, err
			}
			if err := json.Unmarshal(raw, &k); err != nil {
				_ = rows.Close()
				return nil, err
			}
			out[key] = k
		}
		if err := rows.Close(); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// ListsWith are the lists of a market that have a query, the newest first, at most so many.
func (s Scope) ListsWith(ctx context.Context, language, country, key string, most int) (lists []KeywordList, err error) {
	err = s.db(ctx).Where("deleted_at is null and language = ? and country = ? and exists (select 1 from keywords k where k.list_id = keyword_lists.id and k.key = ?)", language, country, key).
		Order("id desc").Limit(most).Find(&lists).Error
	return lists, err
}

// MarketKeywords are the keywords of all lists of a market, each once, the most searched first,
// at most so many; and how many lists those are.
func (s Scope) MarketKeywords(ctx context.Context, language, country string, most int) ([]demand.Keyword, int, error) {
	var lists []int64
	if err := s.db(ctx).Model(&KeywordList{}).Where("deleted_at is null and language = ? and country = ?", language, country).Order("id").Pluck("id", &lists).Error; err != nil || len(lists) == 0 {
		return nil, 0, err
	}
	rows, err := s.store.db.WithContext(ctx).Raw(`select keyword from (
			select distinct on (key) key, volume, keyword from keywords where publication_id = ? and list_id in ? order by key, volume desc nulls last) k
		order by volume desc nulls last, key limit ?`, s.publication, lists, most).Rows()
	if err != nil {
		return nil, 0, err
	}
	out, err := scanKeywords(rows)
	return out, len(lists), err
}

// DemandMark changes whenever a list of the market does; empty where there is none.
func (s Scope) DemandMark(ctx context.Context, language, country string) (string, error) {
	var mark string
	err := s.store.db.WithContext(ctx).Raw(`select coalesce(string_agg(id || '.' || change, ' ' order by id), '') from keyword_lists
		where publication_id = ? and deleted_at is null and language = ? and country = ?`, s.publication, language, country).Scan(&mark).Error
	return mark, err
}

// KeywordFile is a table of which somebody has to say which column is which.
type KeywordFile struct {
	ID            int64
	PublicationID int64
	ListID        int64
	Name          string
	Rows          []byte
	Said          message.Kept // what became of it; empty while it waits to be read
	MadeAt        time.Time
}

// KeepFile keeps the table that a list was brought last; it waits until it is read.
func (s Scope) KeepFile(ctx context.Context, f *KeywordFile) error {
	return s.InTx(ctx, func(tx Scope, _ *sql.Tx) error {
		if err := tx.db(ctx).Where("list_id = ?", f.ListID).Delete(&KeywordFile{}).Error; err != nil {
			return err
		}
		f.PublicationID, f.MadeAt = s.publication, time.Now()
		return tx.store.db.WithContext(ctx).Create(f).Error
	})
}

// File is the table that a list was brought last; ErrNotFound where it was brought none.
func (s Scope) File(ctx context.Context, list int64) (KeywordFile, error) {
	return take[KeywordFile](s.db(ctx).Where("list_id = ?", list).Order("id desc"))
}

// FileSaid is File without what stands in the table.
func (s Scope) FileSaid(ctx context.Context, list int64) (KeywordFile, error) {
	return take[KeywordFile](s.db(ctx).Omit("rows").Where("list_id = ?", list).Order("id desc"))
}

// FileWasRead says what became of the table of a list.
func (s Scope) FileWasRead(ctx context.Context, list int64, said message.Kept) error {
	return s.db(ctx).Model(&KeywordFile{}).Where("list_id = ?", list).Update("said", said).Error
}

// KnownHeader is what a person said that the columns of tables with one header hold.
type KnownHeader struct {
	PublicationID int64
	Header        string
	Fields        JSONType[[]string]
}

// RememberHeader keeps what the columns below a header hold, in place of what was said before.
func (s Scope) RememberHeader(ctx context.Context, header string, fields []string) error {
	return s.store.db.WithContext(ctx).Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "publication_id"}, {Name: "header"}}, DoUpdates: clause.AssignmentColumns([]string{"fields"})}).Create(&KnownHeader{s.publication, header, NewJSONType(fields)}).Error
}

// HeaderKnown is what the columns below a header hold; ErrNotFound where nobody has said it.
func (s Scope) HeaderKnown(ctx context.Context, header string) ([]string, error) {
	h, err := take[KnownHeader](s.db(ctx).Where("header = ?", header))
	return h.Fields.Data(), err
}
