package study

import (
	"bytes"
	"compress/gzip"
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	"time"

	"corpulan/core/demand"
	"corpulan/core/message"
	"corpulan/queue"
	"corpulan/store"
)

// ReadAtOnce is how many rows of a table are read while a person waits; more are read in the
// background. Our own: some half a second.
const ReadAtOnce = 6000

// Table is a table of keywords that somebody brought.
type Table struct {
	Name string
	Rows [][]string
}

// NewList keeps a new, empty list of keywords.
func (c Commands) NewList(ctx context.Context, name, language, country string) (store.KeywordList, error) {
	l := store.KeywordList{Language: language, Country: country}
	if err := c.scope.CreateList(ctx, &l); err != nil {
		return l, err
	}
	_, err := store.EditPlan(ctx, c.scope, store.Subject{List: l.ID}, "", func(p *store.ListPlan) (message.Message, error) { p.Name = name; return "Begun", nil })
	return l, err
}

// TakeTable keeps a table for a list. Where its columns are plain it is read, at once or, where
// it is long, in the background; else it waits until somebody says what they are, and asks is
// true.
func (c Commands) TakeTable(ctx context.Context, list int64, t Table) (said message.Message, asks bool, err error) {
	columns, err := c.ColumnsOf(ctx, t.Rows)
	if err != nil {
		return "", false, err
	}
	asks = len(columns.Doubts) > 0 || !slices.Contains(columns.Fields, demand.KeywordField)
	packed, err := packRows(t.Rows)
	if err != nil {
		return "", false, err
	}
	if err := c.scope.KeepFile(ctx, &store.KeywordFile{ListID: list, Name: t.Name, Rows: packed}); err != nil {
		return "", false, err
	}
	if asks {
		return "", true, nil
	}
	said, err = c.ReadTable(ctx, list, columns)
	return said, false, err
}

// ColumnsOf tells the columns of a table: as somebody said of an earlier one with the same header, else by themselves.
func (c Commands) ColumnsOf(ctx context.Context, rows [][]string) (demand.Columns, error) {
	columns := demand.Recognise(rows)
	header := columns.HeaderOf(rows)
	if header == "" {
		return columns, nil
	}
	fields, err := c.scope.HeaderKnown(ctx, header)
	switch {
	case errors.Is(err, store.ErrNotFound):
		return columns, nil
	case err != nil:
		return columns, err
	}
	return columns.Remembered(fields), nil
}

// NameColumns reads the table of a list by the columns that a person named, and remembers them for its source.
func (c Commands) NameColumns(ctx context.Context, list int64, rows [][]string, columns demand.Columns) error {
	if header := columns.HeaderOf(rows); header != "" {
		fields := make([]string, len(columns.Fields))
		for i, f := range columns.Fields {
			fields[i] = string(f)
		}
		if err := c.scope.RememberHeader(ctx, header, fields); err != nil {
			return err
		}
	}
	_, err := c.ReadTable(ctx, list, columns)
	return err
}

// ReadTable reads the table of a list by its columns.
func (c Commands) ReadTable(ctx context.Context, list int64, columns demand.Columns) (message.Message, error) {
	f, err := c.scope.File(ctx, list)
	if err != nil {
		return "", err
	}
	rows, err := UnpackRows(f.Rows)
	if err != nil {
		return "", err
	}
	if len(rows) > ReadAtOnce {
		if err := c.scope.FileWasRead(ctx, list, ""); err != nil { // it is read anew
			return "", err
		}
		err := c.ask(ctx, queue.DemandArgs{List: list, Work: queue.ImportKeywords, Columns: &columns})
		return message.Of("%d rows are being read.", len(rows)), err
	}
	keywords, dropped, err := demand.Read(rows, columns)
	if err != nil {
		return "", err
	}
	m, err := c.scope.PutKeywords(ctx, list, keywords)
	if err != nil {
		return "", err
	}
	said := SaidOf(m, dropped, columns.Unread(rows))
	return said, c.scope.FileWasRead(ctx, list, said.Keep())
}

// SaidOf tells what became of a table: what it brought, which rows were left out, and which columns nobody reads.
func SaidOf(m store.Merged, dropped []demand.Dropped, unread []string) message.Message {
	said := message.Of("%d keywords are new", m.Fresh)
	if m.Known > 0 {
		said = message.Joined(", ", said, message.Of("%d were known", m.Known))
	}
	if m.Left > 0 {
		said = message.Joined(", ", said, message.Of("%d had no room: a list holds %d", m.Left, demand.MaxKeywords))
	}
	said = message.Sentence(said)
	if len(dropped) > 0 {
		said = message.Joined(" ", said, message.Of("%d rows were left out, the first in row %d: %v.", len(dropped), dropped[0].Row, dropped[0].Reason))
	}
	if len(unread) > 0 {
		said = message.Joined(" ", said, message.Of("Not read: %s.", strings.Join(unread, ", ")))
	}
	return said
}

// packRows and UnpackRows are a table as it is kept.
func packRows(rows [][]string) ([]byte, error) {
	var b bytes.Buffer
	z := gzip.NewWriter(&b)
	if err := json.NewEncoder(z).Encode(rows); err != nil {
		return nil, err
	}
	err := z.Close()
	return b.Bytes(), err
}

