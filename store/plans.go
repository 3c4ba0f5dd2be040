package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"fmt"
	"time"

	"corpulan/core/demand"
	"corpulan/core/message"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Slate is the pages that a publication plans to write.
type Slate struct {
	ID            int64
	PublicationID int64
	ListID        *int64
	Language      string
	Country       string
	Plan          JSONType[SlatePlan]
	CreatedAt     time.Time
	DeletedAt     *time.Time
}

// SlatePlan is what a slate holds.
type SlatePlan struct {
	Name      string             `json:"name"`
	Pages     []SlatePage        `json:"pages"`
	Redundant []demand.Redundant `json:"redundant,omitempty"`
	Links     []demand.Link      `json:"links,omitempty"`
	Notes     []message.Kept     `json:"notes,omitempty"`
}

// SlatePage is a page of a slate: what the rules proposed, and what people say of it.
type SlatePage struct {
	demand.Planned
	Title string `json:"title,omitempty"` // as a person calls it
	Owner string `json:"owner,omitempty"`
	Due   string `json:"due,omitempty"` // 2006-01-02
	Note  string `json:"note,omitempty"`
}

// Name is what a page of a slate is called.
func (p SlatePage) Name() string {
	if p.Title != "" {
		return p.Title
	}
	return p.Keyword
}

// PlanChange is something that was done to a list or a slate.
type PlanChange struct {
	ID            int64
	PublicationID int64
	ListID        *int64
	SlateID       *int64
	Actor         string
	PersonID      *int64
	Said          message.Kept
	Before        JSON
	After         JSON
	Undone        bool
	MadeAt        time.Time
}

// Subject is what a plan belongs to: a list or a slate.
type Subject struct {
	List, Slate int64
}

func (s Subject) table() string {
	if s.List != 0 {
		return "keyword_lists"
	}
	return "slates"
}

func (s Subject) id() int64 { return max(s.List, s.Slate) }

func (s Subject) of(q *gorm.DB) *gorm.DB {
	if s.List != 0 {
		return q.Where("list_id = ?", s.List)
	}
	return q.Where("slate_id = ?", s.Slate)
}

// lockPlan reads a plan under its lock.
func (s Scope) lockPlan(ctx context.Context, of Subject) (JSON, error) {
	var row struct{ Plan JSON }
	err := s.db(ctx).Table(of.table()).Select("plan").Clauses(forChange).Where("id = ?", of.id()).Take(&row).Error
	return row.Plan, found(err)
}

// EditPlan changes the plan of a list or slate under its lock; P is ListPlan or SlatePlan. An
// error of change leaves it as it was. What was done is kept to be undone, for the one who did
// it; said may depend on what the change found.
func EditPlan[P any](ctx context.Context, s Scope, of Subject, actor string, change func(*P) (said message.Message, err error)) (PlanChange, error) {
	var done PlanChange
	err := s.InTx(ctx, func(tx Scope, _ *sql.Tx) error {
		before, err := tx.lockPlan(ctx, of)
		if err != nil {
			return err
		}
		var plan P
		if err := json.Unmarshal(before, &plan); err != nil {
			return fmt.Errorf("reading a plan: %w", err)
		}
		said, err := change(&plan)
		if err != nil {
			return err
		}
		after, err := json.Marshal(plan)
		if err != nil {
			return err
		}
		if err := tx.setPlan(ctx, of, after); err != nil {
			return err
		}
		// What was undone cannot be done again once something else is done.
		if err := of.of(tx.db(ctx)).Scopes(s.own).Where("actor = ? and undone", actor).Delete(&PlanChange{}).Error; err != nil {
			return err
		}
		done = PlanChange{PublicationID: s.publication, Actor: actor, PersonID: s.who(), Said: said.Keep(), Before: before, After: after, MadeAt: time.Now()}
		if of.List != 0 {
			done.ListID = &of.List
		} else {
			done.SlateID = &of.Slate
		}
		return tx.store.db.WithContext(ctx).Create(&done).Error
	})
	return done, err
}

func (s Scope) setPlan(ctx context.Context, of Subject, plan []byte) error {
	return affected(s.db(ctx).Table(of.table()).Where("id = ?", of.id()).Update("plan", JSON(plan)))
}

