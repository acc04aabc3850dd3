-- Sessions are listed by device and ended one by one. An office session ends after half an hour without use, one on the barn's phone
-- after a month; each ends for good at expires_at.
alter table session
    add column id            uuid not null default gen_random_uuid(),
    add column device        text not null default '' check (length(device) <= 60),
    add column barn_phone    boolean not null default false,
    add column seen_at       timestamptz not null default now(),
    -- When the password was last given on this session; what changes accounts asks for it again.
    add column confirmed_at  timestamptz not null default now();
create unique index session_id on session (id);

alter table person
    -- The key of the one-time codes, where they are asked for at sign-in, and the last time step whose code was used.
    add column code_key          bytea,
    add column code_key_offered  bytea,
    add column code_step         bigint not null default 0;

-- A link by which a person sets their password, once. Only the hash of its token is kept.
create table account_link (
    token_hash  bytea primary key,
    barn_id     uuid not null,
    person_id   uuid not null,
    made_by     uuid,
    created_at  timestamptz not null default now(),
    expires_at  timestamptz not null,
    used_at     timestamptz,
    foreign key (barn_id, person_id) references person,
    foreign key (barn_id, made_by) references person
);
create index account_link_person on account_link (barn_id, person_id);

-- Devices on which an account signed in before: strangers who guess do not hold them up.
create table known_device (
    token_hash  bytea not null,
    barn_id     uuid not null,
    person_id   uuid not null,
    seen_at     timestamptz not null default now(),
    primary key (token_hash, barn_id, person_id),
    foreign key (barn_id, person_id) references person
);

drop table sign_in_failure;
-- An attempt is counted before its password is checked, and taken off the count when it was right.
create table sign_in_attempt (
    id       bigint generated always as identity primary key,
    account  text not null,
    device   bytea,
    address  text,
    at       timestamptz not null default now()
);
create index sign_in_attempt_account on sign_in_attempt (account, at);
create index sign_in_attempt_address on sign_in_attempt (address, at);
create index sign_in_attempt_at on sign_in_attempt (at);

create table security_event (
    barn_id    uuid not null references barn,
    id         bigint generated always as identity,
    at         timestamptz not null default now(),
    what       text not null,
    -- Who did it, where that is known, and whose account it is about.
    person_id  uuid,
    about_id   uuid,
    detail     text not null default '' check (length(detail) <= 200),
    address    text,
    device     text not null default '' check (length(device) <= 60),
    primary key (barn_id, id),
    foreign key (barn_id, person_id) references person,
    foreign key (barn_id, about_id) references person
);
create index security_event_newest on security_event (barn_id, id desc);

-- Horses in work are told apart by name. Two that shared one before this keep it until one is renamed.
alter table horse add column name_repeats boolean not null default false;
update horse h set name_repeats = true where exists (
    select from horse o where o.barn_id = h.barn_id and o.id <> h.id and lower(o.name) = lower(h.name));
create unique index horse_name on horse (barn_id, lower(name)) where archived_at is null and not name_repeats;
