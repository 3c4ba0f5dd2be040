package analysis

import (
	"cmp"
	"context"
	"path"
	"slices"
	"strings"

	"corpulan/core/brief"
	"corpulan/core/message"
	"corpulan/core/reading"
	"corpulan/formats/handed"
	"corpulan/gather"
	"corpulan/store"
)

// references are the extra sources of a study that do not count, as its brief names them.
func (a *Analyst) references(ctx context.Context, sc store.Scope, an *Analysis) (list []brief.Source, err error) {
	extra := slices.DeleteFunc(slices.Clone(an.Results), func(r store.Result) bool { return !r.IsBeside() || r.ReadingID == nil })
	known, err := a.Summarise(ctx, sc, extra)
	if err != nil {
		return nil, err
	}
	for _, r := range extra {
		if d := known[*r.ReadingID]; d != nil {
			list = append(list, brief.Source{Rank: r.Rank, URL: r.URL, Title: cmp.Or(d.Title, r.Title), Words: d.Words, Kind: string(d.Kind)})
		}
	}
	return slices.Clip(list), nil
}

// ReadExtra reads an extra source; its error is a *gather.Failure, or ctx's.
func ReadExtra(ctx context.Context, r *handed.Reader, at, name string, body []byte) (*reading.Reading, error) {
	n, err := r.Source(ctx, name, body)
	if ctx.Err() != nil {
		return nil, ctx.Err()
	}
	if err != nil {
		return nil, &gather.Failure{Code: gather.Unreadable, Reason: message.Fault(err), Err: err}
	}
	doc := n.Reading(at, "")
	doc.Kind, doc.KindSignals = reading.Source, []message.Kept{"brought by hand"}
	title := doc.Title
	if title == "" && len(doc.Headings) > 0 && doc.Headings[0].Level == 1 {
		title = doc.Headings[0].Text
	}
	doc.Title = cmp.Or(title, strings.ReplaceAll(strings.TrimSuffix(name, path.Ext(name)), "_", " "))
	return doc, nil
}
