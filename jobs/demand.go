package jobs

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"slices"
	"time"

	"corpulan/core/demand"
	"corpulan/core/language"
	"corpulan/core/message"
	"corpulan/queue"
	"corpulan/search"
	"corpulan/store"
	"corpulan/study"

	"github.com/riverqueue/river"
)

// demander runs DemandArgs: it reads large tables of keywords, and asks services for what is
// known of them, one question after another with a pause between, as a person watches and may
// stop it.
type demander struct {
	river.WorkerDefaults[queue.DemandArgs]
	store    *store.Store
	services services
	provider search.Provider       // those of the list's publication, once that is known
	keywords search.KeywordService // nil for none
	pause    time.Duration
	log      *slog.Logger
}

// errStopped says that a person has stopped the work.
var errStopped = message.Errorf("it was stopped")

// atOnceKeywords is how many keywords of a table are put to the list at a time.
const atOnceKeywords = 5000

// Work does one kind of work on one list and says how it ended.
func (w *demander) Work(ctx context.Context, job *river.Job[queue.DemandArgs]) error {
	sc := w.store.In(job.Args.Publication)
	l, err := sc.List(ctx, job.Args.List)
	if errors.Is(err, store.ErrNotFound) {
		return nil
	}
	if err != nil {
		return err
	}
	mine := *w
	if mine.provider, mine.keywords, err = w.services.of(ctx, job.Args.Publication); err != nil {
		return err
	}
	w = &mine
	at := &working{sc: sc, list: l, pause: w.pause}
	if job.Attempt > 1 { // what an earlier attempt has asked counts
		at.before = l.Work.Data().Done
	}
	switch {
	case job.Attempt > job.MaxAttempts:
		err = message.Errorf("it was tried several times and never came to its end")
	case job.Args.Work == queue.ImportKeywords:
		err = w.readTable(ctx, at, job.Args)
	case job.Args.Work == queue.AskResults:
		err = w.results(ctx, at, job.Args)
	case job.Args.Work == queue.AskFigures:
		err = w.figures(ctx, at)
	case job.Args.Work == queue.FromSeeds:
		err = w.seeds(ctx, at, job.Args)
	}
	if ctx.Err() != nil {
		return ctx.Err()
	}
	if err != nil && !errors.Is(err, errStopped) && !store.Lasting(err) && isOurs(err) && job.Attempt < job.MaxAttempts {
		return err // the database, away for a moment
	}
	return sc.EditWork(ctx, l.ID, func(x *store.Work) error {
		x.Running, x.Problem = false, ""
		if err != nil && !errors.Is(err, errStopped) {
			x.Problem = message.Fault(err).Keep()
		}
		return nil
	})
}

// fault is what a service did wrong; all else that goes wrong is ours, and is tried again.
type fault struct{ error }

func isOurs(err error) bool {
	var f fault
	return !errors.As(err, &f) && !errors.Is(err, demand.ErrNoKeywords)
}

// working is a list with how far the work on it has come.
type working struct {
	sc     store.Scope
	list   store.KeywordList
	pause  time.Duration
	asked  bool
	before int // questions that an earlier attempt has asked
}

// step says how far the work has come, waits as politeness asks, and ends it where a person
// has asked for that.
func (a *working) step(ctx context.Context, done, of, fresh int, wait bool) error {
	stop := false
	err := a.sc.EditWork(ctx, a.list.ID, func(w *store.Work) error {
		w.Done, w.Of, w.Fresh, stop = done, of, w.Fresh+fresh, w.Stop
		return nil
	})
	if err != nil {
		return err
	}
	if stop {
		return errStopped
	}
	if wait && a.asked {
		select {
		case <-time.After(a.pause):
		case <-ctx.Done():
			return ctx.Err()
		}
	}
	a.asked = a.asked || wait
	return nil
}

