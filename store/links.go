package store

import (
	"context"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// ShareLink opens one brief for somebody without an account. What stands in the address is
// not kept, but its digest.
type ShareLink struct {
	ID             int64
	PublicationID  int64
	StudyID        int64
	Digest         []byte // SHA-256 of what stands in the address
	Name           string // whom it is for
	Remarks        bool   // remarks may be made, and lines ticked
	Drafts         bool   // the draft may be written
	Dossier        bool   // stands behind the brief
	Document       []byte // of the brief as it was handed over, encoded; nil where the link shows what becomes of it
	Revision       *int   // of the brief in that document
	Before         []byte // the document that it showed before, the other way round after going back; nil where it was handed over once
	BeforeRevision *int
	Password       string // argon2id, encoded; empty for none
	ExpiresAt      *time.Time
	RevokedAt      *time.Time
	OpenedAt       *time.Time // last
	Opened         int        // times
	MadeAt         time.Time
	MadeBy         *int64 // nil where that is not known
}

// Remark is what somebody says of a line of a brief, or an answer to that.
type Remark struct {
	ID            int64
	PublicationID int64
	StudyID       int64
	LinkID        *int64 // nil for one of ours
	Answers       *int64 // the remark it answers
	Line          string // what it is about
	SaidOf        string // the line in words, as it then was
	Author        string
	Body          string
	MadeAt        time.Time
	SettledAt     *time.Time
}

// CreateLink keeps a new link.
func (s Scope) CreateLink(ctx context.Context, l *ShareLink) error {
	if _, err := s.Study(ctx, l.StudyID); err != nil {
		return err
	}
	l.PublicationID, l.MadeAt, l.MadeBy = s.publication, time.Now(), s.who()
	return s.store.db.WithContext(ctx).Create(l).Error
}

// Links lists the links to a study's brief, the newest first.
func (s Scope) Links(ctx context.Context, study int64) ([]ShareLink, error) {
	return find[ShareLink](s.db(ctx).Where("study_id = ?", study).Order("id desc"))
}

// ShowBy has a link that shows a state handed over show another one, and keeps what it showed.
func (s Scope) ShowBy(ctx context.Context, study, id int64, document []byte, revision int) error {
	res := s.db(ctx).Model(&ShareLink{}).Where("study_id = ? and id = ? and document is not null and revoked_at is null", study, id).Updates(map[string]any{"document": document, "revision": revision, "before": gorm.Expr("document"), "before_revision": gorm.Expr("revision")})
	if res.Error == nil && res.RowsAffected == 0 {
		return ErrNotFound
	}
	return res.Error
}

// ShowBefore has a link show what it showed before, and keeps what it shows.
func (s Scope) ShowBefore(ctx context.Context, study, id int64) error {
	res := s.db(ctx).Model(&ShareLink{}).Where("study_id = ? and id = ? and before is not null and revoked_at is null", study, id).Updates(map[string]any{"document": gorm.Expr("before"), "revision": gorm.Expr("before_revision"), "before": gorm.Expr("document"), "before_revision": gorm.Expr("revision")})
	if res.Error == nil && res.RowsAffected == 0 {
		return ErrNotFound
	}
	return res.Error
}

// RevokeLink shuts a link for good.
func (s Scope) RevokeLink(ctx context.Context, study, id int64) error {
	res := s.db(ctx).Model(&ShareLink{}).Where("study_id = ? and id = ? and revoked_at is null", study, id).Update("revoked_at", time.Now())
	if res.Error == nil && res.RowsAffected == 0 {
		return ErrNotFound
	}
	return res.Error
}

// LinkBy finds an open link by the digest of its address: one that is not revoked, not
// expired, and whose study is not deleted. It is the one way in without a publication, and
// leads to that of the link alone.
func (s *Store) LinkBy(ctx context.Context, digest []byte) (ShareLink, error) {
	var l ShareLink
	err := found(s.db.WithContext(ctx).Where("digest = ? and revoked_at is null and (expires_at is null or expires_at > now())", digest).
		Where("exists (select 1 from studies s where s.id = share_links.study_id and s.deleted_at is null)").Take(&l).Error)
	return l, err
}

// NoteOpened says that a link was opened.
func (s *Store) NoteOpened(ctx context.Context, link int64) error {
	return s.db.WithContext(ctx).Model(&ShareLink{}).Where("id = ?", link).
		Updates(map[string]any{"opened_at": time.Now(), "opened": gorm.Expr("opened + 1")}).Error
}

// MaxRemarks is how many remarks a brief holds. Our own.
const MaxRemarks = 1000

// AddRemark keeps a remark; ErrTooMany where a brief has MaxRemarks.
func (s Scope) AddRemark(ctx context.Context, r *Remark) error {
	var n int64
	if err := s.db(ctx).Model(&Remark{}).Where("study_id = ?", r.StudyID).Count(&n).Error; err != nil {
		return err
	}
	if n >= MaxRemarks {
		return ErrTooMany
	}
	r.PublicationID, r.MadeAt = s.publication, time.Now()
	if err := s.store.db.WithContext(ctx).Create(r).Error; err != nil {
		return err
	}
	if err := s.store.emit(ctx, r.StudyID, EventRemark, map[string]any{"author": r.Author, "text": r.Body, "said_of": r.SaidOf}); err != nil {
		return err
	}
	return s.store.touch(ctx, r.StudyID)
}

// Remarks lists the remarks on a study's brief in the order they were made.
func (s Scope) Remarks(ctx context.Context, study int64) ([]Remark, error) {
	return find[Remark](s.db(ctx).Where("study_id = ?", study).Order("id"))
}

// Settle says that a remark is dealt with, or that it is open again.
func (s Scope) Settle(ctx context.Context, study, remark int64, settled bool) error {
	var at *time.Time
	if settled {
		now := time.Now()
		at = &now
	}
	res := s.db(ctx).Model(&Remark{}).Where("study_id = ? and id = ? and answers is null", study, remark).Update("settled_at", at)
	if res.Error == nil && res.RowsAffected == 0 {
		return ErrNotFound
	}
	return res.Error
}

// tick is a line of a brief that the writer has dealt with.
type tick struct {
	PublicationID int64
	StudyID       int64
	Line          string
	MadeAt        time.Time
}

// maxTicks is how many lines of a brief can be ticked: more than a brief has. Our own.
const maxTicks = 5000

// Tick says that a line is dealt with, or not any more.
func (s Scope) Tick(ctx context.Context, study int64, line string, done bool) error {
	if !done {
		return s.db(ctx).Where("study_id = ? and line = ?", study, line).Delete(&tick{}).Error
	}
	var n int64
	if err := s.db(ctx).Model(&tick{}).Where("study_id = ?", study).Count(&n).Error; err != nil {
		return err
	}
	if n >= maxTicks {
		return ErrTooMany
	}
	return s.store.db.WithContext(ctx).Clauses(clause.OnConflict{DoNothing: true}).Create(&tick{s.publication, study, line, time.Now()}).Error
}

// Ticks are the lines of a study's brief that are ticked.
func (s Scope) Ticks(ctx context.Context, study int64) (map[string]bool, error) {
	var lines []string
	if err := s.db(ctx).Model(&tick{}).Where("study_id = ?", study).Pluck("line", &lines).Error; err != nil {
		return nil, err
	}
	done := make(map[string]bool, len(lines))
	for _, l := range lines {
		done[l] = true
	}
	return done, nil
}
