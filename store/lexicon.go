package store

import (
	"context"
	"slices"
	"time"

	"corpulan/core/house"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// LexiconEntry is an entry of the house lexicon: of the publication, or of one study.
type LexiconEntry struct {
	ID            int64
	PublicationID int64
	StudyID       *int64 // nil for the publication's
	Kind          house.Kind
	Term          string
	Other         string
	MadeAt        time.Time
}

// Entry is what it says.
func (e LexiconEntry) Entry() house.Entry {
	return house.Entry{Kind: e.Kind, Term: e.Term, Other: e.Other}
}

// LexiconEdit is an entry before and after; nil where it was not there.
type LexiconEdit struct {
	Wide   bool         `json:"wide"` // of the publication, not of the study alone
	Before *house.Entry `json:"before"`
	After  *house.Entry `json:"after"`
}

// Lexicon lists the entries that count for a study: the publication's, then its own,
// each in the order they were made.
func (s Scope) Lexicon(ctx context.Context, study int64) ([]LexiconEntry, error) {
	return find[LexiconEntry](s.db(ctx).Where("study_id is null or study_id = ?", study).Order("study_id is not null, id"))
}

// entry finds one entry by what it says.
func (s Scope) entry(tx *gorm.DB, study int64, wide bool, e house.Entry) *gorm.DB {
	q := tx.Where("publication_id = ? and kind = ? and term = ? and other = ?", s.publication, e.Kind, e.Term, e.Other)
	if wide {
		return q.Where("study_id is null")
	}
	return q.Where("study_id = ?", study)
}

// Teach makes edits of the lexicon. It fails with ErrStale if an entry is not there
// that was to go. An entry that stands already is left; what is returned are the edits
// that changed something.
func (s Scope) Teach(ctx context.Context, study int64, edits []LexiconEdit) ([]LexiconEdit, error) {
	if _, err := s.Study(ctx, study); err != nil {
		return nil, err
	}
	db := s.store.db.WithContext(ctx)
	wide := slices.ContainsFunc(edits, func(e LexiconEdit) bool { return e.Wide })
	if wide { // one after another, since they touch all studies
		if err := db.Clauses(forChange).Take(&Publication{}, s.publication).Error; err != nil {
			return nil, found(err)
		}
	}
	var done []LexiconEdit
	for _, e := range edits {
		changed := false
		if e.Before != nil {
			res := s.entry(db, study, e.Wide, *e.Before).Delete(&LexiconEntry{})
			if res.Error != nil {
				return nil, res.Error
			}
			if res.RowsAffected == 0 {
				return nil, ErrStale
			}
			changed = true
		}
		if e.After != nil {
			row := LexiconEntry{PublicationID: s.publication, Kind: e.After.Kind, Term: e.After.Term, Other: e.After.Other, MadeAt: time.Now()}
			if !e.Wide {
				row.StudyID = &study
			}
			res := db.Clauses(clause.OnConflict{DoNothing: true}).Create(&row)
			if res.Error != nil {
				return nil, res.Error
			}
			changed = changed || res.RowsAffected > 0
		}
		if changed {
			done = append(done, e)
		}
	}
	switch {
	case len(done) == 0:
		return nil, nil
	case wide: // all studies are other ones now
		return done, s.db(ctx).Model(&Study{}).UpdateColumn("change", gorm.Expr("change + 1")).Error
	}
	return done, s.store.touch(ctx, study)
}
