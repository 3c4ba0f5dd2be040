package study

import (
	"context"
	"database/sql"
	"fmt"

	"corpulan/core/brief"
	"corpulan/queue"
	"corpulan/store"
)

// Who should know of what is done: members of the publication by the name or address that
// stands in a brief's front.

// Notify gives a notice to the members of some names, and asks for it to be mailed.
func Notify(ctx context.Context, tx store.Scope, sqlTx *sql.Tx, q *queue.Queue, n store.Notice, names ...string) error {
	made, err := tx.Notify(ctx, n, names...)
	if err != nil {
		return err
	}
	for _, m := range made {
		if err := q.Mail(ctx, sqlTx, m.ID); err != nil {
			return err
		}
	}
	return nil
}

// tell gives the notices of what an edit has changed in the front of a brief.
func (c Commands) tell(ctx context.Context, tx store.Scope, sqlTx *sql.Tx, study int64, before map[string]string, after brief.Choices) error {
	now := after.Typed
	for kind, field := range map[string]string{store.OwnerNamed: brief.FieldOwner, store.WriterNamed: brief.FieldWriter} {
		if name := now[field]; name != "" && name != before[field] {
			if err := Notify(ctx, tx, sqlTx, c.queue, store.Notice{StudyID: study, Kind: kind, Ref: name, ByName: c.name}, name); err != nil {
				return err
			}
		}
	}
	if s := now[brief.FieldStatus]; s == brief.Approved && s != before[brief.FieldStatus] {
		return Notify(ctx, tx, sqlTx, c.queue, store.Notice{StudyID: study, Kind: store.Approved, ByName: c.name}, now[brief.FieldOwner], now[brief.FieldWriter])
	}
	return nil
}

// longestSaid is how much of a remark a notice repeats, in characters. Our own.
const longestSaid = 400

func shortened(text string, most int) string {
	if r := []rune(text); len(r) > most {
		return string(r[:most]) + "…"
	}
	return text
}

// Remark keeps what somebody says of a brief, and tells those who have it in hand.
func (c Commands) Remark(ctx context.Context, r *store.Remark) error {
	return c.scope.InTx(ctx, func(tx store.Scope, sqlTx *sql.Tx) error {
		if err := tx.AddRemark(ctx, r); err != nil {
			return err
		}
		b, err := tx.Brief(ctx, r.StudyID)
		if err != nil {
			return err
		}
		typed := b.Choices.Data().Typed
		return Notify(ctx, tx, sqlTx, c.queue, store.Notice{StudyID: r.StudyID, Kind: store.Remarked, Ref: fmt.Sprint(r.ID), ByName: r.Author, Said: shortened(r.Body, longestSaid)}, typed[brief.FieldOwner], typed[brief.FieldWriter])
	})
}
