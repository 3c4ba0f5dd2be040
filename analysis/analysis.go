// Package analysis is a study as it now is: its evidence and its brief, computed once for all who
// wait for them, and kept.
//
//   - analysis.go   the analysis of a study, its pages and what it stands on
//   - kept.go       evidence kept in the database, and computed ahead
//   - first.go      the terms of many pages before the rest
//   - snapshot.go   the same while pages still arrive
//   - measure.go    a draft against its brief, its field and our own pages
//   - movement.go   what moved between two gatherings, and what is proposed to a brief that stands
//   - own.go        own pages, and links to them; references.go  sources that did not rank
//   - groups.go     the groups of a keyword list as they now are
//   - searched.go   keywords against the pages of a study; what lists know of its findings
package analysis

import (
	"cmp"
	"context"
	"runtime"
	"slices"
	"strings"
	"time"

	"corpulan/cache"
	"corpulan/core/brief"
	"corpulan/core/change"
	"corpulan/core/corpus"
	"corpulan/core/evidence"
	"corpulan/core/fit"
	"corpulan/core/language"
	"corpulan/core/message"
	"corpulan/core/reading"
	"corpulan/store"
	"corpulan/words"

	"golang.org/x/sync/errgroup"
)

// Analyst computes evidence and keeps what it computed, so that adopting a
// term does not count every word again. Whoever asks for what is being computed
// waits for it instead of computing it too. All of it can be made anew at any time.
type Analyst struct {
	analyses  *cache.Cache[momentKey, *Analysis]
	docs      *cache.Cache[docKey, *corpus.Doc]
	evidence  *cache.Cache[string, *evidence.Evidence]
	summaries *cache.Cache[int64, *store.Summary]
	outlines  *cache.Cache[int64, *reading.Reading]
	newest    *cache.Cache[int64, *snapshot]
	links     *cache.Cache[string, *ownPages]
	stems     *cache.Cache[ownKey, map[int64]map[string]int] // of own pages
	beside    *cache.Cache[string, *pagesBeside]
	fits      *cache.Cache[fitKey, *fit.Field]
	movements *cache.Cache[string, *change.Movement]
	measuring chan struct{} // a place for each draft that is being measured
	computed  func()        // called with each computation
	ask       Ask
	program   []byte // digest of the program that computes
	words     map[string]*words.Words
}

// Ask asks for the evidence of a gathering to be computed by somebody who has time.
type Ask func(ctx context.Context, gathering int64) error

type docKey struct {
	reading  int64 // or the number of an own page
	language string
	own      string // of an own page: the mark of all of them
}

// fitKey names a study at one moment, with so many pages counted.
type fitKey struct {
	momentKey
	pages int
}

// momentKey names a study at one moment: its counter rises with all that happens to it.
type momentKey struct{ study, change int64 }

// How much memory is kept for what can be made anew, in bytes, by a process with an interface; and
// the share of it for one that only works. Our own bounds, for a machine of 2 GB.
const (
	maxAnalyses  = 64 << 20
	maxDocs      = 160 << 20
	maxEvidence  = 48 << 20
	maxSnapshots = 32 << 20
	maxSummaries = 16 << 20
	maxOutlines  = 32 << 20
	maxStemsKept = 64 << 20
	maxBeside    = 64 << 20
	maxMovements = 24 << 20

	Whole, OfWorkers = 1.0, 0.25
)

// longestCompute bounds a computation that nobody waits for any more.
const longestCompute = 30 * time.Second

