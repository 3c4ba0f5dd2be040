package store

import (
	"context"
	"database/sql"
	"fmt"
	"time"

	"gorm.io/gorm"
)

// Scope is the store as one publication sees it.
type Scope struct {
	store       *Store
	publication int64
}

// In narrows the store to one publication.
func (s *Store) In(publication int64) Scope { return Scope{s, publication} }

// db begins a query that sees only this publication's rows.
func (s Scope) db(ctx context.Context) *gorm.DB {
	return s.store.db.WithContext(ctx).Where("publication_id = ?", s.publication)
}

// InTx is Store.InTx within the scope.
func (s Scope) InTx(ctx context.Context, f func(tx Scope, sqlTx *sql.Tx) error) error {
	return s.store.InTx(ctx, func(tx *Store, sqlTx *sql.Tx) error { return f(tx.In(s.publication), sqlTx) })
}

// EnsurePublication finds the publication of a name, or makes it.
func (s *Store) EnsurePublication(ctx context.Context, name, address string) (Publication, error) {
	p := Publication{Name: name, Address: address}
	err := s.db.WithContext(ctx).Where("name = ?", name).FirstOrCreate(&p).Error
	return p, err
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
	return s.StartGathering(ctx, study.ID)
}

// StartGathering opens a new run of collecting for a study.
func (s Scope) StartGathering(ctx context.Context, study int64) (*Gathering, error) {
	g := &Gathering{PublicationID: s.publication, StudyID: study, State: Searching, StartedAt: time.Now()}
	if err := s.store.db.WithContext(ctx).Create(g).Error; err != nil {
		return nil, fmt.Errorf("keeping the gathering: %w", err)
	}
	return g, s.store.touch(ctx, study)
}

// Study finds a study by its number.
func (s Scope) Study(ctx context.Context, id int64) (Study, error) {
	var study Study
	return study, found(s.db(ctx).Take(&study, id).Error)
}

// Change is the counter of a study, for those who wait for it to rise.
func (s Scope) Change(ctx context.Context, id int64) (int64, error) {
	var n int64
	res := s.db(ctx).Model(&Study{}).Where("id = ?", id).Select("change").Scan(&n)
	if res.Error == nil && res.RowsAffected == 0 {
		return 0, ErrNotFound
	}
	return n, res.Error
}

// touch raises the counter of a study.
func (s *Store) touch(ctx context.Context, study int64) error {
	return s.db.WithContext(ctx).Model(&Study{}).Where("id = ?", study).UpdateColumn("change", gorm.Expr("change + 1")).Error
}

// Line is a study as the desk lists it.
type Line struct {
	Study
	Publication string
	State       State // of the newest gathering
	Results     int
	Pages       int // read
	Failures    int
	KeptPages   int
	Revision    int // of the brief; 0 for the untouched proposal
}

// Ledger lists the publication's studies, the newest first.
func (s Scope) Ledger(ctx context.Context) ([]Line, error) {
	var lines []Line
	err := s.store.db.WithContext(ctx).Raw(`
		select st.*, p.name as publication, g.state, coalesce(r.results, 0) as results, coalesce(r.pages, 0) as pages,
		       coalesce(r.failures, 0) as failures, coalesce(r.kept_pages, 0) as kept_pages, coalesce(b.revision, 0) as revision
		from studies st
		join publications p on p.id = st.publication_id
		left join lateral (select id, state from gatherings where study_id = st.id order by id desc limit 1) g on true
		left join lateral (
			select count(*) as results, count(*) filter (where state = 'read') as pages,
			       count(*) filter (where state = 'failed') as failures, count(*) filter (where state = 'read' and kept) as kept_pages
			from results where gathering_id = g.id) r on true
		left join briefs b on b.study_id = st.id
		where st.publication_id = ?
		order by st.created_at desc, st.id desc`, s.publication).Scan(&lines).Error
	return lines, err
}
