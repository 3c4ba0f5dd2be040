// Command evaluate measures how well pages are read, against two sets of pages
// that are not ours, and how right the first terms of a field are: `make eval` prints the figures of docs/evaluation.md.
//
//	evaluate -expected DIR [-annotated DIR] [-pages] [-page NAME] [-fields DIR]
//
// DIR are the folders of the readability and trafilatura modules.
package main

import (
	"bytes"
	"cmp"
	"errors"
	"flag"
	"fmt"
	"io"
	"net/url"
	"os"
	"slices"
	"strings"

	"corpulan/core/reading"
	_ "corpulan/lists" // the word lists that lie beside the program

	readability "codeberg.org/readeck/go-readability/v2"
	"golang.org/x/net/html"
)

func main() {
	expected := flag.String("expected", "", "folder of the readability module")
	annotated := flag.String("annotated", "", "folder of the trafilatura module")
	fields := flag.String("fields", "", "folder of fields whose terms were judged")
	learn := flag.Bool("learn", false, "teach the judge of sections by -fields and print it, and no more")
	each := flag.Bool("pages", false, "print every page")
	one := flag.String("page", "", "show the differences of one page of -expected, line by line")
	flag.Parse()
	if *learn {
		if err := errors.Join(printJudge(os.Stdout, *fields), printSaysJudge(os.Stdout, *fields)); err != nil {
			fmt.Fprintln(os.Stderr, "evaluate:", err)
			os.Exit(1)
		}
		return
	}
	if *fields != "" {
		if err := errors.Join(printTerms(os.Stdout, *fields), printWishes(os.Stdout, *fields), printOutlines(os.Stdout, *fields), printEntities(os.Stdout, *fields), printQuestions(os.Stdout, *fields), printAnswers(os.Stdout, *fields), printSays(os.Stdout, *fields), printKeywords(os.Stdout, *fields), printListed(os.Stdout, *fields, *each)); err != nil {
			fmt.Fprintln(os.Stderr, "evaluate:", err)
			os.Exit(1)
		}
	}
	if err := run(os.Stdout, *expected, *annotated, *each, *one); err != nil {
		fmt.Fprintln(os.Stderr, "evaluate:", err)
		os.Exit(1)
	}
}

func run(w io.Writer, expected, annotated string, each bool, one string) error {
	if expected != "" {
		pages, err := expectedPages(expected)
		if err != nil {
			return err
		}
		if one != "" {
			i := slices.IndexFunc(pages, func(p page) bool { return p.Name == one })
			if i < 0 {
				return fmt.Errorf("no page %q", one)
			}
			printDifferences(w, pages[i])
			return nil
		}
		printExpected(w, pages, each)
	}
	if annotated != "" {
		pages, err := annotatedPages(annotated)
		if err != nil {
			return err
		}
		printAnnotated(w, pages, each)
	}
	return nil
}

// found is what a reader took for the content of a page.
type found struct {
	text     string
	headings []string
}

// readers are what is compared, by name, in the order they are printed.
var readers = []struct {
	name string
	read func(page) found
}{
	{"judged", readBy(reading.Read)},
	{"first alone", readBy(reading.ReadFirstAlone)},
	{"second alone", readSecond},
}

func readBy(read func(reading.Page) (*reading.Reading, error)) func(page) found {
	return func(p page) found {
		r, err := read(reading.Page{URL: p.URL, ContentType: "text/html; charset=utf-8", Body: p.Source})
		if err != nil {
			return found{}
		}
		f := found{text: r.Text()}
		for _, h := range r.Headings {
			if !h.Inferred { // the expected pages know only headings that are marked as such
				f.headings = append(f.headings, h.Text)
			}
		}
		return f
	}
}

func readSecond(p page) found {
	u, err := url.Parse(p.URL)
	if err != nil {
		return found{}
	}
	parser := readability.NewParser()
	article, err := parser.Parse(bytes.NewReader(p.Source), u)
	if err != nil {
		return found{}
	}
	return found{textOf(article.Node), headingsOf(article.Node)}
}

