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

-- +goose Down
drop table identities;
alter table people drop column mail, drop column language, drop column recovery, drop column totp_step, drop column totp;
alter table share_links drop column made_by;
alter table brief_revisions drop column person_id;
alter table briefs drop column person_id;
alter table plan_changes drop column person_id;
alter table changes drop column person_id;
