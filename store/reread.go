package store

import (
	"context"
	"fmt"

	"corpulan/core/message"
	"corpulan/core/reading"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// NextOutdated is the first capture after a given one whose reading in use was
// made by an engine before the given one; ErrNotFound when there is none.
func (s *Store) NextOutdated(ctx context.Context, engine int, after int64) (Capture, error) {
	var c Capture
	err := s.db.WithContext(ctx).
		Where("captures.pruned_at is null and captures.id > ? and captures.losses < ? and exists (select 1 from results r join readings d on d.id = r.reading_id where r.capture_id = captures.id and d.engine < ?)", after, MaxLosses, engine).
		Order("captures.id").Take(&c).Error
	if err == nil {
		err = s.withBody(ctx, &c)
	}
	return c, found(err)
}

// BeginReread counts a worker as lost to a capture until Reread has kept what
// it read: if the page stops its reader, it is left alone after MaxLosses times.
func (s *Store) BeginReread(ctx context.Context, c Capture) error {
	return s.db.WithContext(ctx).Model(&Capture{}).Where("id = ?", c.ID).Update("losses", gorm.Expr("losses + 1")).Error
}

// EndReread takes that back where the page could not be read, but its reader lives.
func (s *Store) EndReread(ctx context.Context, c Capture) error {
	return s.db.WithContext(ctx).Model(&Capture{}).Where("id = ?", c.ID).Update("losses", c.Losses).Error
}

// ProposeAgain looks for near-duplicates in a gathering whose pages were read again.
func (s *Store) ProposeAgain(ctx context.Context, gathering int64) error {
	return s.db.WithContext(ctx).Transaction(func(db *gorm.DB) error {
		tx := &Store{db: db, sql: s.sql}
		g, err := tx.lockGathering(ctx, gathering)
		if err != nil {
			return err
		}
		if err := tx.ProposeDuplicates(ctx, g.ID); err != nil {
			return err
		}
		return tx.touch(ctx, g.StudyID)
	})
}

// Reread puts a newer reading of a capture in the place of the older ones, in
// every result that shows the capture, and proposes anew whether to keep it
// where no person has decided. It returns the gatherings this touched.
func (s *Store) Reread(ctx context.Context, c Capture, doc *reading.Reading, propose func(doc *reading.Reading, language, keyword string) message.Message) ([]int64, error) {
	var touched []int64
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		rd := Reading{PublicationID: c.PublicationID, CaptureID: c.ID, Engine: doc.Engine, Document: NewJSONType(doc)}
		err := tx.Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "capture_id"}, {Name: "engine"}}, DoUpdates: clause.AssignmentColumns([]string{"document"})}).Create(&rd).Error
		if err != nil {
			return err
		}
		var results []Result
		if err := tx.Clauses(forChange).Where("capture_id = ? and state = ?", c.ID, Read).Order("id").Find(&results).Error; err != nil {
			return err
		}
		for _, r := range results {
			var study Study
			if err := tx.Take(&study, r.StudyID).Error; err != nil {
				return err
			}
			if err := tx.Model(&Result{}).Where("id = ?", r.ID).Updates(readAs(r, c.ID, rd.ID, propose(doc, study.Language, study.Keyword))).Error; err != nil {
				return err
			}
			touched = append(touched, r.GatheringID)
			if err := (&Store{db: tx, sql: s.sql}).touch(ctx, r.StudyID); err != nil {
				return err
			}
		}
		if err := tx.Model(&Capture{}).Where("id = ?", c.ID).Update("losses", 0).Error; err != nil {
			return err
		}
		// What an older engine read can be made again from the capture.
		return tx.Where("capture_id = ? and engine < ?", c.ID, doc.Engine).Delete(&Reading{}).Error
	})
	if err != nil {
		return nil, fmt.Errorf("keeping a newer reading of %s: %w", c.URL, err)
	}
	return touched, nil
}
