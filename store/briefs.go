package store

import (
	"context"
	"fmt"
	"time"

	"corpulan/core/brief"
	"corpulan/core/message"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Brief loads the choices made for a study.
func (s Scope) Brief(ctx context.Context, study int64) (Brief, error) {
	return take[Brief](s.db(ctx).Where("study_id = ?", study))
}

// EditBrief makes edits of the choices of a study and keeps the state before
// them. The edits are made up under the lock, from the choices as they are: so
// people in different places never get into each other's way, and in the same
// place the second sees what the first did. An error of decide, and of an edit
// that is stale, leaves everything as it was. It returns the brief as it then is. actor is
// who makes them.
func (s Scope) EditBrief(ctx context.Context, study int64, actor string, decide func(brief.Choices) (said message.Message, edits []brief.Edit, err error)) (Brief, error) {
	var b Brief
	err := s.store.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		err := tx.Clauses(forChange).Where("publication_id = ? and study_id = ?", s.publication, study).Take(&b).Error
		if err != nil {
			return found(err)
		}
		choices := b.Choices.Data()
		said, edits, err := decide(choices)
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
		revision := &BriefRevision{PublicationID: s.publication, BriefID: b.ID, Revision: b.Revision, Choices: earlier.Choices, MadeAt: earlier.UpdatedAt, Actor: earlier.Actor, PersonID: earlier.PersonID, Said: earlier.Said}
		if err := tx.Create(revision).Error; err != nil {
			return fmt.Errorf("keeping the earlier revision: %w", err)
		}
		b.Choices = NewJSONType(choices)
		b.Revision++
		b.UpdatedAt, b.Actor, b.PersonID, b.Said = time.Now(), actor, s.who(), said.Keep()
		if err := tx.Save(&b).Error; err != nil {
			return err
		}
		st := &Store{db: tx, sql: s.store.sql, log: s.store.log}
		if was, is := earlier.stage(), b.stage(); was != is {
			if err := st.emit(ctx, study, EventStage, map[string]any{"stage": is, "before": was}); err != nil {
				return err
			}
		}
		return st.touch(ctx, study)
	})
	return b, err
}

// stage is how far a brief has come, as the database has it.
func (b Brief) stage() string {
	switch s := b.Choices.Data().Typed[brief.FieldStatus]; {
	case s != "":
		return s
	case b.Revision > 0:
		return brief.Composed
	}
	return brief.Proposed
}

// By is who did something, and what in words.
type By struct {
	Actor string
	Said  message.Message
}

// Revisions lists the states of a study's brief without what was chosen in them, the newest
// first: at most so many from a number downwards; 0 for the newest. The present one is among
// them.
func (s Scope) Revisions(ctx context.Context, study int64, from, most int) ([]BriefRevision, error) {
	var list []BriefRevision
	err := s.store.db.WithContext(ctx).Raw(`
		select revision, actor, person_id, said, made_at from (
			select r.revision, r.actor, r.person_id, r.said, r.made_at from brief_revisions r join briefs b on b.id = r.brief_id
			where r.publication_id = @publication and b.study_id = @study
			union all
			select revision, actor, person_id, said, updated_at from briefs where publication_id = @publication and study_id = @study) all_of_them
		where @from = 0 or revision <= @from order by revision desc limit @most`,
		map[string]any{"publication": s.publication, "study": study, "from": from, "most": most}).Scan(&list).Error
	return list, err
}

// Revision is one state of a study's brief; ErrNotFound where there is none of the number.
func (s Scope) Revision(ctx context.Context, study int64, number int) (BriefRevision, error) {
	b, err := s.Brief(ctx, study)
	if err != nil {
		return BriefRevision{}, err
	}
	if b.Revision == number {
		return BriefRevision{PublicationID: b.PublicationID, BriefID: b.ID, Revision: b.Revision, Choices: b.Choices, MadeAt: b.UpdatedAt, Actor: b.Actor, PersonID: b.PersonID, Said: b.Said}, nil
	}
	return take[BriefRevision](s.db(ctx).Where("brief_id = ? and revision = ?", b.ID, number))
}

// BriefDocument is a state of a brief as the document it was.
type BriefDocument struct {
	BriefID       int64 `gorm:"primaryKey"`
	Revision      int   `gorm:"primaryKey"`
	PublicationID int64
	GatheringID   *int64 // whose pages it was made of
	Body          []byte
}

// KeepDocument keeps a state of a brief as the document it is; one that is kept already stays.
func (s Scope) KeepDocument(ctx context.Context, d BriefDocument) error {
	d.PublicationID = s.publication
	return s.store.db.WithContext(ctx).Clauses(clause.OnConflict{DoNothing: true}).Create(&d).Error
}

// Document is a state of a brief as the document it was; ErrNotFound where it was not kept.
func (s Scope) Document(ctx context.Context, brief int64, revision int) (BriefDocument, error) {
	return take[BriefDocument](s.db(ctx).Where("brief_id = ? and revision = ?", brief, revision))
}

// HasDocument tells whether a state of a brief is kept as the document it was.
func (s Scope) HasDocument(ctx context.Context, brief int64, revision int) (bool, error) {
	var n int64
	err := s.db(ctx).Model(&BriefDocument{}).Where("brief_id = ? and revision = ?", brief, revision).Count(&n).Error
	return n > 0, err
}
