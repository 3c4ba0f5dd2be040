package storetest

import (
	"context"

	"github.com/jackc/pgx/v5"
)

// Fill puts a large publication's past into a database: studies with a gathering of fifty pages each,
// their captures of two kilobytes, readings of a hundred words, and briefs somebody has written
// in. It is the publication in which everything else happens.
func Fill(ctx context.Context, url string, studies int) error {
	conn, err := pgx.Connect(ctx, url)
	if err != nil {
		return err
	}
	defer conn.Close(ctx)
	tx, err := conn.Begin(ctx) // in one step: bodies that no capture needs yet would be pruned
	if err != nil {
		return err
	}
	defer tx.Rollback(context.WithoutCancel(ctx)) //nolint:errcheck // nothing after Commit
	for _, sql := range []string{
		`insert into studies (publication_id, keyword, language, country, depth, created_at)
			select (select min(id) from publications), (array['winter', 'rain', 'dark', 'ice', 'long'])[1 + i % 5] || ' ' || i || ' ' || (array['tyres', 'lamps', 'jackets', 'shoes', 'bags', 'locks', 'gloves'])[1 + i % 7], 'en', 'gb', 50, now() - make_interval(hours => i)
			from generate_series(1, $1::int) i`,
		`insert into gatherings (publication_id, study_id, state, searched, finished_at, listed, pages_read, pages_kept) select publication_id, id, 'done', true, now(), 50, 50, 50 from studies where $1::int > 0`,
		`insert into bodies (digest, body, size) select sha256(convert_to(i::text, 'UTF8')), decode(repeat(md5(i::text), 64), 'hex'), 4096 from generate_series(1, 50 * $1::int) i`,
		`insert into captures (publication_id, study_id, url, final_url, status, size, digest) select s.publication_id, s.id, 'http://h' || n || '.example/' || s.id, 'http://h' || n || '.example/' || s.id, 200, 4096, sha256(convert_to((50 * (s.row - 1) + n)::text, 'UTF8'))
			from (select *, row_number() over (order by id) as row from studies) s, generate_series(1, 50) n where $1::int > 0`,
		`insert into readings (publication_id, capture_id, engine, document) select publication_id, id, 1000000, jsonb_build_object('title', 'A page of words', 'sections', jsonb_build_array(jsonb_build_object('heading', '', 'text',
				(select string_agg(substr(md5((c.id * k % 20011)::text), 1, 7), ' ') from generate_series(1, 120) k) || case when c.id % 10 = 0 then ' a glove for the cold' else ' nothing for the cold' end)))
			from captures c where $1::int > 0`,
		`insert into results (publication_id, study_id, gathering_id, rank, url, host, title, snippet, state, kept, capture_id, reading_id)
			select c.publication_id, c.study_id, g.id, row_number() over (partition by c.study_id order by c.id), c.url, split_part(c.url, '/', 3), 'A page on ' || s.keyword, 'It says this and that of ' || s.keyword, 'read', true, c.id, r.id
			from captures c join gatherings g on g.study_id = c.study_id join studies s on s.id = c.study_id join readings r on r.capture_id = c.id where $1::int > 0`,
		`insert into briefs (publication_id, study_id, revision, choices) select publication_id, id, 1, jsonb_build_object('typed', jsonb_build_object('owner', 'Somebody', 'due', to_char(now() + make_interval(days => (id % 400)::int), 'YYYY-MM-DD'), 'notes', repeat('What the writer should know of it. ', 40)))
			from studies where $1::int > 0`,
		`analyze`,
	} {
		args := []any{studies}
		if sql == "analyze" {
			args = nil
		}
		if _, err := tx.Exec(ctx, sql, args...); err != nil {
			return err
		}
	}
	return tx.Commit(ctx)
}

// Pages is how many pages have been read, 0 where the database cannot tell.
func Pages(ctx context.Context, url string) (n int) {
	conn, err := pgx.Connect(ctx, url)
	if err != nil {
		return 0
	}
	defer conn.Close(ctx)
	_ = conn.QueryRow(ctx, `select count(*) from readings`).Scan(&n)
	return n
}
