package study

import (
	"context"
	"database/sql"

	"corpulan/core/brief"
	"corpulan/core/message"
	"corpulan/store"
)

// What is done on the desk to several studies at once: each is a step of its own, undone in
// its study, and all of them together from the desk.

// MaxAtOnce is how many studies are changed at once. Our own: a page of the desk.
const MaxAtOnce = 100

// SetField writes a field in the front of a brief, whatever stood there.
func (c Commands) SetField(ctx context.Context, study int64, field, value string) (Done, error) {
	said := message.Of(map[string]message.Format{brief.FieldOwner: "Owner: %s", brief.FieldWriter: "Writer: %s", brief.FieldDue: "Due: %s"}[field], value)
	if field == brief.FieldStatus {
		said = message.Of("Stage: %v", message.Message(value))
	}
	return c.edit(ctx, study, func(ch brief.Choices) (message.Message, []brief.Edit, error) {
		return said, ch.WriteOn(nil, field, &value), nil
	})
}

// Many does one thing to several studies, or to none of them, and counts those it changed.
func (c Commands) Many(ctx context.Context, studies []int64, do func(c Commands, study int64) (Done, error)) (changed []int64, err error) {
	if len(studies) > MaxAtOnce {
		return nil, message.Errorf("%v: at most %d studies at once", store.ErrTooMany, MaxAtOnce)
	}
	err = c.scope.InTx(ctx, func(tx store.Scope, _ *sql.Tx) error {
		c.scope = tx
		for _, id := range studies {
			done, err := do(c, id)
			if err != nil {
				return err
			}
			if done.Change != 0 {
				changed = append(changed, id)
			}
		}
		return nil
	})
	return changed, err
}
