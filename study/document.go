package study

import (
	"context"
	"errors"

	"corpulan/analysis"
	"corpulan/core/brief"
	"corpulan/core/message"
	"corpulan/store"
)

// keepDocument keeps the brief of a study, as it now is, as the document it is; and the state before
// it, where that was not kept yet: nothing has changed since but what was just done. The state itself
// is safe already, and so whatever goes wrong here is no failure of the command.
func (c Commands) keepDocument(ctx context.Context, study int64) {
	if c.analyst == nil {
		return
	}
	an, err := c.analyse(ctx, study)
	if err != nil || an.Gathering.ID == 0 || an.Saved.Revision == 0 {
		return
	}
	if err := c.keepState(ctx, an, an.Saved.Revision, an.Brief); err != nil {
		return
	}
	before := an.Saved.Revision - 1
	if has, err := c.scope.HasDocument(ctx, an.Saved.ID, before); err != nil || has {
		return
	}
	if r, err := c.scope.Revision(ctx, study, before); err == nil {
		_ = c.keepState(ctx, an, before, Composed(an, r))
	}
}

func (c Commands) keepState(ctx context.Context, an *analysis.Analysis, revision int, b brief.Brief) error {
	body, err := b.Encode()
	if err != nil {
		return err
	}
	return c.scope.KeepDocument(ctx, store.BriefDocument{BriefID: an.Saved.ID, Revision: revision, GatheringID: &an.Gathering.ID, Body: body})
}

// Composed is a state of a brief by the evidence of today.
func Composed(an *analysis.Analysis, r store.BriefRevision) brief.Brief {
	setting := an.Setting
	setting.Version = r.Revision
	return brief.Compose(an.Evidence, r.Choices.Data(), setting)
}

// Document is a state of a brief as the document it was, and the gathering whose pages it was made
// of; nil where it was not kept, or in a form of long ago.
func Document(ctx context.Context, sc store.Scope, an *analysis.Analysis, revision int) (*brief.Brief, int64, error) {
	d, err := sc.Document(ctx, an.Saved.ID, revision)
	if errors.Is(err, store.ErrNotFound) {
		return nil, 0, nil
	}
	if err != nil {
		return nil, 0, err
	}
	b, err := brief.Decode(d.Body)
	if err != nil {
		return nil, 0, nil
	}
	b = b.Saying(an.Setting.Words)
	gathering := an.Gathering.ID
	if d.GatheringID != nil {
		gathering = *d.GatheringID
	}
	return &b, gathering, nil
}

// Restore brings a brief back to the document that it was in an earlier revision, in one step. What
// the evidence of today would make otherwise stands, until somebody lets the brief follow it again.
func (c Commands) Restore(ctx context.Context, study int64, revision int) (Done, error) {
	then, err := c.scope.Revision(ctx, study, revision)
	if err != nil {
		return Done{}, err
	}
	an, err := c.exactly(ctx, study)
	if err != nil {
		return Done{}, err
	}
	document, gathering, err := Document(ctx, c.scope, an, revision)
	if err != nil {
		return Done{}, err
	}
	return c.edit(ctx, study, func(ch brief.Choices) (message.Message, []brief.Edit, error) {
		return message.Of("Restored: revision %d", revision), ch.Restore(an.Evidence, then.Choices.Data(), document, gathering, an.Setting), nil
	})
}
