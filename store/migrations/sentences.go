package migrations

import (
	"context"
	"database/sql"
	_ "embed"
	"encoding/json"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"
)

// Until release 00014 what was done, and why a page was not had, stood in the database as English
// sentences. They are known again by the formats they were made of and kept as messages; see
// core/message, whose form this writes by itself, since it must not change when that does.

// formats are the sentences of that release, one a line. %k is a word of the program's own, %v
// another sentence or what a person typed.
//
//go:embed sentences.txt
var formats string

// kept is a message: text, number or another list after its format.
type kept = []any

// form is a format that sentences were made of.
type form struct {
	format string
	verbs  []string
	made   *regexp.Regexp
	size   int // of its own words: those with more are tried first
}

var verb = regexp.MustCompile(`%\.?\d*[sdvkf]`)

var forms = sync.OnceValue(func() (list []form) {
	for line := range strings.Lines(formats) {
		line = strings.TrimSuffix(line, "\n")
		if line == "" {
			continue
		}
		f := form{format: strings.ReplaceAll(line, "%k", "%v"), verbs: verb.FindAllString(strings.ReplaceAll(line, "%%", "  "), -1)}
		var made strings.Builder
		made.WriteString(`(?s)^`)
		rest := line
		for _, v := range f.verbs {
			before, after, _ := strings.Cut(rest, v)
			made.WriteString(regexp.QuoteMeta(strings.ReplaceAll(before, "%%", "%")))
			f.size += len(before)
			if strings.ContainsAny(v[len(v)-1:], "df") {
				made.WriteString(`(-?[\d.]+)`)
			} else {
				made.WriteString(`(.+?)`)
			}
			rest = after
		}
		made.WriteString(regexp.QuoteMeta(strings.ReplaceAll(rest, "%%", "%")) + `$`)
		f.size += len(rest)
		f.made = regexp.MustCompile(made.String())
		list = append(list, f)
	}
	slices.SortFunc(list, func(a, b form) int { return b.size - a.size })
	return list
})

// known is a sentence as a message; nil where it is of none of the formats: it is a format itself,
// or a person's.
func known(sentence string) kept {
	if len(sentence) > 2000 {
		return nil
	}
	for _, f := range forms() {
		m := f.made.FindStringSubmatch(sentence)
		if m == nil {
			continue
		}
		list := kept{f.format}
		for i, part := range m[1:] {
			switch f.verbs[i][len(f.verbs[i])-1] {
			case 'd', 'f':
				n, err := strconv.ParseFloat(part, 64)
				if err != nil {
					return nil
				}
				list = append(list, n)
			case 'k':
				list = append(list, kept{part})
			case 'v':
				if inner := known(part); inner != nil {
					list = append(list, inner)
				} else {
					list = append(list, kept{"", part})
				}
			default:
				list = append(list, part)
			}
		}
		return list
	}
	return nil
}

// message is a sentence as it is kept from 00015 on.
func message(sentence string) string {
	if strings.HasPrefix(sentence, "[") { // which no format does: a person's, and no message
		return written(kept{"", sentence})
	}
	// Several sentences after each other.
	parts := strings.SplitAfter(sentence, ". ")
	var list []any
	some := false
	for _, p := range parts {
		p = strings.TrimSuffix(p, " ")
		if m := known(p); m != nil {
			list, some = append(list, m), true
		} else {
			list = append(list, kept{p})
		}
	}
	if whole := known(sentence); whole != nil {
		return written(whole)
	}
	if !some {
		return sentence
	}
	return written(append(kept{[]string{" "}}, list...))
}

func written(list kept) string {
	var b strings.Builder
	e := json.NewEncoder(&b)
	e.SetEscapeHTML(false)
	_ = e.Encode(list) // texts, numbers and lists always can be
	return strings.TrimSuffix(b.String(), "\n")
}

// sentence is a message in English again.
func sentence(message string) string {
	var list []any
	if !strings.HasPrefix(message, "[") || json.Unmarshal([]byte(message), &list) != nil || len(list) == 0 {
		return message
	}
	return said(list)
}

func said(list []any) string {
	parts := make([]any, 0, len(list))
	for _, p := range list[1:] {
		switch p := p.(type) {
		case []any:
			if len(p) == 0 {
				continue
			}
			parts = append(parts, said(p))
		default:
			parts = append(parts, p)
		}
	}
	switch first := list[0].(type) {
	case string:
		if first == "" && len(parts) == 1 {
			return fmt.Sprint(parts[0])
		}
		if len(parts) == 0 {
			return first
		}
		for i, v := range verb.FindAllString(strings.ReplaceAll(first, "%%", "  "), -1) {
			if n, ok := number(parts, i); ok && strings.HasSuffix(v, "d") {
				parts[i] = int(n)
			}
		}
		return fmt.Sprintf(first, parts...)
	case []any:
		texts := make([]string, len(parts))
		for i, p := range parts {
			texts[i] = fmt.Sprint(p)
		}
		return strings.Join(texts, fmt.Sprint(first...))
	case float64:
		return fmt.Sprintf("%.0f %vs", first, parts[len(parts)-1])
	}
	return fmt.Sprint(parts...)
}

func number(parts []any, i int) (float64, bool) {
	if i >= len(parts) {
		return 0, false
	}
	n, ok := parts[i].(float64)
	return n, ok
}

