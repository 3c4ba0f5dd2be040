-- +goose Up

-- People who sign in, and of which publications they are members.
create table people (
    id          bigserial primary key,
    email       text not null,
    name        text not null,
    password    text not null default '', -- argon2id, encoded; empty for none yet
    made_at     timestamptz not null default now(),
    disabled_at timestamptz
);
create unique index people_by_email on people (lower(email));

create table memberships (
    publication_id bigint not null references publications on delete cascade,
    person_id      bigint not null references people on delete cascade,
    role           text not null check (role in ('owner', 'strategist', 'editor', 'reader')),
    made_at        timestamptz not null default now(),
    primary key (publication_id, person_id)
);
create index memberships_by_person on memberships (person_id);

-- Who is signed in where. What the browser keeps is not here, but its digest.
create table sessions (
    id             bigserial primary key,
    digest         bytea not null unique,
    person_id      bigint not null references people on delete cascade,
    publication_id bigint references publications on delete set null, -- the one they are in
    agent          text not null default '',
    made_at        timestamptz not null default now(),
    seen_at        timestamptz not null default now(),
    expires_at     timestamptz not null,
    revoked_at     timestamptz
);
create index sessions_by_person on sessions (person_id, id desc);

-- Links that are good once: to become a member, or to set a new password.
create table tickets (
    digest         bytea primary key,
    email          text not null,
    publication_id bigint references publications on delete cascade, -- null: no new membership
    role           text not null default '',
    made_by        bigint references people on delete set null,      -- null: the one who runs the program
    made_at        timestamptz not null default now(),
    expires_at     timestamptz not null,
    used_at        timestamptz
);

-- Wrong passwords in a row, by who tried them from where.
create table wrong_passwords (
    key      text primary key,
    wrong    int not null,
    wrong_at timestamptz not null
);

alter table publications add column archived_at timestamptz;

-- +goose Down
alter table publications drop column archived_at;
drop table wrong_passwords, tickets, sessions, memberships, people;
