-- +goose Up

-- A link shows the brief as it was handed over, until it is handed over again: the document whole, which pages that are kept or set
-- aside later do not change though the revision stays. One without a document shows the brief as it is.
alter table share_links add column document bytea, add column revision int;
-- Whether the dossier, all the evidence, stands behind the brief there.
alter table share_links add column dossier boolean not null default false;

-- +goose Down
alter table share_links drop column document, drop column revision, drop column dossier;
