package study

import (
	"context"

	"corpulan/store"
)

// How a publication is set up, and what of it is put away.

// SetUp changes what a publication is set up to do. change may refuse, with an error of its own.
func (c Commands) SetUp(ctx context.Context, change func(*store.Settings) error) (store.Publication, error) {
	return c.scope.EditPublication(ctx, func(_ *string, x *store.Settings) error { return change(x) })
}

// SwapServices takes the last change of the services back: now is what stands there, as it is sealed.
// It fails with store.ErrStale where something else does.
func (c Commands) SwapServices(ctx context.Context, now []byte) error {
	return c.scope.SwapServices(ctx, now)
}

// RenamePublication calls the publication something else; it fails with store.ErrTaken.
func (c Commands) RenamePublication(ctx context.Context, name string) error {
	return c.scope.RenamePublication(ctx, name)
}

// ArchivePublication puts the publication away; its owners bring it back from their account.
func (c Commands) ArchivePublication(ctx context.Context) error {
	return c.scope.ArchivePublication(ctx, false)
}

// RemoveOwn forgets an own page; all of them for 0.
func (c Commands) RemoveOwn(ctx context.Context, page int64) error {
	return c.scope.RemoveOwn(ctx, page)
}

// DeleteList deletes a list of keywords, or brings it back.
func (c Commands) DeleteList(ctx context.Context, list int64, back bool) error {
	return c.scope.DeleteList(ctx, list, back)
}

// DeleteSlate deletes a slate, or brings it back.
func (c Commands) DeleteSlate(ctx context.Context, slate int64, back bool) error {
	return c.scope.DeleteSlate(ctx, slate, back)
}

// SetWidth sets how wide the groups of a list are, 0 to 1.
func (c Commands) SetWidth(ctx context.Context, list int64, width float64) error {
	return c.scope.SetWidth(ctx, list, width)
}

// SettleRemark settles a remark, or opens it again.
func (c Commands) SettleRemark(ctx context.Context, study, remark int64, settled bool) error {
	return c.scope.Settle(ctx, study, remark, settled)
}

// Tick says that a line of a brief is dealt with, or not any more.
func (c Commands) Tick(ctx context.Context, study int64, line string, done bool) error {
	return c.scope.Tick(ctx, study, line, done)
}

// RevokeToken, RemoveWebhook and what brings them back are of what programs may do.
func (c Commands) RevokeToken(ctx context.Context, token int64) error {
	return c.scope.RevokeToken(ctx, token)
}

// BringTokenBack is RevokeToken turned round.
func (c Commands) BringTokenBack(ctx context.Context, token int64) error {
	return c.scope.BringTokenBack(ctx, token)
}

// RemoveWebhook takes a webhook away; it can be brought back.
func (c Commands) RemoveWebhook(ctx context.Context, webhook int64) error {
	return c.scope.RemoveWebhook(ctx, webhook)
}

// BringWebhookBack is RemoveWebhook turned round.
func (c Commands) BringWebhookBack(ctx context.Context, webhook int64) error {
	return c.scope.BringWebhookBack(ctx, webhook)
}
