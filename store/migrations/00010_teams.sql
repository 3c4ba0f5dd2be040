-- +goose Up

-- Who did it, beside the browser it was done in: what is undone is what the same browser of the
-- same person did, and others see the name.
alter table changes add column person_id bigint references people on delete set null;
alter table plan_changes add column person_id bigint references people on delete set null;
alter table briefs add column person_id bigint references people on delete set null;
alter table brief_revisions add column person_id bigint references people on delete set null;
alter table share_links add column made_by bigint references people on delete set null;

-- +goose Down
alter table share_links drop column made_by;
alter table brief_revisions drop column person_id;
alter table briefs drop column person_id;
alter table plan_changes drop column person_id;
alter table changes drop column person_id;
