package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"maps"
	"time"

	"corpulan/core/fit"
	"corpulan/core/message"

	"gorm.io/gorm/clause"
)

// Draft is the writer's text of a study. Its document is as the editor has it; see core/draft.
type Draft struct {
	ID            int64
	PublicationID int64
	StudyID       int64
	Document      JSON
	Version       int // how many steps led to it
	Author        string
	Words         int
	ChangedAt     time.Time
	Fit           *int // 0 to 100, when it was measured last
	Said          JSONType[DraftSaid]
}

// DraftSaid is what writers have said of a draft.
type DraftSaid struct {
	Rewrites string     `json:"rewrites,omitempty"` // address of the page of ours that it is the new text of
	Answers  fit.Judged `json:"answers,omitempty"`
}

// DraftStep is a step of the editor, with the editor it came from.
type DraftStep struct {
	DraftID int64  `json:"-"`
	Version int    `json:"-"` // that the draft has after it
	Client  string `json:"client"`
	Step    JSON   `json:"step"`
}

// DraftVersion is what a draft was.
type DraftVersion struct {
	ID            int64
	PublicationID int64
	DraftID       int64
	Document      JSON
	Version       int
	Author        string
	Said          message.Kept // why it was kept
	Words         int
	MadeAt        time.Time
}

// Bounds of drafts. Our own: every key is a step, so that these are some eight thousand words
// typed; versions of a year.
const (
	StepsKept    = 50_000
	bytesKept    = 64 << 20 // of steps; pasting a whole text is one step
	prunedAt     = 500      // steps between looks at their size
	VersionsKept = 500
	keptApart    = 10 * time.Minute // between versions of one author
)

// ErrBehind says that a draft has moved on since.
var ErrBehind = errors.New("somebody else has changed the draft since")

// Draft is the draft of a study; ErrNotFound where none was begun.
func (s Scope) Draft(ctx context.Context, study int64) (Draft, error) {
	return take[Draft](s.db(ctx).Where("study_id = ?", study))
}

// DraftHead is the draft of a study without its document, for those who ask often whether it
// has changed.
func (s Scope) DraftHead(ctx context.Context, study int64) (Draft, error) {
	return take[Draft](s.db(ctx).Omit("document").Where("study_id = ?", study))
}

// BeginDraft is the draft of a study, begun with a document where there is none.
func (s Scope) BeginDraft(ctx context.Context, study int64, document []byte) (Draft, error) {
	d, err := s.Draft(ctx, study)
	if !errors.Is(err, ErrNotFound) {
		return d, err
	}
	if _, err := s.Study(ctx, study); err != nil {
		return Draft{}, err
	}
	d = Draft{PublicationID: s.publication, StudyID: study, Document: document, ChangedAt: time.Now()}
	if err := s.store.db.WithContext(ctx).Clauses(clause.OnConflict{DoNothing: true}).Create(&d).Error; err != nil {
		return Draft{}, err
	}
	return s.Draft(ctx, study)
}

// Steps are the steps that led from one version of a draft to the present one; ErrBehind where
// they are not kept any more.
func (s Scope) Steps(ctx context.Context, d Draft, since int) ([]DraftStep, error) {
	list := []DraftStep{}
	if since >= d.Version {
		return list, nil
	}
	err := s.store.db.WithContext(ctx).Where("draft_id = ? and version > ? and version <= ?", d.ID, since, d.Version).Order("version").Find(&list).Error
	if err == nil && len(list) != d.Version-since {
		return nil, ErrBehind
	}
	return list, err
}

// SayOfDraft changes what is said of the draft of a study.
func (s Scope) SayOfDraft(ctx context.Context, study int64, change func(*DraftSaid)) error {
	return s.InTx(ctx, func(tx Scope, _ *sql.Tx) error {
		var d Draft
		if err := found(tx.db(ctx).Omit("document").Clauses(forChange).Where("study_id = ?", study).Take(&d).Error); err != nil {
			return err
		}
		said := d.Said.Data()
		said.Answers = maps.Clone(said.Answers)
		change(&said)
		return tx.db(ctx).Model(&Draft{}).Where("id = ?", d.ID).Update("said", NewJSONType(said)).Error
	})
}

// DraftEdit is some steps on a version of a draft, and the document they lead to.
type DraftEdit struct {
	On       int
	Client   string
	Author   string
	Steps    []json.RawMessage
	Document []byte
	Words    int
}

