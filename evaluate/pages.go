package main

import (
	"bytes"
	_ "embed"
	"encoding/json"
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"hash/crc32"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"

	"golang.org/x/net/html"
)

// page is one page of a test set with what is known about its content.
type page struct {
	Name, URL string
	Source    []byte

	// Of an expected page: the content as a tree, the page's title, and what was
	// judged by hand of its headings, by their words: the author's or not.
	Expected *html.Node
	Title    string
	Authors  map[string]bool

	// Of an annotated page: phrases that belong to the content, and such that do not.
	With, Without []string
	Held          bool // of the half that no rule was set on
}

// expectedPages are the test pages of the readability module: source.html and
// expected.html in one folder each.
func expectedPages(module string) ([]page, error) {
	folders, err := filepath.Glob(filepath.Join(module, "test-pages", "*", "source.html"))
	if err != nil || len(folders) == 0 {
		return nil, fmt.Errorf("no test pages below %s (%v)", module, err)
	}
	byHand, err := judgedHeadings()
	if err != nil {
		return nil, err
	}
	var all []page
	for _, source := range folders {
		folder := filepath.Dir(source)
		p := page{Name: filepath.Base(folder), URL: "http://fakehost/test/page.html"}
		if p.Source, err = os.ReadFile(source); err != nil {
			return nil, err
		}
		expected, err := os.ReadFile(filepath.Join(folder, "expected.html"))
		if err != nil {
			return nil, err
		}
		if p.Expected, err = html.Parse(bytes.NewReader(expected)); err != nil {
			return nil, fmt.Errorf("%s: %w", folder, err)
		}
		var meta struct{ Title string }
		if b, err := os.ReadFile(filepath.Join(folder, "expected-metadata.json")); err == nil {
			_ = json.Unmarshal(b, &meta) // a page without has no title to leave out
		}
		p.Title, p.Authors = meta.Title, byHand[p.Name]
		all = append(all, p)
	}
	return all, nil
}

//go:embed judged.tsv
var judged string

// judgedHeadings are the lines of judged.tsv, by page.
func judgedHeadings() (map[string]map[string]bool, error) {
	pages := map[string]map[string]bool{}
	for line := range strings.Lines(judged) {
		if strings.HasPrefix(line, "#") {
			continue
		}
		fields := strings.Split(strings.TrimSuffix(line, "\n"), "\t")
		if len(fields) != 4 || fields[1] != "author" && fields[1] != "site" {
			return nil, fmt.Errorf("judged.tsv: %q is no page, author or site, heading, reason", line)
		}
		if pages[fields[0]] == nil {
			pages[fields[0]] = map[string]bool{}
		}
		pages[fields[0]][fields[2]] = fields[1] == "author"
	}
	return pages, nil
}

// annotatedPages are the comparison pages of the trafilatura module, each with
// phrases that people marked as content (With) and as none (Without). They
// stand in a Go file, whose literals are read here.
func annotatedPages(module string) ([]page, error) {
	file, err := parser.ParseFile(token.NewFileSet(), filepath.Join(module, "scripts", "comparison", "data.go"), nil, 0)
	if err != nil {
		return nil, err
	}
	var all []page
	ast.Inspect(file, func(n ast.Node) bool {
		entry, ok := n.(*ast.KeyValueExpr)
		if !ok {
			return true
		}
		fields, ok := entry.Value.(*ast.CompositeLit)
		if !ok {
			return true
		}
		p := page{URL: literal(entry.Key)}
		p.Held = crc32.ChecksumIEEE([]byte(p.URL))&1 == 1
		for _, f := range fields.Elts {
			field, ok := f.(*ast.KeyValueExpr)
			if !ok {
				continue
			}
			switch fmt.Sprint(field.Key) {
			case "File":
				p.Name = literal(field.Value)
			case "With":
				p.With = literals(field.Value)
			case "Without":
				p.Without = literals(field.Value)
			}
		}
		for _, folder := range []string{"comparison", "mock"} {
			if b, err := os.ReadFile(filepath.Join(module, "test-files", folder, p.Name)); err == nil && p.Name != "" {
				p.Source = b
				all = append(all, p)
				break
			}
		}
		return false
	})
	slices.SortFunc(all, func(a, b page) int { return strings.Compare(a.URL, b.URL) })
	return all, nil
}

func literal(e ast.Expr) string {
	if b, ok := e.(*ast.BasicLit); ok {
		s, _ := strconv.Unquote(b.Value)
		return s
	}
	return ""
}

func literals(e ast.Expr) []string {
	var all []string
	if list, ok := e.(*ast.CompositeLit); ok {
		for _, item := range list.Elts {
			all = append(all, literal(item))
		}
	}
	return all
}
