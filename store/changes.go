package store

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"corpulan/core/brief"
	"corpulan/core/message"

	"gorm.io/gorm"
)

// Change is one thing a person did to a study, with what it takes to undo it.
type Change struct {
	ID            int64
	PublicationID int64
	StudyID       int64
	Actor         string       // the browser it came from
	PersonID      *int64       // whose that was
	Said          message.Kept // what was done, in words: "Dropped: tyre pressure"
	Patch         JSONType[Patch]
	MadeAt        time.Time
	UndoneAt      *time.Time
}

// Patch is what a change did, place by place.
type Patch struct {
	Results []ResultEdit  `json:"results,omitempty"`
	Brief   []brief.Edit  `json:"brief,omitempty"`
	Study   *StudyEdit    `json:"study,omitempty"`
	Depth   *DepthEdit    `json:"depth,omitempty"`
	Lexicon []LexiconEdit `json:"lexicon,omitempty"`
}

// ResultEdit is a page before and after; nil where it was not there.
type ResultEdit struct {
	Before *Result `json:"before"`
	After  *Result `json:"after"`
}

// StudyEdit is where a study stood before and after.
type StudyEdit struct {
	Before StudyPlace `json:"before"`
	After  StudyPlace `json:"after"`
}

// DepthEdit is how many results a study asked for before and after, in one gathering.
type DepthEdit struct {
	Gathering int64 `json:"gathering"`
	Last      int64 `json:"last"` // the newest of its pages that was there before
	Before    int   `json:"before"`
	After     int   `json:"after"`
}

// StudyPlace is whether a study is archived or deleted, since when, how many of its first ranks
// lead, and how often it is gathered again by itself.
type StudyPlace struct {
	ArchivedAt *time.Time `json:"archived_at"`
	DeletedAt  *time.Time `json:"deleted_at"`
	Leaders    int        `json:"leaders,omitempty"` // 0 in changes from before there was a choice
	Again      string     `json:"again,omitempty"`
}

// Empty tells that nothing was changed.
func (p Patch) Empty() bool {
	return len(p.Results) == 0 && len(p.Brief) == 0 && p.Study == nil && p.Depth == nil && len(p.Lexicon) == 0
}

// Reversed is the patch that takes this one back.
func (p Patch) Reversed() Patch {
	var r Patch
	for _, e := range p.Results {
		r.Results = append(r.Results, ResultEdit{e.After, e.Before})
	}
	for _, e := range slices.Backward(p.Brief) { // several may be about one place
		r.Brief = append(r.Brief, e.Reversed())
	}
	for i := len(p.Lexicon) - 1; i >= 0; i-- {
		e := p.Lexicon[i]
		r.Lexicon = append(r.Lexicon, LexiconEdit{e.Wide, e.After, e.Before})
	}
	if p.Study != nil {
		r.Study = &StudyEdit{p.Study.After, p.Study.Before}
	}
	if d := p.Depth; d != nil {
		r.Depth = &DepthEdit{d.Gathering, d.Last, d.After, d.Before}
	}
	return r
}

// noteResults adds to a patch how pages were and how they are now.
func (s Scope) noteResults(ctx context.Context, p *Patch, before []Result) error {
	for _, b := range before {
		var a Result
		if err := s.db(ctx).Take(&a, b.ID).Error; err != nil {
			return found(err)
		}
		p.Results = append(p.Results, ResultEdit{&b, &a})
	}
	return nil
}

// Added is the patch of pages that were put into a gathering.
func Added(results []Result) Patch {
	var p Patch
	for i := range results {
		p.Results = append(p.Results, ResultEdit{nil, &results[i]})
	}
	return p
}

// Record keeps what a person did, so that it can be undone. What was undone
// before cannot be done again after it.
func (s Scope) Record(ctx context.Context, study int64, actor string, said message.Message, p Patch) (Change, error) {
	c := Change{PublicationID: s.publication, StudyID: study, Actor: actor, PersonID: s.who(), Said: said.Keep(), Patch: NewJSONType(p), MadeAt: time.Now()}
	if err := s.own(s.db(ctx)).Where("study_id = ? and actor = ? and undone_at is not null", study, actor).Delete(&Change{}).Error; err != nil {
		return c, err
	}
	err := s.store.db.WithContext(ctx).Create(&c).Error
	return c, err
}

// typing is how long after a text was changed a further change of it by the
// same person belongs to the same step of undoing.
const typing = 20 * time.Second

// RecordTyping is Record for a text: what is typed in one go is one step,
// however often it is saved on the way.
func (s Scope) RecordTyping(ctx context.Context, study int64, actor string, said message.Message, e brief.Edit) (Change, error) {
	last, err := s.NewestChange(ctx, study, actor, false)
	if err == nil && time.Since(last.MadeAt) < typing {
		p := last.Patch.Data()
		if len(p.Results) == 0 && p.Study == nil && len(p.Lexicon) == 0 && len(p.Brief) == 1 && p.Brief[0].Kind == "" && p.Brief[0].Key == e.Key {
			p.Brief[0].After = e.After
			last.Patch, last.MadeAt = NewJSONType(p), time.Now()
			return last, s.db(ctx).Model(&Change{}).Where("id = ?", last.ID).Updates(map[string]any{"patch": last.Patch, "made_at": last.MadeAt}).Error
		}
	}
	if err != nil && !errors.Is(err, ErrNotFound) {
		return Change{}, err
	}
	return s.Record(ctx, study, actor, said, Patch{Brief: []brief.Edit{e}})
}

