package store

import (
	"context"
	"database/sql"
	"fmt"
	"slices"
	"strings"
	"time"

	"gorm.io/gorm"
)

// Scope is the store as one publication sees it.
type Scope struct {
	store       *Store
	publication int64
	person      int64 // who does what is done in it; 0 for the program itself
}

// In narrows the store to one publication.
func (s *Store) In(publication int64) Scope { return Scope{store: s, publication: publication} }

// By is the scope in which what is done is somebody's; 0 for nobody's.
func (s Scope) By(person int64) Scope {
	s.person = person
	return s
}

// who is the person of the scope as a row has it.
func (s Scope) who() *int64 {
	if s.person == 0 {
		return nil
	}
	return &s.person
}

// on is the same scope on another store: in a transaction.
func (s Scope) on(tx *Store) Scope {
	s.store = tx
	return s
}

// db begins a query that sees only this publication's rows.
func (s Scope) db(ctx context.Context) *gorm.DB {
	return s.store.db.WithContext(ctx).Where("publication_id = ?", s.publication)
}

// InTx is Store.InTx within the scope.
func (s Scope) InTx(ctx context.Context, f func(tx Scope, sqlTx *sql.Tx) error) error {
	return s.store.InTx(ctx, func(tx *Store, sqlTx *sql.Tx) error { return f(s.on(tx), sqlTx) })
}

// CreateStudy keeps a new study with its first gathering and its empty brief.
func (s Scope) CreateStudy(ctx context.Context, study *Study) (*Gathering, error) {
	study.PublicationID = s.publication
	if err := s.store.db.WithContext(ctx).Create(study).Error; err != nil {
		return nil, fmt.Errorf("keeping the study: %w", err)
	}
	if err := s.store.db.WithContext(ctx).Create(&Brief{PublicationID: s.publication, StudyID: study.ID, UpdatedAt: time.Now()}).Error; err != nil {
		return nil, fmt.Errorf("keeping the brief: %w", err)
	}
	g, _, err := s.StartGathering(ctx, study.ID)
	return g, err
}

// Study finds a study by its number. One that was deleted is found too: it can
// still be brought back.
func (s Scope) Study(ctx context.Context, id int64) (Study, error) {
	return take[Study](s.db(ctx), id)
}

// Like finds the newest study of the same keyword and market that is neither
// archived nor deleted; ErrNotFound if there is none.
func (s Scope) Like(ctx context.Context, keyword, language, country string) (Study, error) {
	var study Study
	err := found(s.db(ctx).Where("lower(keyword) = lower(?) and language = ? and country = ? and archived_at is null and deleted_at is null", keyword, language, country).
		Order("id desc").Take(&study).Error)
	return study, err
}

// StudiesLike finds the newest studies of some keywords of a market that are not deleted, by the
// keyword in small letters.
func (s Scope) StudiesLike(ctx context.Context, keywords []string, language, country string) (map[string]int64, error) {
	lower := make([]string, len(keywords))
	for i, k := range keywords {
		lower[i] = strings.ToLower(k)
	}
	out := map[string]int64{}
	for part := range slices.Chunk(lower, 5000) {
		var rows []Study
		if err := s.db(ctx).Select("id", "keyword").Where("lower(keyword) in ? and language = ? and country = ? and deleted_at is null", part, language, country).Order("id").Find(&rows).Error; err != nil {
			return nil, err
		}
		for _, r := range rows {
			out[strings.ToLower(r.Keyword)] = r.ID
		}
	}
	return out, nil
}

// lockStudy makes others who would change the same study's course wait.
func (s Scope) lockStudy(ctx context.Context, id int64) error {
	var study Study
	return found(s.db(ctx).Clauses(forChange).Take(&study, id).Error)
}

// KeptDeleted is how long a deleted study can be brought back; after it the
// study goes with its captures.
const KeptDeleted = 30 * 24 * time.Hour

