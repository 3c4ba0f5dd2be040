-- +goose Up

-- Of what happens to an account its person is told too, whatever publication they are in: a notice of
-- that is of no study.
alter table notices alter column publication_id drop not null, alter column study_id drop not null;
alter table notices add column queued_at timestamptz; -- to be mailed
create index notices_of_accounts on notices (id) where study_id is null and queued_at is null;

-- +goose Down
drop index notices_of_accounts;
alter table notices drop column queued_at;
delete from notices where study_id is null;
alter table notices alter column publication_id set not null, alter column study_id set not null;
