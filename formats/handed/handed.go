// Package handed reads what people hand in: saved pages, drafts, sources, tables, and what sites list of
// themselves. Whatever is in a
// file, it must neither take the program with it nor keep it busy, so it is read apart: in a process
// of the program's own, bounded in time and memory, a few at once.
//
//   - handed.go  what can be handed in, and what comes out
//   - apart.go   the process that is started for it, and what goes between the two
//   - bound.go   what memory and time that may take
//   - pages.go, draft.go, source.go  which reader of formats/ a file is for
package handed

import (
	"bytes"
	"context"
	"io"

	"corpulan/core/draft"
	"corpulan/formats/manuscript"
	"corpulan/formats/saved"
	"corpulan/formats/sheet"
	"corpulan/formats/sitemap"
)

// Reader reads what is handed in, a few files at once. Reader(nil) reads in this process: for one
// who reads their own files, and in tests.
type Reader struct {
	program string
	lists   string
	turns   chan struct{}
}

// New makes a reader that calls a program — this one — for each file, at most so many at once. It
// names the folder of the word lists to it; empty for where they usually lie.
func New(program, lists string, atOnce int) *Reader {
	return &Reader{program: program, lists: lists, turns: make(chan struct{}, atOnce)}
}

// Walk hands on the pages of a saved file one by one — plain HTML, MHTML, WARC, packed or not —,
// those before the place where an archive is broken before the error. A budget of nil has no bound.
func (r *Reader) Walk(ctx context.Context, name string, in io.Reader, budget *saved.Budget, each func(saved.Saved) error) error {
	if r == nil {
		return walk(name, in, budget, each)
	}
	return r.apart(ctx, order{Kind: pages, Name: name, Most: budget.Left()}, in, func(a *answer) error {
		budget.Spend(a.Spent)
		if a.Page == nil {
			return nil
		}
		return each(*a.Page)
	})
}

// Pages is Walk for those who need all pages at once.
func (r *Reader) Pages(ctx context.Context, name string, in io.Reader, budget *saved.Budget) ([]saved.Saved, error) {
	var list []saved.Saved
	err := r.Walk(ctx, name, in, budget, func(p saved.Saved) error {
		list = append(list, p)
		return nil
	})
	return list, err
}

// Draft reads a writer's text: Markdown, HTML, DOCX or plain text.
func (r *Reader) Draft(ctx context.Context, name string, in io.Reader) (*draft.Node, error) {
	// Whoever sends slowly is not waited for by others.
	b, err := io.ReadAll(io.LimitReader(in, manuscript.LargestDraft+1))
	if err != nil {
		return nil, err
	}
	if r == nil {
		return manuscriptOf(name, b)
	}
	return r.text(ctx, order{Kind: manuscripts, Name: name}, b)
}

// Source reads a text that did not rank: a transcript, a PDF with a text layer, or what Draft reads.
func (r *Reader) Source(ctx context.Context, name string, file []byte) (*draft.Node, error) {
	if r == nil {
		return source(name, file)
	}
	return r.text(ctx, order{Kind: sources, Name: name}, file)
}

func (r *Reader) text(ctx context.Context, o order, file []byte) (n *draft.Node, err error) {
	err = r.apart(ctx, o, bytes.NewReader(file), func(a *answer) error {
		if a.Text != nil {
			n = a.Text
		}
		return nil
	})
	return n, err
}

// Sitemap reads what a site lists as its pages.
func (r *Reader) Sitemap(ctx context.Context, file []byte) (l sitemap.Listing, err error) {
	if r == nil {
		return sitemap.Read(file)
	}
	err = r.apart(ctx, order{Kind: sitemaps}, bytes.NewReader(file), func(a *answer) error {
		if a.Lists != nil {
			l = *a.Lists
		}
		return nil
	})
	return l, err
}

// Table reads the rows of a table — CSV, TSV or XLSX —, at most one more than most.
func (r *Reader) Table(ctx context.Context, name string, in io.Reader, most int) (rows [][]string, err error) {
	if r == nil {
		return sheet.Read(name, in, most)
	}
	err = r.apart(ctx, order{Kind: tables, Name: name, Most: int64(most)}, in, func(a *answer) error {
		rows = append(rows, a.Rows...)
		return nil
	})
	return rows, err
}
