-- +goose Up

-- Who looked at a study last, at which place of it, and when they last saw its brief or draft: what came since is new to them.
create table looks (
    publication_id bigint not null references publications on delete cascade,
    study_id       bigint not null references studies on delete cascade,
    who            text not null, -- 'person 3', 'link 5'
    name           text not null, -- as others see them
    place          text not null,
    looked_at      timestamptz not null default now(),
    seen_at        timestamptz,
    primary key (study_id, who)
);
-- How far the draft met its brief when it was measured last, 0 to 100.
alter table drafts add column fit int;

-- +goose Down
alter table drafts drop column fit;
drop table looks;
