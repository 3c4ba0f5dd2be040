-- +goose Up

-- A table of keywords is kept after it was read, with what became of it, so that a column that was not understood can be named still;
-- and what a person said of the columns of one source is remembered for the next table with that header.
alter table keyword_files add column said text not null default '';
create table known_headers (
    publication_id bigint not null references publications on delete cascade,
    header         text not null, -- its headings, folded
    fields         jsonb not null, -- what each column holds, "" for nothing
    primary key (publication_id, header)
);

-- +goose Down
drop table known_headers;
alter table keyword_files drop column said;
