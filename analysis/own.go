package analysis

import (
	"cmp"
	"context"
	"maps"
	"math"
	"slices"
	"strings"

	"corpulan/core/brief"
	"corpulan/core/corpus"
	"corpulan/core/evidence"
	"corpulan/core/language"
	"corpulan/core/links"
	"corpulan/core/reading"
	"corpulan/store"
)

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
		if len(kept) < maxStems || must[k] && len(kept) < 2*maxStems {
			kept[k] = counts[k]
		}
	}
	return kept
}

// ownKey names the own pages of a publication in a language, at one moment.
type ownKey struct {
	publication    int64
	language, mark string
}

// ownPages are what the publication's own pages give a brief.
type ownPages struct {
	links links.Found
	voice brief.Voice
}

// own finds links within the site among the pages of the publication, once for each state of
// them and of the evidence; not while pages of the study still arrive.
func (a *Analyst) own(ctx context.Context, sc store.Scope, an *Analysis) (ownPages, error) {
	mark, err := sc.OwnMark(ctx)
	if err != nil || len(an.Evidence.Sources) == 0 || an.Gathering.Running() || an.Provisional || strings.HasPrefix(mark, "0") {
		return ownPages{}, err
	}
	found, err := a.links.Get(ctx, mark+"|"+an.signature(), func(ctx context.Context, _ string) (*ownPages, error) {
		ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), longestCompute)
		defer cancel()
		docs, err := a.nearOwn(ctx, sc, an, mark)
		if err != nil {
			return nil, err
		}
		return &ownPages{links.Find(an.Evidence, docs), brief.VoiceOf(docs, language.For(an.Evidence.Language))}, nil
	})
	if err != nil {
		return ownPages{}, err
	}
	return *found, nil
}

// nearOwn are the own pages that are nearest to the field, the nearest first.
func (a *Analyst) nearOwn(ctx context.Context, sc store.Scope, an *Analysis, mark string) ([]*corpus.Doc, error) {
	key := ownKey{an.Study.PublicationID, an.Evidence.Language, mark}
	stems, err := a.stems.Get(ctx, key, func(ctx context.Context, k ownKey) (map[int64]map[string]int, error) {
		return sc.OwnStems(ctx, k.language)
	})
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
	made, err := a.docs.All(ctx, keys, func(ctx context.Context, missing []docKey) (map[docKey]*corpus.Doc, error) {
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
	})
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

// maxStems is how many stems of an own page are kept to find it by. Our own.
const maxStems = 400

// nearOwn is how many own pages are looked at closely for one brief: those whose words are
// nearest to the field's. Our own.
const nearOwn = 60
