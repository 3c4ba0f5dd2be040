package web

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"corpulan/core/brief"
	"corpulan/core/evidence"
	"corpulan/store"

	lru "github.com/hashicorp/golang-lru/v2"
)

// analyst computes evidence and keeps what it computed, so that adopting a
// term does not count every word again. All of it can be made anew at any time.
type analyst struct {
	docs     *lru.Cache[docKey, *evidence.Doc]
	evidence *lru.Cache[string, *evidence.Evidence]
}

type docKey struct {
	reading  int64
	language string
}

func newAnalyst() (*analyst, error) {
	docs, err := lru.New[docKey, *evidence.Doc](600)
	if err != nil {
		return nil, err
	}
	ev, err := lru.New[string, *evidence.Evidence](64)
	if err != nil {
		return nil, err
	}
	return &analyst{docs, ev}, nil
}

// analysis is a study with all that is computed over it.
type analysis struct {
	Study     store.Study
	Gathering store.Gathering
	Results   []store.Result
	Docs      map[int64]*evidence.Doc // of every page read, by reading
	Pages     []evidence.Page         // kept
	Evidence  *evidence.Evidence
	Saved     store.Brief
	Brief     brief.Brief
}

// analyse loads a study and computes its evidence and brief.
func (a *analyst) analyse(ctx context.Context, sc store.Scope, study store.Study) (*analysis, error) {
	an := &analysis{Study: study}
	var err error
	if an.Gathering, err = sc.LatestGathering(ctx, study.ID); err != nil {
		return nil, err
	}
	if an.Results, err = sc.Results(ctx, an.Gathering.ID); err != nil {
		return nil, err
	}
	if err = a.prepare(ctx, sc, an); err != nil {
		return nil, err
	}
	an.Evidence = a.compute(an)
	if an.Saved, err = sc.Brief(ctx, study.ID); err != nil {
		return nil, err
	}
	an.Brief = brief.Compose(an.Evidence, an.Saved.Choices.Data())
	return an, nil
}

// prepare makes a document of every page that was read, set-aside ones too,
// loading only what is not at hand.
func (a *analyst) prepare(ctx context.Context, sc store.Scope, an *analysis) error {
	an.Docs = map[int64]*evidence.Doc{}
	var missing []int64
	for _, r := range an.Results {
		if r.State != store.Read || r.ReadingID == nil {
			continue
		}
		if doc, ok := a.docs.Get(docKey{*r.ReadingID, an.Study.Language}); ok {
			an.Docs[*r.ReadingID] = doc
		} else {
			missing = append(missing, *r.ReadingID)
		}
	}
	if len(missing) > 0 {
		readings, err := sc.Readings(ctx, missing)
		if err != nil {
			return err
		}
		for id, r := range readings {
			an.Docs[id] = evidence.Prepare(r, an.Study.Language)
			a.docs.Add(docKey{id, an.Study.Language}, an.Docs[id])
		}
	}
	for _, r := range an.Results {
		if counts(r) && an.Docs[*r.ReadingID] != nil {
			an.Pages = append(an.Pages, evidence.Page{Rank: r.Rank, Doc: an.Docs[*r.ReadingID]})
		}
	}
	return nil
}

// counts tells whether a result is part of the field.
func counts(r store.Result) bool {
	return r.Kept && !r.Own && r.State == store.Read && r.ReadingID != nil
}

func (a *analyst) compute(an *analysis) *evidence.Evidence {
	var sig strings.Builder
	fmt.Fprintf(&sig, "%d %s %q %d:", an.Study.ID, an.Study.Language, an.Study.Keyword, an.Gathering.ID)
	for _, r := range an.Results {
		if counts(r) {
			fmt.Fprintf(&sig, " %d/%d", r.Rank, *r.ReadingID)
		}
	}
	fmt.Fprintf(&sig, " %q", an.Gathering.Asked)
	if e, ok := a.evidence.Get(sig.String()); ok {
		return e
	}
	e := evidence.Compute(evidence.Input{Keyword: an.Study.Keyword, Language: an.Study.Language, Pages: an.Pages,
		Asked: slices.Clone(an.Gathering.Asked), Related: slices.Clone(an.Gathering.Related)})
	a.evidence.Add(sig.String(), e)
	return e
}
