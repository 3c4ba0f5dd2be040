package main

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"strings"

	"corpulan/core/demand"
	"corpulan/search"
)

// runGroup writes the groups of a list of keywords as JSON.
func runGroup(ctx context.Context, args []string, std stdio) error {
	flags := newFlags("group")
	width := flags.Float64("width", 0.5, "from 0, narrow groups, to 1, wide ones")
	language := flags.String("language", "en", "the market's language, as a BCP 47 tag")
	results := flags.String("results", "", "a folder with saved results pages, each named after its keyword")
	year := flags.Int("year", 0, "the present year: keywords of an earlier one are left out")
	if err := parse(flags, args); err != nil {
		return err
	}
	switch {
	case *width < 0 || *width > 1:
		return fmt.Errorf("%w: --width is a number from 0 to 1", errUse)
	case flags.NArg() != 1:
		return fmt.Errorf("%w: name one list of keywords", errUse)
	}
	f, err := os.Open(flags.Arg(0))
	if err != nil {
		return err
	}
	defer f.Close()
	rows, err := ownFiles.Table(ctx, flags.Arg(0), f, demand.MaxKeywords+100)
	if err != nil {
		return fmt.Errorf("%s: %w", flags.Arg(0), err)
	}
	list, dropped, err := demand.Read(rows, demand.Recognise(rows))
	if err != nil {
		return fmt.Errorf("%s: %w", flags.Arg(0), err)
	}
	if len(dropped) > 0 {
		fmt.Fprintf(std.err, "%s: %d rows were left out, the first in row %d: %s\n", flags.Arg(0), len(dropped), dropped[0].Row, dropped[0].Reason)
	}
	o := demand.Options{Language: *language, Width: *width, Year: *year}
	if *results != "" {
		if o.Results, err = resultsIn(*results, std); err != nil {
			return err
		}
	}
	var out bytes.Buffer
	err = interruptible(ctx, func() error {
		enc := json.NewEncoder(&out)
		enc.SetEscapeHTML(false)
		enc.SetIndent("", "  ")
		return enc.Encode(demand.GroupOf(list, o))
	})
	if err != nil {
		return err
	}
	_, err = std.out.Write(out.Bytes())
	return err
}

// resultsIn reads a folder of saved results pages: of any engine as HTML, OpenSearch answers as
// XML, lists of ranks as CSV. The name of a file is its keyword, with hyphens for spaces.
func resultsIn(folder string, std stdio) (demand.Results, error) {
	files, err := os.ReadDir(folder)
	if err != nil {
		return nil, err
	}
	found := demand.Results{}
	for _, f := range files {
		if f.IsDir() {
			continue
		}
		urls, err := resultsFile(filepath.Join(folder, f.Name()))
		if err != nil {
			fmt.Fprintf(std.err, "%s: %v\n", f.Name(), err)
			continue
		}
		found[demand.Same(strings.TrimSuffix(f.Name(), filepath.Ext(f.Name())))] = urls
	}
	if len(found) == 0 {
		return nil, fmt.Errorf("%s: there is no results page in it", folder)
	}
	return found, nil
}

func resultsFile(name string) ([]string, error) {
	b, err := os.ReadFile(name)
	if err != nil {
		return nil, err
	}
	var items []search.Item
	switch strings.ToLower(filepath.Ext(name)) {
	case ".xml", ".rss", ".atom":
		r, err := search.ParseFeed(b)
		if err != nil {
			return nil, err
		}
		items = r.Items
	case ".html", ".htm":
		r, err := search.ParseResultsPage(b)
		if err != nil {
			return nil, err
		}
		items = r.Items
	default:
		rows, err := ownFiles.Table(context.Background(), name, bytes.NewReader(b), search.MaxRanks)
		if err != nil {
			return nil, err
		}
		if items, err = search.ParseRanks(rows, ""); err != nil {
			return nil, err
		}
	}
	urls := make([]string, len(items))
	for i, it := range items {
		urls[i] = it.URL
	}
	return urls, nil
}
