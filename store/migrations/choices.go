package migrations

import (
	"context"
	"database/sql"
	"encoding/json"
	"fmt"
	"strconv"
	"strings"
)

// Until release 00015 the choices of a brief were texts by name: the outline, the cuttings and what
// the brief stands on as lines and as JSON within a string, and notes apart. From 00016 on each is
// what it is. Edits call the places by the same names as before, so that what was done can be
// undone across the release.

// before are choices as they were; after as they are, as far as this has to know.
type (
	before struct {
		Marks json.RawMessage     `json:"marks"`
		Typed map[string]string   `json:"typed"`
		Notes map[string]string   `json:"notes"`
		Made  map[string][]string `json:"made,omitempty"`
	}
	after struct {
		Marks         json.RawMessage                       `json:"marks"`
		Typed         map[string]string                     `json:"typed"`
		Outline       []line                                `json:"outline"`
		Sections      map[string]map[string]string          `json:"sections,omitempty"`
		Points        map[string]string                     `json:"points,omitempty"`
		Under         map[string]map[string]string          `json:"under,omitempty"`
		Parts         []partLine                            `json:"parts"`
		OwnParts      map[string]map[string]string          `json:"own_parts,omitempty"`
		Cuttings      map[string]map[string]json.RawMessage `json:"cuttings,omitempty"`
		CuttingsOrder []string                              `json:"cutting_order"`
		Basis         json.RawMessage                       `json:"basis,omitempty"`
		Made          map[string][]string                   `json:"made,omitempty"`
	}
	line struct {
		Level int    `json:"level"`
		Key   string `json:"key"`
	}
	partLine struct {
		Name   string `json:"name"`
		Hidden bool   `json:"hidden,omitempty"`
	}
)

// within puts a value into a map of maps.
func within[T any](all *map[string]map[string]T, key, name string, value T) {
	if *all == nil {
		*all = map[string]map[string]T{}
	}
	if (*all)[key] == nil {
		(*all)[key] = map[string]T{}
	}
	(*all)[key][name] = value
}

func onward(doc string) (string, error) {
	var was before
	if err := json.Unmarshal([]byte(doc), &was); err != nil {
		return "", err
	}
	is := after{Marks: was.Marks, Made: was.Made, Typed: map[string]string{}}
	for key, note := range was.Notes {
		within(&is.Sections, key, "note", note)
	}
	for name, text := range was.Typed {
		if prefix, key, ok := strings.Cut(name, ":"); !ok || !is.putKeyed(prefix, key, text) {
			is.put(name, text)
		}
	}
	b, err := json.Marshal(is)
	return string(b), err
}

// put takes a value that stood under a name.
func (is *after) put(name, text string) {
	switch name {
	case "outline":
		is.Outline = []line{}
		for l := range strings.Lines(text) {
			level, key, _ := strings.Cut(strings.TrimRight(l, "\n"), " ")
			if n, err := strconv.Atoi(level); err == nil && key != "" {
				is.Outline = append(is.Outline, line{n, key})
			}
		}
	case "parts":
		is.Parts = []partLine{}
		for l := range strings.Lines(text) {
			if name, hidden := strings.CutPrefix(strings.TrimSpace(l), "-"); name != "" {
				is.Parts = append(is.Parts, partLine{name, hidden})
			}
		}
	case "cuttings":
		is.CuttingsOrder = append([]string{}, strings.Fields(text)...)
	case "basis":
		if json.Valid([]byte(text)) {
			is.Basis = json.RawMessage(text)
		}
	default:
		is.Typed[name] = text
	}
}

