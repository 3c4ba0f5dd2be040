-- +goose Up
create table publications (
    id         bigserial primary key,
    name       text not null,
    address    text not null default '',
    created_at timestamptz not null default now()
);

create table studies (
    id             bigserial primary key,
    publication_id bigint not null references publications on delete cascade,
    keyword        text not null check (length(keyword) between 1 and 200),
    language       text not null,
    country        text not null,
    depth          int not null check (depth between 1 and 100),
    owner          text not null default '',
    due            date,
    change         bigint not null default 0,
    created_at     timestamptz not null default now()
);
create index studies_by_publication on studies (publication_id, created_at desc);

create table gatherings (
    id             bigserial primary key,
    publication_id bigint not null references publications on delete cascade,
    study_id       bigint not null references studies on delete cascade,
    state          text not null check (state in ('searching', 'fetching', 'done', 'failed')),
    failure        text not null default '',
    asked          jsonb not null default '[]',
    related        jsonb not null default '[]',
    suggestions    jsonb not null default '[]',
    started_at     timestamptz not null default now(),
    finished_at    timestamptz
);
create index gatherings_by_study on gatherings (study_id, id desc);

create table captures (
    id             bigserial primary key,
    publication_id bigint not null references publications on delete cascade,
    study_id       bigint not null references studies on delete cascade,
    url            text not null,
    final_url      text not null,
    status         int not null,
    headers        jsonb not null default '{}',
    content_type   text not null default '',
    body           bytea not null,
    size           bigint not null,
    digest         bytea not null,
    captured_at    timestamptz not null default now()
);

create table readings (
    id             bigserial primary key,
    publication_id bigint not null references publications on delete cascade,
    capture_id     bigint not null references captures on delete cascade,
    engine         int not null,
    document       jsonb not null,
    unique (capture_id, engine)
);

create table results (
    id             bigserial primary key,
    publication_id bigint not null references publications on delete cascade,
    study_id       bigint not null references studies on delete cascade,
    gathering_id   bigint not null references gatherings on delete cascade,
    rank           int not null,
    url            text not null,
    host           text not null,
    title          text not null default '',
    snippet        text not null default '',
    state          text not null check (state in ('waiting', 'fetching', 'read', 'failed')),
    failure_code   text not null default '',
    failure        text not null default '',
    kept           boolean not null default true,
    reason         text not null default '',
    decided        boolean not null default false,
    capture_id     bigint references captures on delete set null,
    reading_id     bigint references readings on delete set null,
    unique (gathering_id, rank)
);
create index results_by_study on results (study_id);

create table briefs (
    id             bigserial primary key,
    publication_id bigint not null references publications on delete cascade,
    study_id       bigint not null unique references studies on delete cascade,
    revision       int not null default 0,
    choices        jsonb not null default '{}',
    updated_at     timestamptz not null default now()
);

create table brief_revisions (
    id             bigserial primary key,
    publication_id bigint not null references publications on delete cascade,
    brief_id       bigint not null references briefs on delete cascade,
    revision       int not null,
    choices        jsonb not null,
    made_at        timestamptz not null default now(),
    unique (brief_id, revision)
);

-- +goose Down
drop table brief_revisions, briefs, results, readings, captures, gatherings, studies, publications;
