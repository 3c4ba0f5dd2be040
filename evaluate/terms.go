package main

import (
	"bufio"
	"cmp"
	"context"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/reading"
	"corpulan/core/text"
	"corpulan/core/vocabulary"
)

// A field is a folder with two files. pages.txt has the language and the keyword in its
// first line, then the pages in rank order, each with its
// address after a tab where it is a page of a site; terms.tsv has what a reader who knows the
// subject said of terms: right, off (the subject of another page), name (of a place or
// office one page is about), general, fragment.
type field struct {
	root                    string // folder that relative paths start at
	name, language, keyword string
	pages                   []string
	addresses               []string          // of the pages, where they are told
	judged                  map[string]string // by the term folded
}

// termsShown is how many of the first terms are judged: what a person reads before
// adopting. Our own.
const termsShown = 50

func readField(root, dir string) (field, error) {
	f := field{root: root, name: filepath.Base(dir), judged: map[string]string{}}
	lines, err := fileLines(filepath.Join(dir, "pages.txt"))
	if err != nil {
		return f, err
	}
	var ok bool
	if f.language, f.keyword, ok = strings.Cut(lines[0], "\t"); !ok {
		return f, fmt.Errorf("%s: the first line of pages.txt is not a language, a tab and a keyword", dir)
	}
	for _, l := range lines[1:] {
		page, address, _ := strings.Cut(l, "\t")
		f.pages, f.addresses = append(f.pages, page), append(f.addresses, address)
	}
	lines, err = fileLines(filepath.Join(dir, "terms.tsv"))
	if err != nil && !errors.Is(err, fs.ErrNotExist) { // some fields are for other things
		return f, err
	}
	for _, l := range lines {
		verdict, term, ok := strings.Cut(l, "\t")
		if !ok {
			return f, fmt.Errorf("%s: no verdict and term in %q", dir, l)
		}
		f.judged[text.Fold(term)] = verdict
	}
	return f, nil
}

func fileLines(path string) ([]string, error) {
	file, err := os.Open(path)
	if err != nil {
		return nil, err
	}
	defer file.Close()
	var lines []string
	for s := bufio.NewScanner(file); s.Scan(); {
		if s.Text() != "" {
			lines = append(lines, s.Text())
		}
	}
	if len(lines) == 0 {
		return nil, fmt.Errorf("%s is empty", path)
	}
	return lines, nil
}

// corpusOf reads the pages of a field. Those of Debian packages that are not installed
// are missing: the second result counts them.
func (f field) corpusOf() (*corpus.Field, int, error) {
	var pages []corpus.RankedPage
	missing := 0
	for i, path := range f.pages {
		b, err := os.ReadFile(f.place(path))
		if err != nil {
			missing++
			continue
		}
		r, err := reading.Read(reading.Page{URL: cmp.Or(f.addresses[i], addressOf(path, i)), ContentType: "text/html", Body: b})
		if err != nil {
			return nil, missing, fmt.Errorf("%s: %w", path, err)
		}
		pages = append(pages, corpus.RankedPage{Rank: i + 1, Doc: corpus.Prepare(r, f.language)})
	}
	return corpus.NewField(pages, f.language, f.keyword), missing, nil
}

// eachField reads the fields of a folder that have a file, and calls with each whose pages
// are all on this machine.
func eachField(folder, file string, with func(f field, dir string, c *corpus.Field) error) error {
	files, err := filepath.Glob(filepath.Join(folder, "*", file))
	if err != nil {
		return err
	}
	for _, path := range files {
		dir := filepath.Dir(path)
		f, err := readField(".", dir)
		if err != nil {
			return err
		}
		c, missing, err := f.corpusOf()
		if err != nil {
			return err
		}
		if missing > 0 {
			continue
		}
		if err := with(f, dir, c); err != nil {
			return err
		}
	}
	return nil
}

func (f field) place(path string) string {
	if filepath.IsAbs(path) {
		return path
	}
	return filepath.Join(f.root, path)
}

// addressOf gives a saved page an address of a host of its own, as `corpulan evidence` takes
// files for pages of no common site.
func addressOf(path string, number int) string {
	if rest, ok := strings.CutPrefix(path, "standin/sites/"); ok {
		return "https://" + strings.TrimSuffix(rest, ".html")
	}
	return fmt.Sprintf("https://docs%d.example/%s", number, strings.TrimPrefix(path, "/"))
}

// tally is how the first terms of a field were judged.
type tally struct {
	shown, right, off, junk, unjudged int
	wrong                             []string
}

func (f field) tally(c *corpus.Field) tally {
	var s tally
	for _, t := range vocabulary.Find(context.Background(), c, nil) {
		if !t.Recommended() {
			continue
		}
		if s.shown == termsShown {
			break
		}
		s.shown++
		switch verdict := f.judged[text.Fold(t.Text)]; verdict {
		case "right":
			s.right++
			continue
		case "off", "name":
			s.off++
			s.wrong = append(s.wrong, t.Text+" ("+verdict+")")
		case "":
			s.unjudged++
			s.wrong = append(s.wrong, t.Text+" (not judged)")
		default:
			s.junk++
			s.wrong = append(s.wrong, t.Text+" ("+verdict+")")
		}
	}
	return s
}

func printTerms(w io.Writer, folder string) error {
	dirs, err := filepath.Glob(filepath.Join(folder, "*", "terms.tsv"))
	if err != nil {
		return err
	}
	fmt.Fprintf(w, "The first %d terms of each field, as judged by a reader\n\n| field | terms | right | off the subject | general or cut | not judged |\n|---|---|---|---|---|---|\n", termsShown)
	var worst []string
	for _, d := range dirs {
		f, err := readField(".", filepath.Dir(d))
		if err != nil {
			return err
		}
		c, missing, err := f.corpusOf()
		if err != nil {
			return err
		}
		if missing > 0 {
			fmt.Fprintf(w, "| %s | %d pages are not on this machine: see evaluate/fields/README.md | | | | |\n", f.name, missing)
			continue
		}
		s := f.tally(c)
		share := func(n int) string { return fmt.Sprintf("%.2f", float64(n)/float64(max(s.shown, 1))) }
		fmt.Fprintf(w, "| %s | %d | %s | %s | %s | %s |\n", f.name, s.shown, share(s.right), share(s.off), share(s.junk), share(s.unjudged))
		worst = append(worst, f.name+": "+strings.Join(s.wrong[:min(len(s.wrong), 10)], ", "))
	}
	fmt.Fprintf(w, "\nThe first ten of each that are not right\n\n%s\n", strings.Join(worst, "\n"))
	return nil
}
