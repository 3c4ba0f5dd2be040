package study

import (
	"context"
	"crypto/sha256"
	"database/sql"
	"errors"
	"net/url"
	"path"
	"strings"
	"time"
	"unicode"

	"corpulan/core/address"
	"corpulan/core/message"
	"corpulan/core/reading"
	"corpulan/formats/saved"
	"corpulan/gather"
	"corpulan/store"
)

// Handed is a page that a person handed in.
type Handed struct {
	saved.Saved
	Name string // of its file, or what else to call it
	To   int64  // the result it is for; 0 to find that by what the page says
	Of   int    // how many pages its file holds
}

// HandedIn is what became of pages that were handed in.
type HandedIn struct {
	Done
	Taken    int
	Left     []string // files for whose page no row was found
	Problems []message.Message
}

// ready is a page that was read and has its place.
type ready struct {
	name    string
	result  int64
	capture *store.Capture
	doc     *reading.Reading
}

// HandIn takes pages that a person saved or copied, each put to the result it
// says it is of; add puts one that says its address and is not in the list to
// the list's end. What cannot be taken is said and leaves the rest alone.
func (c Commands) HandIn(ctx context.Context, study store.Study, pages []Handed, add bool) (HandedIn, error) {
	var out HandedIn
	g, err := c.scope.LatestGathering(ctx, study.ID)
	if err != nil {
		return out, err
	}
	results, err := c.scope.Results(ctx, g.ID)
	if err != nil {
		return out, err
	}
	var list []ready
	var fresh []string // addresses to be added
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
		target, problem := placeFor(results, p, doc)
		switch {
		case target != nil:
			r, err := readyFor(p, doc, target.ID, target.URL)
			if err != nil {
				return out, err
			}
			list = append(list, r)
		case problem != "":
			out.Problems = append(out.Problems, problem)
		case add && p.URL != "":
			addresses, problems := address.ParseList(p.URL)
			if len(problems) > 0 || len(addresses) != 1 {
				out.Left = append(out.Left, p.Name)
				continue
			}
			r, err := readyFor(p, doc, 0, addresses[0])
			if err != nil {
				return out, err
			}
			list, fresh = append(list, r), append(fresh, addresses[0])
		default:
			out.Left = append(out.Left, p.Name)
		}
	}
	err = c.scope.InTx(ctx, func(tx store.Scope, _ *sql.Tx) error { return c.keep(ctx, tx, study, list, fresh, store.Beside, &out) })
	return out, err
}

// keep records pages that were read and have their place.
func (c Commands) keep(ctx context.Context, tx store.Scope, study store.Study, list []ready, fresh []string, as store.Adding, out *HandedIn) error {
	if len(list) == 0 {
		return nil
	}
	var whole store.Patch
	if len(fresh) > 0 {
		_, added, err := tx.AddPages(ctx, study.ID, fresh, as)
		if errors.Is(err, store.ErrTooMany) {
			out.Problems = append(out.Problems, message.Fault(err))
			return nil
		}
		if err != nil {
			return err
		}
		for i := range list {
			for _, r := range added {
				if list[i].result == 0 && r.URL == list[i].capture.URL {
					list[i].result = r.ID
				}
			}
		}
	}
	for _, r := range list {
		if r.result == 0 { // its address was in the list twice
			continue
		}
		p, err := tx.HandIn(ctx, study.ID, r.result, r.name, r.capture, r.doc, r.doc.ProposeAside(study.Language, ""))
		if errors.Is(err, store.ErrNotFound) {
			out.Problems = append(out.Problems, message.Of("%s: its row is not in the list any more", r.name))
			continue
		}
		if err != nil {
			return err
		}
		out.Taken++
		for i := range p.Results {
			for _, address := range fresh { // it came with the page, and goes with it
				if p.Results[i].After.URL == address {
					p.Results[i].Before = nil
				}
			}
		}
		whole.Results = append(whole.Results, p.Results...)
	}
	said := message.Of("%d pages taken in.", out.Taken)
	if out.Taken == 1 {
		said = "1 page taken in."
	}
	var err error
	out.Done, err = c.record(ctx, tx, study.ID, said, whole)
	return err
}

func readyFor(p Handed, doc *reading.Reading, result int64, address string) (ready, error) {
	if doc.URL != address { // links are told apart by the page's own address
		var err error
		if doc, err = ReadPage(reading.Page{URL: address, ContentType: p.ContentType, Body: p.Body}); err != nil {
			return ready{}, err
		}
	}
	capture, err := CaptureOf(&saved.Fetched{URL: address, FinalURL: address, ContentType: p.ContentType, Body: p.Body, Digest: sha256.Sum256(p.Body), At: time.Now().UTC()})
	return ready{p.Name, result, capture, doc}, err
}

// placeFor finds the row that a page is of: the one the person named, else the
// one with its address (as the file has it, or its canonical one), else the only
// one whose address ends in the file's name, else the only one of its title.
func placeFor(results []store.Result, p Handed, doc *reading.Reading) (target *store.Result, problem message.Message) {
	if p.To != 0 {
		for i := range results {
			if results[i].ID != p.To {
				continue
			}
			// A file of many pages holds the row's own, or none for it.
			if p.Of > 1 && !address.Same(results[i].URL, p.URL) && !address.Same(results[i].URL, doc.Canonical) {
				return nil, message.Of("%s holds %d pages; %s is not the page of this row", p.Name, p.Of, p.URL)
			}
			return &results[i], ""
		}
		return nil, message.Of("%s: its row is not in the list any more", p.Name)
	}
	for _, u := range []string{p.URL, doc.Canonical} {
		for i := range results {
			if u != "" && address.Same(results[i].URL, u) {
				return &results[i], ""
			}
		}
	}
	if p.URL != "" {
		return nil, "" // it says where it is from, and that is not in the list
	}
	if t := only(results, func(r store.Result) bool { return namedAs(r.URL, p.Name) }); t != nil {
		return t, ""
	}
	return only(results, func(r store.Result) bool {
		return r.Title != "" && (bare(r.Title) == bare(doc.Title) || bare(r.Title) == bare(stem(p.Name)))
	}), ""
}

func only(results []store.Result, is func(store.Result) bool) *store.Result {
	var found *store.Result
	for i := range results {
		if !is(results[i]) {
			continue
		}
		if found != nil {
			return nil
		}
		found = &results[i]
	}
	return found
}

// namedAs tells whether an address ends in a file's name: ".../winter-tyres" in
// "winter-tyres.html".
func namedAs(address, file string) bool {
	u, err := url.Parse(address)
	if err != nil {
		return false
	}
	last := path.Base(strings.TrimSuffix(u.Path, "/"))
	return len(bare(last)) > 3 && bare(stem(last)) == bare(stem(file))
}

func stem(file string) string {
	switch ext := path.Ext(file); strings.ToLower(ext) {
	case ".html", ".htm", ".mhtml", ".mht", ".xhtml", ".php", ".asp", ".aspx":
		return strings.TrimSuffix(file, ext)
	}
	return file
}

// bare is a text's letters and digits alone, small.
func bare(s string) string {
	return strings.Map(func(r rune) rune {
		if unicode.IsLetter(r) || unicode.IsDigit(r) {
			return unicode.ToLower(r)
		}
		return -1
	}, s)
}
