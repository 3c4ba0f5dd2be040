package main

import (
	"bytes"
	"context"
	"fmt"
	"strings"

	"corpulan/core/address"
	"corpulan/core/change"
	"corpulan/core/corpus"
	"corpulan/core/reading"
	"corpulan/formats/saved"
	"corpulan/render"
)

func runCompare(ctx context.Context, args []string, std stdio) error {
	flags := newFlags("compare")
	keyword := flags.String("keyword", "", "the target keyword")
	language := flags.String("language", "en", "the market's language, as a BCP 47 tag")
	before := flags.String("results-before", "", "a JSON file with what the results page of the older gathering asks and relates")
	after := flags.String("results-after", "", "the same for the newer one")
	if err := parse(flags, args); err != nil {
		return err
	}
	switch {
	case strings.TrimSpace(*keyword) == "":
		return fmt.Errorf("%w: --keyword is missing", errUse)
	case flags.NArg() != 2:
		return fmt.Errorf("%w: name two gatherings, the older one first", errUse)
	}
	in := change.Input{Keyword: *keyword, Language: *language}
	for _, side := range []struct {
		results string
		to      *change.Gathering
	}{{*before, &in.Before}, {*after, &in.After}} {
		if side.results == "" {
			continue
		}
		var err error
		if side.to.Asked, side.to.Related, err = readResults(side.results); err != nil {
			return err
		}
	}
	var out bytes.Buffer
	err := interruptible(ctx, func() error {
		for i, to := range []*change.Gathering{&in.Before, &in.After} {
			var err error
			if to.Results, err = gatheredIn(ctx, flags.Arg(i), *language, std); err != nil {
				return err
			}
		}
		m, err := change.Compare(ctx, in)
		if err != nil {
			return err
		}
		return render.Movement(&out, m)
	})
	if err != nil {
		return err
	}
	_, err = std.out.Write(out.Bytes())
	return err
}

// gatheredIn are the pages of a saved gathering: their order is their rank. One that cannot be
// read keeps its rank, and one that stands in it twice has its first.
func gatheredIn(ctx context.Context, name, language string, std stdio) ([]change.Result, error) {
	var list []change.Result
	read := 0
	seen := map[string]bool{}
	err := walk(ctx, name, std.in, func(p saved.Saved) error {
		if ctx.Err() != nil {
			return ctx.Err()
		}
		if key := address.Parse(p.URL).Key(); key != "" {
			if seen[key] {
				return nil
			}
			seen[key] = true
		}
		r := change.Result{Rank: len(list) + 1, URL: p.URL, Kept: true}
		doc, err := reading.Read(reading.Page{URL: p.URL, ContentType: p.ContentType, Body: p.Body})
		if err != nil {
			fmt.Fprintf(std.err, "corpulan: %s: %v\n", strings.TrimSpace(name+" "+p.URL), err)
		} else {
			read++
			r.Doc = corpus.Prepare(doc, language)
			if doc.Canonical != "" {
				r.Also = []string{doc.Canonical}
			}
		}
		if r.URL == "" {
			r.URL = fmt.Sprintf("%s#%d", name, r.Rank)
		}
		list = append(list, r)
		return nil
	})
	if err != nil {
		return nil, fmt.Errorf("%s: %w", name, err)
	}
	if read == 0 {
		return nil, fmt.Errorf("%s: %w", name, errNoneRead)
	}
	return list, nil
}
