-- +goose Up

-- A study that is gathered again by itself.
alter table studies add column again text not null default '' check (again in ('', 'weekly', 'monthly')),
    add column again_at timestamptz; -- when next
create index studies_by_again on studies (again_at) where again_at is not null;

-- What a gathering moved, as the desk shows it: the best place of a page of the publication's own
-- site (null for none), and how many ranked pages are new, gone, up and down against the gathering
-- before. Known once it has ended.
alter table gatherings add column scheduled boolean not null default false,
    add column place int,
    add column moved jsonb;
create index gatherings_scheduled on gatherings (publication_id, started_at) where scheduled;

-- Briefs that stand on an older gathering: what the newer one asks of them is not settled yet.
alter table briefs add column stands boolean not null generated always as (coalesce(jsonb_exists(choices->'typed', 'basis'), false)) stored;

-- A page that another study of the publication has captured lately need not be fetched again. By
-- hash: addresses are as long as they are.
create index captures_by_url on captures using hash (url);

-- Search in the text of captured pages: what was read of them, heading by heading. Pages with more
-- different words than an index takes are not found by their text.
-- +goose StatementBegin
create function text_of_page(doc jsonb) returns text immutable language sql as $$
    select left(coalesce(doc->>'title', '') || ' ' || coalesce((select string_agg(coalesce(s->>'heading', '') || ' ' || coalesce(s->>'text', ''), ' ')
        from jsonb_array_elements(case jsonb_typeof(doc->'sections') when 'array' then doc->'sections' else '[]' end) s), ''), 400000)
$$;
-- The text once more, since a dump is restored without a path on which our own functions are found.
create function words_of_page(doc jsonb) returns tsvector immutable language plpgsql as $$
begin
    return to_tsvector('simple', left(coalesce(doc->>'title', '') || ' ' || coalesce((select string_agg(coalesce(s->>'heading', '') || ' ' || coalesce(s->>'text', ''), ' ')
        from jsonb_array_elements(case jsonb_typeof(doc->'sections') when 'array' then doc->'sections' else '[]' end) s), ''), 400000));
exception when program_limit_exceeded then
    return ''::tsvector;
end $$;
-- +goose StatementEnd
alter table readings add column words tsvector not null generated always as (words_of_page(document)) stored;
create index readings_by_words on readings using gin (words);

-- +goose Down
drop index readings_by_words;
alter table readings drop column words;
drop function words_of_page;
drop function text_of_page;
drop index captures_by_url;
alter table briefs drop column stands;
drop index gatherings_scheduled;
alter table gatherings drop column moved, drop column place, drop column scheduled;
drop index studies_by_again;
alter table studies drop column again_at, drop column again;
