-- +goose Up

-- How many pages a gathering lists, and what became of them, as the desk shows it of every study:
-- counted with each step of the gathering, instead of page by page whenever somebody looks.
alter table gatherings add column listed int not null default 0, add column pages_read int not null default 0,
    add column pages_failed int not null default 0, add column pages_kept int not null default 0;
update gatherings g set listed = n.listed, pages_read = n.pages_read, pages_failed = n.pages_failed, pages_kept = n.pages_kept
from (select gathering_id, count(*) as listed, count(*) filter (where state = 'read') as pages_read, count(*) filter (where state = 'failed') as pages_failed,
             count(*) filter (where state = 'read' and kept and not own) as pages_kept
      from results group by gathering_id) n
where n.gathering_id = g.id;

-- The own services that were named before, so that a change of them can be taken back.
alter table publications add column services_was bytea;

-- +goose Down
alter table publications drop column services_was;
alter table gatherings drop column pages_kept, drop column pages_failed, drop column pages_read, drop column listed;
