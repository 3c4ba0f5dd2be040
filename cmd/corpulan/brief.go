package main

import (
	"bytes"
	"context"
	"flag"
	"fmt"
	"io"
	"os"
	"strings"

	"corpulan/core/brief"
	"corpulan/core/evidence"
	"corpulan/core/reading"
	"corpulan/render"
)

func runBrief(ctx context.Context, args []string, std stdio) error {
	flags := flag.NewFlagSet("brief", flag.ContinueOnError)
	flags.SetOutput(io.Discard)
	keyword := flags.String("keyword", "", "the target keyword")
	language := flags.String("language", "en", "the market's language, as ISO 639-1")
	formatName := flags.String("format", "json", "the form of the brief")
	out := flags.String("out", "", "the file to write; standard output if not given")
	if err := flags.Parse(args); err != nil {
		return fmt.Errorf("%w: %v", errUse, err)
	}
	format, ok := render.FormatNamed(*formatName)
	switch {
	case strings.TrimSpace(*keyword) == "":
		return fmt.Errorf("%w: --keyword is missing", errUse)
	case !ok:
		return fmt.Errorf("%w: --format %s is not one of %s", errUse, *formatName, formatNames())
	case flags.NArg() == 0:
		return fmt.Errorf("%w: name the saved pages, in rank order", errUse)
	}
	in := evidence.Input{Keyword: *keyword, Language: *language}
	rank := 0
	_, err := readFiles(ctx, flags.Args(), "", std, func(r *reading.Reading) error {
		rank++
		in.Pages = append(in.Pages, evidence.Page{Rank: rank, Doc: evidence.Prepare(r, *language)})
		return nil
	})
	if err != nil {
		return err
	}
	var doc bytes.Buffer
	if err := format.Write(&doc, brief.Compose(evidence.Compute(in), brief.Choices{})); err != nil {
		return fmt.Errorf("writing the brief: %w", err)
	}
	if *out == "" {
		_, err = std.out.Write(doc.Bytes())
		return err
	}
	return os.WriteFile(*out, doc.Bytes(), 0o644)
}

func formatNames() string {
	var names []string
	for _, f := range render.Formats() {
		names = append(names, f.Name)
	}
	return strings.Join(names, ", ")
}
