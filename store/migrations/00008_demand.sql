-- +goose Up

-- Lists of keywords of a publication, for one market. What people did to their groups is in
-- plan: it is changed as a whole, and each change is kept to be undone.
create table keyword_lists (
    id             bigserial primary key,
    publication_id bigint not null references publications on delete cascade,
    language       text not null,
    country        text not null,
    width          double precision not null default 0.5,
    plan           jsonb not null default '{}',
    work           jsonb not null default '{}', -- what is being done in the background, and how it ended
    change         bigint not null default 0,   -- rises with every keyword and every result
    created_at     timestamptz not null default now(),
    deleted_at     timestamptz
);
create index keyword_lists_by_publication on keyword_lists (publication_id, id desc);

create table keywords (
    publication_id bigint not null references publications on delete cascade,
    list_id        bigint not null references keyword_lists on delete cascade,
    key            text not null, -- the same for all spellings
    volume         double precision,
    keyword        jsonb not null,
    primary key (list_id, key)
);
create index keywords_by_key on keywords (publication_id, key);

-- A table of which somebody has to say which column is which.
create table keyword_files (
    id             bigserial primary key,
    publication_id bigint not null references publications on delete cascade,
    list_id        bigint not null references keyword_lists on delete cascade,
    name           text not null,
    rows           bytea not null, -- JSON, packed by gzip
    made_at        timestamptz not null default now()
);
create index keyword_files_by_list on keyword_files (list_id, id desc);

-- Results pages that were asked for to compare keywords by, one a query and market.
create table results_pages (
    publication_id bigint not null references publications on delete cascade,
    language       text not null,
    country        text not null,
    key            text not null,
    addresses      jsonb not null,
    offered        jsonb not null default '[]', -- related searches and suggestions
    asked          jsonb not null default '[]',
    made_at        timestamptz not null default now(),
    primary key (publication_id, language, country, key)
);

-- Pages that a publication plans to write.
create table slates (
    id             bigserial primary key,
    publication_id bigint not null references publications on delete cascade,
    list_id        bigint references keyword_lists on delete set null,
    language       text not null,
    country        text not null,
    plan           jsonb not null default '{}',
    created_at     timestamptz not null default now(),
    deleted_at     timestamptz
);
create index slates_by_publication on slates (publication_id, id desc);

-- Studies that were begun for pages of a slate. Apart from the plan: undoing what was done to
-- it does not undo a study.
create table slate_studies (
    publication_id bigint not null references publications on delete cascade,
    slate_id       bigint not null references slates on delete cascade,
    page           text not null,
    study_id       bigint not null references studies on delete cascade,
    primary key (slate_id, page)
);

create table plan_changes (
    id             bigserial primary key,
    publication_id bigint not null references publications on delete cascade,
    list_id        bigint references keyword_lists on delete cascade,
    slate_id       bigint references slates on delete cascade,
    actor          text not null,
    said           text not null,
    before         jsonb not null,
    after          jsonb not null,
    undone         boolean not null default false,
    made_at        timestamptz not null default now()
);
create index plan_changes_by_list on plan_changes (list_id, id desc);
create index plan_changes_by_slate on plan_changes (slate_id, id desc);

-- +goose Down
drop table plan_changes, slate_studies, slates, results_pages, keyword_files, keywords, keyword_lists;
