package main

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"os"
	"strings"

	"corpulan/core/address"
	"corpulan/core/corpus"
	"corpulan/core/evidence"
	"corpulan/core/reading"
	"corpulan/render"
)

func runEvidence(ctx context.Context, args []string, std stdio) error {
	flags := newFlags("evidence")
	keyword := flags.String("keyword", "", "the target keyword")
	language := flags.String("language", "en", "the market's language, as a BCP 47 tag")
	results := flags.String("results", "", "a JSON file with what the results page asks and relates")
	addresses := flags.String("addresses", "", "a file with the addresses of FILES, one a line")
	if err := parse(flags, args); err != nil {
		return err
	}
	in := evidence.Input{Keyword: *keyword, Language: *language}
	switch {
	case strings.TrimSpace(*keyword) == "":
		return fmt.Errorf("%w: --keyword is missing", errUse)
	case flags.NArg() == 0:
		return fmt.Errorf("%w: name the saved pages, in rank order", errUse)
	}
	if *results != "" {
		var err error
		if in.Asked, in.Related, err = readResults(*results); err != nil {
			return err
		}
	}
	var urls []string
	if *addresses != "" {
		var err error
		if urls, err = readAddresses(*addresses, flags.NArg()); err != nil {
			return err
		}
	}
	var out bytes.Buffer
	err := interruptible(ctx, func() error {
		e, err := evidenceOf(ctx, in, flags.Args(), urls, std)
		if err != nil {
			return err
		}
		return render.Evidence(&out, e)
	})
	if err != nil {
		return err
	}
	_, err = std.out.Write(out.Bytes())
	return err
}

// evidenceOf reads saved pages, which stand in rank order, and computes the
// evidence over them. urls are the addresses of the files, or nil. A page that
// cannot be read keeps its rank, so that the others have theirs.
func evidenceOf(ctx context.Context, in evidence.Input, files, urls []string, std stdio) (*evidence.Evidence, error) {
	var err error
	if in.Pages, err = pagesOf(ctx, in.Language, files, urls, std); err != nil {
		return nil, err
	}
	return evidence.Compute(ctx, in)
}

// pagesOf reads saved pages in rank order; one that cannot be read leaves its rank empty, and
// it is an error if none could.
func pagesOf(ctx context.Context, language string, files, urls []string, std stdio) ([]corpus.RankedPage, error) {
	var pages []corpus.RankedPage
	rank := 0
	for i, name := range files {
		url := ""
		if urls != nil {
			url = urls[i]
		}
		before := rank
		err := readFile(ctx, name, url, std, func(r *reading.Reading) error {
			rank++
			if r != nil {
				pages = append(pages, corpus.RankedPage{Rank: rank, Doc: corpus.Prepare(r, language)})
			}
			return nil
		})
		if err != nil {
			return nil, err
		}
		rank = max(rank, before+1)
	}
	if len(pages) == 0 {
		return nil, errNoneRead
	}
	return pages, nil
}

// readResults reads what the results page asked and related: {"asked":[],"related":[]}.
func readResults(name string) (asked, related []string, err error) {
	b, err := os.ReadFile(name)
	if err != nil {
		return nil, nil, err
	}
	var r struct{ Asked, Related []string }
	if err = json.Unmarshal(b, &r); err != nil {
		return nil, nil, fmt.Errorf(`%s is not {"asked": [], "related": []}: %w`, name, err)
	}
	return r.Asked, r.Related, nil
}

// readAddresses reads one address a line for each of the files; an empty line
// leaves a file its own.
func readAddresses(name string, files int) ([]string, error) {
	b, err := os.ReadFile(name)
	if err != nil {
		return nil, err
	}
	urls := strings.Split(strings.TrimSuffix(string(b), "\n"), "\n")
	if len(urls) != files {
		return nil, fmt.Errorf("%s has %d lines for %d files", name, len(urls), files)
	}
	for i, line := range urls {
		if urls[i] = strings.TrimSpace(line); urls[i] == "" {
			continue
		}
		if _, err := address.Typed(urls[i]); err != nil {
			return nil, fmt.Errorf("%s, line %d: “%s” is %w", name, i+1, urls[i], err)
		}
	}
	return urls, nil
}
