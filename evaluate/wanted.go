package main

import (
	"context"
	"fmt"
	"io"
	"path/filepath"
	"slices"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/text"
	"corpulan/core/vocabulary"
)

// wishes are the terms of a field that a specialist wants, each with its ways of writing, and those that nobody
// does. The list of the wanted is not complete: a term in neither may be right.
type wishes struct {
	wanted   []map[string]bool
	unwanted map[string]bool
}

// plain is a term without its case and punctuation.
func plain(s string) string {
	s = strings.NewReplacer("-", " ", "/", " ", "'", " ", "’", " ").Replace(s)
	var words []string
	text.EachWord(s, func(w text.Span) { words = append(words, text.Fold(w.Of(s))) })
	return strings.Join(words, " ")
}

func readWishes(dir string) (w wishes, err error) {
	lines, err := fileLines(filepath.Join(dir, "terms_wanted.tsv"))
	if err != nil {
		return w, err
	}
	for _, l := range lines {
		name, ways, _ := strings.Cut(l, "\t")
		set := map[string]bool{plain(name): true}
		for way := range strings.SplitSeq(ways, "|") {
			set[plain(way)] = true
		}
		w.wanted = append(w.wanted, set)
	}
	lines, err = fileLines(filepath.Join(dir, "terms_unwanted.tsv"))
	w.unwanted = map[string]bool{}
	for _, l := range lines {
		name, _, _ := strings.Cut(l, "\t")
		w.unwanted[plain(name)] = true
	}
	return w, err
}

// wishesMet is how many of the first terms of a field are wanted and how many unwanted, and which are neither.
func wishesMet(c *corpus.Field, w wishes) (wanted, unwanted, shown int, neither []string) {
	for _, t := range vocabulary.Find(context.Background(), c, nil) {
		if !t.Recommended() {
			continue
		}
		if shown == termsShown {
			break
		}
		shown++
		names := []string{plain(t.Text)}
		for _, s := range t.Shapes {
			names = append(names, plain(s.Text))
		}
		is := func(set map[string]bool) bool {
			return slices.ContainsFunc(names, func(n string) bool { return set[n] })
		}
		switch {
		case slices.ContainsFunc(w.wanted, is):
			wanted++
		case is(w.unwanted):
			unwanted++
			neither = append(neither, t.Text+"!")
		default:
			neither = append(neither, t.Text)
		}
	}
	return wanted, unwanted, shown, neither
}

func printWishes(w io.Writer, folder string) error {
	fmt.Fprintf(w, "\nThe first %d terms of each field, against a specialist's list of those wanted\n\n| field | wanted | unwanted |\n|---|---|---|\n", termsShown)
	var notes []string
	var sum [3]int
	err := eachField(folder, "terms_wanted.tsv", func(f field, dir string, c *corpus.Field) error {
		wish, err := readWishes(dir)
		if err != nil {
			return err
		}
		wanted, unwanted, shown, neither := wishesMet(c, wish)
		fmt.Fprintf(w, "| %s | %.2f | %.2f |\n", f.name, share(wanted, shown), share(unwanted, shown))
		for i, n := range []int{wanted, unwanted, shown} {
			sum[i] += n
		}
		notes = append(notes, f.name+": "+strings.Join(neither, ", "))
		return nil
	})
	fmt.Fprintf(w, "| all | %.3f | %.3f |\n\nThose in neither list (! unwanted)\n\n%s\n", share(sum[0], sum[2]), share(sum[1], sum[2]), strings.Join(notes, "\n"))
	return err
}
