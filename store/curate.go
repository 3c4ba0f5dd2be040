package store

import (
	"context"

	"corpulan/core/message"
)

// SetKept records one decision about pages of a study's newest gathering, and
// returns what that changed. Pages that are as they shall be already stay as
// they are, with the reason they were set aside for; so do those of ours.
func (s Scope) SetKept(ctx context.Context, study int64, ids []int64, kept bool, reason message.Message) (Patch, error) {
	var p Patch
	_, err := s.change(ctx, study, func(tx Scope, g *Gathering) error {
		var before []Result
		err := tx.db(ctx).Where("gathering_id = ? and id in ? and state = ? and not own and (kept <> ? or not decided)", g.ID, ids, Read, kept).Order("rank").Find(&before).Error
		if err != nil {
			return err
		}
		if len(before) == 0 {
			var n int64
			if err := tx.db(ctx).Model(&Result{}).Where("gathering_id = ? and id in ?", g.ID, ids).Count(&n).Error; err != nil || n > 0 {
				return err
			}
			return ErrNotFound
		}
		for _, r := range before {
			set := map[string]any{"kept": kept, "decided": true, "reason": ""}
			switch {
			case kept:
			case !r.Kept && r.Reason != "": // it was proposed, and the reason is as good as ours
				set["reason"] = r.Reason
			default:
				set["reason"] = reason.Keep()
			}
			if err := tx.db(ctx).Model(&Result{}).Where("id = ?", r.ID).Updates(set).Error; err != nil {
				return err
			}
		}
		return tx.noteResults(ctx, &p, before)
	})
	return p, err
}

// AcceptProposals makes every proposed set-aside of the newest gathering a
// decision, and returns what that changed.
func (s Scope) AcceptProposals(ctx context.Context, study int64) (Patch, error) {
	var p Patch
	_, err := s.change(ctx, study, func(tx Scope, g *Gathering) error {
		var before []Result
		if err := tx.db(ctx).Where("gathering_id = ? and not kept and not decided and state = ?", g.ID, Read).Order("rank").Find(&before).Error; err != nil {
			return err
		}
		ids := make([]int64, len(before))
		for i, r := range before {
			ids[i] = r.ID
		}
		if err := tx.db(ctx).Model(&Result{}).Where("id in ?", ids).Update("decided", true).Error; err != nil {
			return err
		}
		return tx.noteResults(ctx, &p, before)
	})
	return p, err
}