// NewestChange is the last thing a person did to a study and has not undone, or
// the last that was undone; ErrNotFound if there is none.
func (s Scope) NewestChange(ctx context.Context, study int64, actor string, undone bool) (Change, error) {
	q := s.own(s.db(ctx)).Where("study_id = ? and actor = ?", study, actor)
	if undone {
		q = q.Where("undone_at is not null").Order("undone_at desc, id")
	} else {
		q = q.Where("undone_at is null").Order("id desc")
	}
	return take[Change](q)
}

// own narrows changes to those of the one who asks: two people may sit at one browser, one
// after the other.
func (s Scope) own(q *gorm.DB) *gorm.DB {
	return q.Where("(person_id is null or person_id = ?)", s.person)
}

// MarkUndone says that a change was taken back, or made again; ErrConflict if
// somebody was faster.
func (s Scope) MarkUndone(ctx context.Context, change int64, undone bool) error {
	q, at := s.db(ctx).Model(&Change{}).Where("id = ? and undone_at is not null", change), (*time.Time)(nil)
	if undone {
		now := time.Now()
		q, at = s.db(ctx).Model(&Change{}).Where("id = ? and undone_at is null", change), &now
	}
	res := q.Update("undone_at", at)
	if res.Error == nil && res.RowsAffected == 0 {
		return ErrConflict
	}
	return res.Error
}

// ErrStale says that what a patch was made on does not stand any more.
var ErrStale = brief.ErrStale

// Apply brings everything a patch names from its state before to the one after.
// It fails with ErrStale, and changes nothing, if any of it is not as it was
// before. It returns the gathering as it then is. by is who does it, and what in words.
func (s Scope) Apply(ctx context.Context, study int64, by By, p Patch) (Gathering, error) {
	return s.change(ctx, study, func(tx Scope, g *Gathering) error {
		for _, e := range p.Results {
			if err := tx.applyResult(ctx, g, e); err != nil {
				return err
			}
		}
		if len(p.Brief) > 0 {
			if _, err := tx.EditBrief(ctx, study, by.Actor, func(brief.Choices) (message.Message, []brief.Edit, error) { return by.Said, p.Brief, nil }); err != nil {
				return err
			}
		}
		if len(p.Lexicon) > 0 {
			if _, err := tx.Teach(ctx, study, p.Lexicon); err != nil {
				return err
			}
		}
		if p.Study != nil {
			if err := tx.place(ctx, study, *p.Study); err != nil {
				return err
			}
		}
		if p.Depth != nil {
			return tx.setDepth(ctx, g, *p.Depth)
		}
		return nil
	})
}

func (s Scope) applyResult(ctx context.Context, g *Gathering, e ResultEdit) error {
	db := s.store.db.WithContext(ctx)
	if e.Before == nil { // it comes back
		r := *e.After
		if r.GatheringID != g.ID {
			return ErrStale
		}
		if r.State == Fetching {
			r.State = Waiting
		}
		var last int
		if err := s.db(ctx).Model(&Result{}).Where("gathering_id = ?", g.ID).Select("coalesce(max(rank), 0)").Scan(&last).Error; err != nil {
			return err
		}
		if last >= r.Rank {
			r.Rank = last + 1
		}
		return db.Create(&r).Error
	}
	var now Result
	if err := s.db(ctx).Clauses(forChange).Where("gathering_id = ?", g.ID).Take(&now, e.Before.ID).Error; err != nil {
		if errors.Is(found(err), ErrNotFound) {
			return ErrStale // gathered again since, or taken out
		}
		return err
	}
	if e.After == nil {
		return db.Delete(&Result{}, now.ID).Error
	}
	b, a := e.Before, e.After
	set := map[string]any{}
	if b.Kept != a.Kept || b.Reason != a.Reason || b.Decided != a.Decided {
		if now.Kept != b.Kept || now.Reason != b.Reason || now.Decided != b.Decided {
			return ErrStale
		}
		set["kept"], set["reason"], set["decided"] = a.Kept, a.Reason, a.Decided
	}
	if number(b.CaptureID) != number(a.CaptureID) {
		if number(now.CaptureID) != number(b.CaptureID) {
			return ErrStale
		}
		set["state"], set["failure_code"], set["failure"], set["capture_id"] = a.State, a.FailureCode, a.Failure, a.CaptureID
		reading, err := s.newestReading(ctx, a)
		if err != nil {
			return err
		}
		set["reading_id"] = reading
		if a.State == Fetching {
			set["state"] = Waiting
		}
	}
	if len(set) == 0 {
		return nil
	}
	return db.Model(&Result{}).Where("id = ?", now.ID).Updates(set).Error
}

// newestReading is the reading of a page's capture now: a newer engine may have
// made another since.
func (s Scope) newestReading(ctx context.Context, r *Result) (*int64, error) {
	if r.CaptureID == nil {
		return nil, nil
	}
	var rd Reading
	err := s.db(ctx).Omit("document").Where("capture_id = ?", *r.CaptureID).Order("engine desc").Take(&rd).Error
	if err != nil {
		return nil, fmt.Errorf("the reading of %s: %w", r.URL, found(err))
	}
	return &rd.ID, nil
}

func number(id *int64) int64 {
	if id == nil {
		return 0
	}
	return *id
}
