-- What came of an exercise on a ride (cavesson_core::exercise::ExerciseEvent). Ids and versions are the device's: the higher version
-- stands.
create table exercise_event (
    barn_id  uuid not null references barn,
    id       uuid not null,
    ride_id  uuid not null,
    at       timestamptz not null,
    body     jsonb not null,
    removed  boolean not null default false,
    version  integer not null default 1 check (version >= 1),
    who      uuid not null,
    primary key (barn_id, id),
    foreign key (barn_id, ride_id) references ride on delete cascade,
    foreign key (barn_id, who) references person
);
create index exercise_event_ride on exercise_event (barn_id, ride_id, at);

-- The strides of a horse as they were measured, metres.
create table stride (
    barn_id   uuid not null references barn,
    horse_id  uuid not null,
    walk      double precision check (walk between 0.5 and 6),
    jog       double precision check (jog between 0.5 and 6),
    lope      double precision check (lope between 0.5 and 6),
    version   integer not null check (version >= 1),
    primary key (barn_id, horse_id),
    foreign key (barn_id, horse_id) references horse
);

-- A practice run that is scored, with the parts of its figure as they were then; and the sheet of each who scores it.
create table scored_run (
    barn_id     uuid not null references barn,
    id          uuid not null,
    horse_id    uuid not null,
    day         date not null,
    name        text not null check (length(name) between 1 and 60),
    body        text not null check (length(body) between 1 and 20000),
    manoeuvres  jsonb not null,
    who         uuid not null,
    created_at  timestamptz not null default now(),
    primary key (barn_id, id),
    foreign key (barn_id, horse_id) references horse,
    foreign key (barn_id, who) references person
);
create index scored_run_day on scored_run (barn_id, day desc, created_at desc);
create index scored_run_horse on scored_run (barn_id, horse_id, day desc, created_at desc);

create table score_sheet (
    barn_id    uuid not null references barn,
    run_id     uuid not null,
    person_id  uuid not null,
    marks      jsonb not null,
    done       boolean not null default false,
    version    integer not null check (version >= 1),
    primary key (barn_id, run_id, person_id),
    foreign key (barn_id, run_id) references scored_run on delete cascade,
    foreign key (barn_id, person_id) references person
);
create index score_sheet_person on score_sheet (barn_id, person_id);