// MoveStudy archives a study, deletes it, brings it back, parts its ranks anew, or has it gathered
// by itself, and returns what that changed.
func (s Scope) MoveStudy(ctx context.Context, id int64, to func(now time.Time, was StudyPlace) StudyPlace) (Patch, error) {
	study, err := s.Study(ctx, id)
	if err != nil {
		return Patch{}, err
	}
	was := StudyPlace{study.ArchivedAt, study.DeletedAt, study.Leaders, study.Again}
	e := &StudyEdit{Before: was, After: to(time.Now(), was)}
	return Patch{Study: e}, s.place(ctx, id, *e)
}

// place brings a study from one place to another, in what differs between them: undoing
// one thing leaves what was done to another since. ErrStale if somebody has parted the
// ranks anew, or chosen another schedule, meanwhile.
func (s Scope) place(ctx context.Context, id int64, e StudyEdit) error {
	set := map[string]any{}
	if !sameTime(e.Before.ArchivedAt, e.After.ArchivedAt) || !sameTime(e.Before.DeletedAt, e.After.DeletedAt) {
		set["archived_at"], set["deleted_at"] = e.After.ArchivedAt, e.After.DeletedAt
	}
	q := s.db(ctx).Model(&Study{}).Where("id = ?", id)
	if e.Before.Leaders != e.After.Leaders && e.After.Leaders > 0 {
		set["leaders"] = e.After.Leaders
		q = q.Where("leaders = ?", e.Before.Leaders)
	}
	if e.Before.Again != e.After.Again {
		set["again"], set["again_at"] = e.After.Again, After(e.After.Again, time.Now())
		q = q.Where("again = ?", e.Before.Again)
	}
	if len(set) == 0 {
		return nil
	}
	res := q.Updates(set)
	if res.Error != nil {
		return res.Error
	}
	if res.RowsAffected == 0 {
		return ErrStale
	}
	return s.store.touch(ctx, id)
}

func sameTime(a, b *time.Time) bool {
	return a == nil && b == nil || a != nil && b != nil && a.Equal(*b)
}

// Purge takes out of the database what was deleted longer ago than it is kept,
// captures, readings and all, and returns how many studies that were. Hosts that
// nobody has asked for a day go with it.
func (s *Store) Purge(ctx context.Context, kept time.Duration) (int64, error) {
	for _, old := range []string{"delete from hosts where held_until < now() - interval '1 day'", "delete from sessions where expires_at < now() - interval '30 days' or revoked_at < now() - interval '30 days'",
		"delete from tickets where expires_at < now() - interval '30 days'", "delete from wrong_passwords where wrong_at < now() - interval '1 day'"} {
		if err := s.db.WithContext(ctx).Exec(old).Error; err != nil {
			return 0, err
		}
	}
	for _, m := range []any{&KeywordList{}, &Slate{}} {
		if err := s.db.WithContext(ctx).Where("deleted_at < now() - make_interval(secs => ?)", kept.Seconds()).Delete(m).Error; err != nil {
			return 0, err
		}
	}
	res := s.db.WithContext(ctx).Where("deleted_at < now() - make_interval(secs => ?)", kept.Seconds()).Delete(&Study{})
	return res.RowsAffected, res.Error
}

// Change is the counter of a study, for those who wait for it to rise, and
// whether its newest gathering is still running.
func (s Scope) Change(ctx context.Context, id int64) (change int64, running bool, err error) {
	var row struct {
		Change int64
		State  State
	}
	res := s.store.db.WithContext(ctx).Raw(`
		select st.change, g.state from studies st
		left join lateral (select state from gatherings where study_id = st.id order by id desc limit 1) g on true
		where st.publication_id = ? and st.id = ?`, s.publication, id).Scan(&row)
	if res.Error == nil && res.RowsAffected == 0 {
		return 0, false, ErrNotFound
	}
	return row.Change, Gathering{State: row.State}.Running(), res.Error
}

// touch raises the counter of a study.
func (s *Store) touch(ctx context.Context, study int64) error {
	return s.db.WithContext(ctx).Model(&Study{}).Where("id = ?", study).UpdateColumn("change", gorm.Expr("change + 1")).Error
}
