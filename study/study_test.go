package study_test

import (
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"sync"
	"testing"

	"corpulan/analysis"
	"corpulan/core/brief"
	"corpulan/core/house"
	"corpulan/core/message"
	"corpulan/core/reading"
	"corpulan/formats/saved"
	"corpulan/queue"
	"corpulan/search"
	"corpulan/store"
	"corpulan/store/storetest"
	"corpulan/study"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestMain(m *testing.M) { storetest.Main(m) }

// desk is a publication with a study, and the commands of two people in it.
type desk struct {
	*testing.T
	store     *store.Store
	scope     store.Scope
	me, other study.Commands
	study     store.Study
}

func newDesk(t *testing.T) desk {
	t.Helper()
	st, _ := storetest.Open(t)
	q, err := queue.New(st)
	require.NoError(t, err)
	p, err := st.EnsurePublication(t.Context(), "Quillfen Cycles", "")
	require.NoError(t, err)
	analyst, err := analysis.NewAnalyst(nil, nil, analysis.Whole)
	require.NoError(t, err)
	d := desk{T: t, store: st, scope: st.In(p.ID), me: study.For(st.In(p.ID), q, "me").With(analyst), other: study.For(st.In(p.ID), q, "other").With(analyst)}
	d.study = store.Study{Keyword: "winter", Language: "en", Country: "gb", Depth: 10}
	require.NoError(t, d.me.Begin(t.Context(), &d.study, nil))
	return d
}

func (d desk) gathering() store.Gathering {
	d.Helper()
	g, err := d.scope.LatestGathering(d.Context(), d.study.ID)
	require.NoError(d, err)
	return g
}

func (d desk) results() []store.Result {
	d.Helper()
	list, err := d.scope.Results(d.Context(), d.gathering().ID)
	require.NoError(d, err)
	return list
}

// found is what the search engine gave, n pages on as many hosts.
func (d desk) found(n int) (hosts []string) {
	d.Helper()
	var items []search.Item
	for i := range n {
		items = append(items, search.Item{Rank: i + 1, URL: fmt.Sprintf("http://s%d.example/p", i), Title: fmt.Sprintf("Page %d", i)})
	}
	hosts, err := d.store.Found(d.Context(), d.gathering(), study.ResultsOf(d.gathering(), &search.Results{Items: items}), nil, nil, nil)
	require.NoError(d, err)
	return hosts
}

func (d desk) read(r store.Result, setAside message.Message) {
	d.Helper()
	require.NoError(d, d.store.KeepPage(d.Context(), r, &store.Capture{URL: r.URL, FinalURL: r.URL, Status: 200, Body: []byte("x"), Digest: []byte("y")},
		&reading.Reading{Engine: 1, Title: r.Title}, setAside))
}

func (d desk) add(urls ...string) study.Done {
	d.Helper()
	done, err := d.me.AddPages(d.Context(), d.study.ID, urls, store.InField)
	require.NoError(d, err)
	return done
}

const article = "<html lang=en><title>Handed in</title><article><h1>Handed in</h1><p>This page was saved by hand, since the site would not give it to a program.</article>"

func (d desk) handIn(pages ...study.Handed) study.HandedIn {
	d.Helper()
	in, err := d.me.HandIn(d.Context(), d.study, pages, false)
	require.NoError(d, err)
	return in
}

// Pages that are added or handed in while the search runs stay, come after those
// that rank, and lose the search none of its own.
func TestAddingWhileTheSearchRuns(t *testing.T) {
	d := newDesk(t)
	d.add("http://own.example/a", "http://s2.example/p")
	assert.Equal(t, store.Searching, d.gathering().State, "the search is still to come")
	in := d.handIn(study.Handed{Saved: saved.Saved{URL: "http://own.example/a", Body: []byte(article)}, Name: "a.html", Of: 1})
	assert.Equal(t, 1, in.Taken)
	assert.Equal(t, store.Searching, d.gathering().State, "an added page that is in ends nothing")
	hosts := d.found(4)
	assert.Equal(t, []string{"s0.example", "s1.example", "s2.example", "s3.example"}, hosts)
	var rows []string
	for _, r := range d.results() {
		rows = append(rows, fmt.Sprintf("%d %s %s %t", r.Rank, r.URL, r.State, r.Added))
	}
	assert.Equal(t, []string{"1 http://s0.example/p waiting false", "2 http://s1.example/p waiting false", "3 http://s2.example/p waiting true",
		"4 http://s3.example/p waiting false", "5 http://own.example/a read true"}, rows)
	assert.Equal(t, store.Fetching, d.gathering().State)
}

// What a person adds counts if they say so, and then like what ranks: a page with hardly any text is
// proposed aside. Where nothing ranks it is the field.
func TestWhatIsAddedCountsWhenAPersonSaysSo(t *testing.T) {
	d := newDesk(t)
	d.found(2)
	for _, x := range []struct {
		as    store.Adding
		aside message.Message
		kept  bool
		why   message.Kept
	}{{store.Beside, "", false, store.BesideReason}, {store.Beside, "Hardly any text", false, store.BesideReason}, {store.InField, "", true, ""},
		{store.InField, "Hardly any text", false, "Hardly any text"}, {store.Ours, "", true, ""}} {
		at := fmt.Sprintf("http://more%d.example/", len(d.results()))
		_, err := d.me.AddPages(d.Context(), d.study.ID, []string{at}, x.as)
		require.NoError(t, err)
		rows := d.results()
		d.read(rows[len(rows)-1], x.aside)
		rows = d.results()
		r := rows[len(rows)-1]
		assert.Equal(t, []any{at, x.kept, x.why, x.as == store.Ours}, []any{r.URL, r.Kept, r.Reason, r.Own}, "%+v", x)
	}
	none := newDesk(t)
	none.found(0)
	_, err := none.me.AddPages(none.Context(), none.study.ID, []string{"http://mine.example/"}, store.Beside)
	require.NoError(t, err)
	assert.True(t, none.results()[0].Kept)
}

// Many at once, while the search comes in: every address has its row, every rank stands once.
func TestAddingAtOnce(t *testing.T) {
	d := newDesk(t)
	var wg sync.WaitGroup
	errs := make(chan error, 20)
	for i := range 12 {
		wg.Go(func() {
			_, err := d.me.AddPages(t.Context(), d.study.ID, []string{fmt.Sprintf("http://added%d.example/", i)}, map[bool]store.Adding{true: store.Ours, false: store.InField}[i%2 == 0])
			errs <- err
		})
	}
	wg.Go(func() {
		g := d.gathering()
		_, err := d.store.Found(t.Context(), g, study.ResultsOf(g, &search.Results{Items: []search.Item{{Rank: 1, URL: "http://s1.example/"}, {Rank: 5, URL: "http://s5.example/"}}}), nil, nil, nil)
		errs <- err
	})
	wg.Wait()
	close(errs)
	for err := range errs {
		assert.NoError(t, err)
	}
	list := d.results()
	require.Len(t, list, 14)
	assert.Equal(t, []any{1, "http://s1.example/", 5, "http://s5.example/"}, []any{list[0].Rank, list[0].URL, list[1].Rank, list[1].URL}, "position 5 stays rank 5")
	for i, r := range list[2:] {
		assert.Equal(t, 6+i, r.Rank)
	}
}

func TestStoppingWhileTheSearchRuns(t *testing.T) {
	d := newDesk(t)
	require.NoError(t, d.me.Stop(t.Context(), d.study.ID))
	assert.Empty(t, d.found(2), "the search that was under way asks for no page")
	assert.Equal(t, store.Stopped, d.gathering().State)
	require.Len(t, d.results(), 2, "what it found is kept")
	done := d.add("http://own.example/a")
	assert.Contains(t, done.Said.String(), "when the gathering goes on")
	assert.Equal(t, store.Stopped, d.gathering().State, "and nobody waits for ever")
	require.NoError(t, d.me.GoOn(t.Context(), d.study.ID))
	assert.Equal(t, store.Fetching, d.gathering().State)
	for _, r := range d.results() {
		d.read(r, "")
	}
	assert.Equal(t, store.Done, d.gathering().State)
	require.NoError(t, d.me.Stop(t.Context(), d.study.ID), "there is nothing to stop any more")
	assert.Equal(t, store.Done, d.gathering().State)
}

func TestASearchThatFails(t *testing.T) {
	d := newDesk(t)
	d.add("http://own.example/a")
	require.NoError(t, d.store.FailSearch(t.Context(), d.gathering(), "The engine is away."))
	assert.Equal(t, []any{store.Fetching, "The engine is away."}, []any{d.gathering().State, d.gathering().Failure.Message().String()}, "the added page is still fetched")
	d.read(d.results()[0], "")
	assert.Equal(t, store.Done, d.gathering().State)

	other := newDesk(t)
	require.NoError(t, other.store.FailSearch(t.Context(), other.gathering(), "The engine is away."))
	assert.Equal(t, store.Failed, other.gathering().State)
	other.add("http://own.example/a")
	assert.Equal(t, store.Fetching, other.gathering().State)
}

// Pressed twice, or in two tabs, "gather again" begins one gathering.
func TestGatheringAgainTwice(t *testing.T) {
	d := newDesk(t)
	first := d.gathering().ID
	require.NoError(t, d.me.Again(t.Context(), d.study.ID))
	assert.Equal(t, first, d.gathering().ID, "while it runs it is that one")
	d.found(1)
	d.read(d.results()[0], "")
	var wg sync.WaitGroup
	for range 4 {
		wg.Go(func() { assert.NoError(t, d.me.Again(t.Context(), d.study.ID)) })
	}
	wg.Wait()
	assert.Equal(t, first+1, d.gathering().ID)
	jobs := 0
	require.NoError(t, d.store.SQL().QueryRowContext(t.Context(), "select count(*) from river_job where kind = 'search'").Scan(&jobs))
	assert.Equal(t, 2, jobs)
}

// Twenty-five steps, of every kind, taken back one by one and made again.
func TestUndoAndRedo(t *testing.T) {
	d := newDesk(t)
	d.found(3)
	for i, r := range d.results() {
		d.read(r, map[bool]message.Message{true: "A forum"}[i == 2])
	}
	ctx, id := t.Context(), d.study.ID
	look := func() string {
		b, err := d.scope.Brief(ctx, id)
		require.NoError(t, err)
		s, err := d.scope.Study(ctx, id)
		require.NoError(t, err)
		ch := b.Choices.Data()
		out := fmt.Sprint(ch.Marks, stateOf(d, ch), s.ArchivedAt != nil, s.DeletedAt != nil, s.Again, s.AgainAt != nil, d.gathering().State)
		for _, r := range d.results() {
			capture := int64(0)
			if r.CaptureID != nil {
				capture = *r.CaptureID
			}
			out += fmt.Sprint(" ", r.Rank, r.URL, r.State, r.Kept, r.Reason, r.Decided, capture)
		}
		return out
	}
	var states []string
	step := func(_ study.Done, err error) {
		t.Helper()
		require.NoError(t, err)
		states = append(states, look())
	}
	typed := func(field, was, to string) (study.Done, error) {
		w := study.Typing{Field: field, Label: message.Message(field), Text: &to}
		if was != "" {
			w.Was = &was
		}
		done, _, err := d.me.Write(ctx, id, w)
		return done, err
	}
	states = append(states, look())
	r := d.results()
	step(d.me.AcceptProposals(ctx, id))
	step(d.me.Keep(ctx, id, []int64{r[0].ID, r[1].ID}, false, "Not our kind"))
	step(d.me.Keep(ctx, id, []int64{r[0].ID}, true, ""))
	for i := range 14 {
		step(d.me.Choose(ctx, id, brief.Mark{Kind: brief.TermKind, Key: fmt.Sprint("term", i), Text: "a term", State: brief.Dropped}))
	}
	step(d.me.Choose(ctx, id, brief.Mark{Kind: brief.TermKind, Key: "term3", Text: "a term", State: brief.Adopted}))
	step(typed("goal", "", "Sell tyres"))
	step(typed("note:tyre", "", "Name the gauge"))
	step(d.me.GatherBy(ctx, id, store.Weekly))
	step(d.me.Archive(ctx, id))
	step(d.me.BringBack(ctx, id))
	step(d.me.GatherBy(ctx, id, ""))
	in := d.handIn(study.Handed{Saved: saved.Saved{URL: r[1].URL, Body: []byte(article)}, Name: "a.html", Of: 1})
	step(in.Done, nil)
	step(d.me.AddPages(ctx, id, []string{"http://own.example/a", "http://own.example/b"}, store.Ours))
	step(d.me.Delete(ctx, id))
	require.Len(t, states, 28)

	_, err := d.other.Undo(ctx, id)
	assert.ErrorIs(t, err, study.ErrNothing, "what others did is theirs to undo")
	for i := len(states) - 2; i >= 0; i-- {
		done, err := d.me.Undo(ctx, id)
		require.NoError(t, err)
		assert.True(t, done.Redo)
		require.Equal(t, states[i], look(), "step %d: %s", i, done.Said)
	}
	_, err = d.me.Undo(ctx, id)
	assert.ErrorIs(t, err, study.ErrNothing)
	for i := 1; i < len(states); i++ {
		done, err := d.me.Redo(ctx, id)
		require.NoError(t, err, states[i])
		require.Equal(t, states[i], look(), "step %d: %s", i, done.Said)
	}
	_, err = d.me.Undo(ctx, id)
	require.NoError(t, err)
	_, err = d.me.Choose(ctx, id, brief.Mark{Kind: brief.TermKind, Key: "new", Text: "new", State: brief.Dropped})
	require.NoError(t, err)
	_, err = d.me.Redo(ctx, id)
	assert.ErrorIs(t, err, study.ErrNothing, "after something new there is nothing to make again")
}

// Rows that are set aside many at once keep the reason they had.
func TestManyAtOnceKeepTheirReasons(t *testing.T) {
	d := newDesk(t)
	d.found(4)
	r := d.results()
	for i := range r {
		d.read(r[i], map[int]message.Message{1: "A forum thread"}[i])
	}
	_, err := d.me.Keep(t.Context(), d.study.ID, []int64{r[2].ID}, false, "Our rival's")
	require.NoError(t, err)
	_, err = d.me.Keep(t.Context(), d.study.ID, []int64{r[0].ID, r[1].ID, r[2].ID, r[3].ID}, false, "Set aside by hand")
	require.NoError(t, err)
	var reasons []string
	for _, r := range d.results() {
		assert.True(t, !r.Kept && r.Decided)
		reasons = append(reasons, string(r.Reason))
	}
	assert.Equal(t, []string{"Set aside by hand", "A forum thread", "Our rival's", "Set aside by hand"}, reasons)
}

// What somebody else has changed since is not undone over their heads.
func TestUndoSparesWhatOthersDidSince(t *testing.T) {
	d := newDesk(t)
	ctx, id := t.Context(), d.study.ID
	mine, theirs := "mine", "theirs"
	_, _, err := d.me.Write(ctx, id, study.Typing{Field: "goal", Text: &mine})
	require.NoError(t, err)
	_, _, err = d.other.Write(ctx, id, study.Typing{Field: "goal", Was: &mine, Text: &theirs})
	require.NoError(t, err)
	_, err = d.me.Undo(ctx, id)
	assert.ErrorIs(t, err, store.ErrStale)
	b, err := d.scope.Brief(ctx, id)
	require.NoError(t, err)
	assert.Equal(t, "theirs", *b.Choices.Data().TypedIn("goal"))
}

// What is typed in one go is one step, however often it was saved on the way.
func TestTypingIsOneStep(t *testing.T) {
	d := newDesk(t)
	var was *string
	for _, text := range []string{"S", "Sell", "Sell tyres"} {
		_, _, err := d.me.Write(t.Context(), d.study.ID, study.Typing{Field: "goal", Was: was, Text: &text})
		require.NoError(t, err)
		was = &text
	}
	_, err := d.me.Undo(t.Context(), d.study.ID)
	require.NoError(t, err)
	b, err := d.scope.Brief(t.Context(), d.study.ID)
	require.NoError(t, err)
	assert.Nil(t, b.Choices.Data().TypedIn("goal"))
	_, err = d.me.Undo(t.Context(), d.study.ID)
	assert.ErrorIs(t, err, study.ErrNothing)
}

// Two people in one field: the second is told, and told again, until they
// decide. Sixty fields and notes at once never get into each other's way.
func TestConflicts(t *testing.T) {
	d := newDesk(t)
	ctx, id := t.Context(), d.study.ID
	first, second := "first", "second"
	_, _, err := d.me.Write(ctx, id, study.Typing{Field: "goal", Text: &first})
	require.NoError(t, err)
	for range 3 {
		_, _, err = d.other.Write(ctx, id, study.Typing{Field: "goal", Text: &second})
		var conflict *study.Conflict
		require.ErrorAs(t, err, &conflict)
		assert.Equal(t, "first", *conflict.Theirs)
	}
	_, _, err = d.other.Write(ctx, id, study.Typing{Field: "goal", Text: &first})
	assert.NoError(t, err, "the same text is no conflict")

	var wg sync.WaitGroup
	errs := make(chan error, 60)
	for i := range 60 {
		wg.Go(func() {
			text := fmt.Sprint("text ", i)
			_, _, err := []study.Commands{d.me, d.other}[i%2].Write(ctx, id, study.Typing{Field: fmt.Sprintf("note:theme%d", i), Text: &text})
			errs <- err
		})
	}
	wg.Wait()
	close(errs)
	for err := range errs {
		assert.NoError(t, err)
	}
	b, err := d.scope.Brief(ctx, id)
	require.NoError(t, err)
	assert.Len(t, b.Choices.Data().Sections, 60)
}

// A file finds its row by the address in it, its name or its title.
func TestPagesFindTheirRows(t *testing.T) {
	d := newDesk(t)
	_, err := d.store.Found(t.Context(), d.gathering(), study.ResultsOf(d.gathering(), &search.Results{Items: []search.Item{
		{Rank: 1, URL: "https://a.example/guides/winter-bike-commuting/", Title: "Winter bike commuting: the guide"}, {Rank: 2, URL: "https://b.example/tyres.html", Title: "Tyres"},
		{Rank: 3, URL: "https://c.example/index.html", Title: "Lights that last"}, {Rank: 4, URL: "https://d.example/tyres", Title: "Tyres"}}}), nil, nil, nil)
	require.NoError(t, err)
	page := func(head string) []byte { return []byte(strings.Replace(article, "<title>Handed in</title>", head, 1)) }
	for name, c := range map[string]struct {
		page study.Handed
		rank int
	}{
		"canonical":       {study.Handed{Name: "x.html", Saved: saved.Saved{Body: page(`<link rel=canonical href="https://www.b.example/tyres.html?utm_source=x">`)}}, 2},
		"its own address": {study.Handed{Name: "x.html", Saved: saved.Saved{URL: "https://c.example/", Body: page("")}}, 3},
		"file name":       {study.Handed{Name: "winter-bike-commuting.html", Saved: saved.Saved{Body: page("<title>Another</title>")}}, 1},
		"title":           {study.Handed{Name: "saved(1).html", Saved: saved.Saved{Body: page("<title>Lights that last!</title>")}}, 3},
		"file of a title": {study.Handed{Name: "Winter bike commuting_ the guide.html", Saved: saved.Saved{Body: page("<title>x</title>")}}, 1},
		"two of a name":   {study.Handed{Name: "tyres.html", Saved: saved.Saved{Body: page("<title>x</title>")}}, 0},
		"elsewhere":       {study.Handed{Name: "winter-bike-commuting.html", Saved: saved.Saved{URL: "https://z.example/q", Body: page("")}}, 0},
	} {
		c.page.Of = 1
		in := d.handIn(c.page)
		if c.rank == 0 {
			assert.Equal(t, []any{0, []string{c.page.Name}}, []any{in.Taken, in.Left}, name)
			continue
		}
		require.Equal(t, 1, in.Taken, name)
		for _, r := range d.results() {
			assert.Equal(t, r.Rank == c.rank, r.State == store.Read, "%s: rank %d", name, r.Rank)
		}
		_, err := d.me.Undo(t.Context(), d.study.ID)
		require.NoError(t, err)
	}
	r := d.results()
	in := d.handIn(study.Handed{Name: "anything.html", To: r[3].ID, Of: 1, Saved: saved.Saved{Body: []byte(article)}})
	assert.Equal(t, 1, in.Taken, "a person said which")
	in = d.handIn(study.Handed{Name: "many.warc", To: r[0].ID, Of: 3, Saved: saved.Saved{URL: "https://z.example/", Body: []byte(article)}})
	assert.Equal(t, 0, in.Taken)
	assert.Contains(t, in.Problems[0].String(), "is not the page of this row")
}

func TestShelves(t *testing.T) {
	d := newDesk(t)
	shelf := func(s store.Shelf) int {
		lines, _, err := d.scope.Ledger(t.Context(), store.LedgerQuery{Shelf: s, Most: 10})
		require.NoError(t, err)
		return len(lines)
	}
	_, err := d.scope.Like(t.Context(), "Winter", "en", "gb")
	require.NoError(t, err, "capitals do not make another keyword")
	_, err = d.me.Archive(t.Context(), d.study.ID)
	require.NoError(t, err)
	assert.Equal(t, []int{0, 1, 0}, []int{shelf(store.OnDesk), shelf(store.Archived), shelf(store.Deleted)})
	_, err = d.scope.Like(t.Context(), "winter", "en", "gb")
	assert.ErrorIs(t, err, store.ErrNotFound)
	_, err = d.me.Delete(t.Context(), d.study.ID)
	require.NoError(t, err)
	assert.Equal(t, []int{0, 0, 1}, []int{shelf(store.OnDesk), shelf(store.Archived), shelf(store.Deleted)})
	n, err := d.store.Purge(t.Context(), store.KeptDeleted)
	require.NoError(t, err)
	assert.Zero(t, n, "it can still be brought back")
	_, err = d.store.SQL().ExecContext(t.Context(), "update studies set deleted_at = now() - interval '31 days'")
	require.NoError(t, err)
	n, err = d.store.Purge(t.Context(), store.KeptDeleted)
	require.NoError(t, err)
	assert.EqualValues(t, 1, n)
	_, err = d.me.BringBack(t.Context(), d.study.ID)
	assert.True(t, errors.Is(err, store.ErrNotFound))
}

// Undoing one thing leaves what others did to the study since.
func TestUndoOfAShelfLeavesTheSplit(t *testing.T) {
	d := newDesk(t)
	ctx, id := t.Context(), d.study.ID
	_, err := d.me.Archive(ctx, id)
	require.NoError(t, err)
	_, err = d.other.Lead(ctx, id, 5)
	require.NoError(t, err)
	_, err = d.me.Undo(ctx, id)
	require.NoError(t, err)
	st, err := d.scope.Study(ctx, id)
	require.NoError(t, err)
	assert.Equal(t, 5, st.Leaders)
	assert.Nil(t, st.ArchivedAt)
	_, err = d.me.Lead(ctx, id, 4)
	require.NoError(t, err)
	_, err = d.other.Undo(ctx, id)
	assert.ErrorIs(t, err, store.ErrStale, "somebody parted the ranks anew")
}

// What the publication is taught changes every study of it; what one study is taught, that
// study alone.
func TestTeachingIsSeenByAllStudies(t *testing.T) {
	d := newDesk(t)
	ctx := t.Context()
	another := store.Study{Keyword: "summer", Language: "en", Country: "gb", Depth: 10}
	require.NoError(t, d.me.Begin(ctx, &another, nil))
	change := func() int64 {
		n, _, err := d.scope.Change(ctx, another.ID)
		require.NoError(t, err)
		return n
	}
	before := change()
	entry := house.Entry{Kind: house.Ignore, Term: "tyre"}
	_, err := d.me.Teach(ctx, d.study.ID, "taught", []store.LexiconEdit{{After: &entry}})
	require.NoError(t, err)
	assert.Equal(t, before, change())
	_, err = d.me.Teach(ctx, d.study.ID, "taught", []store.LexiconEdit{{Wide: true, After: &entry}})
	require.NoError(t, err)
	assert.Greater(t, change(), before)
	list, err := d.scope.Lexicon(ctx, another.ID)
	require.NoError(t, err)
	assert.Len(t, list, 1)
	done, err := d.me.Teach(ctx, d.study.ID, "taught", []store.LexiconEdit{{Wide: true, After: &entry}})
	require.NoError(t, err)
	assert.Zero(t, done.Change, "what stands already changes nothing")
}

// stateOf is all that is typed, as it is kept.
func stateOf(t testing.TB, ch brief.Choices) string {
	b, err := json.Marshal(ch)
	require.NoError(t, err)
	return string(b)
}
