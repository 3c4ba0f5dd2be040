package main

import (
	"fmt"
	"io"
	"maps"
	"slices"
	"strings"

	"corpulan/core/reading"
)

// printDifferences shows one expected page line by line: what was read and is
// not expected (+), and what is expected and was not read (-).
func printDifferences(w io.Writer, p page) {
	r, err := reading.Read(reading.Page{URL: p.URL, ContentType: "text/html; charset=utf-8", Body: p.Source})
	if err != nil {
		fmt.Fprintln(w, err)
		return
	}
	expected := linesOf(p.Expected)
	read := strings.Split(r.Text(), "\n")
	printMissing(w, "+", read, strings.Join(expected, " "))
	printMissing(w, "-", expected, strings.Join(read, " "))
	for _, s := range r.Struck {
		fmt.Fprintf(w, "struck %q: %s\n", s.Text, s.Reason)
	}
}

func printMissing(w io.Writer, sign string, lines []string, in string) {
	in = wordsOf(in)
	for _, l := range lines {
		if k := wordsOf(l); k != "" && !strings.Contains(in, k) {
			fmt.Fprintf(w, "%s %s\n", sign, l[:min(len(l), 160)])
		}
	}
}

// printHeadings lists the headings of a page that were read and are not
// expected (+), and that are expected and were not read (-).
func printHeadings(w io.Writer, p page, f found) {
	title := titleOf(p)
	read, expected := headingBag(f.headings, title, p.Title), headingBag(headingsOf(p.Expected), title, p.Title)
	for _, h := range slices.Sorted(maps.Keys(read)) {
		if read[h] > expected[h] {
			fmt.Fprintf(w, "%s + %s\n", p.Name, h)
		}
	}
	for _, h := range slices.Sorted(maps.Keys(expected)) {
		if expected[h] > read[h] {
			fmt.Fprintf(w, "%s - %s\n", p.Name, h)
		}
	}
}
