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
	"corpulan/gather"
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
		_, err := readFiles(ctx, flags.Args(), *url, std, func(r *reading.Reading) error { return out.Encode(r) })
		return err
	})
}

// readFiles reads saved pages in order and hands each reading on; a WARC file
// may hold many. A file that cannot be read is named on standard error and
// skipped; it is an error only if none could be read.
func readFiles(ctx context.Context, files []string, url string, std stdio, each func(*reading.Reading) error) (int, error) {
	done := 0
	for _, name := range files {
		var stop error // ours, not the file's
		err := walk(name, std.in, func(p gather.Saved) error {
			if stop = ctx.Err(); stop != nil {
				return stop
			}
			if url != "" {
				p.URL = url
			}
			r, err := reading.Read(reading.Page{URL: p.URL, ContentType: p.ContentType, Body: p.Body})
			if err != nil {
				fmt.Fprintf(std.err, "corpulan: %s: %v\n", strings.TrimSpace(name+" "+p.URL), err)
				return nil
			}
			if stop = each(r); stop == nil {
				done++
			}
			return stop
		})
		if stop != nil {
			return done, stop
		}
		if err != nil {
			fmt.Fprintf(std.err, "corpulan: %s: %v\n", name, err)
		}
	}
	if done == 0 {
		return 0, errors.New("none of the files could be read")
	}
	return done, nil
}

func walk(name string, stdin io.Reader, each func(gather.Saved) error) error {
	if name == "-" {
		return gather.Walk("standard input", stdin, nil, each)
	}
	f, err := os.Open(name)
	if err != nil {
		return err
	}
	defer f.Close()
	return gather.Walk(name, f, nil, each)
}
