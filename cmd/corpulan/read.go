package main

import (
	"context"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"io"
	"os"
	"strings"

	"corpulan/core/reading"
	"corpulan/gather"
)

func runRead(ctx context.Context, args []string, std stdio) error {
	flags := flag.NewFlagSet("read", flag.ContinueOnError)
	flags.SetOutput(io.Discard)
	url := flags.String("url", "", "the address the page was saved from")
	if err := flags.Parse(args); err != nil {
		return fmt.Errorf("%w: %v", errUse, err)
	}
	if flags.NArg() == 0 {
		return fmt.Errorf("%w: name at least one file, or - for standard input", errUse)
	}
	if *url != "" && flags.NArg() > 1 {
		return fmt.Errorf("%w: --url goes with one file", errUse)
	}
	out := json.NewEncoder(std.out)
	out.SetEscapeHTML(false)
	_, err := readFiles(ctx, flags.Args(), *url, std, func(r *reading.Reading) error { return out.Encode(r) })
	return err
}

// readFiles reads saved pages in order and hands each reading on; a WARC file
// may hold many. A file that cannot be read is named on standard error and
// skipped; it is an error only if none could be read.
func readFiles(ctx context.Context, files []string, url string, std stdio, each func(*reading.Reading) error) (int, error) {
	done := 0
	for _, name := range files {
		pages, err := savedPages(name, std.in)
		if err != nil {
			fmt.Fprintf(std.err, "corpulan: %s: %v\n", name, err)
		}
		for _, p := range pages {
			if err := ctx.Err(); err != nil {
				return done, err
			}
			if url != "" {
				p.URL = url
			}
			r, err := reading.Read(reading.Page{URL: p.URL, ContentType: p.ContentType, Body: p.Body})
			if err != nil {
				fmt.Fprintf(std.err, "corpulan: %s: %v\n", strings.TrimSpace(name+" "+p.URL), err)
				continue
			}
			if err := each(r); err != nil {
				return done, err
			}
			done++
		}
	}
	if done == 0 {
		return 0, errors.New("none of the files could be read")
	}
	return done, nil
}

func savedPages(name string, stdin io.Reader) ([]gather.Saved, error) {
	if name == "-" {
		return gather.Pages("standard input", stdin)
	}
	f, err := os.Open(name)
	if err != nil {
		return nil, err
	}
	defer f.Close()
	return gather.Pages(name, f)
}
