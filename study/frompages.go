package study

import (
	"context"
	"database/sql"
	"errors"
	"net/url"
	"strings"

	"corpulan/core/address"
	"corpulan/core/message"
	"corpulan/core/reading"
	"corpulan/gather"
	"corpulan/search"
	"corpulan/store"
)

// withoutAddress is the host of pages of which nobody says where they are from (RFC 6761: a name that never leads anywhere).
const withoutAddress = "no-address.invalid"

// BeginOfPages begins a study of pages that were handed in, in the order of their ranks; nothing is fetched. The address of a page is
// what its file says, or the page itself (its canonical one), else one of withoutAddress with the file's name. Of the same page twice
// the first counts. Files that are no pages are said, and nothing is begun then.
func (c Commands) BeginOfPages(ctx context.Context, study *store.Study, pages []Handed) (HandedIn, error) {
	var out HandedIn
	var list []ready
	brought := &search.Results{}
	for _, p := range pages {
		if err := ctx.Err(); err != nil {
			return out, err
		}
		doc, err := ReadPage(reading.Page{URL: p.URL, ContentType: p.ContentType, Body: p.Body})
		var failure *gather.Failure
		if errors.As(err, &failure) {
			out.Problems = append(out.Problems, message.Of("%s: %v", p.Name, failure.Reason))
			continue
		}
		if err != nil {
			return out, err
		}
		at := addressOf(p, doc)
		again := false
		for _, it := range brought.Items {
			again = again || address.Same(it.URL, at)
		}
		if again {
			continue
		}
		r, err := readyFor(p, doc, 0, at)
		if err != nil {
			return out, err
		}
		list = append(list, r)
		brought.Items = append(brought.Items, search.Item{Rank: len(brought.Items) + 1, URL: at, Title: doc.Title})
	}
	if len(list) == 0 || len(out.Problems) > 0 {
		return out, nil
	}
	err := c.scope.InTx(ctx, func(tx store.Scope, _ *sql.Tx) error {
		g, err := tx.CreateStudy(ctx, study)
		if err != nil {
			return err
		}
		if _, err := tx.Brought(ctx, *g, ResultsOf(*g, brought), nil, nil); err != nil {
			return err
		}
		rows, err := tx.Results(ctx, g.ID)
		if err != nil {
			return err
		}
		for i := range list {
			for _, r := range rows {
				if r.URL == list[i].capture.URL {
					list[i].result = r.ID
				}
			}
		}
		return c.keep(ctx, tx, *study, list, nil, store.Beside, &out)
	})
	return out, err
}

// addressOf is where a page that was handed in is from.
func addressOf(p Handed, doc *reading.Reading) string {
	for _, u := range []string{p.URL, doc.Canonical} {
		if list, problems := address.ParseList(u); u != "" && len(list) == 1 && len(problems) == 0 {
			return list[0]
		}
	}
	return "http://" + withoutAddress + "/" + url.PathEscape(strings.TrimSpace(stem(p.Name)))
}
