-- +goose Up

-- Every state of a brief as the document it was: packed JSON. What a brief says follows from what
-- was decided and from the evidence, and the evidence of then is not kept.
create table brief_documents (
    brief_id bigint not null references briefs on delete cascade,
    revision int not null,
    publication_id bigint not null references publications on delete cascade,
    gathering_id bigint references gatherings on delete set null, -- whose pages it was made of
    body bytea not null,
    primary key (brief_id, revision)
);

-- Wrong passwords of links are counted where all others are.
alter table share_links drop column wrong, drop column wrong_at;

-- When it was made sure that an address is that of whoever has the account: by an issuer, or by who
-- runs the program. Of those of before the ones are known that an issuer signs in.
alter table people add column proven_at timestamptz;
update people set proven_at = now() where id in (select person_id from identities);

-- +goose Down
alter table people drop column proven_at;
alter table share_links add column wrong int not null default 0, add column wrong_at timestamptz;
drop table brief_documents;
-- How sections and lists stood, which the release before knows nothing of.
update briefs set choices = (choices #- '{basis,terms}') #- '{basis,findings}' where choices ? 'basis';
update brief_revisions set choices = (choices #- '{basis,terms}') #- '{basis,findings}' where choices ? 'basis';
update briefs set choices = jsonb_set(choices, '{sections}', (select jsonb_object_agg(key, value - 'stood') from jsonb_each(choices -> 'sections')))
where choices -> 'sections' <> '{}';
update brief_revisions set choices = jsonb_set(choices, '{sections}', (select jsonb_object_agg(key, value - 'stood') from jsonb_each(choices -> 'sections')))
where choices -> 'sections' <> '{}';