// columns hold what was said; documents hold it in some of their values.
var (
	columns = [][2]string{{"changes", "said"}, {"briefs", "said"}, {"brief_revisions", "said"}, {"plan_changes", "said"},
		{"results", "reason"}, {"results", "failure"}, {"gatherings", "failure"}, {"own_pages", "failure"}, {"deliveries", "problem"}}
	documents = [][2]string{{"changes", "patch"}, {"slates", "plan"}, {"plan_changes", "before"}, {"plan_changes", "after"}, {"publications", "settings"}}
	saying    = map[string]bool{"Reason": true, "Failure": true, "why": true, "kind_why": true, "reason": true, "about": true, "notes": true}
)

func toMessages(ctx context.Context, tx *sql.Tx) error  { return rewrite(ctx, tx, message) }
func toSentences(ctx context.Context, tx *sql.Tx) error { return rewrite(ctx, tx, sentence) }

// rewrite puts everything that is said into another form.
func rewrite(ctx context.Context, tx *sql.Tx, as func(string) string) error {
	for _, c := range columns {
		texts, err := texts(ctx, tx, fmt.Sprintf(`select distinct %s from %s where %[1]s <> ''`, c[1], c[0]))
		if err != nil {
			return fmt.Errorf("%s of %s: %w", c[1], c[0], err)
		}
		var from, to []string
		for _, t := range texts {
			if m := as(t); m != t {
				from, to = append(from, t), append(to, m)
			}
		}
		if len(from) == 0 {
			continue
		}
		if _, err := tx.ExecContext(ctx, fmt.Sprintf(`update %s x set %s = t.new from unnest($1::text[], $2::text[]) as t(old, new) where x.%[2]s = t.old`, c[0], c[1]), from, to); err != nil {
			return fmt.Errorf("%s of %s: %w", c[1], c[0], err)
		}
	}
	for _, d := range documents {
		if err := rewriteDocuments(ctx, tx, d[0], d[1], as); err != nil {
			return fmt.Errorf("%s of %s: %w", d[1], d[0], err)
		}
	}
	return nil
}

func texts(ctx context.Context, tx *sql.Tx, query string, args ...any) (list []string, err error) {
	rows, err := tx.QueryContext(ctx, query, args...)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	for rows.Next() {
		var s string
		if err := rows.Scan(&s); err != nil {
			return nil, err
		}
		list = append(list, s)
	}
	return list, rows.Err()
}

// batch is how many documents are rewritten at a time. Our own.
const batch = 500

func rewriteDocuments(ctx context.Context, tx *sql.Tx, table, column string, as func(string) string) error {
	return rewriteAll(ctx, tx, table, column, func(doc string) (string, error) {
		changed, _ := rewriteDocument(doc, as)
		return changed, nil
	})
}

// rewriteAll puts every document of a column into another form, and leaves those that are as they
// were.
func rewriteAll(ctx context.Context, tx *sql.Tx, table, column string, as func(doc string) (string, error)) error {
	last := int64(0)
	for {
		ids, docs, err := page(ctx, tx, table, column, last)
		if err != nil || len(ids) == 0 {
			return err
		}
		last = ids[len(ids)-1]
		var changed []int64
		var to []string
		for i, doc := range docs {
			now, err := as(doc)
			if err != nil {
				return fmt.Errorf("row %d: %w", ids[i], err)
			}
			if now != doc {
				changed, to = append(changed, ids[i]), append(to, now)
			}
		}
		if _, err := tx.ExecContext(ctx, fmt.Sprintf(`update %s x set %s = t.doc::jsonb from unnest($1::bigint[], $2::text[]) as t(id, doc) where x.id = t.id`, table, column), changed, to); err != nil {
			return err
		}
	}
}

// page reads the documents behind a row.
func page(ctx context.Context, tx *sql.Tx, table, column string, last int64) (ids []int64, docs []string, err error) {
	rows, err := tx.QueryContext(ctx, fmt.Sprintf(`select id, %s::text from %s where id > $1 order by id limit $2`, column, table), last, batch)
	if err != nil {
		return nil, nil, err
	}
	defer rows.Close()
	for rows.Next() {
		var id int64
		var doc string
		if err := rows.Scan(&id, &doc); err != nil {
			return nil, nil, err
		}
		ids, docs = append(ids, id), append(docs, doc)
	}
	return ids, docs, rows.Err()
}

// rewriteDocument puts what is said in a document into another form, and tells whether any was.
func rewriteDocument(doc string, as func(string) string) (string, bool) {
	d := json.NewDecoder(strings.NewReader(doc))
	d.UseNumber()
	var v any
	if d.Decode(&v) != nil {
		return doc, false
	}
	changed := false
	to := func(s string) string {
		m := as(s)
		changed = changed || m != s
		return m
	}
	var walk func(v any)
	walk = func(v any) {
		switch v := v.(type) {
		case []any:
			for _, x := range v {
				walk(x)
			}
		case map[string]any:
			for k, x := range v {
				switch x := x.(type) {
				case string:
					if saying[k] && k != "notes" {
						v[k] = to(x)
					}
				case []any:
					for i := range x {
						if s, ok := x[i].(string); ok && k == "notes" {
							x[i] = to(s)
						}
					}
					walk(x)
				default:
					walk(x)
				}
			}
		}
	}
	walk(v)
	if !changed {
		return doc, false
	}
	b, err := json.Marshal(v)
	return string(b), err == nil
}
