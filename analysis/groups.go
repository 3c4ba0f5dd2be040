package analysis

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"corpulan/cache"
	"corpulan/core/address"
	"corpulan/core/corpus"
	"corpulan/core/demand"
	"corpulan/core/fit"
	"corpulan/store"
)

// Demander groups lists of keywords and keeps what it has compared, so that turning the width
// compares nothing again. All of it can be made anew at any time.
type Demander struct {
	graphs  *cache.Cache[string, *compared]
	groups  *cache.Cache[string, *demand.Grouping]
	closing context.Context // ends what is still being compared

	mu      sync.Mutex
	running map[string]*comparing
}

// compared is a list whose keywords have been compared.
type compared struct {
	graph   *demand.Graph
	results demand.Results
}

// comparing is a comparison under way.
type comparing struct {
	done  atomic.Int64
	of    atomic.Int64
	ended chan struct{}
	made  *compared
	err   error
}

// Progress is how far a comparison has come.
type Progress struct{ Done, Of int }

// How much is kept in memory, counted in keywords. Our own: some 400 MB, two of the largest lists.
const (
	maxCompared = 120_000
	maxGrouped  = 120_000
)

// NewDemander makes an empty one, whose work ends with closing.
func NewDemander(closing context.Context) (*Demander, error) {
	d := &Demander{closing: closing, running: map[string]*comparing{}}
	var err error
	d.graphs, err = cache.New(cache.Options[string, *compared]{MaximumWeight: maxCompared, Weigher: func(_ string, c *compared) uint32 { return uint32(1 + c.graph.Len()) }})
	if err != nil {
		return nil, err
	}
	d.groups, err = cache.New(cache.Options[string, *demand.Grouping]{MaximumWeight: maxGrouped, Weigher: func(_ string, g *demand.Grouping) uint32 {
		n := 1 + len(g.Out)
		for _, x := range g.Groups {
			n += len(x.Keywords)
		}
		return uint32(n)
	}})
	return d, err
}

// Groups is a list as it now is.
type Groups struct {
	demand.Grouping
	List     store.KeywordList
	Options  demand.Options
	Keywords int // in the list
	Known    int // of which the results are known
	Own      func(demand.Group) demand.Own
}

// longestLook is how long somebody waits for groups before they are shown how far they are.
// Our own.
const longestLook = 400 * time.Millisecond

// Groups groups a list. Where that takes long it goes on by itself, and what is returned is how
// far it has come. width, where it is not negative, goes before the list's own.
func (d *Demander) Groups(ctx context.Context, sc store.Scope, list store.KeywordList, width float64) (*Groups, *Progress, error) {
	mark, err := sc.ResultsMark(ctx, list.Language, list.Country)
	if err != nil {
		return nil, nil, err
	}
	p, err := sc.Publication(ctx)
	if err != nil {
		return nil, nil, err
	}
	year := time.Now().Year()
	key := fmt.Sprintf("%d %d %s %d %s", list.ID, list.Change, mark, year, p.Address)
	c, progress, err := d.compare(ctx, sc, list, key, year, p.Address)
	if err != nil || progress != nil {
		return nil, progress, err
	}
	if width < 0 {
		width = list.Width
	}
	plan, curve := list.Plan.Data(), p.Settings.Data().Curve
	if len(curve) == 0 {
		curve = demand.DefaultCurve()
	}
	o := demand.Options{Language: list.Language, Width: width, Year: year, Results: c.results, Hand: plan.Hand, Curve: curve}
	said, err := json.Marshal([]any{plan.Hand, width, curve})
	if err != nil {
		return nil, nil, err
	}
	sum := sha256.Sum256(said)
	g, err := d.groups.Get(ctx, key+hex.EncodeToString(sum[:]), func(context.Context, string) (*demand.Grouping, error) {
		g := c.graph.Part(o)
		return &g, nil
	})
	if err != nil {
		return nil, nil, err
	}
	return &Groups{Grouping: *g, List: list, Options: o, Keywords: c.graph.Len(), Known: c.graph.Known(),
		Own: func(x demand.Group) demand.Own { return demand.OwnOf(x, curve, nil) }}, nil, nil
}

// compare waits a moment for a list to be compared; where that is not enough it tells how far
// it has come.
func (d *Demander) compare(ctx context.Context, sc store.Scope, list store.KeywordList, key string, year int, site string) (*compared, *Progress, error) {
	if c, ok := d.graphs.Find(key); ok {
		return c, nil, nil
	}
	d.mu.Lock()
	r := d.running[key]
	if r == nil {
		r = &comparing{ended: make(chan struct{})}
		d.running[key] = r
		go func() { // ends with its work, or with closing
			ctx, cancel := context.WithTimeout(d.closing, longestCompute)
			defer cancel()
			r.made, r.err = load(ctx, sc, list, year, site, r)
			if r.err == nil {
				d.graphs.Set(key, r.made)
			}
			d.mu.Lock()
			delete(d.running, key)
			d.mu.Unlock()
			close(r.ended)
		}()
	}
	d.mu.Unlock()
	wait := time.NewTimer(longestLook)
	defer wait.Stop()
	select {
	case <-r.ended:
		return r.made, nil, r.err
	case <-wait.C:
		return nil, &Progress{int(r.done.Load()), int(r.of.Load())}, nil
	case <-ctx.Done():
		return nil, nil, ctx.Err()
	}
}

func load(ctx context.Context, sc store.Scope, list store.KeywordList, year int, site string, r *comparing) (*compared, error) {
	keywords, err := sc.Keywords(ctx, list.ID)
	if err != nil {
		return nil, err
	}
	r.of.Store(int64(len(keywords)))
	keys := make([]string, len(keywords))
	for i, k := range keywords {
		keys[i] = demand.Same(k.Text)
	}
	results, err := sc.Ranked(ctx, list.Language, list.Country, keys)
	if err != nil {
		return nil, err
	}
	keywords = demand.WithResults(keywords, results, site)
	g, err := demand.NewGraph(ctx, keywords, demand.Options{Language: list.Language, Results: results, Year: year}, func(n int) { r.done.Store(int64(n)) })
	return &compared{g, results}, err
}

// SameText measures how much of one own page's text stands in another word for word, for those
// pages that have been read.
func (a *Analyst) SameText(ctx context.Context, sc store.Scope, language string, pages []string) (func(x, y string) float64, error) {
	byKey := map[string]*corpus.Doc{}
	mark, err := sc.OwnMark(ctx)
	if err != nil {
		return nil, err
	}
	ids, err := sc.OwnNumbers(ctx)
	if err != nil {
		return nil, err
	}
	var want []int64
	for _, p := range pages {
		if id, ok := ids[strings.TrimSuffix(address.Parse(p).Key(), "/")]; ok {
			want = append(want, id)
		}
	}
	docs, err := a.ownDocs(ctx, sc, language, mark, want)
	if err != nil {
		return nil, err
	}
	for _, d := range docs {
		byKey[strings.TrimSuffix(address.Parse(d.Reading.URL).Key(), "/")] = d
	}
	return func(x, y string) float64 {
		dx, dy := byKey[strings.TrimSuffix(address.Parse(x).Key(), "/")], byKey[strings.TrimSuffix(address.Parse(y).Key(), "/")]
		if dx == nil || dy == nil {
			return 0
		}
		if c := fit.Close(dx, []corpus.RankedPage{{Rank: 1, Doc: dy}}); len(c) > 0 {
			return c[0].Share
		}
		return 0
	}, nil
}