// NewAnalyst makes an analyst with nothing at hand yet. computed is called with each
// computation of evidence; nil for none. ask lets evidence that is to be shown in a moment be
// computed elsewhere; nil where it is computed by whoever wants it. share is how much of the
// memory it takes that is meant for a process with an interface, up to 1.
func NewAnalyst(computed func(), ask Ask, share float64) (*Analyst, error) {
	most := func(bytes int64) uint64 { return uint64(share * float64(bytes)) }
	if computed == nil {
		computed = func() {}
	}
	analyses, err := cache.New(cache.Options[momentKey, *Analysis]{MaximumWeight: most(maxAnalyses),
		Weigher: func(_ momentKey, an *Analysis) uint32 { return weightOf(an.size()) }})
	if err != nil {
		return nil, err
	}
	docs, err := cache.New(cache.Options[docKey, *corpus.Doc]{MaximumWeight: most(maxDocs),
		Weigher: func(_ docKey, d *corpus.Doc) uint32 { return weightOf(d.Size()) }})
	if err != nil {
		return nil, err
	}
	ev, err := cache.New(cache.Options[string, *evidence.Evidence]{MaximumWeight: most(maxEvidence),
		Weigher: func(_ string, e *evidence.Evidence) uint32 { return weightOf(e.Size()) }})
	if err != nil {
		return nil, err
	}
	summaries, err := cache.New(cache.Options[int64, *store.Summary]{MaximumWeight: most(maxSummaries),
		Weigher: func(_ int64, s *store.Summary) uint32 { return weightOf(summarySize(s)) }})
	if err != nil {
		return nil, err
	}
	outlines, err := cache.New(cache.Options[int64, *reading.Reading]{MaximumWeight: most(maxOutlines),
		Weigher: func(_ int64, r *reading.Reading) uint32 { return weightOf(1000 + 150*int64(len(r.Sections))) }})
	if err != nil {
		return nil, err
	}
	newest, err := cache.New(cache.Options[int64, *snapshot]{MaximumWeight: most(maxSnapshots),
		Weigher: func(_ int64, s *snapshot) uint32 { return weightOf(s.evidence.Size()) },
		// A gathering that has ended is asked for no more.
		Used: 2 * lately})
	if err != nil {
		return nil, err
	}
	links, err := cache.New(cache.Options[string, *ownPages]{MaximumSize: 500})
	if err != nil {
		return nil, err
	}
	stems, err := cache.New(cache.Options[ownKey, map[int64]map[string]int]{MaximumWeight: most(maxStemsKept),
		Weigher: func(_ ownKey, all map[int64]map[string]int) uint32 {
			return weightOf(1000 + int64(len(all))*maxStems*40)
		}})
	if err != nil {
		return nil, err
	}
	beside, err := cache.New(cache.Options[string, *pagesBeside]{MaximumWeight: most(maxBeside),
		Weigher: func(_ string, b *pagesBeside) uint32 { return weightOf(b.size()) }})
	if err != nil {
		return nil, err
	}
	fits, err := cache.New(cache.Options[fitKey, *fit.Field]{MaximumSize: 500})
	if err != nil {
		return nil, err
	}
	movements, err := cache.New(cache.Options[string, *change.Movement]{MaximumWeight: most(maxMovements),
		Weigher: func(_ string, m *change.Movement) uint32 { return weightOf(m.Size()) }})
	if err != nil {
		return nil, err
	}
	all, err := words.Briefs()
	if err != nil {
		return nil, err
	}
	program, err := programDigest()
	if err != nil {
		return nil, err
	}
	return &Analyst{analyses, docs, ev, summaries, outlines, newest, links, stems, beside, fits, movements, make(chan struct{}, runtime.GOMAXPROCS(0)), computed, ask, program, all}, nil
}

// weightOf is a size as caches take it.
func weightOf(bytes int64) uint32 { return uint32(min(bytes, 1<<31)) }

// Analysis is a study with all that is computed over it.
type Analysis struct {
	Study     store.Study
	Gathering store.Gathering
	Results   []store.Result
	*Read                           // nil from Findings
	Ours      map[int64]*corpus.Doc // pages of ours among the results, by reading
	Lexicon   []store.LexiconEntry  // that counts for the study
	Evidence  *evidence.Evidence
	Saved     store.Brief
	Choices   brief.Choices // as saved, under the keys that findings have today
	Setting   brief.Setting
	Brief     brief.Brief
	Aim       int // fit that the publication asks drafts for, as fit.Field.AimOf takes it
	// Provisional evidence is of the pages that were in a moment ago.
	Provisional bool
	// TermsAlone tells that the rest of the evidence is still being computed.
	TermsAlone bool

	change int64 // the moment of the study that this is of
	stale  bool  // newer evidence has been asked for
}

// Read are the pages of a study made ready for comparison.
type Read struct {
	Docs   map[int64]*corpus.Doc // of every page read, by reading
	Pages  []corpus.RankedPage   // those that the evidence is of
	Beside []corpus.RankedPage   // extra sources that do not count
}

// size is about how many bytes an Analysis holds on to.
func (an *Analysis) size() int64 {
	n := an.Evidence.Size() + 20_000 + int64(len(an.Results))*1000
	for _, d := range an.Ours {
		n += d.Size()
	}
	return n
}

// Counting is how many pages count.
func (an *Analysis) Counting() int {
	n := 0
	for _, r := range an.Results {
		if Counts(r) {
			n++
		}
	}
	return n
}

