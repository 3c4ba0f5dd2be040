package store

import (
	"context"
	"fmt"

	"corpulan/core/message"
	"corpulan/core/reading"
)

// sketched is a page that counts, with what near-duplicates are found by.
type sketched struct {
	ID     int64 // of the result
	Rank   int
	Sketch JSONSlice[uint64]
}

// ProposeDuplicates sets aside what says the same as a page that ranks better,
// unless a person has decided about it. It runs once all pages are in, so that
// no two of them can miss each other; the caller has the gathering locked, and tells those who watch.
func (s *Store) ProposeDuplicates(ctx context.Context, gathering int64) error {
	var pages []sketched
	err := s.db.WithContext(ctx).Table("results").Select("results.id, results.rank, readings.document->'sketch' as sketch").
		Joins("join readings on readings.id = results.reading_id").
		Where("results.gathering_id = ? and results.state = ? and results.kept and not results.own", gathering, Read).
		Order("results.rank").Scan(&pages).Error
	if err != nil {
		return fmt.Errorf("looking for pages that say the same: %w", err)
	}
	for i, p := range pages {
		for _, better := range pages[:i] {
			if reading.Resemblance(p.Sketch, better.Sketch) < reading.NearDuplicate {
				continue
			}
			if err := s.proposeAside(ctx, p.ID, message.Of("Nearly the same text as rank %d", better.Rank)); err != nil {
				return err
			}
			break
		}
	}
	return s.recount(ctx, gathering)
}

// proposeAside sets a page aside unless a person has decided about it.
func (s *Store) proposeAside(ctx context.Context, result int64, reason message.Message) error {
	return s.db.WithContext(ctx).Model(&Result{}).Where("id = ? and not decided", result).
		Updates(map[string]any{"kept": false, "reason": reason.Keep()}).Error
}
