-- +goose Up

-- The writer's text of a study. Its version rises by one with every step of the editor.
create table drafts (
    id             bigserial primary key,
    publication_id bigint not null references publications on delete cascade,
    study_id       bigint not null unique references studies on delete cascade,
    document       jsonb not null,
    version        int not null default 0,
    author         text not null default '', -- who changed it last
    words          int not null default 0,
    changed_at     timestamptz not null default now()
);

-- The steps that led to it, so that whoever writes at the same time, or without a connection,
-- can put theirs on top. Older ones are thrown away.
create table draft_steps (
    draft_id       bigint not null references drafts on delete cascade,
    version        int not null, -- that the draft has after it
    client         text not null,
    step           jsonb not null,
    primary key (draft_id, version)
);

-- What a draft was: kept from time to time, before it is replaced, and when somebody says so.
create table draft_versions (
    id             bigserial primary key,
    publication_id bigint not null references publications on delete cascade,
    draft_id       bigint not null references drafts on delete cascade,
    document       jsonb not null,
    version        int not null,
    author         text not null default '',
    said           text not null default '',
    words          int not null default 0,
    made_at        timestamptz not null default now()
);
create index draft_versions_by_draft on draft_versions (draft_id, id desc);

alter table share_links add column drafts boolean not null default false;

-- +goose Down
alter table share_links drop column drafts;
drop table draft_versions, draft_steps, drafts;
