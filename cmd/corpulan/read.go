package main

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"strings"

	"corpulan/core/reading"
	"corpulan/formats/handed"
	"corpulan/formats/saved"
)

func runRead(ctx context.Context, args []string, std stdio) error {
	flags := newFlags("read")
	url := flags.String("url", "", "the address the page was saved from")
	if err := parse(flags, args); err != nil {
		return err
	}
	if flags.NArg() == 0 {
		return fmt.Errorf("%w: name at least one file, or - for standard input", errUse)
	}
	if *url != "" && flags.NArg() > 1 {
		return fmt.Errorf("%w: --url goes with one file", errUse)
	}
	out := json.NewEncoder(std.out)
	out.SetEscapeHTML(false)
	return interruptible(ctx, func() error {
		return readFiles(ctx, flags.Args(), *url, std, func(r *reading.Reading) error { return out.Encode(r) })
	})
}

// errNoneRead is the end of a command that had pages and could read none.
var errNoneRead = errors.New("none of the files could be read")

// readFiles reads saved pages in order and hands each reading on; a WARC file
// may hold many. It is an error only if none could be read.
func readFiles(ctx context.Context, files []string, url string, std stdio, each func(*reading.Reading) error) error {
	done := false
	for _, name := range files {
		err := readFile(ctx, name, url, std, func(r *reading.Reading) error {
			if r == nil {
				return nil
			}
			done = true
			return each(r)
		})
		if err != nil {
			return err
		}
	}
	if !done {
		return errNoneRead
	}
	return nil
}

// readFile hands on a reading of each page in a file. A file or a page that
// cannot be read is named on standard error; for such a page each gets nil. The
// error is ctx's or that of each.
func readFile(ctx context.Context, name, url string, std stdio, each func(*reading.Reading) error) error {
	var stop error // ours, not the file's
	err := walk(ctx, name, std.in, func(p saved.Saved) error {
		if stop = ctx.Err(); stop != nil {
			return stop
		}
		if url != "" {
			p.URL = url
		}
		r, err := reading.Read(reading.Page{URL: p.URL, ContentType: p.ContentType, Body: p.Body})
		if err != nil {
			fmt.Fprintf(std.err, "corpulan: %s: %v\n", strings.TrimSpace(name+" "+p.URL), err)
			r = nil
		}
		stop = each(r)
		return stop
	})
	if stop == nil && err != nil {
		fmt.Fprintf(std.err, "corpulan: %s: %v\n", name, err)
	}
	return stop
}

func walk(ctx context.Context, name string, stdin io.Reader, each func(saved.Saved) error) error {
	if name == "-" {
		return ownFiles.Walk(ctx, "standard input", stdin, nil, each)
	}
	f, err := os.Open(name)
	if err != nil {
		return err
	}
	defer f.Close()
	return ownFiles.Walk(ctx, name, f, nil, each)
}

// ownFiles are read in this process: they are of whoever calls the program.
var ownFiles *handed.Reader

// runReadApart reads a file apart from the process that was given it; see package handed.
func runReadApart(_ context.Context, args []string, std stdio) error {
	flags := newFlags(handed.Command)
	if err := parse(flags, args); err != nil {
		return err
	}
	if flags.NArg() > 0 {
		return fmt.Errorf("%w: the file comes by standard input", errUse)
	}
	return handed.Serve(std.in, std.out)
}
