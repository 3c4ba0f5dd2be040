-- +goose Up

-- What a publication, or one of its studies, has taught about words.
create table lexicon_entries (
    id             bigserial primary key,
    publication_id bigint not null references publications on delete cascade,
    study_id       bigint references studies on delete cascade, -- null for the publication's
    kind           text not null,
    term           text not null,
    other          text not null default '',
    made_at        timestamptz not null default now()
);
create unique index lexicon_entries_once on lexicon_entries (publication_id, coalesce(study_id, 0), kind, term, other);

-- How many of the first ranks lead.
alter table studies add column leaders integer not null default 3;

-- +goose Down
alter table studies drop column leaders;
drop table lexicon_entries;
