package study

import (
	"context"
	"database/sql"
	"strings"

	"corpulan/core/house"
	"corpulan/core/message"
	"corpulan/store"
)

// Teach changes the house lexicon of the publication, or of one study, in one step that
// can be undone.
func (c Commands) Teach(ctx context.Context, study int64, said message.Message, edits []store.LexiconEdit) (Done, error) {
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
func Taught(e house.Entry) message.Message {
	switch e.Kind {
	case house.Ignore:
		return message.Of("“%s” is not proposed", e.Term)
	case house.Prefer:
		return message.Of("“%s” is written “%s”", e.Term, e.Other)
	case house.Merge:
		return message.Of("“%s” counts as “%s”", e.Term, e.Other)
	case house.Asks:
		return message.Of("“%s” asks the same as “%s”", e.Term, e.Other)
	case house.Gather:
		if e.Other == "" {
			return message.Of("The heading “%s” stands alone", e.Term)
		}
		return message.Of("The heading “%s” moved to the theme of “%s”", e.Term, e.Other)
	case house.Name:
		return message.Of("The theme of “%s” is called “%s”", e.Term, e.Other)
	case house.Type:
		return message.Of("“%s” is one of the type %v", e.Term, message.Label(e.Other, "names"))
	case house.Spell:
		return message.Of("“%s” is spelt right", e.Term)
	case house.Synonym:
		return message.Of("“%s” means “%s”", e.Term, e.Other)
	}
	return message.Of("“%s” is not “%s”", e.Term, e.Other)
}

// Instead are the edits that teach an entry in the place of those it outdoes: a heading
// belongs to one theme, which has one name, a question is one with one other, a name has
// one type.
func Instead(entries []store.LexiconEntry, e house.Entry, wide bool) []store.LexiconEdit {
	var edits []store.LexiconEdit
	if e.Kind.OfStudy() || e.Kind == house.Type {
		for _, old := range entries {
			if old.Kind == e.Kind && strings.EqualFold(old.Term, e.Term) && (old.StudyID == nil) == wide && old.Entry() != e {
				before := old.Entry()
				edits = append(edits, store.LexiconEdit{Wide: wide, Before: &before})
			}
		}
	}
	return append(edits, store.LexiconEdit{Wide: wide, After: &e})
}