// Analyse is a study with its evidence, its brief and its pages: with all of them where none is
// still to come. What it returns is shared, and not for changing.
func (a *Analyst) Analyse(ctx context.Context, sc store.Scope, st store.Study) (*Analysis, error) {
	an, err := a.Findings(ctx, sc, st)
	if err != nil {
		return nil, err
	}
	if an.Provisional && !an.Gathering.Running() {
		change := an.change
		if an, err = a.load(ctx, sc, st, true, nil); err != nil {
			return nil, err
		}
		an.change = change
	}
	whole := *an
	if whole.Read, err = a.read(ctx, sc, an); err != nil {
		return nil, err
	}
	if an.Provisional { // its counts are those of these pages
		whole.Pages = slices.DeleteFunc(whole.Pages, func(p corpus.RankedPage) bool {
			return !slices.ContainsFunc(an.Evidence.Sources, func(s evidence.Source) bool { return s.Rank == p.Rank })
		})
	}
	return &whole, nil
}

// Findings is Analyse without the pages, for those who show what was found and no page: the
// pages need not be loaded where the evidence was computed before. Its evidence may be
// provisional for a moment after the last page has come, too. It is computed once for each moment
// of a study.
func (a *Analyst) Findings(ctx context.Context, sc store.Scope, st store.Study) (*Analysis, error) {
	return a.findings(ctx, sc, st, nil)
}

// findings is Findings. first, if any, is given what is computed of many pages when its terms are counted.
func (a *Analyst) findings(ctx context.Context, sc store.Scope, st store.Study, first func(Analysis)) (*Analysis, error) {
	change, _, err := sc.Change(ctx, st.ID)
	if err != nil {
		return nil, err
	}
	key := momentKey{st.ID, change}
	an, err := a.analyses.Get(ctx, key, func(ctx context.Context, _ momentKey) (*Analysis, error) {
		ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), longestCompute) // others may wait for it too
		defer cancel()
		an, err := a.load(ctx, sc, st, false, first)
		if err == nil {
			an.change = change
		}
		return an, err
	})
	if err == nil && an.stale {
		a.analyses.Forget(key) // the next who looks may find what was asked for
	}
	return an, err
}

func (a *Analyst) load(ctx context.Context, sc store.Scope, st store.Study, all bool, first func(Analysis)) (*Analysis, error) {
	an := &Analysis{Study: st}
	var err error
	if an.Gathering, err = sc.LatestGathering(ctx, st.ID); err != nil {
		return nil, err
	}
	if an.Results, err = sc.Results(ctx, an.Gathering.ID); err != nil {
		return nil, err
	}
	if an.Lexicon, err = sc.Lexicon(ctx, st.ID); err != nil {
		return nil, err
	}
	ours := slices.DeleteFunc(slices.Clone(an.Results), func(r store.Result) bool { return !r.Own })
	if an.Ours, err = a.docsOf(ctx, sc, ours, an.Study.Language); err != nil {
		return nil, err
	}
	var counted func(*evidence.Evidence)
	if first != nil && an.Counting() > countedAtOnce {
		counted = func(e *evidence.Evidence) {
			early := *an
			early.Evidence = e
			first(early)
		}
	}
	if an.Evidence, err = a.evidenceOf(ctx, sc, an, all, counted); err != nil {
		return nil, err
	}
	return an, a.compose(ctx, sc, an)
}

// compose makes the brief of an analysis from its evidence.
func (a *Analyst) compose(ctx context.Context, sc store.Scope, an *Analysis) (err error) {
	if an.Saved, err = sc.Brief(ctx, an.Study.ID); err != nil {
		return err
	}
	an.Choices = an.Saved.Choices.Data().On(an.Evidence)
	if an.Setting, err = a.setting(ctx, sc, an); err != nil {
		return err
	}
	an.Brief = brief.Compose(an.Evidence, an.Saved.Choices.Data(), an.Setting)
	return nil
}

// setting is whose brief it is, and when its evidence was gathered.
func (a *Analyst) setting(ctx context.Context, sc store.Scope, an *Analysis) (brief.Setting, error) {
	p, err := sc.Publication(ctx)
	if err != nil {
		return brief.Setting{}, err
	}
	says := p.Settings.Data()
	an.Aim = says.Aim
	s := brief.Setting{Publication: p.Name, Address: strings.TrimSpace(p.Address), Country: an.Study.Country, Version: an.Saved.Revision, Defaults: says.Fields, Templates: says.Templates, Dossier: says.Dossier, Words: BriefIn(a.words, says.BriefIn, an.Study.Language)}
	own, err := a.own(ctx, sc, an)
	if err != nil {
		return s, err
	}
	s.Own, s.Voice = own.links, own.voice
	if s.References, err = a.references(ctx, sc, an); err != nil {
		return s, err
	}
	if an.Gathering.ID != 0 {
		s.Gathered = an.Gathering.StartedAt.UTC().Format(time.DateOnly)
	}
	return s, nil
}

