-- +goose Up

-- Evidence as it was computed, so that a program that starts anew, or another one beside it, need
-- not count every word again. All of it can be made anew at any time. basis is a digest of what it
-- was computed from but for the pages, digest of that and the pages; both name the program, too,
-- since another build may find other things.
create table evidence (
    gathering_id bigint not null references gatherings on delete cascade,
    publication_id bigint not null references publications on delete cascade,
    digest bytea not null,
    basis bytea not null,
    took bigint not null, -- ns to make it
    body bytea not null,
    made_at timestamptz not null default clock_timestamp(),
    primary key (gathering_id, digest)
);
create index evidence_by_age on evidence (made_at);

-- How the two newest gatherings of a study that have ended compare, for the desk: the best place
-- of the own site in each, 0 for none, and how the newest moved.
alter table studies add column place int not null default 0, add column place_was int not null default 0,
    add column compared boolean not null default false, add column moved jsonb not null default '{}';
update studies set place = coalesce(two.place[1], 0), place_was = coalesce(two.place[2], 0), compared = coalesce(two.n, 0) > 1, moved = coalesce(two.moved, '{}')
from (select study_id, array_agg(place order by id desc) as place, count(*) as n, (array_agg(moved order by id desc))[1] as moved
      from (select id, study_id, place, moved, row_number() over (partition by study_id order by id desc) as nth from gatherings where state = 'done') g
      where nth <= 2 group by study_id) two
where two.study_id = studies.id;

-- What has been written and stands in no index yet is read through by every search: little of it.
alter index readings_by_words set (gin_pending_list_limit = 256);
alter index results_by_words set (gin_pending_list_limit = 256);

-- +goose Down
alter index results_by_words reset (gin_pending_list_limit);
alter index readings_by_words reset (gin_pending_list_limit);
alter table studies drop column moved, drop column compared, drop column place_was, drop column place;
drop table evidence;
