package study

import (
	"cmp"
	"context"
	"database/sql"
	"maps"
	"math"
	"slices"
	"strings"
	"time"

	"corpulan/core/brief"
	"corpulan/core/corpus"
	"corpulan/core/evidence"
	"corpulan/core/inward"
	"corpulan/core/language"
	"corpulan/core/reading"
	"corpulan/store"

	"github.com/maypok86/otter/v2"
)

// ReadSitemap asks for the list of a site's own pages, and for those that are new or changed.
func (c Commands) ReadSitemap(ctx context.Context, publication int64, address string) error {
	return c.scope.InTx(ctx, func(tx store.Scope, sqlTx *sql.Tx) error {
		_, err := tx.EditPublication(ctx, func(site *string, s *store.Settings) error {
			s.Sitemap = &store.SitemapRead{Address: address, At: time.Now()}
			return nil
		})
		if err != nil {
			return err
		}
		return c.queue.Sitemap(ctx, sqlTx, publication, address)
	})
}

// AddOwnPages adds own pages from a list, and asks for them. It tells how many were new, and
// how many there was no room for.
func (c Commands) AddOwnPages(ctx context.Context, publication int64, pages []store.OwnPage) (fresh, left int, err error) {
	err = c.scope.InTx(ctx, func(tx store.Scope, sqlTx *sql.Tx) error {
		if fresh, left, err = tx.AddOwn(ctx, pages); err != nil || fresh == 0 {
			return err
		}
		return c.queue.Own(ctx, sqlTx, publication)
	})
	return fresh, left, err
}

// ReadOwnAgain asks for own pages that failed, or were read by an older program.
func (c Commands) ReadOwnAgain(ctx context.Context, publication int64) (n int64, err error) {
	err = c.scope.InTx(ctx, func(tx store.Scope, sqlTx *sql.Tx) error {
		if n, err = tx.ReadOwnAgain(ctx); err != nil || n == 0 {
			return err
		}
		return c.queue.Own(ctx, sqlTx, publication)
	})
	return n, err
}

// SetDefault keeps what a publication says in a field of all its briefs; an empty text takes
// it back. was is what stood there when the page was made: a *Conflict says that somebody
// else has changed it since.
func (c Commands) SetDefault(ctx context.Context, field, was, text string) error {
	_, err := c.scope.EditPublication(ctx, func(address *string, s *store.Settings) error {
		if field == AddressField {
			if *address != was && *address != text {
				return &Conflict{Theirs: address}
			}
			*address = text
			return nil
		}
		if now := s.Fields[field]; now != was && now != text {
			return &Conflict{Theirs: &now}
		}
		fields := maps.Clone(s.Fields)
		if fields == nil {
			fields = map[string]string{}
		}
		if fields[field] = text; text == "" {
			delete(fields, field)
		}
		s.Fields = fields
		return nil
	})
	return err
}

// AddressField is the name by which the address of a publication's site is set.
const AddressField = "site"

// SaveTemplate keeps a brief as a template of the publication; one of the same name is
// replaced.
func (c Commands) SaveTemplate(ctx context.Context, b brief.Brief, name string) error {
	_, err := c.scope.EditPublication(ctx, func(_ *string, s *store.Settings) error {
		key := language.For("en").PhraseKey(name)
		t := b.Template(cmp.Or(key, strings.ToLower(name)), name)
		list := slices.DeleteFunc(slices.Clone(s.Templates), func(x brief.Template) bool { return x.Key == t.Key })
		if len(list) >= MostTemplates {
			return store.ErrTooMany
		}
		s.Templates = append(list, t)
		return nil
	})
	return err
}

// MostTemplates is how many templates a publication keeps. Our own.
const MostTemplates = 100

// mostForgotten is how many templates that were taken away can be brought back. Our own.
const mostForgotten = 20

// ForgetTemplate takes a template away; it can be brought back. Briefs that were made by it
// keep what they have.
func (c Commands) ForgetTemplate(ctx context.Context, key string) error {
	return c.moveTemplate(ctx, key, false)
}

// BringTemplateBack is ForgetTemplate turned round.
func (c Commands) BringTemplateBack(ctx context.Context, key string) error {
	return c.moveTemplate(ctx, key, true)
}

func (c Commands) moveTemplate(ctx context.Context, key string, back bool) error {
	_, err := c.scope.EditPublication(ctx, func(_ *string, s *store.Settings) error {
		from, to := &s.Templates, &s.Forgotten
		if back {
			from, to = to, from
		}
		i := slices.IndexFunc(*from, func(x brief.Template) bool { return x.Key == key })
		if i < 0 {
			return store.ErrNotFound
		}
		t := (*from)[i]
		*from = slices.Delete(slices.Clone(*from), i, i+1)
		*to = append([]brief.Template{t}, slices.DeleteFunc(slices.Clone(*to), func(x brief.Template) bool { return x.Key == key })...)
		s.Forgotten = s.Forgotten[:min(len(s.Forgotten), mostForgotten)]
		return nil
	})
	return err
}

// mostStems is how many stems of an own page are kept to find it by. Our own.
const mostStems = 400

