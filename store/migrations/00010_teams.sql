-- +goose Up

-- Who did it, beside the browser it was done in: what is undone is what the same browser of the
-- same person did, and others see the name.
alter table changes add column person_id bigint references people on delete set null;
alter table plan_changes add column person_id bigint references people on delete set null;
alter table briefs add column person_id bigint references people on delete set null;
alter table brief_revisions add column person_id bigint references people on delete set null;
alter table share_links add column made_by bigint references people on delete set null;

-- A second factor (RFC 6238): the sealed secret, the newest step that was used, and the digests of
-- codes that are good once. The language of the interface, and whether notices come by mail too.
alter table people add column totp bytea,
    add column totp_step bigint not null default 0,
    add column recovery jsonb not null default '[]',
    add column language text not null default '',
    add column mail boolean not null default true;

-- By whom somebody is known at an OpenID Connect issuer.
create table identities (
    issuer    text not null,
    subject   text not null,
    person_id bigint not null references people on delete cascade,
    made_at   timestamptz not null default now(),
    primary key (issuer, subject)
);
create index identities_by_person on identities (person_id);

-- The desk sorts and filters by what was typed in the fronts of briefs.
alter table briefs add column owner text not null generated always as (coalesce(choices->'typed'->>'owner', '')) stored,
    add column writer text not null generated always as (coalesce(choices->'typed'->>'writer', '')) stored,
    add column due text not null generated always as (coalesce(choices->'typed'->>'due', '')) stored,
    add column stage text not null generated always as (coalesce(nullif(choices->'typed'->>'status', ''), case when revision > 0 then 'composed' else 'proposed' end)) stored;
create index briefs_by_due on briefs (publication_id, due) where due <> '';

-- Search over everything. Words as they stand: studies are in many languages. A text of more
-- different words than an index takes is not found, and kept all the same.
-- +goose StatementBegin
create function words_of(doc jsonb) returns tsvector immutable language plpgsql as $$
begin
    return jsonb_to_tsvector('simple', doc, '["string"]');
exception when program_limit_exceeded then
    return ''::tsvector;
end $$;
-- +goose StatementEnd
alter table studies add column words tsvector not null generated always as (to_tsvector('simple', keyword)) stored;
alter table briefs add column words tsvector not null generated always as (words_of(choices)) stored;
alter table drafts add column words_in tsvector not null generated always as (words_of(document)) stored;
alter table results add column words tsvector not null generated always as (to_tsvector('simple', left(title, 1000) || ' ' || left(snippet, 4000))) stored;
alter table own_pages add column words tsvector not null generated always as (to_tsvector('simple', left(title, 1000))) stored;
alter table keywords add column words tsvector not null generated always as (to_tsvector('simple', key)) stored;
alter table slates add column words tsvector not null generated always as (words_of(plan)) stored;
alter table remarks add column words tsvector not null generated always as (to_tsvector('simple', body)) stored;
create index studies_by_words on studies using gin (words);
create index briefs_by_words on briefs using gin (words);
create index drafts_by_words on drafts using gin (words_in);
create index results_by_words on results using gin (words);
create index own_pages_by_words on own_pages using gin (words);
create index keywords_by_words on keywords using gin (words);
create index remarks_by_words on remarks using gin (words);

-- What somebody should know of: once for each matter.
create table notices (
    id             bigserial primary key,
    publication_id bigint not null references publications on delete cascade,
    person_id      bigint not null references people on delete cascade,
    study_id       bigint not null references studies on delete cascade,
    kind           text not null,             -- assigned, remark, approved, due
    ref            text not null default '',  -- which of its kind
    by_name        text not null default '',
    said           text not null default '',
    made_at        timestamptz not null default now(),
    seen_at        timestamptz,
    mailed_at      timestamptz
);
create unique index notices_once on notices (person_id, study_id, kind, ref);
create index notices_unseen on notices (person_id, id desc) where seen_at is null;

-- A publication's own services and their keys, sealed as a whole.
alter table publications add column services bytea;

-- For machines: what opens the interface for programs, and whom to tell of what happens.
create table tokens (
    id             bigserial primary key,
    publication_id bigint not null references publications on delete cascade,
    digest         bytea not null unique,
    name           text not null,
    scopes         jsonb not null default '[]',
    made_by        bigint references people on delete set null,
    made_at        timestamptz not null default now(),
    expires_at     timestamptz,
    used_at        timestamptz,
    revoked_at     timestamptz
);
create index tokens_by_publication on tokens (publication_id, id desc);
create table webhooks (
    id             bigserial primary key,
    publication_id bigint not null references publications on delete cascade,
    address        text not null,
    secret         bytea not null, -- sealed
    events         jsonb not null default '[]',
    made_by        bigint references people on delete set null,
    made_at        timestamptz not null default now(),
    removed_at     timestamptz
);
create index webhooks_by_publication on webhooks (publication_id, id desc);
create table deliveries (
    id             bigserial primary key,
    publication_id bigint not null references publications on delete cascade,
    webhook_id     bigint not null references webhooks on delete cascade,
    event          text not null,
    body           jsonb not null,
    made_at        timestamptz not null default now(),
    delivered_at   timestamptz,
    attempts       int not null default 0,
    status         int not null default 0,
    problem        text not null default '',
    queued_at      timestamptz -- when a worker was asked to deliver it
);
create index deliveries_by_webhook on deliveries (webhook_id, id desc);
create index deliveries_waiting on deliveries (id) where queued_at is null;

-- +goose Down
drop table deliveries, webhooks, tokens, notices;
alter table publications drop column services;
alter table remarks drop column words;
alter table slates drop column words;
alter table keywords drop column words;
alter table own_pages drop column words;
alter table results drop column words;
alter table drafts drop column words_in;
alter table briefs drop column words;
alter table studies drop column words;
drop function words_of;
alter table briefs drop column stage, drop column due, drop column writer, drop column owner;
drop table identities;
alter table people drop column mail, drop column language, drop column recovery, drop column totp_step, drop column totp;
alter table share_links drop column made_by;
alter table brief_revisions drop column person_id;
alter table briefs drop column person_id;
alter table plan_changes drop column person_id;
alter table changes drop column person_id;
