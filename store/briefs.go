package store

import (
	"context"
	"fmt"
	"time"

	"corpulan/core/brief"

	"gorm.io/datatypes"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Brief loads the choices made for a study.
func (s Scope) Brief(ctx context.Context, study int64) (Brief, error) {
	var b Brief
	return b, found(s.db(ctx).Where("study_id = ?", study).Take(&b).Error)
}

// AnyRevision lets ChangeBrief apply to whatever is newest: for changes that
// cannot clash, such as adopting a term.
const AnyRevision = -1

// ChangeBrief applies a change to the choices of a study and keeps the state
// before it. It fails with ErrConflict if revision is not the newest, unless
// it is AnyRevision. It returns the brief as it then is.
func (s Scope) ChangeBrief(ctx context.Context, study int64, revision int, change func(*brief.Choices)) (Brief, error) {
	var b Brief
	err := s.store.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("publication_id = ? and study_id = ?", s.publication, study).Take(&b).Error
		if err != nil {
			return found(err)
		}
		if revision != AnyRevision && revision != b.Revision {
			return ErrConflict
		}
		earlier := &BriefRevision{PublicationID: s.publication, BriefID: b.ID, Revision: b.Revision, Choices: b.Choices, MadeAt: time.Now()}
		if err := tx.Create(earlier).Error; err != nil {
			return fmt.Errorf("keeping the earlier revision: %w", err)
		}
		choices := b.Choices.Data()
		change(&choices)
		b.Choices = datatypes.NewJSONType(choices)
		b.Revision++
		b.UpdatedAt = time.Now()
		if err := tx.Save(&b).Error; err != nil {
			return err
		}
		return (&Store{db: tx, sql: s.store.sql}).touch(ctx, study)
	})
	return b, err
}

// Revisions lists the earlier states of a study's brief, the newest first.
func (s Scope) Revisions(ctx context.Context, study int64) ([]BriefRevision, error) {
	var list []BriefRevision
	err := s.store.db.WithContext(ctx).Where("brief_revisions.publication_id = ?", s.publication).
		Joins("join briefs on briefs.id = brief_revisions.brief_id and briefs.study_id = ?", study).
		Order("brief_revisions.revision desc").Find(&list).Error
	return list, err
}
