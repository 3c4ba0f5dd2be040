package store

import (
	"context"
	"fmt"
	"strings"
	"time"

	"corpulan/core/address"
	"corpulan/core/message"
	"corpulan/core/reading"

	"gorm.io/gorm"
)

// OwnPage is a page of the publication itself, known from a sitemap or a list.
type OwnPage struct {
	ID            int64
	PublicationID int64
	URL           string
	Title         string
	Changed       string // as the list said when it was asked for last
	State         State  // Waiting, Read or Failed
	Failure       message.Kept
	Language      string
	Engine        int
	Document      JSONType[*reading.Reading]
	Stems         JSONType[map[string]int]
	ReadAt        *time.Time
}

// MaxOwn is how many own pages a publication keeps: reading more of them politely would take
// hours. Our own.
const MaxOwn = 2000

// AddOwn adds pages of the publication, and asks again for those that are said to have changed
// since. It tells how many wait to be read by that, and how many were left out beyond MaxOwn.
func (s Scope) AddOwn(ctx context.Context, pages []OwnPage) (fresh, left int, err error) {
	var have int64
	if err := s.db(ctx).Model(&OwnPage{}).Count(&have).Error; err != nil {
		return 0, 0, err
	}
	room := MaxOwn - int(have)
	for _, p := range pages {
		res := s.store.db.WithContext(ctx).Exec(`update own_pages set changed = ?, state = 'waiting' where publication_id = ? and url = ? and ? <> '' and changed <> ?`, p.Changed, s.publication, p.URL, p.Changed, p.Changed)
		if res.Error != nil {
			return fresh, left, res.Error
		}
		if res.RowsAffected > 0 {
			fresh++
			continue
		}
		if room <= 0 {
			var known int64
			if err := s.db(ctx).Model(&OwnPage{}).Where("url = ?", p.URL).Count(&known).Error; err != nil {
				return fresh, left, err
			}
			if known == 0 {
				left++
			}
			if left > MaxOwn { // counting on would take long, and tell nothing
				return fresh, left, nil
			}
			continue
		}
		res = s.store.db.WithContext(ctx).Exec(`insert into own_pages (publication_id, url, title, changed, state) values (?, ?, ?, ?, 'waiting') on conflict do nothing`, s.publication, p.URL, p.Title, p.Changed)
		if res.Error != nil {
			return fresh, left, res.Error
		}
		room -= int(res.RowsAffected)
		fresh += int(res.RowsAffected)
	}
	return fresh, left, nil
}

// NextOwn is the next own page that waits; ErrNotFound where none does.
func (s Scope) NextOwn(ctx context.Context, after int64) (OwnPage, error) {
	return take[OwnPage](s.db(ctx).Omit("document", "stems").Where("state = 'waiting' and id > ?", after).Order("id"))
}

// KeepOwn keeps what was read of an own page.
func (s Scope) KeepOwn(ctx context.Context, id int64, doc *reading.Reading, stems map[string]int) error {
	now := time.Now()
	return s.db(ctx).Model(&OwnPage{}).Where("id = ?", id).Updates(map[string]any{"state": Read, "failure": "", "title": doc.Title, "language": doc.Language, "engine": reading.Engine,
		"document": NewJSONType(doc), "stems": NewJSONType(stems), "read_at": now}).Error
}

// FailOwn says why an own page could not be read.
func (s Scope) FailOwn(ctx context.Context, id int64, why message.Message) error {
	return s.db(ctx).Model(&OwnPage{}).Where("id = ?", id).Updates(map[string]any{"state": Failed, "failure": why.Keep()}).Error
}

// OwnCounts are how many own pages there are, by state.
type OwnCounts struct{ All, Waiting, Read, Failed int }

