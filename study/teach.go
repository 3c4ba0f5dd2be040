package study

import (
	"context"
	"database/sql"
	"fmt"

	"corpulan/core/house"
	"corpulan/store"
)

// Teach changes the house lexicon of the publication, or of one study, in one step that
// can be undone.
func (c Commands) Teach(ctx context.Context, study int64, said string, edits []store.LexiconEdit) (Done, error) {
	var done Done
	err := c.scope.InTx(ctx, func(tx store.Scope, _ *sql.Tx) error {
		changed, err := tx.Teach(ctx, study, edits)
		if err != nil {
			return err
		}
		done, err = c.record(ctx, tx, study, said, store.Patch{Lexicon: changed})
		return err
	})
	return done, err
}

// Taught says in words what an entry does.
func Taught(e house.Entry) string {
	switch e.Kind {
	case house.Ignore:
		return fmt.Sprintf("“%s” is not proposed", e.Term)
	case house.Prefer:
		return fmt.Sprintf("“%s” is written “%s”", e.Term, e.Other)
	case house.Merge:
		return fmt.Sprintf("“%s” counts as “%s”", e.Term, e.Other)
	case house.Type:
		return fmt.Sprintf("“%s” is one of the type %s", e.Term, e.Other)
	case house.Synonym:
		return fmt.Sprintf("“%s” means “%s”", e.Term, e.Other)
	}
	return fmt.Sprintf("“%s” is not “%s”", e.Term, e.Other)
}