// OwnStems are the stems of a page's text that stand in it most, with their counts; those of
// its title and headings among them in any case.
func OwnStems(r *reading.Reading) map[string]int {
	lang := language.For(r.Language)
	counts := map[string]int{}
	add := func(text string) {
		for _, s := range lang.ContentStems(text) {
			counts[s]++
		}
	}
	must := map[string]bool{}
	for _, s := range lang.ContentStems(r.Title) {
		must[s] = true
		counts[s]++
	}
	for _, s := range r.Sections {
		for _, st := range lang.ContentStems(s.Heading) {
			must[st] = true
		}
		add(s.Heading)
		add(s.Text)
	}
	keys := slices.SortedFunc(maps.Keys(counts), func(a, b string) int {
		return cmp.Or(cmp.Compare(counts[b], counts[a]), strings.Compare(a, b))
	})
	kept := map[string]int{}
	for _, k := range keys {
		if len(kept) < mostStems || must[k] && len(kept) < 2*mostStems {
			kept[k] = counts[k]
		}
	}
	return kept
}

// nearOwn is how many own pages are looked at closely for one brief: those whose words are
// nearest to the field's. Our own.
const nearOwn = 60

// ownKey names the own pages of a publication in a language, at one moment.
type ownKey struct {
	publication    int64
	language, mark string
}

// own finds links within the site among the pages of the publication, once for each state of
// them and of the evidence; not while pages of the study still arrive.
func (a *Analyst) own(ctx context.Context, sc store.Scope, an *Analysis) (inward.Found, error) {
	mark, err := sc.OwnMark(ctx)
	if err != nil || len(an.Evidence.Sources) == 0 || an.Gathering.Running() || an.Provisional || strings.HasPrefix(mark, "0") {
		return inward.Found{}, err
	}
	found, err := a.inward.Get(ctx, mark+"|"+an.signature(), otter.LoaderFunc[string, *inward.Found](func(ctx context.Context, _ string) (*inward.Found, error) {
		ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), longestCompute)
		defer cancel()
		docs, err := a.nearOwn(ctx, sc, an, mark)
		if err != nil {
			return nil, err
		}
		f := inward.Find(an.Evidence, docs)
		return &f, nil
	}))
	if err != nil {
		return inward.Found{}, err
	}
	return *found, nil
}

// nearOwn are the own pages that are nearest to the field, the nearest first.
func (a *Analyst) nearOwn(ctx context.Context, sc store.Scope, an *Analysis, mark string) ([]*corpus.Doc, error) {
	key := ownKey{an.Study.PublicationID, an.Evidence.Language, mark}
	stems, err := a.stems.Get(ctx, key, otter.LoaderFunc[ownKey, map[int64]map[string]int](func(ctx context.Context, k ownKey) (map[int64]map[string]int, error) {
		return sc.OwnStems(ctx, k.language)
	}))
	if err != nil {
		return nil, err
	}
	return a.ownDocs(ctx, sc, an.Study.Language, mark, nearest(an.Evidence, stems))
}

// ownDocs are some own pages made ready for comparison, loading only what is not at hand.
func (a *Analyst) ownDocs(ctx context.Context, sc store.Scope, language, mark string, ids []int64) ([]*corpus.Doc, error) {
	keys := make([]docKey, len(ids))
	for i, id := range ids {
		keys[i] = docKey{reading: id, language: language, own: mark}
	}
	made, err := a.docs.BulkGet(ctx, keys, otter.BulkLoaderFunc[docKey, *corpus.Doc](func(ctx context.Context, missing []docKey) (map[docKey]*corpus.Doc, error) {
		var want []int64
		for _, k := range missing {
			want = append(want, k.reading)
		}
		readings, err := sc.OwnReadings(ctx, want)
		if err != nil {
			return nil, err
		}
		docs := map[docKey]*corpus.Doc{}
		for id, r := range readings {
			docs[docKey{reading: id, language: language, own: mark}] = corpus.Prepare(r, language)
		}
		return docs, nil
	}))
	if err != nil {
		return nil, err
	}
	var docs []*corpus.Doc
	for _, k := range keys { // the nearest first, the same each time
		if made[k] != nil {
			docs = append(docs, made[k])
		}
	}
	return docs, nil
}

// nearest are the numbers of the own pages whose stems have most of the field's terms, each
// stem weighed by the best term that has it and by how few own pages do.
func nearest(e *evidence.Evidence, pages map[int64]map[string]int) []int64 {
	lang := language.For(e.Language)
	weight := map[string]float64{}
	for _, t := range e.Terms {
		if t.Recommended() {
			for _, st := range lang.ContentStems(t.Text) {
				weight[st] = max(weight[st], t.Score)
			}
		}
	}
	df := map[string]int{}
	for _, stems := range pages {
		for st := range stems {
			if weight[st] > 0 {
				df[st]++
			}
		}
	}
	score := map[int64]float64{}
	words := slices.Sorted(maps.Keys(weight)) // sums are the same each time
	ids := slices.Sorted(maps.Keys(pages))
	for _, id := range ids {
		for _, st := range words {
			if n := pages[id][st]; n > 0 {
				score[id] += weight[st] * (1 + math.Log(float64(n))) * math.Log(1+float64(len(pages))/float64(df[st]))
			}
		}
	}
	slices.SortStableFunc(ids, func(a, b int64) int { return cmp.Compare(score[b], score[a]) })
	return ids[:min(len(ids), nearOwn)]
}
