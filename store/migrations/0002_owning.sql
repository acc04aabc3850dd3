-- What a barn makes of the curriculum: each change with the day from which it holds, for the whole barn or for one horse.
create table curriculum_change (
    barn_id     uuid not null references barn,
    id          uuid not null,
    place       bigint generated always as identity,
    horse_id    uuid,
    holds_on    date not null,
    body        jsonb not null,
    made_by     uuid not null,
    created_at  timestamptz not null default now(),
    primary key (barn_id, id),
    foreign key (barn_id, horse_id) references horse,
    foreign key (barn_id, made_by) references person
);
create index curriculum_change_place on curriculum_change (barn_id, place);

-- Counts the changes, so that what was made from an older curriculum is known to be old.
alter table barn add column curriculum_revision bigint not null default 0;

-- A trainer's call against the record's, with the reason.
create table overrule (
    barn_id     uuid not null,
    id          uuid not null,
    horse_id    uuid not null,
    step        text not null,
    was         text not null check (was in ('advance', 'hold', 'back')),
    made        text not null check (made in ('advance', 'hold', 'back')),
    reason      text not null check (length(reason) between 1 and 500),
    made_on     date not null,
    made_by     uuid not null,
    created_at  timestamptz not null default now(),
    primary key (barn_id, id),
    foreign key (barn_id, horse_id) references horse,
    foreign key (barn_id, made_by) references person
);
create index overrule_horse on overrule (barn_id, horse_id, made_on, created_at);

-- What someone found who looked at a horse.
create table finding (
    barn_id     uuid not null,
    id          uuid not null,
    horse_id    uuid not null,
    found_on    date not null,
    looked      text not null check (length(looked) between 1 and 80),
    found       text not null check (length(found) between 1 and 1000),
    made_by     uuid not null,
    created_at  timestamptz not null default now(),
    primary key (barn_id, id),
    foreign key (barn_id, horse_id) references horse,
    foreign key (barn_id, made_by) references person
);
create index finding_horse on finding (barn_id, horse_id, found_on);

-- What was counted in a set of a rung that is not counted in reps.
alter table ride_set add column count jsonb;

-- What stood around a ride, for the faults that hang on it.
alter table ride add column bit text check (length(bit) between 1 and 40);
alter table ride add column hot boolean;

-- What a horse's record says of its barn: kept with what was computed from it.
alter table standing add column shown jsonb;
