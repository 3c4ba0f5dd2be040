package house

import (
	"encoding/csv"
	"errors"
	"io"
	"strings"

	"corpulan/core/message"
)

// MaxEntries bounds what is read of one file. Our own.
const MaxEntries = 5000

// Write gives entries as CSV with a header line: kind, term, other.
func Write(w io.Writer, entries []Entry) error {
	out := csv.NewWriter(w)
	if err := out.Write([]string{"kind", "term", "other"}); err != nil {
		return err
	}
	for _, e := range entries {
		if err := out.Write([]string{string(e.Kind), shielded(e.Term), shielded(e.Other)}); err != nil {
			return err
		}
	}
	out.Flush()
	return out.Error()
}

// shielded keeps spreadsheets from taking a cell for a formula, by a sign before it;
// unshielded takes that sign, and no other, away.
func shielded(cell string) string {
	if isFormula(cell) {
		return "'" + cell
	}
	return cell
}

func unshielded(cell string) string {
	if rest, ok := strings.CutPrefix(cell, "'"); ok && isFormula(rest) {
		return rest
	}
	return cell
}

// isFormula tells what a spreadsheet would compute, shielded or not.
func isFormula(cell string) bool {
	cell = strings.TrimLeft(cell, "'")
	return cell != "" && strings.ContainsRune("=+-@\t\r", rune(cell[0]))
}

// Read takes entries from CSV as Write gives it; a header line may be missing. Commas,
// semicolons and tabs are understood. What is wrong is told with its line.
func Read(r io.Reader) ([]Entry, error) {
	b, err := io.ReadAll(io.LimitReader(r, 4<<20))
	if err != nil {
		return nil, err
	}
	s := strings.TrimPrefix(string(b), "\ufeff")
	in := csv.NewReader(strings.NewReader(s))
	in.FieldsPerRecord, in.TrimLeadingSpace = -1, true
	first, _, _ := strings.Cut(s, "\n")
	for _, comma := range ";\t" {
		if strings.Count(first, string(comma)) > strings.Count(first, ",") {
			in.Comma = comma
		}
	}
	var entries []Entry
	for {
		record, err := in.Read()
		if errors.Is(err, io.EOF) {
			return entries, nil
		}
		if err != nil {
			return nil, message.Errorf("this is no CSV: %v", err)
		}
		line, _ := in.FieldPos(0)
		cell := func(i int) string {
			if i >= len(record) {
				return ""
			}
			return unshielded(strings.TrimSpace(record[i]))
		}
		if len(entries) == 0 && strings.EqualFold(cell(0), "kind") {
			continue
		}
		if strings.Join(record, "") == "" {
			continue
		}
		e, err := Check(Entry{Kind(strings.ToLower(cell(0))), cell(1), cell(2)})
		if err != nil {
			return nil, message.Errorf("line %d: %v", line, err)
		}
		if entries = append(entries, e); len(entries) > MaxEntries {
			return nil, message.Errorf("a lexicon has at most %d entries", MaxEntries)
		}
	}
}
