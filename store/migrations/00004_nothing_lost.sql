-- +goose Up
-- Whether the search of a gathering has been answered: one that was stopped
-- before that is searched when it goes on.
alter table gatherings add column searched boolean not null default false;
update gatherings g set searched = state in ('fetching', 'done', 'failed') or exists (select 1 from results r where r.gathering_id = g.id);

-- How many worker processes were lost while they had a page, so that one that
-- stops its reader does not stop them all.
alter table results add column losses int not null default 0;
alter table captures add column losses int not null default 0;

alter table studies add column archived_at timestamptz, add column deleted_at timestamptz;

-- One request at a time to a host, whichever process makes it.
create table hosts (
    host       text primary key,
    holder     text not null,
    held_until timestamptz not null,
    free_from  timestamptz not null default now()
);

-- What people did, with what it takes to undo it.
create table changes (
    id             bigserial primary key,
    publication_id bigint not null references publications on delete cascade,
    study_id       bigint not null references studies on delete cascade,
    actor          text not null,
    said           text not null,
    patch          jsonb not null,
    made_at        timestamptz not null default now(),
    undone_at      timestamptz
);
create index changes_by_actor on changes (study_id, actor, id desc);

create index captures_by_address on captures (study_id, url);
create index results_by_capture on results (capture_id);
create index results_by_reading on results (reading_id);
create index studies_by_keyword on studies (publication_id, lower(keyword), language, country);

-- One publication of a name: where two processes began at once, theirs are joined.
update studies s set publication_id = k.keep from publications p
    join (select name, min(id) as keep from publications group by name) k on k.name = p.name
    where s.publication_id = p.id and p.id <> k.keep;
update gatherings x set publication_id = s.publication_id from studies s where s.id = x.study_id and x.publication_id <> s.publication_id;
update captures x set publication_id = s.publication_id from studies s where s.id = x.study_id and x.publication_id <> s.publication_id;
update results x set publication_id = s.publication_id from studies s where s.id = x.study_id and x.publication_id <> s.publication_id;
update briefs x set publication_id = s.publication_id from studies s where s.id = x.study_id and x.publication_id <> s.publication_id;
update brief_revisions x set publication_id = b.publication_id from briefs b where b.id = x.brief_id and x.publication_id <> b.publication_id;
update readings x set publication_id = c.publication_id from captures c where c.id = x.capture_id and x.publication_id <> c.publication_id;
delete from publications p where exists (select 1 from publications k where k.name = p.name and k.id < p.id);
create unique index publications_by_name on publications (name);

-- +goose Down
drop index publications_by_name, studies_by_keyword, results_by_reading, results_by_capture, captures_by_address;
drop table changes, hosts;
alter table studies drop column archived_at, drop column deleted_at;
alter table captures drop column losses;
alter table results drop column losses;
alter table gatherings drop column searched;