// UnpackRows is described at packRows.
func UnpackRows(packed []byte) ([][]string, error) {
	z, err := gzip.NewReader(bytes.NewReader(packed))
	if err != nil {
		return nil, fmt.Errorf("reading a table that was kept: %w", err)
	}
	var rows [][]string
	if err := json.NewDecoder(io.LimitReader(z, largestTable)).Decode(&rows); err != nil {
		return nil, fmt.Errorf("reading a table that was kept: %w", err)
	}
	return rows, nil
}

// largestTable bounds what a kept table unpacks to. Our own.
const largestTable = 256 << 20

// ErrBusy says that something is being done to a list already.
var ErrBusy = message.Errorf("something is being done to this list already; stop it first, or wait")

// ask begins work on a list in the background, if none is under way.
func (c Commands) ask(ctx context.Context, args queue.DemandArgs) error {
	return c.scope.InTx(ctx, func(tx store.Scope, sqlTx *sql.Tx) error {
		l, err := tx.List(ctx, args.List)
		if err != nil {
			return err
		}
		args.Publication = l.PublicationID
		err = tx.EditWork(ctx, args.List, func(w *store.Work) error {
			if w.Running {
				return ErrBusy
			}
			*w = store.Work{Kind: args.Work, Running: true, Of: args.Most}
			return nil
		})
		if err != nil {
			return err
		}
		return c.queue.Demand(ctx, sqlTx, args)
	})
}

// Bounds of what services are asked for at once. Our own: half an hour at one question a second.
const (
	MaxAsked = 2000
	MaxSeeds = 50
	MaxDepth = 4
)

// AskResults asks for the results pages of so many keywords of a list.
func (c Commands) AskResults(ctx context.Context, list int64, most int) error {
	return c.ask(ctx, queue.DemandArgs{List: list, Work: queue.AskResults, Most: min(max(most, 1), MaxAsked)})
}

// AskFigures asks the keyword service for what is not known of the keywords of a list.
func (c Commands) AskFigures(ctx context.Context, list int64) error {
	return c.ask(ctx, queue.DemandArgs{List: list, Work: queue.AskFigures})
}

// FromSeeds asks what people search around some queries.
func (c Commands) FromSeeds(ctx context.Context, list int64, seeds []string, depth, most int, letters bool) error {
	keywords := make([]demand.Keyword, 0, len(seeds))
	for _, s := range seeds {
		keywords = append(keywords, demand.Keyword{Text: s})
	}
	if _, err := c.scope.PutKeywords(ctx, list, keywords); err != nil {
		return err
	}
	return c.ask(ctx, queue.DemandArgs{List: list, Work: queue.FromSeeds, Seeds: seeds, Depth: min(max(depth, 1), MaxDepth), Most: min(max(most, 1), MaxAsked), Letters: letters})
}

// StopWork asks the work on a list to end; what it has brought stays. Work that has not been
// heard of for a while has ended already, however it did.
func (c Commands) StopWork(ctx context.Context, list int64) error {
	return c.scope.EditWork(ctx, list, func(w *store.Work) error {
		w.Stop = true
		w.Running = w.Running && time.Since(w.At) < silent
		return nil
	})
}

// silent is for how long work says nothing that has ended. Our own: a question takes 20 seconds
// at the most, a worker that died is noticed after six.
const silent = 2 * time.Minute

// EditHand changes what a person did to the groups of a list.
func (c Commands) EditHand(ctx context.Context, list int64, said message.Message, f func(demand.Hand) demand.Hand) (Done, error) {
	change, err := store.EditPlan(ctx, c.scope, store.Subject{List: list}, c.actor, func(p *store.ListPlan) (message.Message, error) {
		p.Hand = f(p.Hand)
		if len(p.Hand.Of)+len(p.Hand.Names)+len(p.Hand.Out)+len(p.Hand.In) > 4*demand.MaxKeywords {
			return "", store.ErrTooMany
		}
		return said, nil
	})
	return Done{Said: said, Change: change.ID}, err
}

// RenameList gives a list another name.
func (c Commands) RenameList(ctx context.Context, list int64, name string) (Done, error) {
	said := message.Of("The list is called “%s”", name)
	change, err := store.EditPlan(ctx, c.scope, store.Subject{List: list}, c.actor, func(p *store.ListPlan) (message.Message, error) { p.Name = name; return said, nil })
	return Done{Said: said, Change: change.ID}, err
}

// TurnPlan takes back the last thing this person did to a list or a slate, or does it again.
// It fails with ErrNothing, or with store.ErrStale if somebody has changed it since.
func (c Commands) TurnPlan(ctx context.Context, of store.Subject, again bool) (Done, error) {
	change, err := c.scope.TurnPlan(ctx, of, c.actor, again)
	if errors.Is(err, store.ErrNotFound) {
		return Done{}, ErrNothing
	}
	return Done{Said: change.Said.Message(), Change: change.ID, Redo: !again}, err
}

// SetCurve keeps the publication's curve of clicks; an empty one for the usual.
func (c Commands) SetCurve(ctx context.Context, curve demand.Curve) error {
	_, err := c.scope.EditPublication(ctx, func(_ *string, s *store.Settings) error { s.Curve = curve; return nil })
	return err
}
