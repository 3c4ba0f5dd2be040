-- +goose Up

-- Evidence as it was computed, so that a program that starts anew, or another one beside it, need
-- not count every word again. All of it can be made anew at any time. basis is a digest of what it
-- was computed from but for the pages, digest of that and the pages; both name the program, too,
-- since another build may find other things.
create table evidence (
    gathering_id bigint not null references gatherings on delete cascade,
    publication_id bigint not null references publications on delete cascade,
    digest bytea not null,
    basis bytea not null,
    took bigint not null, -- ns to make it
    body bytea not null,
    made_at timestamptz not null default clock_timestamp(),
    primary key (gathering_id, digest)
);
create index evidence_by_age on evidence (made_at);

-- +goose Down
drop table evidence;
