// Package study is what people do with studies, whoever asks for it: begin one,
// gather, hand in, curate, choose, type, archive, and undo all of that. Every
// command checks, changes the store in one transaction with the jobs that it
// asks for, and leaves behind what it takes to undo it.
//
//   - study.go    the commands' common ground, undo and redo
//   - market.go   what a study begins as, and what is wrong with one
//   - gather.go   begin, gather again, stop, go on, try again, add pages
//   - movement.go a brief that stands while pages are gathered again, and what is taken over into it
//   - handin.go   pages that a person saved or pasted; frompages.go  a study that begins of them
//   - extra.go    texts that did not rank, read beside the field
//   - curate.go   keep and set aside
//   - write.go    decisions about findings, texts of the brief
//   - outline.go  the outline of a brief by hand
//   - document.go every state of a brief as the document it was
//   - cut.go      passages kept from pages
//   - share.go    links to a brief for those without an account
//   - own.go      what a publication says for all its briefs; its own pages
//   - shelve.go   archive, delete, bring back; who leads
//   - teach.go    the house lexicon
//   - draft.go    the writer's text: saved, kept in versions, taken from a page of ours
//   - demand.go   lists of keywords: brought, asked for, grouped by hand; slate.go  the pages to write
//   - machines.go services of a publication, tokens, webhooks
//   - look.go     who is there
//   - notices.go  who should know of what is done; assign.go several studies at once
//   - capture.go  a page as it is kept and read
package study

import (
	"context"
	"database/sql"
	"errors"

	"corpulan/analysis"
	"corpulan/core/evidence"
	"corpulan/core/message"
	"corpulan/formats/handed"
	"corpulan/queue"
	"corpulan/store"
)

// Commands are what one person can do in one publication.
type Commands struct {
	scope store.Scope
	queue *queue.Queue
	actor string
	name  string // how others see them; empty for what is not known

	analyst *analysis.Analyst
	reader  *handed.Reader // of what is handed in; nil reads in this process
}

// For makes the commands of a person, whom a name tells apart from others: what
// they undo is what they did.
func For(scope store.Scope, q *queue.Queue, actor string) Commands {
	return Commands{scope: scope, queue: q, actor: actor}
}

// Named are the commands of somebody whom others see under a name.
func (c Commands) Named(name string) Commands {
	c.name = name
	return c
}

// With are the commands with what computes evidence, which all need that decide about findings or
// about an outline.
func (c Commands) With(a *analysis.Analyst) Commands {
	c.analyst = a
	return c
}

// Reading are the commands with what reads files that are handed in.
func (c Commands) Reading(r *handed.Reader) Commands {
	c.reader = r
	return c
}

// errNoAnalyst says that commands were asked for evidence and have nothing to compute it.
var errNoAnalyst = errors.New("study: commands that decide about findings need With(analyst)")

// exactly is a study as it now is, counted over all its pages: for what is kept of it. What analyse
// gives may be of a moment ago, when the last page has just come.
func (c Commands) exactly(ctx context.Context, study int64) (*analysis.Analysis, error) {
	if c.analyst == nil {
		return nil, errNoAnalyst
	}
	st, err := c.scope.Study(ctx, study)
	if err != nil {
		return nil, err
	}
	return c.analyst.Analyse(ctx, c.scope, st)
}

// analyse is a study as it now is, without its pages.
func (c Commands) analyse(ctx context.Context, study int64) (*analysis.Analysis, error) {
	if c.analyst == nil {
		return nil, errNoAnalyst
	}
	st, err := c.scope.Study(ctx, study)
	if err != nil {
		return nil, err
	}
	return c.analyst.Findings(ctx, c.scope, st)
}

// evidence is that of a study as it now is.
func (c Commands) evidence(ctx context.Context, study int64) (*evidence.Evidence, error) {
	an, err := c.analyse(ctx, study)
	if err != nil {
		return nil, err
	}
	return an.Evidence, nil
}

// Done is what a command did, in words, and whether that can be undone.
type Done struct {
	Said   message.Message
	Change int64 // number of the change that can be undone; 0 for none
	Redo   bool  // it was undone, and can be made again
}

// ErrNothing says that there is nothing to undo, or to do again.
var ErrNothing = message.Errorf("there is nothing to undo")

// record keeps what a command did in the transaction that did it.
func (c Commands) record(ctx context.Context, tx store.Scope, study int64, said message.Message, p store.Patch) (Done, error) {
	if p.Empty() {
		return Done{Said: said}, nil
	}
	change, err := tx.Record(ctx, study, c.actor, said, p)
	return Done{Said: said, Change: change.ID}, err
}

// Undo takes back the last thing this person did to a study and has not taken
// back yet. It fails with ErrNothing, or with store.ErrStale if somebody has
// changed the same thing since; then nothing is touched.
func (c Commands) Undo(ctx context.Context, study int64) (Done, error) {
	return c.turn(ctx, study, false)
}

// Redo makes again what Undo took back last.
func (c Commands) Redo(ctx context.Context, study int64) (Done, error) {
	return c.turn(ctx, study, true)
}

func (c Commands) turn(ctx context.Context, study int64, again bool) (Done, error) {
	var done Done
	err := c.scope.InTx(ctx, func(tx store.Scope, sqlTx *sql.Tx) error {
		change, err := tx.NewestChange(ctx, study, c.actor, again)
		if errors.Is(err, store.ErrNotFound) {
			return ErrNothing
		}
		if err != nil {
			return err
		}
		patch := change.Patch.Data()
		if !again {
			patch = patch.Reversed()
		}
		done = Done{Said: change.Said.Message(), Change: change.ID, Redo: !again}
		by := store.By{Actor: c.actor, Said: message.Of("Taken back: %v", change.Said.Message())}
		if again {
			by.Said = change.Said.Message()
		}
		g, err := tx.Apply(ctx, study, by, patch)
		if err != nil {
			return err
		}
		if err := tx.MarkUndone(ctx, change.ID, !again); err != nil {
			return err
		}
		if g.State == store.Searching && patch.Depth != nil {
			return c.queue.Search(ctx, sqlTx, g.ID)
		}
		return c.fetch(ctx, tx, sqlTx, g, patch.Results)
	})
	if err == nil {
		c.keepDocument(ctx, study)
	}
	return done, err
}

// fetch asks for the pages that a patch has put back in line.
func (c Commands) fetch(ctx context.Context, tx store.Scope, sqlTx *sql.Tx, g store.Gathering, edits []store.ResultEdit) error {
	if !g.Running() {
		return nil
	}
	var waiting []store.Result
	for _, e := range edits {
		if e.After != nil && e.After.State != store.Read && e.After.State != store.Failed {
			waiting = append(waiting, *e.After)
		}
	}
	return c.queue.Fetch(ctx, sqlTx, g.ID, hostsOf(waiting)...)
}
