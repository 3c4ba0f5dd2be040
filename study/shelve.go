package study

import (
	"context"
	"database/sql"
	"time"

	"corpulan/core/message"
	"corpulan/store"
)

// Archive takes a study off the desk and keeps all of it.
func (c Commands) Archive(ctx context.Context, study int64) (Done, error) {
	return c.move(ctx, study, "Archived: %s", func(now time.Time, was store.StudyPlace) store.StudyPlace {
		was.ArchivedAt, was.DeletedAt = &now, nil
		return was
	})
}

// Delete takes a study away; it can be brought back for store.KeptDeleted.
func (c Commands) Delete(ctx context.Context, study int64) (Done, error) {
	return c.move(ctx, study, "Deleted: %s", func(now time.Time, was store.StudyPlace) store.StudyPlace {
		was.ArchivedAt, was.DeletedAt = nil, &now
		return was
	})
}

// BringBack puts a study on the desk again.
func (c Commands) BringBack(ctx context.Context, study int64) (Done, error) {
	return c.move(ctx, study, "Brought back: %s", func(_ time.Time, was store.StudyPlace) store.StudyPlace {
		was.ArchivedAt, was.DeletedAt = nil, nil
		return was
	})
}

func (c Commands) move(ctx context.Context, id int64, said message.Format, to func(now time.Time, was store.StudyPlace) store.StudyPlace) (Done, error) {
	var done Done
	err := c.scope.InTx(ctx, func(tx store.Scope, _ *sql.Tx) error {
		study, err := tx.Study(ctx, id)
		if err != nil {
			return err
		}
		p, err := tx.MoveStudy(ctx, id, to)
		if err != nil {
			return err
		}
		done, err = c.record(ctx, tx, id, message.Of(said, study.Keyword), p)
		return err
	})
	return done, err
}

// Lead parts the field into its first ranks and the others, for this study.
func (c Commands) Lead(ctx context.Context, study int64, leaders int) (Done, error) {
	return c.set(ctx, study, message.Of("Leaders are ranks 1 to %d", leaders), func(of *store.StudyPlace) { of.Leaders = leaders })
}

// ErrNoInterval says that a study is gathered weekly, monthly or by hand.
var ErrNoInterval = message.Errorf("a study is gathered again weekly, monthly, or by hand")

// GatherBy says whether a study is gathered again by itself: weekly, monthly, or not.
func (c Commands) GatherBy(ctx context.Context, study int64, again string) (Done, error) {
	said, ok := map[string]message.Message{"": "Gathered again by hand", store.Weekly: "Gathered again every week", store.Monthly: "Gathered again every month"}[again]
	if !ok {
		return Done{}, message.Errorf("%v: %q", ErrNoInterval, again)
	}
	return c.set(ctx, study, said, func(of *store.StudyPlace) { of.Again = again })
}

// set changes something that a study itself says; nothing is recorded where it says so already.
func (c Commands) set(ctx context.Context, study int64, said message.Message, to func(*store.StudyPlace)) (Done, error) {
	var done Done
	err := c.scope.InTx(ctx, func(tx store.Scope, _ *sql.Tx) error {
		p, err := tx.MoveStudy(ctx, study, func(_ time.Time, was store.StudyPlace) store.StudyPlace {
			to(&was)
			return was
		})
		if err != nil || p.Study.Before == p.Study.After {
			return err
		}
		done, err = c.record(ctx, tx, study, said, p)
		return err
	})
	return done, err
}