// TurnPlan takes back the last thing that somebody did to a plan, or does it again. It fails
// with ErrNotFound where there is nothing, and with ErrStale where the plan has been changed
// since.
func (s Scope) TurnPlan(ctx context.Context, of Subject, actor string, again bool) (PlanChange, error) {
	var c PlanChange
	err := s.InTx(ctx, func(tx Scope, _ *sql.Tx) error {
		now, err := tx.lockPlan(ctx, of)
		if err != nil {
			return err
		}
		order := "id desc"
		if again {
			order = "id"
		}
		if err := of.of(tx.db(ctx)).Scopes(s.own).Where("actor = ? and undone = ?", actor, again).Order(order).Take(&c).Error; err != nil {
			return found(err)
		}
		from, to := c.After, c.Before
		if again {
			from, to = to, from
		}
		if !sameJSON(now, from) {
			return ErrStale
		}
		if err := tx.setPlan(ctx, of, to); err != nil {
			return err
		}
		return tx.db(ctx).Model(&PlanChange{}).Where("id = ?", c.ID).Update("undone", !again).Error
	})
	return c, err
}

// sameJSON compares two documents whatever their spaces and the order of their fields.
func sameJSON(a, b []byte) bool {
	var x, y any
	if json.Unmarshal(a, &x) != nil || json.Unmarshal(b, &y) != nil {
		return false
	}
	p, errA := json.Marshal(x)
	q, errB := json.Marshal(y)
	return errA == nil && errB == nil && string(p) == string(q)
}

// MaxSlates is how many slates a publication keeps. Our own.
const MaxSlates = 500

// CreateSlate keeps a new slate.
func (s Scope) CreateSlate(ctx context.Context, slate *Slate) error {
	var have int64
	if err := s.db(ctx).Model(&Slate{}).Count(&have).Error; err != nil {
		return err
	}
	if have >= MaxSlates {
		return ErrTooMany
	}
	slate.PublicationID, slate.CreatedAt = s.publication, time.Now()
	return s.store.db.WithContext(ctx).Create(slate).Error
}

// Slate finds a slate by its number, one that was deleted too.
func (s Scope) Slate(ctx context.Context, id int64) (Slate, error) {
	return take[Slate](s.db(ctx), id)
}

// Slates are the slates of the publication, or those that were deleted, the newest first.
func (s Scope) Slates(ctx context.Context, deleted bool) ([]Slate, error) {
	return find[Slate](s.db(ctx).Where("(deleted_at is not null) = ?", deleted).Order("id desc"))
}

// DeleteSlate deletes a slate, or brings it back. Its studies stay.
func (s Scope) DeleteSlate(ctx context.Context, id int64, back bool) error {
	var at *time.Time
	if !back {
		now := time.Now()
		at = &now
	}
	return affected(s.db(ctx).Model(&Slate{}).Where("id = ?", id).Update("deleted_at", at))
}

// affected is ErrNotFound where a change met no row.
func affected(res *gorm.DB) error {
	if res.Error == nil && res.RowsAffected == 0 {
		return ErrNotFound
	}
	return res.Error
}

// SlateStudy is a study that was begun for a page of a slate.
type SlateStudy struct {
	PublicationID int64
	SlateID       int64
	Page          string
	StudyID       int64
}

// SlateStudies are the studies of a slate's pages, by the page's key; those deleted left out.
func (s Scope) SlateStudies(ctx context.Context, slate int64) (map[string]int64, error) {
	var rows []SlateStudy
	err := s.store.db.WithContext(ctx).Raw(`select ss.* from slate_studies ss join studies st on st.id = ss.study_id and st.deleted_at is null
		where ss.publication_id = ? and ss.slate_id = ?`, s.publication, slate).Scan(&rows).Error
	out := make(map[string]int64, len(rows))
	for _, r := range rows {
		out[r.Page] = r.StudyID
	}
	return out, err
}

// LockSlate makes others who would begin studies of the same slate wait.
func (s Scope) LockSlate(ctx context.Context, id int64) (Slate, error) {
	return take[Slate](s.db(ctx).Clauses(forChange), id)
}

// KeepSlateStudy keeps which study was begun for a page.
func (s Scope) KeepSlateStudy(ctx context.Context, x SlateStudy) error {
	x.PublicationID = s.publication
	return s.store.db.WithContext(ctx).Clauses(clause.OnConflict{Columns: []clause.Column{{Name: "slate_id"}, {Name: "page"}}, UpdateAll: true}).Create(&x).Error
}
