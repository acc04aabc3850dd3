-- Every row below a barn carries the barn's id in its key, and every foreign key runs through it: the database itself
-- refuses a row of one barn that points into another.

create table barn (
    id          uuid primary key,
    name        text not null check (length(name) between 1 and 80),
    posture     text not null default 'steady' check (posture in ('patient', 'steady', 'go-ahead')),
    units       text not null default 'imperial' check (units in ('imperial', 'metric')),
    time_zone   text not null,
    -- Set on the demo barn alone: the day its rides were last dated for, so that they can be moved along with the calendar.
    demo_day    date,
    version     integer not null default 1,
    created_at  timestamptz not null default now()
);

create table person (
    barn_id        uuid not null references barn,
    id             uuid not null,
    name           text not null check (length(name) between 1 and 80),
    email          text not null check (length(email) between 3 and 254),
    role           text not null check (role in ('trainer', 'assistant', 'owner')),
    password_hash  text,
    archived_at    timestamptz,
    version        integer not null default 1,
    created_at     timestamptz not null default now(),
    primary key (barn_id, id)
);
create unique index person_email on person (lower(email));

-- The cookie holds a random token; only its hash is kept.
create table session (
    token_hash  bytea primary key,
    barn_id     uuid not null,
    person_id   uuid not null,
    csrf        text not null,
    created_at  timestamptz not null default now(),
    expires_at  timestamptz not null,
    foreign key (barn_id, person_id) references person
);
create index session_person on session (barn_id, person_id);

create table sign_in_failure (
    account  text not null,
    at       timestamptz not null default now()
);
create index sign_in_failure_account on sign_in_failure (account, at);

create table horse (
    barn_id         uuid not null references barn,
    id              uuid not null,
    name            text not null check (length(name) between 1 and 60),
    foaled          integer check (foaled between 1980 and 2200),
    sex             text check (sex in ('mare', 'gelding', 'stallion')),
    owner_id        uuid,
    usual_rider_id  uuid,
    posture         text check (posture in ('patient', 'steady', 'go-ahead')),
    note            text not null default '' check (length(note) <= 2000),
    -- Counts the changes to this horse's log; what is computed from the log is kept with the number it was computed at.
    log_revision    bigint not null default 0,
    archived_at     timestamptz,
    version         integer not null default 1,
    created_at      timestamptz not null default now(),
    primary key (barn_id, id),
    foreign key (barn_id, owner_id) references person,
    foreign key (barn_id, usual_rider_id) references person
);

create table ride (
    barn_id     uuid not null references barn,
    id          uuid not null,
    horse_id    uuid not null,
    rider_id    uuid not null,
    ridden_on   date not null,
    starts_at   time,
    place       text not null check (place in ('round-pen', 'arena', 'outside', 'trail')),
    state       text not null check (state in ('planned', 'open', 'closed')),
    entered     text not null check (entered in ('pen', 'afterwards')),
    note        text not null default '' check (length(note) <= 500),
    signs       text[] not null default '{}',
    version     integer not null default 1,
    created_by  uuid not null,
    created_at  timestamptz not null default now(),
    closed_at   timestamptz,
    primary key (barn_id, id),
    foreign key (barn_id, horse_id) references horse,
    foreign key (barn_id, rider_id) references person,
    foreign key (barn_id, created_by) references person
);
create index ride_by_day on ride (barn_id, ridden_on, starts_at);
create index ride_by_horse on ride (barn_id, horse_id, ridden_on desc, id);

create table ride_set (
    barn_id   uuid not null,
    id        uuid not null,
    ride_id   uuid not null,
    position  integer not null,
    rung      text not null,
    gait      text not null,
    side      text not null check (side in ('left', 'right', 'both')),
    primary key (barn_id, id),
    foreign key (barn_id, ride_id) references ride
);
create index ride_set_ride on ride_set (barn_id, ride_id, position);

create table rep (
    barn_id     uuid not null,
    id          uuid not null,
    set_id      uuid not null,
    position    integer not null,
    outcome     text not null check (outcome in ('gave', 'tried', 'none')),
    missing     smallint check (missing in (1, 2)),
    weight      text not null,
    millis      integer check (millis between 0 and 3600000),
    faults      text[] not null default '{}',
    removed_at  timestamptz,
    version     integer not null default 1,
    logged_by   uuid not null,
    created_at  timestamptz not null default now(),
    primary key (barn_id, id),
    foreign key (barn_id, set_id) references ride_set,
    foreign key (barn_id, logged_by) references person,
    check (missing is null or outcome = 'tried')
);
create index rep_set on rep (barn_id, set_id, position);

-- Who changed a logged rep, and from what to what. `after` is null when it was removed.
create table rep_change (
    id         bigint generated always as identity primary key,
    barn_id    uuid not null,
    rep_id     uuid not null,
    horse_id   uuid not null,
    person_id  uuid not null,
    at         timestamptz not null default now(),
    before     jsonb not null,
    after      jsonb,
    foreign key (barn_id, rep_id) references rep,
    foreign key (barn_id, horse_id) references horse,
    foreign key (barn_id, person_id) references person
);
create index rep_change_horse on rep_change (barn_id, horse_id, id desc);

-- What the core computed from a horse's log, good for one revision of the log, one day, one posture and one model.
create table standing (
    barn_id   uuid not null,
    horse_id  uuid not null,
    revision  bigint not null,
    as_of     date not null,
    made_with text not null,
    body      jsonb not null,
    primary key (barn_id, horse_id),
    foreign key (barn_id, horse_id) references horse
);
