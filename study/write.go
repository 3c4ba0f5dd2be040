package study

import (
	"context"
	"database/sql"

	"corpulan/core/brief"
	"corpulan/store"
)

// Choose adopts or drops a finding, or takes a decision back. made is what the
// finding is made of; see brief.Made.
func (c Commands) Choose(ctx context.Context, study int64, m brief.Mark, made []string) (Done, error) {
	said := map[brief.State]string{brief.Adopted: "Adopted: ", brief.Dropped: "Dropped: ", "": "Left to the proposal: "}[m.State] + m.Text
	var done Done
	err := c.scope.InTx(ctx, func(tx store.Scope, _ *sql.Tx) error {
		var edit brief.Edit
		_, err := tx.EditBrief(ctx, study, func(ch brief.Choices) ([]brief.Edit, error) {
			edit = ch.Decide(m, made)
			return []brief.Edit{edit}, nil
		})
		if err != nil || edit.Idle() {
			done.Said = said
			return err
		}
		done, err = c.record(ctx, tx, study, said, store.Patch{Brief: []brief.Edit{edit}})
		return err
	})
	return done, err
}

// Typing is a text that a person typed into a field of the brief.
type Typing struct {
	Field string
	Label string   // what the field is called
	Was   *string  // what a person had typed there when this page was made; nil where the proposal stood
	Text  *string  // nil gives the field back to the proposal
	Made  []string // what the section of a note is made of; see brief.Made
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
// returns the revision that the brief then has.
func (c Commands) Write(ctx context.Context, study int64, t Typing) (Done, int, error) {
	var done Done
	revision := 0
	err := c.scope.InTx(ctx, func(tx store.Scope, _ *sql.Tx) error {
		var edit brief.Edit
		b, err := tx.EditBrief(ctx, study, func(ch brief.Choices) ([]brief.Edit, error) {
			now := ch.TypedIn(t.Field)
			if !equal(now, t.Was) && !equal(now, t.Text) {
				return nil, &Conflict{Theirs: now}
			}
			edit = ch.Write(t.Field, t.Text, t.Made)
			return []brief.Edit{edit}, nil
		})
		if err != nil {
			return err
		}
		revision = b.Revision
		if edit.Idle() {
			return nil
		}
		done.Said = "Typed: " + t.Label
		if t.Text == nil {
			done.Said = "Back to the proposal: " + t.Label
		}
		change, err := tx.RecordTyping(ctx, study, c.actor, done.Said, edit)
		done.Change = change.ID
		return err
	})
	return done, revision, err
}

func equal(a, b *string) bool { return a == nil && b == nil || a != nil && b != nil && *a == *b }
