package main

import (
	"context"
	"encoding/json"
	"errors"
	"flag"
	"fmt"
	"io"
	"os"

	"corpulan/core/reading"
)

// largestFile is how much of a saved page is taken; the fetcher's own limit is the same.
const largestFile = 20 << 20

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

// readFiles reads saved pages in order and hands each reading on. A file that
// cannot be read is named on standard error and skipped; it is an error only
// if none could be read.
func readFiles(ctx context.Context, files []string, url string, std stdio, each func(*reading.Reading) error) (int, error) {
	done := 0
	for _, name := range files {
		if err := ctx.Err(); err != nil {
			return done, err
		}
		r, err := readFile(name, url, std.in)
		if err != nil {
			fmt.Fprintf(std.err, "corpulan: %s: %v\n", name, err)
			continue
		}
		if err := each(r); err != nil {
			return done, err
		}
		done++
	}
	if done == 0 {
		return 0, errors.New("none of the files could be read")
	}
	return done, nil
}

func readFile(name, url string, stdin io.Reader) (*reading.Reading, error) {
	in := stdin
	if name != "-" {
		f, err := os.Open(name)
		if err != nil {
			return nil, err
		}
		defer f.Close()
		in = f
	}
	body, err := io.ReadAll(io.LimitReader(in, largestFile+1))
	if err != nil {
		return nil, err
	}
	if len(body) > largestFile {
		return nil, fmt.Errorf("the file is larger than %d MiB", largestFile>>20)
	}
	return reading.Read(reading.Page{URL: url, Body: body})
}
