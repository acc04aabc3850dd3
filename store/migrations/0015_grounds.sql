-- The barn's own places to ride, each of a kind, with what is underfoot and how large it is.
create table ground (
    barn_id      uuid not null references barn,
    id           uuid not null,
    name         text not null check (length(name) between 1 and 60),
    place        text not null check (place in ('round-pen', 'arena', 'outside', 'trail')),
    surface      text not null check (surface in ('sand', 'dirt', 'grass', 'hard')),
    -- Centimetres; a round pen is as long as it is wide.
    length_cm    integer check (length_cm between 300 and 10000000),
    width_cm     integer check (width_cm between 300 and 10000000),
    archived_at  timestamptz,
    version      integer not null default 1,
    created_at   timestamptz not null default now(),
    primary key (barn_id, id),
    check ((length_cm is null) = (width_cm is null))
);
create unique index ground_name on ground (barn_id, lower(name)) where archived_at is null;

alter table ride add column ground_id uuid;
alter table ride add foreign key (barn_id, ground_id) references ground;
create index ride_ground on ride (barn_id, ground_id) where ground_id is not null;
alter table dropped_ride add column ground_id uuid;
