-- When people ride, by weekday (0 is Monday). Someone without any row rides at the usual hours.
create table person_hours (
    barn_id      uuid not null,
    person_id    uuid not null,
    weekday      smallint not null check (weekday between 0 and 6),
    from_minute  smallint not null check (from_minute >= 0),
    to_minute    smallint not null check (to_minute <= 1440),
    primary key (barn_id, person_id, weekday, from_minute),
    foreign key (barn_id, person_id) references person,
    check (from_minute < to_minute)
);

-- How many rides a place holds at a time, and when it is open.
create table place_hours (
    barn_id      uuid not null references barn,
    place        text not null check (place in ('round-pen', 'arena', 'outside', 'trail')),
    at_once      smallint not null check (at_once between 0 and 40),
    from_minute  smallint not null check (from_minute >= 0),
    to_minute    smallint not null check (to_minute <= 1440),
    primary key (barn_id, place),
    check (from_minute < to_minute)
);

-- Works that the cattle have in them on a weekday; none where there is no row.
create table cattle_day (
    barn_id  uuid not null references barn,
    weekday  smallint not null check (weekday between 0 and 6),
    works    smallint not null check (works between 0 and 500),
    primary key (barn_id, weekday)
);

-- Rides a week that were agreed on.
alter table horse add column rides_least smallint check (rides_least between 0 and 7);
alter table horse add column rides_most smallint check (rides_most between 0 and 7);
alter table horse add check ((rides_least is null) = (rides_most is null) and (rides_least is null or rides_least <= rides_most));

-- When someone or a horse is not there.
create table away (
    barn_id      uuid not null references barn,
    id           uuid not null,
    person_id    uuid,
    horse_id     uuid,
    day          date not null,
    from_minute  smallint not null check (from_minute >= 0),
    to_minute    smallint not null check (to_minute <= 1440),
    why          text not null check (length(why) between 1 and 80),
    made_by      uuid not null,
    created_at   timestamptz not null default now(),
    primary key (barn_id, id),
    foreign key (barn_id, person_id) references person,
    foreign key (barn_id, horse_id) references horse,
    foreign key (barn_id, made_by) references person,
    check (from_minute < to_minute),
    check ((person_id is null) <> (horse_id is null))
);
create index away_day on away (barn_id, day);

-- The rides of a week, as they are being planned and as they were last published.
create table week_plan (
    barn_id       uuid not null references barn,
    week_start    date not null check (extract(isodow from week_start) = 1),
    version       integer not null default 1,
    draft         jsonb not null,
    published     jsonb,
    published_at  timestamptz,
    made_by       uuid not null,
    updated_at    timestamptz not null default now(),
    primary key (barn_id, week_start),
    foreign key (barn_id, made_by) references person
);

-- The work of the week that a planned ride came from.
alter table ride add column work text check (length(work) between 1 and 120);

-- Private addresses under which someone's or a horse's rides can be read as a calendar. Only the hash of the token is kept.
create table feed (
    barn_id     uuid not null references barn,
    id          uuid not null,
    token_hash  bytea not null unique,
    person_id   uuid,
    horse_id    uuid,
    made_by     uuid not null,
    created_at  timestamptz not null default now(),
    primary key (barn_id, id),
    foreign key (barn_id, person_id) references person,
    foreign key (barn_id, horse_id) references horse,
    foreign key (barn_id, made_by) references person,
    check ((person_id is null) <> (horse_id is null))
);
