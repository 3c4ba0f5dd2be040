package main

import (
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"corpulan/core/demand"
	"corpulan/standin"
)

// printKeywords says how far groups of labelled queries are those a reader made: by words
// alone, and with results pages as the stand-in draws them. Those know the labels, through
// noise: queries of one matter share on average half of ten, some fewer than three, and each
// has some of a matter near by. So the second figure tests the rule and not an engine.
func printKeywords(w io.Writer, folder string) error {
	list, labels, err := labelledKeywords(filepath.Join(folder, "keywords.tsv"))
	if err != nil {
		return err
	}
	results := simulated(list, labels)
	fmt.Fprintf(w, "\n%d queries, each of one of %d pages' worth\n", len(list), len(slices.Compact(slices.Sorted(slices.Values(labels)))))
	for _, width := range []float64{0.2, 0.4, 0.5, 0.6, 0.8} {
		p, r, f := grouped(list, labels, demand.Options{Language: "en", Width: width})
		ps, rs, fs := grouped(list, labels, demand.Options{Language: "en", Width: width, Results: results})
		fmt.Fprintf(w, "  width %.1f  by words P %.2f R %.2f F %.2f   with simulated results P %.2f R %.2f F %.2f\n", width, p, r, f, ps, rs, fs)
	}
	return nil
}

func labelledKeywords(name string) (list []demand.Keyword, labels []string, err error) {
	b, err := os.ReadFile(name)
	if err != nil {
		return nil, nil, err
	}
	for line := range strings.Lines(string(b)) {
		if q, label, ok := strings.Cut(strings.TrimSpace(line), "\t"); ok {
			list, labels = append(list, demand.Keyword{Text: q}), append(labels, label)
		}
	}
	return list, labels, nil
}

// simulated are results of queries: of each label eighteen pages, on sites of its subject.
func simulated(list []demand.Keyword, labels []string) demand.Results {
	results := demand.Results{}
	pool := func(label string) (pages []string) {
		subject, _, _ := strings.Cut(label, "-")
		for i := range 18 {
			pages = append(pages, fmt.Sprintf("http://%s%d.example/%s", subject, i, label))
		}
		return pages
	}
	all := slices.Compact(slices.Sorted(slices.Values(labels)))
	for i, k := range list {
		var near [][]string
		for _, l := range all {
			if l != labels[i] && l[:2] == labels[i][:2] {
				near = append(near, pool(l))
			}
		}
		results[demand.Same(k.Text)] = standin.Draw(pool(labels[i]), near, k.Text, 10)
	}
	return results
}

// grouped are precision, recall and F1 of pairs of queries in one group.
func grouped(list []demand.Keyword, labels []string, o demand.Options) (p, r, f float64) {
	label := map[string]string{}
	for i, k := range list {
		label[k.Text] = labels[i]
	}
	of := map[string]int{}
	for i, g := range demand.GroupOf(list, o).Groups {
		for _, k := range g.Keywords {
			of[k.Text] = i + 1
		}
	}
	var both, found, wanted float64
	for i, a := range list {
		for _, b := range list[i+1:] {
			together, alike := of[a.Text] > 0 && of[a.Text] == of[b.Text], label[a.Text] == label[b.Text]
			if together {
				found++
			}
			if alike {
				wanted++
			}
			if together && alike {
				both++
			}
		}
	}
	if both == 0 {
		return 0, 0, 0
	}
	p, r = both/found, both/wanted
	return p, r, 2 * p * r / (p + r)
}