// OwnPages lists own pages by address, without what was read of them, and counts all.
func (s Scope) OwnPages(ctx context.Context, filter string, from, most int) ([]OwnPage, OwnCounts, error) {
	var counts OwnCounts
	err := s.store.db.WithContext(ctx).Raw(`select count(*) as "all", count(*) filter (where state = 'waiting') as waiting, count(*) filter (where state = 'read') as read, count(*) filter (where state = 'failed') as failed
		from own_pages where publication_id = ?`, s.publication).Scan(&counts).Error
	if err != nil {
		return nil, counts, err
	}
	q := s.db(ctx).Omit("document", "stems").Order("url").Offset(from).Limit(most)
	if filter != "" {
		q = q.Where("strpos(lower(url || ' ' || title), lower(?)) > 0", filter)
	}
	list, err := find[OwnPage](q)
	return list, counts, err
}

// OwnStems are the stems of all own pages in a language that were read, by number.
func (s Scope) OwnStems(ctx context.Context, language string) (map[int64]map[string]int, error) {
	var rows []OwnPage
	if err := s.db(ctx).Select("id", "stems").Where("state = 'read' and language = ?", language).Order("id").Find(&rows).Error; err != nil {
		return nil, err
	}
	all := make(map[int64]map[string]int, len(rows))
	for _, r := range rows {
		all[r.ID] = r.Stems.Data()
	}
	return all, nil
}

// OwnMark changes whenever an own page is read, added or taken away.
func (s Scope) OwnMark(ctx context.Context) (string, error) {
	var mark struct {
		N    int64
		Last *time.Time
	}
	err := s.db(ctx).Model(&OwnPage{}).Where("state = 'read'").Select("count(*) as n, max(read_at) as last").Scan(&mark).Error
	if mark.Last == nil {
		return fmt.Sprint(mark.N), err
	}
	return fmt.Sprintf("%d %d", mark.N, mark.Last.UnixMicro()), err
}

// OwnNumbers are the numbers of the own pages that were read, by the key of their address
// without a slash at its end.
func (s Scope) OwnNumbers(ctx context.Context) (map[string]int64, error) {
	var rows []OwnPage
	if err := s.db(ctx).Select("id", "url").Where("state = 'read'").Find(&rows).Error; err != nil {
		return nil, err
	}
	ids := make(map[string]int64, len(rows))
	for _, r := range rows {
		ids[strings.TrimSuffix(address.Parse(r.URL).Key(), "/")] = r.ID
	}
	return ids, nil
}

// OwnReadings are what was read of some own pages, by number.
func (s Scope) OwnReadings(ctx context.Context, ids []int64) (map[int64]*reading.Reading, error) {
	var rows []OwnPage
	if err := s.db(ctx).Select("id", "document").Where("id in ?", ids).Find(&rows).Error; err != nil {
		return nil, err
	}
	list := map[int64]*reading.Reading{}
	for _, r := range rows {
		if doc := r.Document.Data(); doc != nil {
			list[r.ID] = doc
		}
	}
	return list, nil
}

// ReadOwnAgain asks for own pages to be read again that failed, or were read by an older engine.
func (s Scope) ReadOwnAgain(ctx context.Context) (int64, error) {
	res := s.db(ctx).Model(&OwnPage{}).Where("state = 'failed' or state = 'read' and engine < ?", reading.Engine).Update("state", Waiting)
	return res.RowsAffected, res.Error
}

// RemoveOwn forgets an own page; all of them where id is 0.
func (s Scope) RemoveOwn(ctx context.Context, id int64) error {
	q := s.db(ctx)
	if id != 0 {
		q = q.Where("id = ?", id)
	}
	if err := q.Delete(&OwnPage{}).Error; err != nil {
		return err
	}
	return s.TouchAll(ctx)
}

// TouchAll tells all studies of the publication that what it says has changed.
func (s Scope) TouchAll(ctx context.Context) error {
	return s.db(ctx).Model(&Study{}).Where("true").UpdateColumn("change", gorm.Expr("change + 1")).Error
}
