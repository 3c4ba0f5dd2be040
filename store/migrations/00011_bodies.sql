-- +goose Up

-- The bytes of captures, once however often a page was captured. They go when no capture needs
-- them any more.
create table bodies (
    digest  bytea primary key,       -- SHA-256 of the bytes before compression
    body    bytea not null,          -- gzip
    size    bigint not null          -- before compression
);
alter table bodies alter column body set storage external; -- it is compressed already
insert into bodies (digest, body, size) select distinct on (digest) digest, body, size from captures order by digest, id;
alter table captures drop column body;
alter table captures add column pruned_at timestamptz; -- when its bytes were given up; what was read of them stays
alter table captures alter column digest drop not null;
alter table captures add constraint captures_have_bodies foreign key (digest) references bodies (digest);
create index captures_by_digest on captures (digest);

-- +goose Down
alter table captures drop constraint captures_have_bodies;
drop index captures_by_digest;
alter table captures add column body bytea;
update captures c set body = b.body from bodies b where b.digest = c.digest;
delete from captures where body is null;
alter table captures alter column body set not null, alter column digest set not null, drop column pruned_at;
drop table bodies;
