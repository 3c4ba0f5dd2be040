-- +goose Up
-- What a new gathering takes over: the pages that a person added to the results
-- of the search, or all of them, where a person brought the results.
alter table results add column added boolean not null default false;
alter table gatherings add column brought boolean not null default false;
update results set added = true where own;

-- +goose Down
alter table results drop column added;
alter table gatherings drop column brought;
