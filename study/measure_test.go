package study_test

import (
	"context"
	"encoding/json"
	"strings"
	"testing"

	"corpulan/analysis"
	"corpulan/core/draft"
	"corpulan/core/house"
	"corpulan/core/reading"
	"corpulan/formats/handed"
	"corpulan/formats/saved"
	"corpulan/store"
	"corpulan/study"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const sentence = "On black ice the studded tyres of a bicycle grip when nothing else does so in the cold."

// withPages gives the study pages for the study, and gives its analyst.
func (d desk) withPages(bodies ...string) *analysis.Analyst {
	d.Helper()
	d.found(len(bodies))
	for i, r := range d.results() {
		body := "<html lang=en><body><article><h1>Winter riding</h1>" + bodies[i] + "</article>"
		doc, err := reading.Read(reading.Page{URL: r.URL, Body: []byte(body)})
		require.NoError(d, err)
		c, err := study.CaptureOf(&saved.Fetched{URL: r.URL, FinalURL: r.URL, Status: 200, Body: []byte(body)})
		require.NoError(d, err)
		require.NoError(d, d.store.KeepPage(d.Context(), r, c, doc, ""))
	}
	a, err := analysis.NewAnalyst(nil, nil, analysis.Whole)
	require.NoError(d, err)
	return a
}

func textOf(t testing.TB, s string) *draft.Node {
	t.Helper()
	n, err := (*handed.Reader)(nil).Draft(context.Background(), "a.md", strings.NewReader(s))
	require.NoError(t, err)
	return n
}

// A draft is measured against the field as it now is, and against our own pages; what a page
// that is set aside said is of no account.
func TestMeasuringADraft(t *testing.T) {
	d := newDesk(t)
	a := d.withPages("<h2>Ice</h2><p>"+strings.Repeat(sentence+" ", 3)+"</p>", "<h2>Ice</h2><p>The studded tyre is loud on tarmac, and on ice it is the tyre that grips for 4 winters.</p>", "<h2>Ice</h2><p>Ride the studded tyres on the first ice of the winter for 4 winters.</p>")
	measure := func(s string) *analysis.Measured {
		t.Helper()
		st, err := d.scope.Study(t.Context(), d.study.ID)
		require.NoError(t, err)
		an, err := a.Analyse(t.Context(), d.scope, st)
		require.NoError(t, err)
		m, err := a.Measure(t.Context(), d.scope, an, textOf(t, s), store.DraftSaid{})
		require.NoError(t, err)
		return m
	}
	text := "# Winter riding\n\n## Ice\n\n" + sentence + " A tyre with studs lasts 4 winters on the road.\n"
	m := measure(text)
	assert.Equal(t, 3, m.Field.Range.N)
	require.NotEmpty(t, m.Closeness)
	assert.Equal(t, 1, m.Closeness[0].Rank)
	assert.Empty(t, m.Own)
	assert.Greater(t, m.Fit.Fit, measure("# Winter riding\n\nNothing of all that.\n").Fit.Fit)
	first := d.results()[0]
	_, err := d.me.Keep(t.Context(), d.study.ID, []int64{first.ID}, false, "no")
	require.NoError(t, err)
	m = measure(text)
	assert.Equal(t, 2, m.Field.Range.N)
	for _, c := range m.Closeness {
		assert.NotEqual(t, 1, c.Rank)
	}
	// As a page of ours it is compared, and counts for nothing.
	require.NoError(t, d.store.SQL().QueryRowContext(t.Context(), "update results set own = true, kept = true where id = $1 returning id", first.ID).Err())
	_, err = d.me.Keep(t.Context(), d.study.ID, []int64{d.results()[1].ID}, false, "so that all is counted anew")
	require.NoError(t, err)
	m = measure(text)
	require.Len(t, m.Own, 1)
	assert.Equal(t, first.URL, m.Own[0].URL)
	assert.Equal(t, 1, m.Field.Range.N)
}

// What is spelt right: names and terms of the field and of the house, but not what the house
// writes otherwise.
func TestKnownWords(t *testing.T) {
	d := newDesk(t)
	a := d.withPages("<p>A Velotron grips on ice. The Velotron is loud.</p>", "<p>We rode a Velotron on ice.</p>")
	for _, e := range []house.Entry{{Kind: house.Prefer, Term: "tyer", Other: "tyre"}, {Kind: house.Spell, Term: "winterise"}} {
		_, err := d.me.Teach(t.Context(), d.study.ID, "x", []store.LexiconEdit{{Wide: true, After: &e}})
		require.NoError(t, err)
	}
	an, err := a.Analyse(t.Context(), d.scope, d.study)
	require.NoError(t, err)
	words := analysis.KnownWords(an)
	for _, w := range []string{"winter", "Quillfen", "tyre", "winterise", "Velotron"} {
		assert.Contains(t, words, w)
	}
	assert.NotContains(t, words, "tyer")
}

// A page of ours gives its text with title and structure; of one that was only read, its reading.
func TestTakingAPageOfOurs(t *testing.T) {
	d := newDesk(t)
	a := d.withPages("<h2>Ice</h2><ul><li>A first item of it</li><li>And a second one</li></ul><p>"+sentence+` <a href="/more">more</a></p>`, "<h2>Ice</h2><p>A page of somebody else, on ice, which says that one rides slowly and looks ahead.</p>")
	require.NoError(t, d.store.SQL().QueryRowContext(t.Context(), "update results set own = true where id = $1 returning id", d.results()[0].ID).Err())
	_, _, err := d.me.AddOwnPages(t.Context(), d.study.PublicationID, []store.OwnPage{{URL: "http://quillfen.example/ice"}})
	require.NoError(t, err)
	own, _, err := d.scope.OwnPages(t.Context(), "", 0, 10)
	require.NoError(t, err)
	require.NoError(t, d.scope.KeepOwn(t.Context(), own[0].ID, &reading.Reading{Title: "Ice at Quillfen", Language: "en", Sections: []reading.Section{{Text: "Opening words.", Lines: "p"}, {Level: 2, Heading: "On ice", Text: sentence, Lines: "p"}}}, map[string]int{"ice": 1}))
	an, err := a.Analyse(t.Context(), d.scope, d.study)
	require.NoError(t, err)
	texts, err := study.OwnTexts(t.Context(), d.scope, an)
	require.NoError(t, err)
	require.Len(t, texts, 2)
	n, err := d.me.TakeOwn(t.Context(), an, texts[0].Of)
	require.NoError(t, err)
	assert.Contains(t, n.HTML(), "<ul><li>A first item of it</li>")
	assert.Contains(t, n.HTML(), `<a href="http://s0.example/more">more</a>`)
	copied := func() int {
		t.Helper()
		head, err := d.scope.DraftHead(t.Context(), d.study.ID)
		require.NoError(t, err)
		m, err := a.Measure(t.Context(), d.scope, an, textOf(t, "# Ice\n\n"+sentence+"\n"), head.Said.Data())
		require.NoError(t, err)
		return m.Copied
	}
	assert.Positive(t, copied(), "what stands on another page of ours earns nothing")
	n, err = d.me.TakeOwn(t.Context(), an, texts[1].Of)
	require.NoError(t, err)
	assert.Equal(t, "Ice at Quillfen", n.Title())
	assert.Contains(t, n.HTML(), "<h2>On ice</h2>")
	assert.Zero(t, copied(), "a page's new text may say what the old one says")
}

// What an editor sends is kept as it may be kept, and within bounds.
func TestSavingADraft(t *testing.T) {
	d := newDesk(t)
	ctx := context.Background()
	_, _, err := d.me.Draft(ctx, d.study.ID)
	require.NoError(t, err)
	save := func(s study.DraftSave) error {
		_, err := d.me.SaveDraft(ctx, d.study.ID, "me", s)
		return err
	}
	insert := func(text string) json.RawMessage {
		return json.RawMessage(`{"stepType":"replace","from":1,"to":1,"slice":{"content":[` + text + `]}}`)
	}
	link := insert(`{"type":"text","text":"a\u0000b","marks":[{"type":"link","attrs":{"href":"javascript:x"}},{"type":"blink"}]}`)
	require.NoError(t, save(study.DraftSave{Client: "a", Steps: []json.RawMessage{link}}))
	_, n, err := d.other.Draft(ctx, d.study.ID)
	require.NoError(t, err)
	assert.Equal(t, "<p>a b</p>\n", n.HTML())
	nasty := insert(`{"type":"text","text":"a\u0000b\ud800c\u000b"}`)
	require.NoError(t, save(study.DraftSave{Version: 1, Client: "a", Steps: []json.RawMessage{nasty}}), "what no database takes")
	now, err := d.scope.Draft(ctx, d.study.ID)
	require.NoError(t, err)
	steps, err := d.scope.Steps(ctx, now, 0)
	require.NoError(t, err)
	assert.JSONEq(t, string(insert(`{"type":"text","text":"a b"}`)), string(steps[0].Step), "others receive it as it was checked")
	assert.JSONEq(t, string(insert(`{"type":"text","text":"a b\ufffdc "}`)), string(steps[1].Step), "each sign in its place")
	assert.ErrorIs(t, save(study.DraftSave{Client: "b", Steps: []json.RawMessage{link}}), store.ErrBehind)
	many := make([]json.RawMessage, 5001)
	for i := range many {
		many[i] = link
	}
	for name, bad := range map[string]study.DraftSave{
		"many steps": {Version: 2, Client: "a", Steps: many}, "a long name": {Version: 2, Client: strings.Repeat("x", 65), Steps: []json.RawMessage{link}},
		"a long step": {Version: 2, Client: "a", Steps: []json.RawMessage{json.RawMessage(`"` + strings.Repeat("x", 3<<20) + `"`)}},
	} {
		assert.ErrorIs(t, save(bad), study.ErrDraft, name)
	}
	// What leads to no draft reaches nobody.
	for _, bad := range []string{`{}`, `[]`, `{"stepType":"replace","from":-1,"to":0}`, `{"stepType":"replace","from":0,"to":900}`, `{"stepType":"replace","from":2,"to":1}`, `{"stepType":"replace","from":0,"to":1}`,
		`{"stepType":"replace","from":0,"to":0,"slice":{"content":[{"type":"iframe"}]}}`, `{"stepType":"replace","from":1,"to":1,"slice":{"content":[{"type":"paragraph"}]}}`,
		`{"stepType":"replace","from":0,"to":0,"slice":{"content":[null]}}`, `{"stepType":"replace","from":0,"to":0,"slice":{"content":[{"type":"paragraph"}],"openStart":5}}`,
		`{"stepType":"replace","from":0,"to":0,"slice":{"content":[{"type":"text","text":"beside"}]}}`, `{"stepType":"replace","from":0,"to":0,"slice":{"content":[{"type":"bullet_list"}]}}`,
		`{"stepType":"replace","from":0,"to":0,"slice":{"content":[{"type":"bullet_list","content":[{"type":"list_item","content":[{"type":"horizontal_rule"}]}]}]}}`,
		`{"stepType":"attr","pos":0,"attr":"onclick","value":"x"}`, `{"stepType":"attr","pos":1,"attr":"level","value":1}`, `{"stepType":"docAttr","attr":"title","value":{}}`,
		`{"stepType":"addMark","from":1,"to":2,"mark":{"type":"link","attrs":{"href":"javascript:x"}}}`, `{"stepType":"addMark","from":1,"to":2}`, `{"stepType":"addNodeMark","pos":0,"mark":{"type":"em"}}`,
		`{"stepType":"replaceAround","from":0,"to":4,"gapFrom":1,"gapTo":900,"insert":0}`, `{"stepType":"markSet","steps":[{"stepType":"replace","from":0,"to":1}]}`} {
		assert.ErrorIs(t, save(study.DraftSave{Version: 2, Client: "a", Steps: []json.RawMessage{json.RawMessage(bad)}}), study.ErrDraft, bad)
	}
	title := json.RawMessage(`{"stepType":"docAttr","attr":"title","value":"A\u0000B"}`)
	require.NoError(t, save(study.DraftSave{Version: 2, Client: "a", Steps: []json.RawMessage{title}}))
	now, err = d.scope.Draft(ctx, d.study.ID)
	require.NoError(t, err)
	steps, err = d.scope.Steps(ctx, now, 2)
	require.NoError(t, err)
	assert.JSONEq(t, `{"stepType":"docAttr","attr":"title","value":"A B"}`, string(steps[0].Step))
	assert.ErrorIs(t, d.me.KeepDraft(ctx, d.study.ID, "me", "x", []byte(`{}`)), study.ErrDraft)
}