// BriefIn are the words of what a brief proposes: of the language that somebody says, else the
// market's, else nil for English.
func BriefIn(all map[string]*words.Words, said, market string) brief.Words {
	w := all[cmp.Or(said, language.Base(market))]
	if w == nil || w.IsEnglish() {
		return nil
	}
	return w
}

// docsOf makes a document of every result that was read, by reading, loading only what is
// not at hand.
func (a *Analyst) docsOf(ctx context.Context, sc store.Scope, results []store.Result, language string) (map[int64]*corpus.Doc, error) {
	var keys []docKey
	for _, r := range results {
		if r.State == store.Read && r.ReadingID != nil {
			keys = append(keys, docKey{reading: *r.ReadingID, language: language})
		}
	}
	docs, err := a.docs.All(ctx, keys, func(ctx context.Context, missing []docKey) (map[docKey]*corpus.Doc, error) {
		ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), longestCompute) // others may wait for it too
		defer cancel()
		made := map[docKey]*corpus.Doc{}
		for some := range slices.Chunk(missing, 10) { // readings are large, too
			var ids []int64
			for _, k := range some {
				ids = append(ids, k.reading)
			}
			readings, err := sc.Readings(ctx, ids)
			if err != nil {
				return nil, err
			}
			// Side by side: each page is prepared by itself.
			docs := make([]*corpus.Doc, len(some))
			var work errgroup.Group
			work.SetLimit(runtime.GOMAXPROCS(0))
			for i, k := range some {
				if r := readings[k.reading]; r != nil {
					work.Go(func() error { docs[i] = corpus.Prepare(r, k.language); return nil })
				}
			}
			if err := work.Wait(); err != nil {
				return nil, err
			}
			for i, k := range some {
				if docs[i] != nil {
					made[k] = docs[i]
				}
			}
		}
		return made, nil
	})
	if err != nil {
		return nil, err
	}
	byReading := make(map[int64]*corpus.Doc, len(docs))
	for k, d := range docs {
		byReading[k.reading] = d
	}
	return byReading, nil
}

// read makes a document of every page of a study that was read, set-aside ones too.
func (a *Analyst) read(ctx context.Context, sc store.Scope, an *Analysis) (*Read, error) {
	docs, err := a.docsOf(ctx, sc, an.Results, an.Study.Language)
	if err != nil {
		return nil, err
	}
	r := &Read{Docs: docs}
	for _, x := range an.Results {
		if Counts(x) && docs[*x.ReadingID] != nil {
			r.Pages = append(r.Pages, corpus.RankedPage{Rank: x.Rank, Doc: docs[*x.ReadingID]})
		} else if x.IsBeside() && x.ReadingID != nil && docs[*x.ReadingID] != nil {
			r.Beside = append(r.Beside, corpus.RankedPage{Rank: x.Rank, Doc: docs[*x.ReadingID]})
		}
	}
	return r, nil
}

// Counts tells whether a result is part of the field.
func Counts(r store.Result) bool {
	return r.Kept && !r.Own && r.State == store.Read && r.ReadingID != nil
}

func summarySize(s *store.Summary) int64 {
	n := int64(200 + len(s.Title))
	for _, list := range [][]message.Kept{s.KindSignals, s.Flags} {
		for _, t := range list {
			n += 16 + int64(len(t))
		}
	}
	return n
}

// Summarise gives the summaries of readings, loading only what is not at hand.
func (a *Analyst) Summarise(ctx context.Context, sc store.Scope, results []store.Result) (map[int64]*store.Summary, error) {
	var ids []int64
	for _, r := range results {
		if r.ReadingID != nil {
			ids = append(ids, *r.ReadingID)
		}
	}
	return a.summaries.All(ctx, ids, func(ctx context.Context, missing []int64) (map[int64]*store.Summary, error) {
		ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), longestCompute)
		defer cancel()
		list, err := sc.Summaries(ctx, missing)
		if err != nil {
			return nil, err
		}
		made := map[int64]*store.Summary{}
		for _, s := range list {
			made[s.ID] = &s
		}
		return made, nil
	})
}

// Outlines are the readings of results without their texts, loading only what is not at hand. They
// are shared, and not for changing.
func (a *Analyst) Outlines(ctx context.Context, sc store.Scope, results []store.Result) (map[int64]*reading.Reading, error) {
	var ids []int64
	for _, r := range results {
		if r.State == store.Read && r.ReadingID != nil {
			ids = append(ids, *r.ReadingID)
		}
	}
	return a.outlines.All(ctx, ids, func(ctx context.Context, missing []int64) (map[int64]*reading.Reading, error) {
		ctx, cancel := context.WithTimeout(context.WithoutCancel(ctx), longestCompute)
		defer cancel()
		return sc.Outlines(ctx, missing)
	})
}
