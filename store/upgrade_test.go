package store_test

import (
	"database/sql"
	"encoding/json"
	"testing"

	"corpulan/core/brief"
	"corpulan/core/message"
	"corpulan/store/migrations"
	"corpulan/store/storetest"

	"github.com/pressly/goose/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// atRelease is a database as a release made it, and what brings it on.
func atRelease(t *testing.T, version int64) (*sql.DB, *goose.Provider) {
	t.Helper()
	db, err := sql.Open("pgx", storetest.Empty(t))
	require.NoError(t, err)
	t.Cleanup(func() { _ = db.Close() })
	p, err := migrations.Provider(db)
	require.NoError(t, err)
	_, err = p.UpTo(t.Context(), version)
	require.NoError(t, err)
	return db, p
}

// What a database of the release before says in English sentences is said in messages after it,
// which say the same; and again in sentences where one goes back.
func TestSentencesBecomeMessages(t *testing.T) {
	ctx := t.Context()
	db, p := atRelease(t, 14)
	for _, q := range []string{
		`insert into publications (name, settings) values ('Quillfen Cycles', '{"templates": [{"about": "saved from “bar mitts”"}], "stages": {"why": 3}}')`,
		`insert into studies (publication_id, keyword, language, country, depth) values (1, 'winter', 'en', 'gb', 10)`,
		`insert into gatherings (publication_id, study_id, state, failure) values (1, 1, 'failed', 'The search engine has no results for “winter 100 %”.')`,
		`insert into results (publication_id, study_id, gathering_id, rank, url, host, state, reason, failure) values
			(1, 1, 1, 1, 'a', 'a', 'read', 'Hardly any text (12 words)', ''), (1, 1, 1, 2, 'b', 'b', 'failed', 'Our rival''s', 'The site answers with an error (500).'), (1, 1, 1, 3, 'c', 'c', 'read', '["ours"]', '')`,
		`insert into changes (publication_id, study_id, actor, said, patch) values
			(1, 1, 'x', 'Taken back: Dropped: Hardly any text (x)', '{"results": [{"before": {"Reason": "", "Kept": true, "ID": 9007199254740993}, "after": {"Reason": "Nearly the same text as rank 3", "Failure": ""}}], "brief": [{"key": "notes", "after": "Dropped: x"}]}'),
			(1, 1, 'x', 'Kind of page: guide', '{}'), (1, 1, 'x', 'Nothing we know', '{}'), (1, 1, 'x', '2 of 3 addresses added. The others are in the list already.', '{}')`,
	} {
		_, err := db.ExecContext(ctx, q)
		require.NoError(t, err, q)
	}
	column := func(query string) (list []string) {
		rows, err := db.QueryContext(ctx, query)
		require.NoError(t, err)
		defer rows.Close()
		for rows.Next() {
			var s string
			require.NoError(t, rows.Scan(&s))
			list = append(list, s)
		}
		require.NoError(t, rows.Err())
		return list
	}
	queries := []string{`select said from changes order by id`, `select reason from results order by id`, `select failure from results order by id`, `select failure from gatherings`, `select patch::text from changes order by id`, `select settings::text from publications`}
	var before [][]string
	for _, q := range queries {
		before = append(before, column(q))
	}
	_, err := p.UpTo(ctx, 15)
	require.NoError(t, err)
	for i, q := range queries[:4] {
		for n, s := range column(q) {
			assert.Equal(t, before[i][n], message.Kept(s).Message().String())
		}
	}
	said := column(queries[0])
	for n, want := range []message.Message{
		message.Of("Taken back: %v", message.Of("Dropped: %v", message.Text("Hardly any text (x)"))), // a text that only looks like one of ours
		message.Of("Kind of page: %v", message.Message("guide")), "Nothing we know",
		message.Joined(" ", message.Of("%d of %d addresses added.", 2, 3), "The others are in the list already."),
	} {
		assert.Equal(t, want, message.Message(said[n]))
	}
	var patch struct {
		Results []struct{ Before, After struct{ Reason message.Kept } }
		Brief   []struct{ After string }
	}
	first := column(queries[4])[0]
	require.NoError(t, json.Unmarshal([]byte(first), &patch))
	assert.Equal(t, message.Of("Nearly the same text as rank %d", 3).Keep(), patch.Results[0].After.Reason)
	assert.Equal(t, "Dropped: x", patch.Brief[0].After, "what a person typed")
	assert.Contains(t, first, "9007199254740993", "numbers stay whole")
	assert.Contains(t, column(queries[5])[0], `[\"saved from “%s”\",\"bar mitts\"]`)

	_, err = p.DownTo(ctx, 14)
	require.NoError(t, err)
	for i, q := range queries {
		assert.Equal(t, before[i], column(q))
	}
}

// The choices of a database of the release before are the same after it, place by place, and edits
// that were made before can be undone; and they are as they were where one goes back.
func TestChoicesBecomeValues(t *testing.T) {
	ctx := t.Context()
	db, p := atRelease(t, 15)
	cutting, err := json.Marshal(brief.Cutting{ID: "c1", Kind: "passage", Text: "Studs “grip”", URL: "http://a.example/", Rank: 2, Date: "2026-11-20"})
	require.NoError(t, err)
	basis, err := json.Marshal(brief.Basis{Gathering: 9007199254740993, Gathered: "2026-11-20", Fields: map[string]string{"h1": "Winter"}, Headings: map[string]string{"heading:a": "A"}, Outline: true})
	require.NoError(t, err)
	places := map[string]string{
		"owner": "Wren", "due": "2026-12-24", "status": "approved", "title_tag": "", "heading:studs ice": "Studs: or not?", "words:studs ice": "1,200", "point:p1": "They grip.",
		"at:question:is it legal": "studs ice", "at:term:studded tyre": "own:x y", "outline": "2 studs ice\n3 own:x y\n", "parts": "outline\n-terms\nown:1\n",
		"part:1": "Ask first", "part_title:1": "Approvals", "cuttings": "c1\nc2", "cutting:c1": string(cutting), "cutting_note:c1": "use it", "cutting_at:c1": "studs ice", "basis": string(basis),
	}
	old, err := json.Marshal(map[string]any{"marks": []brief.Mark{{Kind: brief.TermKind, Key: "stud tyre", Text: "studded tyre", State: brief.Adopted}}, "typed": places,
		"notes": map[string]string{"studs ice": "Name the law"}, "made": map[string][]string{"term:stud tyre": {"stud tyre"}}})
	require.NoError(t, err)
	for _, q := range []string{
		`insert into publications (name) values ('Quillfen Cycles')`,
		`insert into studies (publication_id, keyword, language, country, depth) values (1, 'winter', 'en', 'gb', 10), (1, 'rain', 'en', 'gb', 10)`,
		`insert into briefs (publication_id, study_id, choices) values (1, 2, '{"marks": null, "typed": null, "notes": null}')`,
	} {
		_, err := db.ExecContext(ctx, q)
		require.NoError(t, err, q)
	}
	_, err = db.ExecContext(ctx, `insert into briefs (publication_id, study_id, choices) values (1, 1, $1)`, string(old))
	require.NoError(t, err)
	_, err = db.ExecContext(ctx, `insert into brief_revisions (publication_id, brief_id, revision, choices) values (1, 1, 1, $1)`, string(old))
	require.NoError(t, err)
	read := func(query string) (doc string, stands bool) {
		require.NoError(t, db.QueryRowContext(ctx, query).Scan(&doc, &stands))
		return doc, stands
	}
	const one, none = `select choices::text, stands from briefs where study_id = 1`, `select choices::text, stands from briefs where study_id = 2`
	wasOne, _ := read(one)
	_, err = p.UpTo(ctx, 16)
	require.NoError(t, err)

	doc, stands := read(one)
	assert.True(t, stands)
	var c brief.Choices
	require.NoError(t, json.Unmarshal([]byte(doc), &c))
	for name, text := range places {
		if assert.NotNil(t, c.TypedIn(name), name) {
			assert.Equal(t, text, *c.TypedIn(name), name)
		}
		e := brief.Edit{Key: name, Before: nil, After: &text}
		assert.NoError(t, c.Apply(e.Reversed()), name)
		assert.Nil(t, c.TypedIn(name), name)
	}
	assert.Equal(t, "Name the law", *c.TypedIn("note:studs ice"))
	assert.Equal(t, brief.Adopted, c.State(brief.TermKind, "stud tyre"))
	kept, _ := read(`select choices::text, true from brief_revisions`)
	assert.JSONEq(t, doc, kept)
	empty, stands := read(none)
	assert.False(t, stands)
	var nothing brief.Choices
	require.NoError(t, json.Unmarshal([]byte(empty), &nothing))
	assert.Nil(t, nothing.Outline)
	var owner string
	require.NoError(t, db.QueryRowContext(ctx, `select owner || ' ' || stage from briefs where study_id = 1`).Scan(&owner))
	assert.Equal(t, "Wren approved", owner)

	_, err = p.DownTo(ctx, 15)
	require.NoError(t, err)
	doc, stands = read(one)
	assert.True(t, stands)
	var was, is map[string]any
	require.NoError(t, json.Unmarshal([]byte(wasOne), &was))
	require.NoError(t, json.Unmarshal([]byte(doc), &is))
	for _, name := range []string{"cutting:c1", "basis"} { // the database has its own order of names
		assert.JSONEq(t, was["typed"].(map[string]any)[name].(string), is["typed"].(map[string]any)[name].(string))
		delete(was["typed"].(map[string]any), name)
		delete(is["typed"].(map[string]any), name)
	}
	assert.Equal(t, was, is)
}

// Documents come, and how things stood goes again: a release before reads what is left.
func TestDocumentsComeAndGo(t *testing.T) {
	ctx := t.Context()
	db, p := atRelease(t, 16)
	exec := func(query string, args ...any) {
		t.Helper()
		_, err := db.ExecContext(ctx, query, args...)
		require.NoError(t, err, query)
	}
	exec(`insert into publications (name) values ('A')`)
	exec(`insert into studies (publication_id, keyword, language, country, depth) values (1, 'k', 'en', 'gb', 10)`)
	exec(`insert into people (email, name, password) values ('a@a.example', 'A', ''), ('b@a.example', 'B', '')`)
	exec(`insert into identities (issuer, subject, person_id) values ('i', 's', 1)`)
	_, err := p.UpTo(ctx, 17)
	require.NoError(t, err)
	var proven string
	require.NoError(t, db.QueryRowContext(ctx, `select string_agg(email, ' ') from people where proven_at is not null`).Scan(&proven))
	assert.Equal(t, "a@a.example", proven, "whom an issuer signs in")

	heading := "Ice"
	var c brief.Choices
	c.Sections = map[string]brief.SectionBy{"ice": {Heading: &heading, Stood: &brief.Stood{Heading: "On ice", Words: 100}}, "snow": {Stood: &brief.Stood{Heading: "Snow"}}}
	c.Stands = &brief.Basis{Gathering: 3, Fields: map[string]string{"h1": "X"}, Terms: []brief.StoodTerm{{Key: "tyre"}}, Findings: map[brief.Kind][]brief.StoodFinding{brief.TermKind: {{Key: "tyre", Text: "tyres"}}}}
	kept, err := json.Marshal(c)
	require.NoError(t, err)
	exec(`insert into briefs (publication_id, study_id, choices) values (1, 1, $1)`, string(kept))
	exec(`insert into brief_revisions (publication_id, brief_id, revision, choices) values (1, 1, 1, $1), (1, 1, 2, '{"marks": null, "typed": null}')`, string(kept))
	exec(`insert into brief_documents (brief_id, revision, publication_id, body) values (1, 1, 1, 'x')`)
	_, err = p.DownTo(ctx, 16)
	require.NoError(t, err)
	for _, table := range []string{"briefs", "brief_revisions"} {
		var doc string
		require.NoError(t, db.QueryRowContext(ctx, `select choices::text from `+table+` order by id limit 1`).Scan(&doc))
		var was brief.Choices
		require.NoError(t, json.Unmarshal([]byte(doc), &was))
		assert.Equal(t, "Ice", *was.Sections["ice"].Heading, table)
		assert.NotContains(t, doc, "stood", table)
		assert.Equal(t, "X", was.Stands.Fields["h1"], table)
		assert.Nil(t, was.Stands.Terms, table)
		assert.Nil(t, was.Stands.Findings, table)
	}
	_, err = p.DownTo(ctx, 15)
	require.NoError(t, err)
	_, err = p.Up(ctx)
	require.NoError(t, err)
}