// readTable puts the keywords of the table that waits to the list.
func (w *demander) readTable(ctx context.Context, at *working, args queue.DemandArgs) error {
	f, err := at.sc.File(ctx, at.list.ID)
	if err != nil {
		return err
	}
	if f.Said != "" {
		return nil // another attempt got this far
	}
	rows, err := study.UnpackRows(f.Rows)
	if err != nil {
		return err
	}
	list, dropped, err := demand.Read(rows, *args.Columns)
	if err != nil {
		return err
	}
	n, all := 0, store.Merged{}
	for part := range slices.Chunk(list, atOnceKeywords) {
		m, err := at.sc.PutKeywords(ctx, at.list.ID, part)
		if err != nil {
			return err
		}
		n += len(part)
		all.Fresh, all.Known, all.Left = all.Fresh+m.Fresh, all.Known+m.Known, all.Left+m.Left
		if err := at.step(ctx, n, len(list), m.Fresh, false); err != nil {
			return err
		}
	}
	return at.sc.FileWasRead(ctx, at.list.ID, study.SaidOf(all, dropped, args.Columns.Unread(rows)).Keep())
}

// results asks for the results pages of keywords of which none is known, the most searched
// first.
func (w *demander) results(ctx context.Context, at *working, args queue.DemandArgs) error {
	list, err := at.sc.Keywords(ctx, at.list.ID)
	if err != nil {
		return err
	}
	keys := make([]string, len(list))
	for i, k := range list {
		keys[i] = demand.Same(k.Text)
	}
	known, err := at.sc.Ranked(ctx, at.list.Language, at.list.Country, keys)
	if err != nil {
		return err
	}
	var todo []string
	for i, k := range list {
		if _, ok := known[keys[i]]; !ok && len(todo) < args.Most-at.before {
			todo = append(todo, k.Text)
		}
	}
	for i, k := range todo {
		if err := at.step(ctx, at.before+i, at.before+len(todo), 0, true); err != nil {
			return err
		}
		if _, err := w.ask(ctx, at, k); err != nil {
			return err
		}
		if i%showEvery == showEvery-1 {
			if err := at.sc.TouchList(ctx, at.list.ID); err != nil {
				return err
			}
		}
	}
	if err := at.step(ctx, at.before+len(todo), at.before+len(todo), 0, false); err != nil {
		return err
	}
	return at.sc.TouchList(ctx, at.list.ID)
}

// resultsCompared is how many results of a query are asked for to compare it by.
const resultsCompared = 10

// ask asks the engine for a query and keeps what it gives.
func (w *demander) ask(ctx context.Context, at *working, keyword string) (*search.Results, error) {
	res, err := w.provider.Search(ctx, search.Query{Keyword: keyword, Language: at.list.Language, Country: at.list.Country, Count: resultsCompared})
	if err != nil {
		return nil, fault{err}
	}
	p := store.ResultsPage{Language: at.list.Language, Country: at.list.Country, Key: demand.Same(keyword), Offered: append(slices.Clone(res.Related), res.Suggestions...), Asked: res.Asked}
	for _, i := range res.Items {
		p.Addresses = append(p.Addresses, i.URL)
	}
	return res, at.sc.KeepResultsPage(ctx, p)
}

// figures asks the keyword service for those keywords whose volume is not known.
func (w *demander) figures(ctx context.Context, at *working) error {
	list, err := at.sc.Keywords(ctx, at.list.ID)
	if err != nil {
		return err
	}
	var todo []string
	for _, k := range list {
		if !k.Volume.Known {
			todo = append(todo, k.Text)
		}
	}
	if len(todo) > 0 && w.keywords == nil {
		return fault{message.Errorf("no keyword service is configured")}
	}
	n := 0
	for part := range slices.Chunk(todo, search.MaxFigures) {
		if err := at.step(ctx, n, len(todo), 0, true); err != nil {
			return err
		}
		got, err := w.keywords.Figures(ctx, at.list.Language, at.list.Country, part)
		if err != nil {
			return fault{err}
		}
		if err := at.put(ctx, part, got); err != nil {
			return err
		}
		n += len(part)
	}
	return at.step(ctx, n, len(todo), 0, false)
}

// put keeps what a service says of the keywords it was asked for, and of no others.
func (a *working) put(ctx context.Context, asked []string, got []demand.Keyword) error {
	wanted := map[string]bool{}
	for _, k := range asked {
		wanted[demand.Same(k)] = true
	}
	got = slices.DeleteFunc(got, func(k demand.Keyword) bool { return !wanted[demand.Same(k.Text)] })
	if len(got) == 0 {
		return nil
	}
	_, err := a.sc.PutKeywords(ctx, a.list.ID, got)
	return err
}

