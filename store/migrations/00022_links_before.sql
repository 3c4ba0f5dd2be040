-- +goose Up

-- What a link showed before it was handed over again, so that it can show it again.
alter table share_links add column before bytea, add column before_revision integer;

-- +goose Down
alter table share_links drop column before, drop column before_revision;
