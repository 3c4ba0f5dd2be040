package demand

import (
	"encoding/csv"
	"math"
	"strings"
	"testing"
	"unicode/utf8"
)

// Whatever stands in a cell is a finite figure or none.
func FuzzParseFigure(f *testing.F) {
	for _, s := range []string{"1,234.5", "1.234,5", "10 – 100", "€0,45", "1.2K", "-", "1e999", "١٢٣", "100-", "--", "0x10", "1_000", "\xff"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		for _, x := range []Figure{ParseFigure(s), ParseCount(s)} {
			if !x.Known && x.Value != 0 || math.IsNaN(x.Value) || math.IsInf(x.Value, 0) {
				t.Fatalf("%q is read as %v", s, x)
			}
		}
	})
}

// Whatever a table holds, its keywords are clean, each once, and grouped without a loss.
func FuzzRead(f *testing.F) {
	f.Add("Keyword,Volume\nbar mitts,1.900\nBar-Mitts,10 – 100\n", 0.5)
	f.Add("a\tb\n=cmd|' /C calc'!A0\t\x00\n", 0.0)
	f.Add("Suchbegriff;Jan 2026;Dez 2025\nGlühwein;5;7\n", 1.0)
	f.Fuzz(func(t *testing.T, table string, width float64) {
		in := csv.NewReader(strings.NewReader(table))
		in.FieldsPerRecord, in.LazyQuotes = -1, true
		rows, err := in.ReadAll()
		if err != nil || len(rows) > 300 {
			return
		}
		c := Recognise(rows)
		list, dropped, err := Read(rows, c)
		if err != nil {
			return
		}
		if len(list)+len(dropped) > len(rows) {
			t.Fatalf("%d keywords and %d dropped of %d rows", len(list), len(dropped), len(rows))
		}
		seen := map[string]bool{}
		for _, k := range list {
			key := Same(k.Text)
			if key == "" || seen[key] || utf8.RuneCountInString(k.Text) > LongestKeyword || strings.ContainsAny(k.Text, "\x00\n") {
				t.Fatalf("the keyword %q", k.Text)
			}
			seen[key] = true
		}
		if math.IsNaN(width) {
			width = 0
		}
		g := GroupOf(list, Options{Language: "en", Width: width, Year: 2026})
		n := len(g.Out)
		for _, x := range g.Groups {
			n += len(x.Keywords)
		}
		if n != len(list) {
			t.Fatalf("%d of %d keywords are in groups or out", n, len(list))
		}
		again, fresh := Merge(list, list)
		if fresh != 0 || len(again) != len(list) {
			t.Fatalf("a list put to itself grows by %d", fresh)
		}
	})
}
