package main

import (
	"bytes"
	"context"
	"fmt"
	"os"
	"path/filepath"
	"strings"

	"corpulan/analysis"
	"corpulan/core/brief"
	"corpulan/core/evidence"
	"corpulan/render"
	"corpulan/words"
)

func runBrief(ctx context.Context, args []string, std stdio) error {
	flags := newFlags("brief")
	keyword := flags.String("keyword", "", "the target keyword")
	language := flags.String("language", "en", "the market's language, as ISO 639-1")
	formatName := flags.String("format", "json", "the form of the brief")
	out := flags.String("out", "", "the file to write; standard output if not given")
	dossier := flags.Bool("dossier", false, "set the dossier, all the evidence, behind the brief")
	from := flags.String("from", "", "a brief as JSON to write in another form, instead of pages")
	if err := parse(flags, args); err != nil {
		return err
	}
	format, ok := render.FormatNamed(*formatName)
	switch {
	case ok && *from != "" && flags.NArg() == 0:
		return briefFrom(*from, format, *dossier, *out, std)
	case *from != "" && flags.NArg() > 0:
		return fmt.Errorf("%w: --from takes the place of the pages", errUse)
	case strings.TrimSpace(*keyword) == "":
		return fmt.Errorf("%w: --keyword is missing", errUse)
	case !ok:
		return fmt.Errorf("%w: --format %s is not one of %s", errUse, *formatName, formatNames())
	case flags.NArg() == 0:
		return fmt.Errorf("%w: name the saved pages, in rank order", errUse)
	}
	in := evidence.Input{Keyword: *keyword, Language: *language}
	var doc bytes.Buffer
	err := interruptible(ctx, func() error {
		e, err := evidenceOf(ctx, in, flags.Args(), nil, std)
		if err != nil {
			return err
		}
		all, err := words.Briefs()
		if err != nil {
			return err
		}
		return format.Write(&doc, brief.Compose(e, brief.Choices{}, brief.Setting{Words: analysis.BriefIn(all, "", e.Language)}).WithDossier(*dossier))
	})
	if err != nil {
		return err
	}
	return hand(doc.Bytes(), *out, std)
}

// hand writes a brief to a file, or to standard output.
func hand(doc []byte, out string, std stdio) error {
	if out == "" {
		_, err := std.out.Write(doc)
		return err
	}
	return replaceFile(out, doc)
}

// briefFrom writes a brief that was handed over as JSON in another form.
func briefFrom(name string, format render.Format, dossier bool, out string, std stdio) error {
	f, err := os.Open(name)
	if err != nil {
		return err
	}
	defer f.Close()
	b, err := render.ReadJSON(f)
	if err != nil {
		return fmt.Errorf("%s: %w", name, err)
	}
	var doc bytes.Buffer
	if err := format.Write(&doc, b.WithDossier(dossier || b.Dossier)); err != nil {
		return err
	}
	return hand(doc.Bytes(), out, std)
}

// replaceFile puts content in the place of a file in one step: where it cannot
// be written whole, on a full disk say, the older file stays as it was. What is
// no regular file, such as /dev/stdout, is written to.
func replaceFile(name string, content []byte) (err error) {
	mode := os.FileMode(0o644)
	if info, statErr := os.Stat(name); statErr == nil {
		if !info.Mode().IsRegular() {
			return os.WriteFile(name, content, mode)
		}
		mode = info.Mode().Perm()
		if target, linkErr := filepath.EvalSymlinks(name); linkErr == nil {
			name = target // a link stays one
		}
	}
	f, err := os.CreateTemp(filepath.Dir(name), "."+filepath.Base(name)+".*")
	if err != nil {
		return fmt.Errorf("writing the brief: %w", err)
	}
	defer func() {
		if err != nil {
			_ = f.Close()
			_ = os.Remove(f.Name())
			err = fmt.Errorf("writing the brief: %w", err)
		}
	}()
	if _, err = f.Write(content); err != nil {
		return err
	}
	if err = f.Chmod(mode); err != nil {
		return err
	}
	if err = f.Sync(); err != nil {
		return err
	}
	if err = f.Close(); err != nil {
		return err
	}
	return os.Rename(f.Name(), name)
}

func formatNames() string {
	var names []string
	for _, f := range render.Formats() {
		names = append(names, f.Name)
	}
	return strings.Join(names, ", ")
}
