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

// SetManyKept records one decision about several pages.
func (s Scope) SetManyKept(ctx context.Context, study int64, ids []int64, kept bool, reason string) error {
	if kept {
		reason = ""
	}
	res := s.db(ctx).Model(&Result{}).Where("study_id = ? and id in ? and state = ? and not own", study, ids, Read).
		Updates(map[string]any{"kept": kept, "reason": reason, "decided": true})
	if res.Error != nil {
		return res.Error
	}
	return s.store.touch(ctx, study)
}

// AcceptProposals makes every proposed set-aside of the newest gathering a decision.
func (s Scope) AcceptProposals(ctx context.Context, study int64) (int64, error) {
	g, err := s.LatestGathering(ctx, study)
	if err != nil {
		return 0, err
	}
	res := s.db(ctx).Model(&Result{}).Where("gathering_id = ? and not kept and not decided", g.ID).Update("decided", true)
	if res.Error != nil {
		return 0, res.Error
	}
	return res.RowsAffected, s.store.touch(ctx, study)
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
	return s.reopen(ctx, study)
}

// reopen lets the newest gathering of a study fetch again after it had ended.
func (s Scope) reopen(ctx context.Context, study int64) error {
	err := s.turn(ctx, study, []State{Done, Stopped, Fetching}, Fetching)
	if err != nil {
		return err
	}
	return s.store.touch(ctx, study)
}

// StopGathering halts a run: pages not yet asked for stay waiting.
func (s Scope) StopGathering(ctx context.Context, study int64) error {
	return s.turn(ctx, study, []State{Searching, Fetching}, Stopped)
}

// ResumeGathering lets a stopped run go on, and lists the hosts with pages
// still to be had; none if even the search had not been made.
func (s Scope) ResumeGathering(ctx context.Context, study int64) (Gathering, []string, error) {
	g, err := s.LatestGathering(ctx, study)
	if err != nil {
		return g, nil, err
	}
	var found int64
	if err := s.db(ctx).Model(&Result{}).Where("gathering_id = ?", g.ID).Count(&found).Error; err != nil {
		return g, nil, err
	}
	if found == 0 {
		return g, nil, s.turn(ctx, study, []State{Stopped}, Searching)
	}
	hosts, err := openHosts(s.db(ctx), g.ID)
	if err != nil {
		return g, nil, err
	}
	to := Fetching
	if len(hosts) == 0 {
		to = Done
	}
	return g, hosts, s.turn(ctx, study, []State{Stopped}, to)
}

// turn brings the newest gathering of a study from one of some states to another.
func (s Scope) turn(ctx context.Context, study int64, from []State, to State) error {
	g, err := s.LatestGathering(ctx, study)
	if err != nil {
		return err
	}
	res := s.db(ctx).Model(&Gathering{}).Where("id = ? and state in ?", g.ID, from).Update("state", to)
	if res.Error == nil && res.RowsAffected == 0 {
		return ErrConflict
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

// Found records the results that a person brought; see Store.Found.
func (s Scope) Found(ctx context.Context, g Gathering, results []Result, asked, related []string) (hosts []string, err error) {
	if g.PublicationID != s.publication {
		return nil, ErrNotFound
	}
	if err := s.db(ctx).Model(&Gathering{}).Where("id = ?", g.ID).Update("brought", true).Error; err != nil {
		return nil, err
	}
	return s.store.Found(ctx, g, results, asked, related, nil)
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
// page offered besides. What people did in the gathering before is carried
// over. It lists the hosts with pages to be had; a gathering that has its
// results already keeps them.
func (s *Store) Found(ctx context.Context, g Gathering, results []Result, asked, related, suggestions []string) (hosts []string, err error) {
	err = s.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		s := &Store{db: tx, sql: s.sql}
		if len(results) > 0 {
			if err := tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&results).Error; err != nil {
				return err
			}
			if err := s.carry(ctx, g); err != nil {
				return err
			}
		}
		err := tx.Model(&Gathering{}).Where("id = ?", g.ID).Updates(map[string]any{
			"state": Fetching, "asked": datatypes.NewJSONSlice(orEmpty(asked)),
			"related": datatypes.NewJSONSlice(orEmpty(related)), "suggestions": datatypes.NewJSONSlice(orEmpty(suggestions))}).Error
		if err != nil {
			return err
		}
		hosts, err = openHosts(tx, g.ID)
		if err == nil && len(results) > 0 && len(hosts) == 0 { // all of them carried over
			return s.finishIfDone(ctx, tx, Result{StudyID: g.StudyID, GatheringID: g.ID})
		}
		if err != nil {
			return err
		}
		return s.touch(ctx, g.StudyID)
	})
	return hosts, err
}

// openHosts lists the hosts with pages still to be had.
func openHosts(tx *gorm.DB, gathering int64) (hosts []string, err error) {
	return hosts, tx.Model(&Result{}).Where("gathering_id = ? and state in ?", gathering, []State{Waiting, Fetching}).
		Distinct("host").Order("host").Pluck("host", &hosts).Error
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
