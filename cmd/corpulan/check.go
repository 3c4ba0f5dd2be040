package main

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"

	"corpulan/core/brief"
	"corpulan/core/corpus"
	"corpulan/core/draft"
	"corpulan/core/fit"
	"corpulan/render"
)

// errBelow says that a draft's fit is below what was asked for.
var errBelow = errors.New("the draft's fit is below --min")

// runCheck writes the fit of a draft, and how close it is to pages, as JSON.
func runCheck(ctx context.Context, args []string, std stdio) error {
	flags := newFlags("check")
	from := flags.String("brief", "", "the brief, as JSON")
	least := flags.Float64("min", 0, "the fit below which the exit code is 1")
	explain := flags.Bool("explain", false, "say it in lines instead of JSON")
	if err := parse(flags, args); err != nil {
		return err
	}
	switch {
	case *from == "":
		return fmt.Errorf("%w: --brief names no brief", errUse)
	case *least < 0 || *least > 100:
		return fmt.Errorf("%w: --min is a number from 0 to 100", errUse)
	case flags.NArg() == 0:
		return fmt.Errorf("%w: name the draft", errUse)
	case flags.NArg() == 2 || flags.NArg() > 2 && flags.Arg(1) != "--pages" && flags.Arg(1) != "-pages":
		return fmt.Errorf("%w: one draft at a time, and --pages before the pages to compare it with", errUse)
	}
	b, err := readBrief(*from)
	if err != nil {
		return err
	}
	var f fit.Report
	err = interruptible(ctx, func() error {
		draft, err := readDraft(ctx, flags.Arg(0))
		if err != nil {
			return err
		}
		var docs []corpus.RankedPage
		if flags.NArg() > 2 {
			if docs, err = pagesOf(ctx, b.Language, flags.Args()[2:], nil, std); err != nil {
				return err
			}
		}
		f = fit.ReportOn(&b, draft, docs, *least)
		return nil
	})
	if err != nil {
		return err
	}
	if err := writeReport(std.out, f, *explain); err != nil {
		return err
	}
	if f.Fit.Fit < *least {
		return fmt.Errorf("%w: %.1f of %.1f", errBelow, f.Fit.Fit, *least)
	}
	return nil
}

// writeReport writes a report as JSON, or in lines.
func writeReport(out io.Writer, f fit.Report, explained bool) error {
	if !explained {
		enc := json.NewEncoder(out)
		enc.SetEscapeHTML(false)
		enc.SetIndent("", "  ")
		return enc.Encode(f)
	}
	for _, line := range f.Explained() {
		if _, err := fmt.Fprintln(out, line); err != nil {
			return err
		}
	}
	return nil
}

func readBrief(name string) (brief.Brief, error) {
	f, err := os.Open(name)
	if err != nil {
		return brief.Brief{}, err
	}
	defer f.Close()
	b, err := render.ReadJSON(f)
	if err != nil {
		return b, fmt.Errorf("%s: %w", name, err)
	}
	return b, nil
}

// readDraft reads a writer's text and makes it ready for comparison.
func readDraft(ctx context.Context, name string) (*draft.Node, error) {
	f, err := os.Open(name)
	if err != nil {
		return nil, err
	}
	defer f.Close()
	n, err := ownFiles.Draft(ctx, name, f)
	if err != nil {
		return nil, fmt.Errorf("%s: %w", name, err)
	}
	return n, nil
}
