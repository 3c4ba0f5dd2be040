-- +goose Up
-- Worker processes that are alive say so here; what a process that went silent
-- was working on is given to another.
create table workers (
    id      text primary key,
    seen_at timestamptz not null
);
alter table gatherings drop constraint gatherings_state_check;
alter table gatherings add constraint gatherings_state_check check (state in ('searching', 'fetching', 'stopped', 'done', 'failed'));
-- Pages of one's own are compared with the field and never counted into it.
alter table results add column own boolean not null default false;

-- +goose Down
alter table results drop column own;
update gatherings set state = 'done' where state = 'stopped';
alter table gatherings drop constraint gatherings_state_check;
alter table gatherings add constraint gatherings_state_check check (state in ('searching', 'fetching', 'done', 'failed'));
drop table workers;
