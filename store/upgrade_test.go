package store_test

import (
	"database/sql"
	"encoding/json"
	"testing"

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