// titleOf is the page's <title>.
func titleOf(p page) string {
	for d := range parsed(p.Source).Descendants() {
		if d.Type == html.ElementNode && d.Data == "title" {
			return textOf(d)
		}
	}
	return ""
}

// parsed is a page as a tree; one that cannot be parsed is empty.
func parsed(source []byte) *html.Node {
	root, err := html.Parse(bytes.NewReader(source))
	if err != nil {
		return &html.Node{Type: html.DocumentNode}
	}
	return root
}

// measure compares one page's reading with what is expected of it: its words,
// its headings, and its headings with those judged by hand put right.
func measure(p page, f found) (words, headings, byHand score) {
	title := titleOf(p)
	words = compare(wordBag(f.text), wordBag(textOf(p.Expected)))
	read, expected := headingBag(f.headings, title, p.Title), headingBag(headingsOf(p.Expected), title, p.Title)
	headings = compare(read, expected)
	for heading, authors := range p.Authors {
		if authors {
			expected[heading]++
		} else {
			delete(expected, heading)
		}
	}
	return words, headings, compare(read, expected)
}

func printExpected(w io.Writer, pages []page, each bool) {
	fmt.Fprintf(w, "%d test pages of the readability module; what is expected is that module's own output\n", len(pages))
	type line struct {
		text string
		f1   float64
	}
	for i, r := range readers {
		var words, headings, byHand score
		mean := 0.0
		var lines []line
		for _, p := range pages {
			f := r.read(p)
			pw, ph, pj := measure(p, f)
			if each && i == 0 {
				printHeadings(w, p, f)
			}
			words.add(pw)
			headings.add(ph)
			byHand.add(pj)
			mean += pw.f1() / float64(len(pages))
			lines = append(lines, line{fmt.Sprintf("  %-44s words P %.3f R %.3f F1 %.3f   headings %d found, %d expected, %d both",
				p.Name, pw.precision(), pw.recall(), pw.f1(), ph.found, ph.expected, ph.both), pw.f1()})
		}
		if each && i == 0 {
			slices.SortStableFunc(lines, func(a, b line) int { return cmp.Compare(a.f1, b.f1) })
			for _, l := range lines {
				fmt.Fprintln(w, l.text)
			}
		}
		fmt.Fprintf(w, "%-13s words P %.4f R %.4f F1 %.4f, mean F1 %.4f   headings P %.4f R %.4f of %d; judged by hand P %.4f R %.4f of %d\n", r.name,
			words.precision(), words.recall(), words.f1(), mean, headings.precision(), headings.recall(), headings.expected,
			byHand.precision(), byHand.recall(), byHand.expected)
	}
}

// printAnnotated says for each half of the pages how many phrases of the
// content are found and how many others are let in.
func printAnnotated(w io.Writer, pages []page, each bool) {
	for _, held := range []bool{false, true} {
		half := "rules were set on these"
		if held {
			half = "held back"
		}
		n := 0
		for _, p := range pages {
			if p.Held == held {
				n++
			}
		}
		fmt.Fprintf(w, "%d annotated pages of the trafilatura module, %s\n", n, half)
		for i, r := range readers {
			var s score
			phrases, right := 0, 0
			for _, p := range pages {
				if p.Held != held {
					continue
				}
				text := collapse(r.read(p).text)
				var missed, junk []string
				for _, phrase := range p.With {
					s.expected++
					if strings.Contains(text, collapse(phrase)) {
						s.found++
						s.both++
						right++
					} else {
						missed = append(missed, phrase)
					}
				}
				for _, phrase := range p.Without {
					if strings.Contains(text, collapse(phrase)) {
						s.found++
						junk = append(junk, phrase)
					} else {
						right++
					}
				}
				phrases += len(p.With) + len(p.Without)
				if each && i == 0 && !held && len(missed)+len(junk) > 0 {
					fmt.Fprintf(w, "  %s missed %q let in %q\n", p.Name, missed, junk)
				}
			}
			fmt.Fprintf(w, "%-13s phrases P %.4f R %.4f F1 %.4f   right %.4f of %d\n", r.name, s.precision(), s.recall(), s.f1(), share(right, phrases), phrases)
		}
	}
}
