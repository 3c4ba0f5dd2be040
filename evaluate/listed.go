package main

import (
	"errors"
	"fmt"
	"io"
	"math"
	"path/filepath"
	"slices"
	"strconv"
	"strings"

	"corpulan/core/corpus"
	"corpulan/core/listed"
	"corpulan/core/text"
)

// told is one line of listed.tsv: what a reader saw a page list. An empty cell allows anything, "-" nothing.
type told struct {
	thing    string
	rank     int
	name     string
	position int // 0 where the page only names it
	verdict  string
	prices   []string // "48 GBP", "79-92 GBP"
	values   []string // "112 g", "IPX5"
	noPrice  bool
}

// readListed reads what a reader saw listed.
func readListed(dir string) (list []told, err error) {
	lines, err := fileLines(filepath.Join(dir, "listed.tsv"))
	if err != nil {
		return nil, err
	}
	for _, l := range lines {
		c := append(strings.Split(l, "\t"), "", "", "")
		t := told{thing: c[0], name: c[2], verdict: c[4], noPrice: c[5] == "-"}
		var bad [2]error
		t.rank, bad[0] = strconv.Atoi(c[1])
		t.position, bad[1] = strconv.Atoi(c[3])
		if err := errors.Join(bad[0], bad[1]); err != nil {
			return nil, fmt.Errorf("%s: %q: %w", dir, l, err)
		}
		for p := range strings.SplitSeq(c[5], "; ") {
			if p != "" && p != "-" {
				t.prices = append(t.prices, p)
			}
		}
		for v := range strings.SplitSeq(c[6], "; ") {
			if _, value, ok := strings.Cut(v, "="); ok {
				t.values = append(t.values, value)
			}
		}
		list = append(list, t)
	}
	return list, nil
}

// listedScore is how the things found stand to those a reader saw.
type listedScore struct {
	things, joined, prices, values, verdicts, positions score
	wrong                                               []string
}

// scoreListed compares things found: a place is the reader's of its rank and name, a thing that of most of its places.
func scoreListed(found []listed.Thing, want []told) (s listedScore) {
	key := func(rank int, name string) string { return fmt.Sprint(rank, " ", text.Fold(name)) }
	at := map[string]told{}
	expected := map[string]bool{}
	for _, t := range want {
		at[key(t.rank, t.name)] = t
		expected[t.thing] = true
	}
	hit := map[string]bool{}
	group := map[string]int{} // of a place a reader saw, the number of the thing it was found in
	for n, x := range found {
		is := map[string]int{}
		for _, p := range x.Places {
			t, ok := at[key(p.Rank, p.Name)]
			if !ok {
				if p.Position > 0 {
					s.wrong = append(s.wrong, fmt.Sprintf("not to be listed: %d %s (%s)", p.Rank, p.Name, p.By))
				} else {
					s.wrong = append(s.wrong, fmt.Sprintf("not named: %d %s (%s)", p.Rank, p.Name, p.Text))
				}
				continue
			}
			is[t.thing]++
			group[key(p.Rank, p.Name)] = n + 1
			s.place(p, t)
		}
		best := ""
		for t, times := range is {
			if best == "" || times > is[best] || times == is[best] && t < best {
				best = t
			}
		}
		s.things.found++
		if best != "" && !hit[best] {
			hit[best] = true
			s.things.both++
		} else {
			s.wrong = append(s.wrong, fmt.Sprintf("no thing, or twice: %s %v", x.Name, x.Ranks))
		}
	}
	s.things.expected = len(expected)
	for t := range expected {
		if !hit[t] {
			s.wrong = append(s.wrong, "not found: "+t)
		}
	}
	for i, a := range want {
		for _, b := range want[:i] {
			ga, gb := group[key(a.rank, a.name)], group[key(b.rank, b.name)]
			same, together := a.thing == b.thing, ga > 0 && ga == gb
			if same {
				s.joined.expected++
			}
			if together {
				s.joined.found++
			}
			if same && together {
				s.joined.both++
			}
		}
		if group[key(a.rank, a.name)] == 0 {
			s.wrong = append(s.wrong, fmt.Sprintf("place not found: %d %s", a.rank, a.name))
			s.prices.expected += len(a.prices)
			s.values.expected += len(a.values)
		}
	}
	return s
}

