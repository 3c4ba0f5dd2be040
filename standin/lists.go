package standin

import (
	"bytes"
	"encoding/csv"
	"fmt"
	"math"
	"slices"
	"strings"
)

//go:generate go run ./makelists

// Lists are the keyword lists that ship with the demo, as other tools would export them:
// keywords.csv with figures by month and some noise, own-queries.csv as search engines give
// site owners the queries that led to their pages.
func Lists() (keywords, own []byte) {
	keywords, _ = files.ReadFile("lists/keywords.csv") // embedded: it is there
	own, _ = files.ReadFile("lists/own-queries.csv")
	return keywords, own
}

// Workshop is the transcript of an evening in the invented publication's workshop, as WebVTT.
func Workshop() []byte {
	b, _ := files.ReadFile("lists/workshop-evening.vtt") // embedded: it is there
	return b
}

// MakeLists makes both lists anew from the matters.
func MakeLists() (keywords, own []byte, err error) {
	w := &Web{}
	if w.pages, err = readIndex("index"); err != nil {
		return nil, nil, err
	}
	if w.matters, err = readMatters(); err != nil {
		return nil, nil, err
	}
	return w.makeKeywords(), w.makeOwn(), nil
}

// listed is how many rows the list of keywords has at the most.
const listed = 500

// variants are other ways in which a query is searched.
func variants(q string) []string {
	list := []string{q + " uk", "best " + q, strings.ReplaceAll(q, "bike", "bicycle"), strings.ReplaceAll(q, "tyre", "tire"), strings.ReplaceAll(q, "cycling", "cycle"), q + " 2021", q + " 2026",
		strings.ReplaceAll(q, "winter bike", "winter-bike"), strings.ToUpper(q[:1]) + q[1:], strings.TrimPrefix(q, "best "), q + " near me", "cheap " + q, strings.ReplaceAll(q, " and ", " & ")}
	for _, p := range []string{"how to ", "is ", "are ", "do ", "what ", "why "} {
		if strings.HasPrefix(q, p) {
			list = []string{q + "?", strings.TrimPrefix(q, "how to "), strings.ReplaceAll(q, "bike", "bicycle"), strings.ReplaceAll(q, "tyre", "tire")}
		}
	}
	return slices.DeleteFunc(list, func(v string) bool { return v == q })
}

func (w *Web) makeKeywords() []byte {
	var queries []string
	for _, m := range w.matters {
		for _, q := range m.queries {
			queries = append(queries, q.text)
		}
	}
	have := map[string]bool{}
	for _, q := range queries {
		have[q] = true
	}
	for round := 0; len(queries) < listed; round++ {
		before := len(queries)
		for _, m := range w.matters {
			for _, q := range m.queries {
				all := variants(q.text)
				if m.other || round >= len(all) || len(queries) >= listed {
					continue
				}
				v := all[(number(q.text)+round)%len(all)]
				if !have[v] {
					have[v] = true
					queries = append(queries, v)
				}
			}
		}
		if len(queries) == before {
			break
		}
	}
	slices.SortStableFunc(queries, func(a, b string) int { return number("shuffle", a) - number("shuffle", b) })
	var b bytes.Buffer
	out := csv.NewWriter(&b)
	head := []string{"Keyword", "Avg. monthly searches", "Competition (indexed value)", "Keyword difficulty", "CPC (GBP)"}
	for i := range 12 {
		month := (newest+i)%12 + 1
		year := 2025
		if month <= newest {
			year++
		}
		head = append(head, fmt.Sprintf("Searches: %s %d", []string{"Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"}[month-1], year))
	}
	_ = out.Write(head)
	for _, q := range queries {
		k, ok := w.figuresOf(q)
		row := []string{q, "", "", "", ""}
		if ok {
			row[1] = fmt.Sprintf("%.0f", k.volume)
			if k.volume >= 1000 {
				row[1] = fmt.Sprintf("%d,%03d", int(k.volume)/1000, int(k.volume)%1000)
			}
			if k.volume < 50 {
				row[1] = "10 – 100"
			}
			row[2], row[3], row[4] = fmt.Sprintf("%.2f", k.competition), fmt.Sprintf("%.0f", k.difficulty), fmt.Sprintf("%.2f", k.cost)
			if number("gap", q)%11 == 0 {
				row[3] = "-"
			}
			for _, m := range k.months {
				row = append(row, fmt.Sprintf("%.0f", m))
			}
		}
		_ = out.Write(row)
	}
	out.Flush()
	return b.Bytes()
}

// makeOwn makes the queries that led to pages of the invented shop, with where they stood.
func (w *Web) makeOwn() []byte {
	var b bytes.Buffer
	out := csv.NewWriter(&b)
	_ = out.Write([]string{"Query", "Page", "Clicks", "Impressions", "CTR", "Position"})
	for i := range w.matters {
		m := &w.matters[i]
		for _, q := range m.queries {
			for n, p := range m.pages {
				if !strings.HasPrefix(p, "quillfen.example/") || number(q.text, p, "found")%4 == 0 {
					continue
				}
				at := 4 + float64(number(m.key)%9) + float64(n*3) + float64(number(q.text, p)%50)/10
				seen := math.Round(q.volume * 0.8)
				clicks := math.Round(seen * 0.3 / at)
				_ = out.Write([]string{q.text, "https://" + p, fmt.Sprintf("%.0f", clicks), fmt.Sprintf("%.0f", seen), fmt.Sprintf("%.2f%%", 100*clicks/seen), fmt.Sprintf("%.1f", at)})
			}
		}
	}
	out.Flush()
	return b.Bytes()
}
