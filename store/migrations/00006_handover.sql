-- +goose Up

-- Who made a brief as it is, and how it came to be so.
alter table briefs add column actor text not null default '', add column said text not null default '';
alter table brief_revisions add column actor text not null default '', add column said text not null default '';
-- The time of a kept state was that of its end; it becomes that of its beginning.
update brief_revisions r set made_at = coalesce((select p.made_at from brief_revisions p where p.brief_id = r.brief_id and p.revision = r.revision - 1),
                                                (select s.created_at from briefs b join studies s on s.id = b.study_id where b.id = r.brief_id));

-- Who answers for a brief and when it is due stands in the brief.
alter table studies drop column owner, drop column due;

-- What a publication says for all its briefs.
alter table publications add column settings jsonb not null default '{}';

-- A link to one brief for somebody without an account. The link itself is not kept, but its
-- digest; nothing else can be reached by it.
create table share_links (
    id             bigserial primary key,
    publication_id bigint not null references publications on delete cascade,
    study_id       bigint not null references studies on delete cascade,
    digest         bytea not null unique,
    name           text not null,
    remarks        boolean not null,
    password       text not null default '',
    expires_at     timestamptz,
    revoked_at     timestamptz,
    opened_at      timestamptz,
    opened         int not null default 0,
    wrong          int not null default 0,
    wrong_at       timestamptz,
    made_at        timestamptz not null default now()
);
create index share_links_by_study on share_links (study_id, id desc);

-- What those who came by a link say of a line, and what they have done.
create table remarks (
    id             bigserial primary key,
    publication_id bigint not null references publications on delete cascade,
    study_id       bigint not null references studies on delete cascade,
    link_id        bigint references share_links on delete set null, -- null for one of ours
    answers        bigint references remarks on delete cascade,
    line           text not null,
    said_of        text not null,
    author         text not null,
    body           text not null,
    made_at        timestamptz not null default now(),
    settled_at     timestamptz
);
create index remarks_by_study on remarks (study_id, id);

create table ticks (
    publication_id bigint not null references publications on delete cascade,
    study_id       bigint not null references studies on delete cascade,
    line           text not null,
    made_at        timestamptz not null default now(),
    primary key (study_id, line)
);

-- Pages of the publication itself.
create table own_pages (
    id             bigserial primary key,
    publication_id bigint not null references publications on delete cascade,
    url            text not null,
    title          text not null default '',
    changed        text not null default '',
    state          text not null check (state in ('waiting', 'read', 'failed')),
    failure        text not null default '',
    language       text not null default '',
    engine         int not null default 0,
    document       jsonb,
    stems          jsonb, -- of its text, with their counts, to find those worth a look
    read_at        timestamptz,
    unique (publication_id, url)
);
create index own_pages_waiting on own_pages (publication_id, id) where state = 'waiting';

-- +goose Down
alter table studies add column owner text not null default '', add column due date;
drop table own_pages, ticks, remarks, share_links;
alter table publications drop column settings;
alter table brief_revisions drop column actor, drop column said;
alter table briefs drop column actor, drop column said;