// seeds asks what people search around some queries, breadth-first: completions of each, of
// each with question words and, where asked for, with each letter, and related searches; then
// the same of what that brought, to the depth given and within the budget. What the first step
// brings is taken as it comes; of later ones only what has a word of the first: services lead
// away.
func (w *demander) seeds(ctx context.Context, at *working, args queue.DemandArgs) error {
	s := seeding{demander: w, working: at, args: args, lang: language.For(at.list.Language), put: at.before, seen: map[string]bool{}, subject: map[string]bool{}}
	for _, seed := range args.Seeds {
		s.seen[demand.Same(seed)] = true
	}
	level := args.Seeds
	for s.depth = 0; s.depth < args.Depth && len(level) > 0 && s.put < args.Most; s.depth++ {
		s.next = nil
		for _, seed := range level {
			if err := s.grow(ctx, seed); err != nil {
				return err
			}
		}
		level = s.next
	}
	if w.keywords != nil {
		return w.figures(ctx, at)
	}
	return at.step(ctx, s.put, s.put, 0, false)
}

// seeding is a list as it grows from its seeds.
type seeding struct {
	*demander
	*working
	args    queue.DemandArgs
	lang    *language.Language
	put     int             // queries so far
	depth   int             // steps from the seeds
	seen    map[string]bool // keywords, as they are compared
	subject map[string]bool // stems of what the first step brought
	next    []string        // what the next step asks for
}

// grow asks what people search around a query, within the budget.
func (s *seeding) grow(ctx context.Context, seed string) error {
	completer, completes := s.provider.(search.Completer)
	for n, q := range begun(s.lang, seed, s.args.Letters && s.depth == 0) {
		if s.put >= s.args.Most || n > 0 && !completes {
			return nil
		}
		if err := s.step(ctx, s.put, s.args.Most, 0, true); err != nil {
			return err
		}
		s.put++
		var found []string
		if n == 0 { // the query itself: its related searches, and its results are known from then on
			res, err := s.ask(ctx, s.working, q)
			if err != nil {
				return err
			}
			found = append(append(slices.Clone(res.Related), res.Suggestions...), unasked(res.Asked)...)
		} else {
			list, err := completer.Complete(ctx, search.Query{Keyword: q, Language: s.list.Language, Country: s.list.Country, Count: resultsCompared})
			if err != nil {
				return fault{err}
			}
			found = list
		}
		if err := s.keep(ctx, found); err != nil {
			return err
		}
	}
	return nil
}

// keep takes up what is new and of the subject.
func (s *seeding) keep(ctx context.Context, found []string) error {
	var fresh []demand.Keyword
	for _, f := range found {
		f = demand.Tidy(f)
		key, stems := demand.Same(f), s.lang.ContentStems(f)
		if key == "" || s.seen[key] || len([]rune(f)) > demand.LongestKeyword {
			continue
		}
		if s.depth > 0 && !slices.ContainsFunc(stems, func(stem string) bool { return s.subject[stem] }) {
			continue
		}
		s.seen[key] = true
		for _, stem := range stems {
			s.subject[stem] = s.subject[stem] || s.depth == 0
		}
		s.next = append(s.next, f)
		fresh = append(fresh, demand.Keyword{Text: f})
	}
	if len(fresh) == 0 {
		return nil
	}
	m, err := s.sc.PutKeywords(ctx, s.list.ID, fresh)
	if err != nil {
		return err
	}
	return s.step(ctx, s.put, s.args.Most, m.Fresh, false)
}

// begun are the ways in which a seed is put to the engine, itself first.
func begun(lang *language.Language, seed string, letters bool) []string {
	list := []string{seed, seed + " "}
	for _, q := range lang.QuestionWords() {
		list = append(list, q+" "+seed)
	}
	if letters {
		for r := 'a'; r <= 'z'; r++ {
			list = append(list, fmt.Sprintf("%s %c", seed, r))
		}
	}
	return list
}

// unasked are questions as people type them, without the mark.
func unasked(questions []string) []string {
	out := make([]string, len(questions))
	for i, q := range questions {
		for len(q) > 0 && q[len(q)-1] == '?' {
			q = q[:len(q)-1]
		}
		out[i] = q
	}
	return out
}

// NextRetry implements river.Worker.
func (w *demander) NextRetry(job *river.Job[queue.DemandArgs]) time.Time { return soon(job.Attempt) }
