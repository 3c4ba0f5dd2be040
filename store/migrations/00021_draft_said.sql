-- +goose Up

-- What writers say of a draft: of which page of ours it is the new text, and which questions it answers, or does not.
alter table drafts add column said jsonb not null default '{}';

-- +goose Down
alter table drafts drop column said;
