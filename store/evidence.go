package store

import (
	"context"
	"time"

	"gorm.io/gorm/clause"
)

// Evidence is evidence as it was computed, kept so that it need not be computed again.
type Evidence struct {
	GatheringID   int64  `gorm:"primaryKey"`
	Digest        []byte `gorm:"primaryKey"` // of all that it was computed from
	Basis         []byte // the same, but for the pages
	PublicationID int64
	Took          time.Duration // to make it
	Body          []byte
	MadeAt        time.Time `gorm:"default:clock_timestamp()"`
}

// TableName is what GORM would put in the plural.
func (Evidence) TableName() string { return "evidence" }

// How many of each gathering are kept, and for how long: a mind that is changed and changed back
// finds what it saw before. Our own.
const (
	maxEvidence  = 3
	evidenceKept = 30 * 24 * time.Hour
)

// Evidence is what was computed over a gathering from just this; ErrNotFound where nothing is kept.
func (s Scope) Evidence(ctx context.Context, gathering int64, digest []byte) (Evidence, error) {
	return take[Evidence](s.db(ctx).Where("gathering_id = ? and digest = ?", gathering, digest))
}

// NewestEvidence is what was last computed over a gathering on this basis, of whichever pages were
// in then: without its body where it was made no later than after.
func (s Scope) NewestEvidence(ctx context.Context, gathering int64, basis []byte, after time.Time) (Evidence, error) {
	var e Evidence
	err := found(s.db(ctx).Select("gathering_id, digest, took, made_at, case when made_at > ? then body end as body", after).
		Where("gathering_id = ? and basis = ?", gathering, basis).Order("made_at desc").Take(&e).Error)
	return e, err
}

// KeepEvidence keeps what was computed, and no more than a few of its gathering.
func (s Scope) KeepEvidence(ctx context.Context, e Evidence) error {
	e.PublicationID = s.publication
	if err := s.store.db.WithContext(ctx).Clauses(clause.OnConflict{DoNothing: true}).Create(&e).Error; err != nil {
		return err
	}
	newest := s.db(ctx).Model(&Evidence{}).Select("digest").Where("gathering_id = ?", e.GatheringID).Order("made_at desc").Limit(maxEvidence)
	return s.db(ctx).Where("gathering_id = ? and digest not in (?)", e.GatheringID, newest).Delete(&Evidence{}).Error
}

// ForgetEvidence gives up what was computed long ago: whoever looks again has it made anew.
func (s *Store) ForgetEvidence(ctx context.Context) error {
	return s.db.WithContext(ctx).Where("made_at < ?", time.Now().Add(-evidenceKept)).Delete(&Evidence{}).Error
}