func (s *listedScore) place(p listed.Place, t told) {
	s.positions.expected++
	s.positions.found++
	if p.Position == t.position {
		s.positions.both++
	} else {
		s.wrong = append(s.wrong, fmt.Sprintf("position of %d %s: %d, not %d", p.Rank, p.Name, p.Position, t.position))
	}
	var prices, values []string
	for _, x := range p.Prices {
		amount := strconv.FormatFloat(x.Amount, 'f', -1, 64)
		if x.To > 0 {
			amount += "-" + strconv.FormatFloat(x.To, 'f', -1, 64)
		}
		if x.Currency != "" {
			prices = append(prices, amount+" "+x.Currency)
		}
	}
	var wanted []string
	for _, w := range t.prices {
		wanted = append(wanted, strings.ReplaceAll(strings.ReplaceAll(w, ".50 ", ".5 "), ".90 ", ".9 "))
	}
	if len(wanted) > 0 || t.noPrice {
		s.compare(&s.prices, "price", p, prices, wanted)
	}
	for _, a := range p.Attributes {
		values = append(values, inBaseUnit(a.Value, a.Unit))
	}
	wanted = nil
	for _, w := range t.values {
		value, unit, _ := strings.Cut(w, " ")
		wanted = append(wanted, inBaseUnit(value, unit))
	}
	if len(wanted) > 0 {
		s.compare(&s.values, "value", p, values, wanted)
	}
	switch {
	case t.verdict == "-" && p.Verdict != "":
		s.verdicts.found++
		s.wrong = append(s.wrong, fmt.Sprintf("verdict of %d %s: %q, none", p.Rank, p.Name, p.Verdict))
	case t.verdict != "" && t.verdict != "-":
		s.verdicts.expected++
		if p.Verdict != "" {
			s.verdicts.found++
		}
		if alike(p.Verdict, t.verdict) {
			s.verdicts.both++
		} else {
			s.wrong = append(s.wrong, fmt.Sprintf("verdict of %d %s: %q, not %q", p.Rank, p.Name, p.Verdict, t.verdict))
		}
	}
}

func (s *listedScore) compare(into *score, what string, p listed.Place, found, want []string) {
	into.found += len(found)
	into.expected += len(want)
	for _, w := range want {
		if slices.Contains(found, w) {
			into.both++
		}
	}
	if !slices.Equal(slices.Sorted(slices.Values(found)), slices.Sorted(slices.Values(want))) {
		s.wrong = append(s.wrong, fmt.Sprintf("%s of %d %s: %q, not %q", what, p.Rank, p.Name, found, want))
	}
}

// inBaseUnit is a value for comparing.
func inBaseUnit(value, unit string) string {
	amount, base, ok := listed.Attribute{Value: value, Unit: unit}.Base()
	if !ok {
		return text.Fold(value)
	}
	return fmt.Sprint(math.Round(1000*amount)/1000, " ", base)
}

// alike tells two verdicts that say the same: half of their words, and no more than twice as many.
func alike(a, b string) bool {
	x, y := wordBag(a), wordBag(b)
	both := compare(x, y)
	return 2*both.both >= max(both.found, both.expected)
}

// printListed prints how right the lists of the fields are that have labels for them.
func printListed(w io.Writer, folder string, each bool) error {
	_, _ = fmt.Fprintln(w, "\nThings that pages list: found, joined over pages, prices, figures, verdicts; precision and recall")
	return eachField(folder, "listed.tsv", func(f field, dir string, c *corpus.Field) error {
		want, err := readListed(dir)
		if err != nil {
			return err
		}
		s := scoreListed(listed.Find(c, nil).Things, want)
		_, _ = fmt.Fprintf(w, "%-14s", f.name)
		for _, x := range []score{s.things, s.joined, s.prices, s.values, s.verdicts, s.positions} {
			_, _ = fmt.Fprintf(w, " %.2f/%.2f", x.precision(), x.recall())
		}
		_, _ = fmt.Fprintln(w)
		if each {
			for _, x := range s.wrong {
				_, _ = fmt.Fprintln(w, "   ", x)
			}
		}
		return nil
	})
}
