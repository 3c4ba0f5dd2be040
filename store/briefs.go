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

// EditBrief makes edits of the choices of a study and keeps the state before
// them. The edits are made up under the lock, from the choices as they are: so
// people in different places never get into each other's way, and in the same
// place the second sees what the first did. An error of decide, and of an edit
// that is stale, leaves everything as it was. It returns the brief as it then is.
func (s Scope) EditBrief(ctx context.Context, study int64, decide func(brief.Choices) ([]brief.Edit, error)) (Brief, error) {
	var b Brief
	err := s.store.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("publication_id = ? and study_id = ?", s.publication, study).Take(&b).Error
		if err != nil {
			return found(err)
		}
		choices := b.Choices.Data()
		edits, err := decide(choices)
		if err != nil {
			return err
		}
		changed := false
		for _, e := range edits {
			if err := choices.Apply(e); err != nil {
				return err
			}
			changed = changed || !e.Idle()
		}
		if !changed {
			return nil
		}
		// As it was stored: the edits above have changed the maps of b.
		var earlier Brief
		if err := tx.Take(&earlier, b.ID).Error; err != nil {
			return err
		}
		revision := &BriefRevision{PublicationID: s.publication, BriefID: b.ID, Revision: b.Revision, Choices: earlier.Choices, MadeAt: time.Now()}
		if err := tx.Create(revision).Error; err != nil {
			return fmt.Errorf("keeping the earlier revision: %w", err)
		}
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
