package study

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"path"
	"strings"
	"unicode"

	"corpulan/core/address"
	"corpulan/core/message"
	"corpulan/core/reading"
	"corpulan/formats/saved"
	"corpulan/gather"
	"corpulan/store"
)

// Extra is a text that did not rank, as a person brings it: a file, or a note they type.
type Extra struct {
	Name string // of its file, with its ending, or what it is called
	Body []byte
}

// longestName bounds the name of an extra source, in characters. Our own.
const longestName = 120

// AddExtras reads texts that did not rank beside the field of a study. They count only if they
// are kept. What cannot be read is said and leaves the rest alone.
func (c Commands) AddExtras(ctx context.Context, study store.Study, extras []Extra) (HandedIn, error) {
	var out HandedIn
	g, err := c.scope.LatestGathering(ctx, study.ID)
	if err != nil {
		return out, err
	}
	results, err := c.scope.Results(ctx, g.ID)
	if err != nil {
		return out, err
	}
	taken := map[string]bool{}
	for _, r := range results {
		taken[r.URL] = true
	}
	var list []ready
	var fresh []string
	for _, x := range extras {
		if err := ctx.Err(); err != nil {
			return out, err
		}
		at := extraAddress(x.Name, taken)
		taken[at] = true
		p := Handed{Saved: saved.Saved{URL: at, Body: x.Body}, Name: x.Name}
		doc, err := ReadCapture(ctx, c.reader, reading.Page{URL: at, Body: x.Body})
		var failure *gather.Failure
		if errors.As(err, &failure) {
			out.Problems = append(out.Problems, message.Of("%s: %v", x.Name, failure.Reason))
			continue
		}
		if err != nil {
			return out, err
		}
		r, err := readyFor(p, doc, 0, at)
		if err != nil {
			return out, err
		}
		list, fresh = append(list, r), append(fresh, at)
	}
	err = c.scope.InTx(ctx, func(tx store.Scope, _ *sql.Tx) error {
		return c.keep(ctx, tx, study, list, fresh, store.Beside, &out)
	})
	return out, err
}

// extraAddress is an address for a text that has none, told apart from those that are taken.
func extraAddress(name string, taken map[string]bool) string {
	clean := strings.Map(func(r rune) rune {
		if unicode.IsLetter(r) || unicode.IsDigit(r) || strings.ContainsRune("-_.,()", r) {
			return r
		}
		return '_'
	}, path.Base(strings.ReplaceAll(name, "\\", "/")))
	ending := path.Ext(clean)
	stem := []rune(strings.TrimSuffix(clean, ending))
	stem = stem[:min(len(stem), longestName)]
	for n := 1; ; n++ {
		at := address.Brought + string(stem)
		if n > 1 {
			at += fmt.Sprintf("-%d", n)
		}
		if at += ending; !taken[at] {
			return at
		}
	}
}
