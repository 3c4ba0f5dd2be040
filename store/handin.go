package store

import (
	"context"
	"fmt"

	"corpulan/core/reading"

	"gorm.io/datatypes"
	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// HandIn keeps a page that a person handed in for a result: it takes the place
// of what was fetched, or of the failure to. The name is what the person's file
// is called.
func (s Scope) HandIn(ctx context.Context, study, result int64, name string, c *Capture, doc *reading.Reading, setAside string) error {
	return s.store.db.WithContext(ctx).Transaction(func(tx *gorm.DB) error {
		var r Result
		err := tx.Clauses(clause.Locking{Strength: "UPDATE"}).Where("publication_id = ? and study_id = ?", s.publication, study).Take(&r, result).Error
		if err != nil {
			return found(err)
		}
		c.PublicationID, c.StudyID = s.publication, study
		c.Headers = datatypes.NewJSONType(map[string][]string{handedIn: {name}})
		if err := tx.Create(c).Error; err != nil {
			return err
		}
		rd := &Reading{PublicationID: s.publication, CaptureID: c.ID, Engine: doc.Engine, Document: datatypes.NewJSONType(doc)}
		if err := tx.Create(rd).Error; err != nil {
			return err
		}
		if err := tx.Model(&Result{}).Where("id = ?", r.ID).Updates(readAs(r, c.ID, rd.ID, setAside)).Error; err != nil {
			return err
		}
		return s.store.finishIfDone(ctx, tx, r)
	})
}

// MostResults is how many pages one gathering may hold.
const MostResults = 150

// AddPages puts further addresses at the end of the newest gathering and
// returns those that were not in it already. Own pages are compared with the
// field and never counted into it.
func (s Scope) AddPages(ctx context.Context, study int64, urls []string, hostOf func(string) string, own bool) ([]Result, error) {
	g, err := s.LatestGathering(ctx, study)
	if err != nil {
		return nil, err
	}
	have, err := s.Results(ctx, g.ID)
	if err != nil {
		return nil, err
	}
	known := map[string]bool{}
	rank := 0
	for _, r := range have {
		known[r.URL] = true
		rank = max(rank, r.Rank)
	}
	var added []Result
	for _, u := range urls {
		if known[u] {
			continue
		}
		known[u] = true
		rank++
		added = append(added, Result{PublicationID: s.publication, StudyID: study, GatheringID: g.ID, Rank: rank, URL: u, Host: hostOf(u), State: Waiting, Kept: true, Decided: true, Own: own, Added: true})
	}
	if len(have)+len(added) > MostResults {
		return nil, fmt.Errorf("%w: a gathering holds at most %d pages", ErrTooMany, MostResults)
	}
	if len(added) == 0 {
		return nil, nil
	}
	if err := s.store.db.WithContext(ctx).Create(&added).Error; err != nil {
		return nil, err
	}
	if err := s.db(ctx).Model(&Gathering{}).Where("id = ?", g.ID).Updates(map[string]any{"state": Fetching, "failure": ""}).Error; err != nil {
		return nil, err
	}
	return added, s.store.touch(ctx, study)
}

// Captures loads the captures of a study's newest gathering in rank order.
func (s Scope) Captures(ctx context.Context, study int64) ([]Capture, error) {
	g, err := s.LatestGathering(ctx, study)
	if err != nil {
		return nil, err
	}
	var list []Capture
	return list, s.store.db.WithContext(ctx).Where("captures.publication_id = ?", s.publication).
		Joins("join results r on r.capture_id = captures.id and r.gathering_id = ?", g.ID).Order("r.rank").Find(&list).Error
}
