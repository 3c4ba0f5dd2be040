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

-- +goose Down
drop table brief_documents;
-- How sections and lists stood, which the release before knows nothing of.
update briefs set choices = (choices #- '{basis,terms}') #- '{basis,findings}' where choices ? 'basis';
update brief_revisions set choices = (choices #- '{basis,terms}') #- '{basis,findings}' where choices ? 'basis';
update briefs set choices = jsonb_set(choices, '{sections}', (select jsonb_object_agg(key, value - 'stood') from jsonb_each(choices -> 'sections')))
where choices -> 'sections' <> '{}';
update brief_revisions set choices = jsonb_set(choices, '{sections}', (select jsonb_object_agg(key, value - 'stood') from jsonb_each(choices -> 'sections')))
where choices -> 'sections' <> '{}';