// SaveDraft puts steps onto a draft; ErrBehind if it is not at the version they are made on.
// What it was is kept as a version if the last one is some time old, or somebody else writes.
func (s Scope) SaveDraft(ctx context.Context, study int64, e DraftEdit) (Draft, error) {
	var d Draft
	err := s.InTx(ctx, func(tx Scope, _ *sql.Tx) error {
		if err := found(tx.db(ctx).Clauses(forChange).Where("study_id = ?", study).Take(&d).Error); err != nil {
			return err
		}
		if d.Version != e.On {
			return ErrBehind
		}
		if err := tx.keepOld(ctx, d, e.Author); err != nil {
			return err
		}
		steps := make([]DraftStep, len(e.Steps))
		for i, st := range e.Steps {
			steps[i] = DraftStep{d.ID, d.Version + i + 1, e.Client, JSON(st)}
		}
		db := tx.store.db.WithContext(ctx)
		if err := db.CreateInBatches(steps, 500).Error; err != nil {
			return err
		}
		before, size := d.Version, 0
		for _, st := range e.Steps {
			size += len(st)
		}
		d.Version += len(steps)
		d.Document, d.Author, d.Words, d.ChangedAt = e.Document, e.Author, e.Words, time.Now()
		if err := db.Save(&d).Error; err != nil {
			return err
		}
		if size > bytesKept/prunedAt || before/prunedAt != d.Version/prunedAt {
			err := db.Exec(`delete from draft_steps where draft_id = @draft and version <= (select coalesce(max(version), 0) from (
				select version, sum(octet_length(step::text)) over (order by version desc) as size from draft_steps where draft_id = @draft) s where size > @most)`,
				map[string]any{"draft": d.ID, "most": bytesKept}).Error
			if err != nil {
				return err
			}
		}
		return db.Where("draft_id = ? and version <= ?", d.ID, d.Version-StepsKept).Delete(&DraftStep{}).Error
	})
	return d, err
}

// keepOld keeps what a draft was before an author goes on, from time to time.
func (s Scope) keepOld(ctx context.Context, d Draft, author string) error {
	if d.Version == 0 || d.Words == 0 {
		return nil
	}
	var last DraftVersion
	err := found(s.db(ctx).Where("draft_id = ?", d.ID).Order("id desc").Omit("document").Take(&last).Error)
	if err != nil && !errors.Is(err, ErrNotFound) {
		return err
	}
	if err == nil && (last.Version == d.Version || d.Author == author && time.Since(last.MadeAt) < keptApart) {
		return nil
	}
	if errors.Is(err, ErrNotFound) && d.Author == author && time.Since(d.ChangedAt) < keptApart {
		return nil
	}
	return s.keep(ctx, DraftVersion{DraftID: d.ID, Document: d.Document, Version: d.Version, Author: d.Author, Words: d.Words, MadeAt: d.ChangedAt})
}

func (s Scope) keep(ctx context.Context, v DraftVersion) error {
	v.PublicationID = s.publication
	db := s.store.db.WithContext(ctx)
	if err := db.Create(&v).Error; err != nil {
		return err
	}
	// Those with a name stay; of the others the oldest go.
	return db.Exec(`delete from draft_versions where id in (
		select id from draft_versions where draft_id = ? and said = '' order by id desc offset ?)`, v.DraftID, VersionsKept).Error
}

// KeepFit keeps how far a draft met its brief when it was measured.
func (s Scope) KeepFit(ctx context.Context, study int64, fit int) error {
	return s.db(ctx).Model(&Draft{}).Where("study_id = ? and fit is distinct from ?", study, fit).UpdateColumn("fit", fit).Error
}

// KeepVersion keeps a document as a version of a draft; ErrTooMany where many are kept by name.
func (s Scope) KeepVersion(ctx context.Context, study int64, v DraftVersion) error {
	d, err := s.Draft(ctx, study)
	if err != nil {
		return err
	}
	var n int64
	if err := s.db(ctx).Model(&DraftVersion{}).Where("draft_id = ? and said <> ''", d.ID).Count(&n).Error; err != nil {
		return err
	}
	if n >= 4*VersionsKept {
		return ErrTooMany
	}
	v.DraftID, v.MadeAt, v.Version = d.ID, time.Now(), d.Version
	return s.keep(ctx, v)
}

// DraftVersions lists what a draft was, the newest first, without the documents.
func (s Scope) DraftVersions(ctx context.Context, draft int64, most int) ([]DraftVersion, error) {
	return find[DraftVersion](s.db(ctx).Where("draft_id = ?", draft).Order("id desc").Omit("document").Limit(most))
}

// DraftVersion is one of them, with its document.
func (s Scope) DraftVersion(ctx context.Context, draft, id int64) (DraftVersion, error) {
	return take[DraftVersion](s.db(ctx).Where("draft_id = ? and id = ?", draft, id))
}
