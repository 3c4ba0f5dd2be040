package store

import (
	"context"
	"fmt"

	"corpulan/core/reading"

	"gorm.io/datatypes"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// NextOutdated is the first capture after a given one whose reading in use was
// made by an engine before the given one; ErrNotFound when there is none.
func (s *Store) NextOutdated(ctx context.Context, engine int, after int64) (Capture, error) {
	var c Capture
	err := s.db.WithContext(ctx).
		Where("captures.id > ? and exists (select 1 from results r join readings d on d.id = r.reading_id where r.capture_id = captures.id and d.engine < ?)", after, engine).
		Order("captures.id").Take(&c).Error
	return c, found(err)
}

// Reread puts a newer reading of a capture in the place of the older ones, in
// every result that shows the capture, and proposes anew whether to keep it
// where no person has decided. It returns the gatherings this touched.
func (s *Store) Reread(ctx context.Context, c Capture, doc *reading.Reading, propose func(*reading.Reading, string) string) ([]int64, error) {
	var touched []int64
	err := s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		rd := Reading{PublicationID: c.PublicationID, CaptureID: c.ID, Engine: doc.Engine, Document: datatypes.NewJSONType(doc)}
		err := tx.Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "capture_id"}, {Name: "engine"}}, DoUpdates: clause.AssignmentColumns([]string{"document"})}).Create(&rd).Error
		if err != nil {
			return err
		}
		var results []Result
		if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("capture_id = ? and state = ?", c.ID, Read).Order("id").Find(&results).Error; err != nil {
			return err
		}
		for _, r := range results {
			var study Study
			if err := tx.Take(&study, r.StudyID).Error; err != nil {
				return err
			}
			if err := tx.Model(&Result{}).Where("id = ?", r.ID).Updates(readAs(r, c.ID, rd.ID, propose(doc, study.Language))).Error; err != nil {
				return err
			}
			touched = append(touched, r.GatheringID)
			if err := (&Store{db: tx, sql: s.sql}).touch(ctx, r.StudyID); err != nil {
				return err
			}
		}
		// What an older engine read can be made again from the capture.
		return tx.Where("capture_id = ? and engine < ?", c.ID, doc.Engine).Delete(&Reading{}).Error
	})
	if err != nil {
		return nil, fmt.Errorf("keeping a newer reading of %s: %w", c.URL, err)
	}
	return touched, nil
}
