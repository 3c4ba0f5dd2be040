package study

import (
	"context"
	"database/sql"
	"maps"
	"slices"

	"corpulan/core/brief"
	"corpulan/core/evidence"
	"corpulan/core/language"
	"corpulan/core/message"
	"corpulan/store"
)

// edit makes edits of the choices in one step that can be undone. decide makes them up under
// the brief's lock, from the choices as they then are, and says what was done.
func (c Commands) edit(ctx context.Context, study int64, decide func(brief.Choices) (said message.Message, edits []brief.Edit, err error)) (Done, error) {
	var done Done
	err := c.scope.InTx(ctx, func(tx store.Scope, sqlTx *sql.Tx) error {
		var edits []brief.Edit
		var before map[string]string
		b, err := tx.EditBrief(ctx, study, c.actor, func(ch brief.Choices) (_ message.Message, _ []brief.Edit, err error) {
			before = maps.Clone(ch.Typed)
			done.Said, edits, err = decide(ch)
			return done.Said, edits, err
		})
		if err != nil || len(edits) == 0 {
			return err
		}
		if err := c.tell(ctx, tx, sqlTx, study, before, b.Choices.Data()); err != nil {
			return err
		}
		done, err = c.record(ctx, tx, study, done.Said, store.Patch{Brief: edits})
		return err
	})
	if err == nil {
		c.keepDocument(ctx, study)
	}
	return done, err
}

// Choose adopts or drops a finding of the evidence as it now is, or takes a
// decision back.
func (c Commands) Choose(ctx context.Context, study int64, m brief.Mark) (Done, error) {
	return c.ChooseMany(ctx, study, []brief.Mark{m})
}

// ChooseMany is Choose for several findings, in one step.
func (c Commands) ChooseMany(ctx context.Context, study int64, marks []brief.Mark) (Done, error) {
	if len(marks) == 0 {
		return Done{Said: "Nothing is picked."}, nil
	}
	e, err := c.evidence(ctx, study)
	if err != nil {
		return Done{}, err
	}
	return c.decide(ctx, study, e, marks)
}

// decide makes decisions about findings of some evidence, which are all of one state.
func (c Commands) decide(ctx context.Context, study int64, e *evidence.Evidence, marks []brief.Mark) (Done, error) {
	said := map[brief.State]message.Format{brief.Adopted: "Adopted: %v", brief.Dropped: "Dropped: %v", "": "Left to the proposal: %v"}[marks[0].State]
	what := message.Of("%d findings", len(marks))
	if len(marks) == 1 {
		what = message.Text(marks[0].Text)
	}
	return c.edit(ctx, study, func(ch brief.Choices) (message.Message, []brief.Edit, error) {
		return message.Of(said, what), ch.DecideOn(e, marks...), nil
	})
}

// AddOwn adopts a term, a question or a link that a person typed: the field's, if it has it,
// or their own.
func (c Commands) AddOwn(ctx context.Context, study int64, kind brief.Kind, text string) (Done, error) {
	e, err := c.evidence(ctx, study)
	if err != nil {
		return Done{}, err
	}
	lang := language.For(e.Language)
	key := lang.PhraseKey(text)
	if kind == brief.LinkKind { // an address is its own key
		key = text
	}
	m := brief.Mark{Kind: kind, Key: brief.OwnPrefix + key, Text: text, State: brief.Adopted}
	for _, f := range e.Findings(kind) {
		if slices.Contains(f.Made, key) || slices.ContainsFunc(f.Said, func(s string) bool { return lang.PhraseKey(s) == key }) {
			m.Key, m.Text = f.Key, f.Text
		}
	}
	return c.decide(ctx, study, e, []brief.Mark{m})
}

// Typing is a text that a person typed into a field of the brief.
type Typing struct {
	Field string
	Label message.Message // what the field is called
	Was   *string         // what a person had typed there when this page was made; nil where the proposal stood
	Text  *string         // nil gives the field back to the proposal

	// Said is what was done, where it is no typing but one press: a step of its own to undo.
	Said message.Message
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
	var e *evidence.Evidence // that a note's section is of; other fields are saved whatever becomes of the evidence
	if brief.FollowsFinding(t.Field) {
		var err error
		if e, err = c.evidence(ctx, study); err != nil {
			return Done{}, 0, err
		}
	}
	var done Done
	revision := 0
	done.Said = message.Of("Typed: %v", t.Label)
	if t.Text == nil {
		done.Said = message.Of("Back to the proposal: %v", t.Label)
	}
	if t.Said != "" {
		done.Said = t.Said
	}
	err := c.scope.InTx(ctx, func(tx store.Scope, sqlTx *sql.Tx) error {
		var edits []brief.Edit
		var before map[string]string
		b, err := tx.EditBrief(ctx, study, c.actor, func(ch brief.Choices) (message.Message, []brief.Edit, error) {
			before = maps.Clone(ch.Typed)
			now := ch.TypedOn(e, t.Field)
			if !equal(now, t.Was) && !equal(now, t.Text) {
				return "", nil, &Conflict{Theirs: now}
			}
			edits = ch.WriteOn(e, t.Field, t.Text)
			return done.Said, edits, nil
		})
		if err != nil {
			return err
		}
		revision = b.Revision
		if len(edits) == 0 {
			return nil
		}
		if err := c.tell(ctx, tx, sqlTx, study, before, b.Choices.Data()); err != nil {
			return err
		}
		if len(edits) > 1 || t.Said != "" { // notes that have met become one
			done, err = c.record(ctx, tx, study, done.Said, store.Patch{Brief: edits})
			return err
		}
		change, err := tx.RecordTyping(ctx, study, c.actor, done.Said, edits[0])
		done.Change = change.ID
		return err
	})
	if err == nil {
		c.keepDocument(ctx, study)
	}
	return done, revision, err
}

func equal(a, b *string) bool { return a == nil && b == nil || a != nil && b != nil && *a == *b }
