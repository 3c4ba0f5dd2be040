package study

import (
	"context"
	"database/sql"

	"corpulan/core/brief"
	"corpulan/core/evidence"
	"corpulan/store"
)

// Choose adopts or drops a finding of the evidence as it now is, or takes a
// decision back.
func (c Commands) Choose(ctx context.Context, study int64, e *evidence.Evidence, m brief.Mark) (Done, error) {
	said := map[brief.State]string{brief.Adopted: "Adopted: ", brief.Dropped: "Dropped: ", "": "Left to the proposal: "}[m.State] + m.Text
	var done Done
	err := c.scope.InTx(ctx, func(tx store.Scope, _ *sql.Tx) error {
		var edits []brief.Edit
		_, err := tx.EditBrief(ctx, study, func(ch brief.Choices) ([]brief.Edit, error) {
			edits = ch.DecideOn(e, m)
			return edits, nil
		})
		if err != nil || len(edits) == 0 {
			done.Said = said
			return err
		}
		done, err = c.record(ctx, tx, study, said, store.Patch{Brief: edits})
		return err
	})
	return done, err
}

// Typing is a text that a person typed into a field of the brief.
type Typing struct {
	Field string
	Label string  // what the field is called
	Was   *string // what a person had typed there when this page was made; nil where the proposal stood
	Text  *string // nil gives the field back to the proposal
}

// Conflict says that somebody else has changed a field meanwhile. Nothing was
// overwritten; the person has to decide.
type Conflict struct {
	Theirs *string // nil where they gave the field back to the proposal
}

func (*Conflict) Error() string { return "somebody else has changed this meanwhile" }

// Write keeps a text, unless somebody else has changed the same field since the
// page was made: that is a *Conflict. It is found out under the brief's lock,
// so neither a moment between looking and writing nor another field counts. It
// returns the revision that the brief then has. e is the evidence that a note's
// section is of; nil for other fields.
func (c Commands) Write(ctx context.Context, study int64, e *evidence.Evidence, t Typing) (Done, int, error) {
	var done Done
	revision := 0
	err := c.scope.InTx(ctx, func(tx store.Scope, _ *sql.Tx) error {
		var edits []brief.Edit
		b, err := tx.EditBrief(ctx, study, func(ch brief.Choices) ([]brief.Edit, error) {
			now := ch.TypedOn(e, t.Field)
			if !equal(now, t.Was) && !equal(now, t.Text) {
				return nil, &Conflict{Theirs: now}
			}
			edits = ch.WriteOn(e, t.Field, t.Text)
			return edits, nil
		})
		if err != nil {
			return err
		}
		revision = b.Revision
		if len(edits) == 0 {
			return nil
		}
		done.Said = "Typed: " + t.Label
		if t.Text == nil {
			done.Said = "Back to the proposal: " + t.Label
		}
		if len(edits) > 1 { // notes that have met become one
			done, err = c.record(ctx, tx, study, done.Said, store.Patch{Brief: edits})
			return err
		}
		change, err := tx.RecordTyping(ctx, study, c.actor, done.Said, edits[0])
		done.Change = change.ID
		return err
	})
	return done, revision, err
}

func equal(a, b *string) bool { return a == nil && b == nil || a != nil && b != nil && *a == *b }
