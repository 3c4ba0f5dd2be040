package study

import (
	"context"
	"database/sql"
	"fmt"
	"time"

	"corpulan/store"
)

// Archive takes a study off the desk and keeps all of it.
func (c Commands) Archive(ctx context.Context, study int64) (Done, error) {
	return c.move(ctx, study, "Archived", func(now time.Time, was store.StudyPlace) store.StudyPlace {
		return store.StudyPlace{ArchivedAt: &now, Leaders: was.Leaders}
	})
}

// Delete takes a study away; it can be brought back for store.KeptDeleted.
func (c Commands) Delete(ctx context.Context, study int64) (Done, error) {
	return c.move(ctx, study, "Deleted", func(now time.Time, was store.StudyPlace) store.StudyPlace {
		return store.StudyPlace{DeletedAt: &now, Leaders: was.Leaders}
	})
}

// BringBack puts a study on the desk again.
func (c Commands) BringBack(ctx context.Context, study int64) (Done, error) {
	return c.move(ctx, study, "Brought back", func(_ time.Time, was store.StudyPlace) store.StudyPlace {
		return store.StudyPlace{Leaders: was.Leaders}
	})
}

func (c Commands) move(ctx context.Context, id int64, what string, to func(now time.Time, was store.StudyPlace) store.StudyPlace) (Done, error) {
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
		done, err = c.record(ctx, tx, id, what+": "+study.Keyword, p)
		return err
	})
	return done, err
}

// Lead parts the field into its first ranks and the others, for this study.
func (c Commands) Lead(ctx context.Context, study int64, leaders int) (Done, error) {
	var done Done
	err := c.scope.InTx(ctx, func(tx store.Scope, _ *sql.Tx) error {
		p, err := tx.MoveStudy(ctx, study, func(_ time.Time, was store.StudyPlace) store.StudyPlace {
			was.Leaders = leaders
			return was
		})
		if err != nil {
			return err
		}
		if p.Study.Before.Leaders == leaders {
			return nil
		}
		done, err = c.record(ctx, tx, study, fmt.Sprintf("Leaders are ranks 1 to %d", leaders), p)
		return err
	})
	return done, err
}
