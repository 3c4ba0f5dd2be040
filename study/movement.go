package study

import (
	"context"
	"slices"

	"corpulan/core/brief"
	"corpulan/core/change"
	"corpulan/core/message"
)

// stand lets the brief stand as it is, if somebody has worked on it or it is in other hands.
func (c Commands) stand(ctx context.Context, study int64) error {
	saved, err := c.scope.Brief(ctx, study)
	if err != nil {
		return err
	}
	if saved.Revision == 0 {
		links, err := c.scope.Links(ctx, study)
		if err != nil || len(links) == 0 {
			return err
		}
	}
	an, err := c.exactly(ctx, study)
	if err != nil || an.Gathering.ID == 0 || an.Gathering.Running() || len(an.Evidence.Sources) == 0 {
		return err
	}
	_, err = c.edit(ctx, an.Study.ID, func(ch brief.Choices) (message.Message, []brief.Edit, error) {
		return "The brief stands as it is while pages are gathered again.", ch.Stand(an.Evidence, an.Brief, an.Gathering.ID), nil
	})
	return err
}

// ErrNotProposed says that what was to be taken over is not proposed any more.
var ErrNotProposed = message.Errorf("this is not proposed any more")

// Settle takes some of what is proposed to a brief that stands over, or leaves it; all of it
// where no ids are given.
func (c Commands) Settle(ctx context.Context, study int64, ids []string, take bool) (Done, error) {
	an, err := c.exactly(ctx, study)
	if err != nil {
		return Done{}, err
	}
	all, err := c.analyst.Proposals(ctx, c.scope, an)
	if err != nil {
		return Done{}, err
	}
	some := all
	if len(ids) > 0 {
		some = slices.DeleteFunc(slices.Clone(all), func(p change.Proposal) bool { return !slices.Contains(ids, p.ID()) })
	}
	if len(some) == 0 {
		return Done{}, ErrNotProposed
	}
	what := message.Of("%d changes", len(some))
	if len(some) == 1 {
		what = message.Text(some[0].Text)
	}
	said := message.Of("Left as it was: %v", what)
	if take {
		said = message.Of("Taken over: %v", what)
	}
	return c.edit(ctx, an.Study.ID, func(ch brief.Choices) (message.Message, []brief.Edit, error) {
		edits, err := change.Settle(an.Evidence, ch, some, all, take)
		return said, edits, err
	})
}

// FollowEvidence lets a brief that stands follow the evidence again, whatever that changes.
func (c Commands) FollowEvidence(ctx context.Context, study int64) (Done, error) {
	return c.edit(ctx, study, func(ch brief.Choices) (message.Message, []brief.Edit, error) {
		return "The brief follows the evidence again.", ch.Follow(), nil
	})
}

// AgainByItself gathers a study again as its schedule says.
func (c Commands) AgainByItself(ctx context.Context, study int64) error {
	if err := c.Again(ctx, study); err != nil {
		return err
	}
	g, err := c.scope.LatestGathering(ctx, study)
	if err != nil {
		return err
	}
	return c.scope.MarkScheduled(ctx, g.ID)
}
