-- The herd: what is known of each cow (cavesson_core::cattle), and how a barn works its cattle.
create table cow (
    barn_id  uuid not null references barn,
    id       uuid not null,
    tag      text not null check (length(tag) between 1 and 20),
    looks    text not null default '' check (length(looks) <= 200),
    manner   text not null check (manner in ('slow', 'honest', 'bob-and-weave', 'running', 'sour')),
    health   text not null default 'well' check (health in ('well', 'runny-eyes', 'lame', 'hot', 'sick')),
    source   text not null default '' check (length(source) <= 200),
    came_on  date not null,
    left_on  date check (left_on >= came_on),
    note     text not null default '' check (length(note) <= 1000),
    version  integer not null default 1 check (version >= 1),
    primary key (barn_id, id)
);
-- Of the cows that are there, each has a tag of its own.
create unique index cow_tag on cow (barn_id, lower(tag)) where left_on is null;

create table herd_rules (
    barn_id  uuid primary key references barn,
    body     jsonb not null,
    version  integer not null check (version >= 1)
);

-- What happened on cattle on a ride (cavesson_core::cattle::CattleEvent). Ids and versions are the device's: the higher version stands.
create table cattle_event (
    barn_id  uuid not null references barn,
    id       uuid not null,
    ride_id  uuid not null,
    cow_id   uuid,
    at       timestamptz not null,
    body     jsonb not null,
    removed  boolean not null default false,
    version  integer not null default 1 check (version >= 1),
    who      uuid not null,
    primary key (barn_id, id),
    foreign key (barn_id, ride_id) references ride on delete cascade,
    foreign key (barn_id, cow_id) references cow,
    foreign key (barn_id, who) references person
);
create index cattle_event_ride on cattle_event (barn_id, ride_id, at);
create index cattle_event_at on cattle_event (barn_id, at) where not removed;

-- The draw of a day as it was changed by hand: the goes in order, null for a slot that stays empty.
create table cattle_draw (
    barn_id  uuid not null references barn,
    day      date not null,
    goes     jsonb not null,
    version  integer not null check (version >= 1),
    who      uuid not null,
    primary key (barn_id, day),
    foreign key (barn_id, who) references person
);
