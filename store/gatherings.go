package store

import (
	"context"
	"time"

	"corpulan/core/reading"

	"gorm.io/datatypes"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// LatestGathering is the newest run of a study.
func (s Scope) LatestGathering(ctx context.Context, study int64) (Gathering, error) {
	var g Gathering
	return g, found(s.db(ctx).Where("study_id = ?", study).Order("id desc").Take(&g).Error)
}

// Results lists a gathering's pages in rank order.
func (s Scope) Results(ctx context.Context, gathering int64) ([]Result, error) {
	var list []Result
	return list, s.db(ctx).Where("gathering_id = ?", gathering).Order("rank").Find(&list).Error
}

// Result finds one page of a study.
func (s Scope) Result(ctx context.Context, study, id int64) (Result, error) {
	var r Result
	return r, found(s.db(ctx).Where("study_id = ?", study).Take(&r, id).Error)
}

// SetKept records a person's decision about a page.
func (s Scope) SetKept(ctx context.Context, study, id int64, kept bool, reason string) error {
	if kept {
		reason = ""
	}
	res := s.db(ctx).Model(&Result{}).Where("id = ? and study_id = ?", id, study).
		Updates(map[string]any{"kept": kept, "reason": reason, "decided": true})
	if res.Error == nil && res.RowsAffected == 0 {
		return ErrNotFound
	}
	if res.Error != nil {
		return res.Error
	}
	return s.store.touch(ctx, study)
}

// Retry puts a failed page back in line.
func (s Scope) Retry(ctx context.Context, study, id int64) error {
	res := s.db(ctx).Model(&Result{}).Where("id = ? and study_id = ? and state = ?", id, study, Failed).
		Updates(map[string]any{"state": Waiting, "failure": "", "failure_code": ""})
	if res.Error == nil && res.RowsAffected == 0 {
		return ErrNotFound
	}
	if res.Error != nil {
		return res.Error
	}
	return s.store.touch(ctx, study)
}

// Readings loads readings by their numbers.
func (s Scope) Readings(ctx context.Context, ids []int64) (map[int64]*reading.Reading, error) {
	var rows []Reading
	if err := s.db(ctx).Where("id in ?", ids).Find(&rows).Error; err != nil {
		return nil, err
	}
	all := make(map[int64]*reading.Reading, len(rows))
	for _, r := range rows {
		all[r.ID] = r.Document.Data()
	}
	return all, nil
}

// Capture loads a page as it was fetched.
func (s Scope) Capture(ctx context.Context, id int64) (Capture, error) {
	var c Capture
	return c, found(s.db(ctx).Take(&c, id).Error)
}

// What follows is for workers, who are given the number of a gathering by the
// queue and act for its publication.

// Gathering finds a run by its number, with its study.
func (s *Store) Gathering(ctx context.Context, id int64) (Gathering, Study, error) {
	var g Gathering
	if err := s.db.WithContext(ctx).Take(&g, id).Error; err != nil {
		return g, Study{}, found(err)
	}
	var st Study
	return g, st, found(s.db.WithContext(ctx).Take(&st, g.StudyID).Error)
}

// Found records what a search gave: the ranked pages, and what the results
// page offered besides. A gathering that has its results already keeps them.
func (s *Store) Found(ctx context.Context, g Gathering, results []Result, asked, related, suggestions []string) error {
	if len(results) > 0 {
		if err := s.db.WithContext(ctx).Clauses(clause.OnConflict{DoNothing: true}).Create(&results).Error; err != nil {
			return err
		}
	}
	err := s.db.WithContext(ctx).Model(&Gathering{}).Where("id = ?", g.ID).Updates(map[string]any{
		"state": Fetching, "asked": datatypes.NewJSONSlice(orEmpty(asked)),
		"related": datatypes.NewJSONSlice(orEmpty(related)), "suggestions": datatypes.NewJSONSlice(orEmpty(suggestions))}).Error
	if err != nil {
		return err
	}
	return s.touch(ctx, g.StudyID)
}

func orEmpty(list []string) []string {
	if list == nil {
		return []string{}
	}
	return list
}

// FailGathering ends a run that could not begin.
func (s *Store) FailGathering(ctx context.Context, g Gathering, why string) error {
	now := time.Now()
	err := s.db.WithContext(ctx).Model(&Gathering{}).Where("id = ?", g.ID).
		Updates(map[string]any{"state": Failed, "failure": why, "finished_at": &now}).Error
	if err != nil {
		return err
	}
	return s.touch(ctx, g.StudyID)
}

// Unfetched lists the pages of a host that a gathering still has to fetch.
// Those being fetched are among them: only the worker that holds the host's
// job asks, so whoever had begun them is gone.
func (s *Store) Unfetched(ctx context.Context, gathering int64, host string) ([]Result, error) {
	var list []Result
	return list, s.db.WithContext(ctx).Where("gathering_id = ? and host = ? and state in ?", gathering, host, []State{Waiting, Fetching}).
		Order("rank").Find(&list).Error
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
		c.PublicationID, c.StudyID = r.PublicationID, r.StudyID
		if err := tx.Create(c).Error; err != nil {
			return err
		}
		rd := &Reading{PublicationID: r.PublicationID, CaptureID: c.ID, Engine: doc.Engine, Document: datatypes.NewJSONType(doc)}
		if err := tx.Create(rd).Error; err != nil {
			return err
		}
		set := map[string]any{"state": Read, "failure": "", "failure_code": "", "capture_id": c.ID, "reading_id": rd.ID}
		if !r.Decided {
			set["kept"], set["reason"] = setAside == "", setAside
		}
		if err := tx.Model(&Result{}).Where("id = ?", r.ID).Updates(set).Error; err != nil {
			return err
		}
		return s.finishIfDone(ctx, tx, r)
	})
}

// FailPage records why a page could not be had.
func (s *Store) FailPage(ctx context.Context, r Result, code, why string) error {
	return s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		err := tx.Model(&Result{}).Where("id = ?", r.ID).
			Updates(map[string]any{"state": Failed, "failure_code": code, "failure": why}).Error
		if err != nil {
			return err
		}
		return s.finishIfDone(ctx, tx, r)
	})
}

// finishIfDone ends a gathering when its last page is in. The lock makes the
// last two pages see each other.
func (s *Store) finishIfDone(ctx context.Context, tx *gorm.DB, r Result) error {
	var g Gathering
	if err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Take(&g, r.GatheringID).Error; err != nil {
		return err
	}
	var open int64
	if err := tx.Model(&Result{}).Where("gathering_id = ? and state in ?", r.GatheringID, []State{Waiting, Fetching}).Count(&open).Error; err != nil {
		return err
	}
	if open == 0 {
		now := time.Now()
		if err := tx.Model(&Gathering{}).Where("id = ?", g.ID).Updates(map[string]any{"state": Done, "finished_at": &now}).Error; err != nil {
			return err
		}
	}
	return (&Store{db: tx, sql: s.sql}).touch(ctx, r.StudyID)
}