// putKeyed takes a value that stood under a prefix and a key; false where the release before wrote
// no such thing.
func (is *after) putKeyed(prefix, key, text string) bool {
	quoted, _ := json.Marshal(text)
	switch prefix {
	case "heading", "words":
		within(&is.Sections, key, prefix, text)
	case "point":
		if is.Points == nil {
			is.Points = map[string]string{}
		}
		is.Points[key] = text
	case "at":
		kind, key, _ := strings.Cut(key, ":")
		within(&is.Under, kind+"s", key, text)
	case "part":
		within(&is.OwnParts, key, "text", text)
	case "part_title":
		within(&is.OwnParts, key, "title", text)
	case "cutting":
		if json.Valid([]byte(text)) {
			within(&is.Cuttings, key, "cutting", json.RawMessage(text))
		}
	case "cutting_note":
		within(&is.Cuttings, key, "note", quoted)
	case "cutting_at":
		within(&is.Cuttings, key, "section", quoted)
	default:
		return false
	}
	return true
}

func back(doc string) (string, error) {
	var is after
	if err := json.Unmarshal([]byte(doc), &is); err != nil {
		return "", err
	}
	was := before{Marks: is.Marks, Made: is.Made, Typed: is.Typed, Notes: map[string]string{}}
	if was.Typed == nil {
		was.Typed = map[string]string{}
	}
	for key, x := range is.Sections {
		for name, text := range x {
			if name == "note" {
				was.Notes[key] = text
			} else {
				was.Typed[name+":"+key] = text
			}
		}
	}
	for key, text := range is.Points {
		was.Typed["point:"+key] = text
	}
	for kinds, x := range is.Under {
		for key, text := range x {
			was.Typed["at:"+strings.TrimSuffix(kinds, "s")+":"+key] = text
		}
	}
	for key, x := range is.OwnParts {
		for name, text := range x {
			was.Typed[map[string]string{"text": "part:", "title": "part_title:"}[name]+key] = text
		}
	}
	for key, x := range is.Cuttings {
		for name, value := range x {
			text := string(value)
			if name != "cutting" {
				if err := json.Unmarshal(value, &text); err != nil {
					return "", err
				}
			}
			was.Typed[map[string]string{"cutting": "cutting:", "note": "cutting_note:", "section": "cutting_at:"}[name]+key] = text
		}
	}
	if is.CuttingsOrder != nil {
		was.Typed["cuttings"] = strings.Join(is.CuttingsOrder, "\n")
	}
	if is.Outline != nil {
		var b strings.Builder
		for _, l := range is.Outline {
			fmt.Fprintf(&b, "%d %s\n", l.Level, l.Key)
		}
		was.Typed["outline"] = b.String()
	}
	if is.Parts != nil {
		var b strings.Builder
		for _, p := range is.Parts {
			if p.Hidden {
				b.WriteByte('-')
			}
			b.WriteString(p.Name + "\n")
		}
		was.Typed["parts"] = b.String()
	}
	if len(is.Basis) > 0 && string(is.Basis) != "null" {
		was.Typed["basis"] = string(is.Basis)
	}
	b, err := json.Marshal(was)
	return string(b), err
}

func toValues(ctx context.Context, tx *sql.Tx) error {
	return withStands(ctx, tx, `coalesce(jsonb_exists(choices, 'basis'), false)`, onward)
}

func toTexts(ctx context.Context, tx *sql.Tx) error {
	return withStands(ctx, tx, `coalesce(jsonb_exists(choices->'typed', 'basis'), false)`, back)
}

// withStands rewrites all choices, and tells anew by what a brief stands.
func withStands(ctx context.Context, tx *sql.Tx, stands string, as func(string) (string, error)) error {
	if _, err := tx.ExecContext(ctx, `alter table briefs drop column stands`); err != nil {
		return err
	}
	for _, table := range []string{"briefs", "brief_revisions"} {
		if err := rewriteAll(ctx, tx, table, "choices", as); err != nil {
			return fmt.Errorf("choices of %s: %w", table, err)
		}
	}
	_, err := tx.ExecContext(ctx, `alter table briefs add column stands boolean not null generated always as (`+stands+`) stored`)
	return err
}
