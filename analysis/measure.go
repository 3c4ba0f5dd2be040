package analysis

import (
	"context"
	"fmt"
	"strings"

	"corpulan/core/address"
	"corpulan/core/corpus"
	"corpulan/core/draft"
	"corpulan/core/fit"
	"corpulan/core/house"
	"corpulan/core/language"
	"corpulan/core/reading"
	"corpulan/store"
)

// Measured is a draft against its brief, its field and our own pages.
type Measured struct {
	fit.Fit
	Field   fit.Field
	Aim     float64 // that is asked for
	Marks   []fit.Mark
	Own     []fit.Closeness // our own pages
	Figures []fit.Figure
	Used    map[string]bool  // cuttings, by their numbers
	Doc     *corpus.Doc      // the draft as it was compared
	Reading *reading.Reading // of the draft
}

// pagesBeside are the pages of a field and our own, made ready to be compared with drafts.
type pagesBeside struct {
	field, own *fit.Shingles
	known      *fit.Known
	others     map[string]bool // addresses of own pages that do not rank for the keyword
}

// ofOurs are the sentences of a draft that stand on a page of ours which they may not repeat: on any but the one whose new text the
// draft is. That is the one it was begun from, or the one at the address of the brief, or one that ranks for the keyword already.
func (b *pagesBeside) ofOurs(an *Analysis, doc *corpus.Doc, rewrites string) fit.Taken {
	return b.own.TakenFrom(doc, func(url string) bool {
		at := address.Parse(url)
		return b.others[at.Key()] && at.Key() != address.Parse(rewrites).Key() && at.Path() != address.Parse(an.Brief.Address).Path()
	})
}

func (b *pagesBeside) size() int64 { return b.field.Size() + b.own.Size() + b.known.Size() }

// Measure measures a draft, of which its writers have said something. What is the same for all drafts of a study is made ready once.
func (a *Analyst) Measure(ctx context.Context, sc store.Scope, an *Analysis, n *draft.Node, said store.DraftSaid) (*Measured, error) {
	beside, err := a.pagesBeside(ctx, sc, an)
	if err != nil {
		return nil, err
	}
	field, err := a.FieldFit(ctx, an)
	if err != nil {
		return nil, err
	}
	// Long drafts take seconds: as many at once as there are processors, the others wait.
	select {
	case a.measuring <- struct{}{}:
		defer func() { <-a.measuring }()
	case <-ctx.Done():
		return nil, ctx.Err()
	}
	doc := n.Read(an.Brief.Address, an.Study.Language)
	lang := language.For(an.Study.Language)
	taken := beside.field.Taken(doc).And(beside.ofOurs(an, doc, said.Rewrites))
	m := &Measured{Fit: fit.OfJudged(&an.Brief, doc, taken, said.Answers), Field: *field, Aim: field.AimOf(an.Aim), Own: beside.own.Close(doc), Figures: beside.known.Figures(n, lang), Used: fit.Used(&an.Brief, doc, lang), Doc: doc, Reading: doc.Reading}
	m.Closeness = beside.field.Close(doc)
	m.Marks = fit.Marks(&an.Brief, n, doc, m.Closeness, taken)
	return m, nil
}

// FieldFit is how far the kept pages meet the brief that was made of them.
func (a *Analyst) FieldFit(ctx context.Context, an *Analysis) (*fit.Field, error) {
	return a.fits.Get(ctx, fitKey{momentKey{an.Study.ID, an.change}, len(an.Pages)}, func(context.Context, fitKey) (*fit.Field, error) {
		f := fit.OfField(&an.Brief, an.Pages)
		return &f, nil
	})
}

func (a *Analyst) pagesBeside(ctx context.Context, sc store.Scope, an *Analysis) (*pagesBeside, error) {
	mark, err := sc.OwnMark(ctx)
	if err != nil {
		return nil, err
	}
	return a.beside.Get(ctx, fmt.Sprintf("%s|%d|%s", mark, len(an.Pages), an.signature()), func(ctx context.Context, _ string) (*pagesBeside, error) {
		ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), longestCompute)
		defer cancel()
		var own []corpus.RankedPage
		others := map[string]bool{}
		for _, r := range an.Results {
			if r.Own && r.ReadingID != nil && an.Docs[*r.ReadingID] != nil {
				own = append(own, corpus.RankedPage{Doc: an.Docs[*r.ReadingID]})
			}
		}
		if !strings.HasPrefix(mark, "0") && len(an.Evidence.Sources) > 0 {
			docs, err := a.nearOwn(ctx, sc, an, mark)
			if err != nil {
				return nil, err
			}
			for _, d := range docs {
				own = append(own, corpus.RankedPage{Doc: d})
				others[address.Parse(d.Reading.URL).Key()] = true
			}
		}
		return &pagesBeside{fit.NewShingles(an.Pages), fit.NewShingles(own), fit.NewKnown(an.Pages, language.For(an.Study.Language)), others}, nil
	})
}

// KnownWords are words that a spelling check knows beside its dictionary: the names, terms and
// spellings of the field and of the house.
func KnownWords(an *Analysis) []string {
	seen := map[string]bool{}
	var list []string
	add := func(s string) {
		for _, w := range strings.Fields(s) {
			if w = strings.Trim(w, ".,;:!?()\"'“”„«»"); w != "" && !seen[w] {
				seen[w] = true
				list = append(list, w)
			}
		}
	}
	add(an.Study.Keyword)
	add(an.Setting.Publication)
	for _, t := range an.Evidence.Terms {
		if t.Recommended() {
			add(t.Text)
		}
	}
	for _, x := range an.Evidence.Entities {
		if x.Pages > 1 {
			add(x.Name)
		}
	}
	for _, t := range an.Brief.Terms {
		add(t.Term)
	}
	for _, x := range an.Brief.Entities {
		add(x.Name)
	}
	for _, e := range an.Lexicon {
		if add(e.Other); e.Kind != house.Prefer { // what is preferred to is what is not wanted
			add(e.Term)
		}
	}
	return list
}
