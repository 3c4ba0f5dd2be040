package store

import (
	"context"
	"time"

	"corpulan/core/reading"

	"gorm.io/datatypes"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// NextUnfetched is the next page of a host that a gathering still has to fetch;
// ErrNotFound when there is none, or the gathering has been stopped. One being
// fetched may be it: only the worker that holds the host's job asks, so whoever
// had begun it is gone.
func (s *Store) NextUnfetched(ctx context.Context, gathering int64, host string, after int) (Result, error) {
	var r Result
	err := s.db.WithContext(ctx).Joins("join gatherings g on g.id = results.gathering_id and g.state = 'fetching'").
		Where("results.gathering_id = ? and results.host = ? and results.rank > ? and results.state in ?", gathering, host, after, []State{Waiting, Fetching}).
		Order("results.rank").Take(&r).Error
	return r, found(err)
}

// BeginFetch shows that a page is being fetched.
func (s *Store) BeginFetch(ctx context.Context, r Result) error {
	if err := s.db.WithContext(ctx).Model(&Result{}).Where("id = ?", r.ID).Update("state", Fetching).Error; err != nil {
		return err
	}
	return s.touch(ctx, r.StudyID)
}

// KeepPage records a fetched and read page in one step: the capture, its
// reading, the result's state, and the proposal whether to keep it.
func (s *Store) KeepPage(ctx context.Context, r Result, c *Capture, doc *reading.Reading, setAside string) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		// Two workers may have fetched the page, or a person handed it in
		// meanwhile: the first counts.
		now, done, err := (&Store{db: tx, sql: s.sql}).lockResult(ctx, r.ID)
		if err != nil || done {
			return err
		}
		c.PublicationID, c.StudyID = r.PublicationID, r.StudyID
		if err := tx.Create(c).Error; err != nil {
			return err
		}
		rd := &Reading{PublicationID: r.PublicationID, CaptureID: c.ID, Engine: doc.Engine, Document: datatypes.NewJSONType(doc)}
		if err := tx.Create(rd).Error; err != nil {
			return err
		}
		if err := tx.Model(&Result{}).Where("id = ?", r.ID).Updates(readAs(now, c.ID, rd.ID, setAside)).Error; err != nil {
			return err
		}
		return s.finishIfDone(ctx, tx, r)
	})
}

// Earlier is the newest capture of an address in the same study that a page
// may still be like, with its reading by the given engine; ErrNotFound if there
// is none. Captures that were handed in are not asked for again by their headers.
func (s *Store) Earlier(ctx context.Context, r Result, engine int) (Capture, Reading, error) {
	var c Capture
	err := s.db.WithContext(ctx).Omit("body").Where("study_id = ? and url = ? and status = 200", r.StudyID, r.URL).Order("id desc").Take(&c).Error
	if err != nil {
		return c, Reading{}, found(err)
	}
	var rd Reading
	return c, rd, found(s.db.WithContext(ctx).Where("capture_id = ? and engine = ?", c.ID, engine).Take(&rd).Error)
}

// KeepEarlier records that a page is as it was in an earlier capture.
func (s *Store) KeepEarlier(ctx context.Context, r Result, c Capture, rd Reading, setAside string) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		now, done, err := (&Store{db: tx, sql: s.sql}).lockResult(ctx, r.ID)
		if err != nil || done {
			return err
		}
		if err := tx.Model(&Result{}).Where("id = ?", r.ID).Updates(readAs(now, c.ID, rd.ID, setAside)).Error; err != nil {
			return err
		}
		return s.finishIfDone(ctx, tx, r)
	})
}

// readAs is what a result becomes when its page has been read. A person's
// decision about it stays.
func readAs(r Result, capture, reading int64, setAside string) map[string]any {
	set := map[string]any{"state": Read, "failure": "", "failure_code": "", "capture_id": capture, "reading_id": reading}
	if !r.Decided && !r.Own {
		set["kept"], set["reason"] = setAside == "", setAside
	}
	return set
}

// FailPage records why a page could not be had.
func (s *Store) FailPage(ctx context.Context, r Result, code, why string) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		if _, done, err := (&Store{db: tx, sql: s.sql}).lockResult(ctx, r.ID); err != nil || done {
			return err
		}
		err := tx.Model(&Result{}).Where("id = ?", r.ID).
			Updates(map[string]any{"state": Failed, "failure_code": code, "failure": why}).Error
		if err != nil {
			return err
		}
		return s.finishIfDone(ctx, tx, r)
	})
}

// finishIfDone ends a gathering when its last page is in, and in the same step
// looks for pages that say the same: whoever sees it done sees it all. The lock
// makes the last two pages see each other.
func (s *Store) finishIfDone(ctx context.Context, tx *gorm.DB, r Result) error {
	var g Gathering
	if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Take(&g, r.GatheringID).Error; err != nil {
		return err
	}
	var open int64
	if err := tx.Model(&Result{}).Where("gathering_id = ? and state in ?", r.GatheringID, []State{Waiting, Fetching}).Count(&open).Error; err != nil {
		return err
	}
	if open == 0 && g.State != Failed {
		now := time.Now()
		if err := tx.Model(&Gathering{}).Where("id = ?", g.ID).Updates(map[string]any{"state": Done, "finished_at": &now}).Error; err != nil {
			return err
		}
		if err := (&Store{db: tx, sql: s.sql}).ProposeDuplicates(ctx, g.ID); err != nil {
			return err
		}
	}
	return (&Store{db: tx, sql: s.sql}).touch(ctx, r.StudyID)
}
