-- What a horse is ridden in. A bit or a bosal says what it does to the mouth, and when that and the teeth were last seen.
create table gear (
    barn_id      uuid not null references barn,
    id           uuid not null,
    horse_id     uuid not null,
    kind         text not null check (kind in ('bit', 'bosal', 'saddle', 'boots', 'protective', 'spurs')),
    name         text not null check (length(name) between 1 and 60),
    mouthpiece   text check (mouthpiece in ('bitless', 'snaffle', 'leverage')),
    since        date not null,
    mouth_seen   date,
    teeth_seen   date,
    note         text not null default '' check (length(note) <= 500),
    archived_at  timestamptz,
    version      integer not null default 1,
    created_at   timestamptz not null default now(),
    primary key (barn_id, id),
    foreign key (barn_id, horse_id) references horse,
    check ((kind in ('bit', 'bosal')) = (mouthpiece is not null))
);
create index gear_horse on gear (barn_id, horse_id);

create table ride_gear (
    barn_id  uuid not null,
    ride_id  uuid not null,
    gear_id  uuid not null,
    primary key (barn_id, ride_id, gear_id),
    foreign key (barn_id, ride_id) references ride on delete cascade,
    foreign key (barn_id, gear_id) references gear
);
create index ride_gear_gear on ride_gear (barn_id, gear_id);

-- What the trainer changed in the plan of a ride, in the order in which it was done.
create table ride_edit (
    barn_id     uuid not null,
    id          uuid not null,
    place       bigint generated always as identity,
    ride_id     uuid not null,
    edit        text not null check (edit in ('swap', 'drop', 'add')),
    step        text not null,
    into_step   text,
    made_by     uuid not null,
    created_at  timestamptz not null default now(),
    primary key (barn_id, id),
    foreign key (barn_id, ride_id) references ride on delete cascade,
    foreign key (barn_id, made_by) references person,
    check ((edit = 'swap') = (into_step is not null))
);
create index ride_edit_ride on ride_edit (barn_id, ride_id, place);

-- Checks before mounting, as they were answered. A check that was answered again keeps its last answer.
create table ride_check (
    barn_id      uuid not null,
    ride_id      uuid not null,
    check_id     text not null check (length(check_id) between 1 and 40),
    side         text not null check (side in ('left', 'right', 'both')),
    answer       text not null check (answer in ('well', 'not', 'overruled')),
    words        text not null default '' check (length(words) <= 500),
    answered_by  uuid not null,
    answered_at  timestamptz not null default now(),
    primary key (barn_id, ride_id, check_id, side),
    foreign key (barn_id, ride_id) references ride on delete cascade,
    foreign key (barn_id, answered_by) references person
);

-- The air of a day as someone typed it in.
create table weather (
    barn_id      uuid not null references barn,
    day          date not null,
    decicelsius  smallint not null check (decicelsius between -400 and 600),
    humidity     smallint not null check (humidity between 0 and 100),
    told_by      uuid not null,
    told_at      timestamptz not null default now(),
    primary key (barn_id, day),
    foreign key (barn_id, told_by) references person
);

-- A barn's own words for rungs in the shorthand.
create table alias (
    barn_id  uuid not null references barn,
    word     text not null check (length(word) between 1 and 30),
    rung     text not null,
    primary key (barn_id, word)
);

-- A ride can be handed over half way: a set knows its rider where that is not the ride's. Which cow, on cattle.
alter table ride_set add column rider_id uuid;
alter table ride_set add constraint ride_set_barn_id_rider_id_fkey foreign key (barn_id, rider_id) references person;
alter table ride_set add column cow text check (length(cow) between 1 and 40);

-- When the ask was, by the device's clock: only the time between asks is read from it.
alter table rep add column asked_at timestamptz;

-- The air and the minutes by gait.
alter table ride add column decicelsius smallint check (decicelsius between -400 and 600);
alter table ride add column humidity smallint check (humidity between 0 and 100);
alter table ride add column minutes jsonb;

-- Who changed what about a set after it was ridden.
create table set_change (
    id         bigint generated always as identity primary key,
    barn_id    uuid not null,
    set_id     uuid not null,
    horse_id   uuid not null,
    person_id  uuid not null,
    at         timestamptz not null default now(),
    before     jsonb not null,
    after      jsonb not null,
    foreign key (barn_id, set_id) references ride_set,
    foreign key (barn_id, horse_id) references horse,
    foreign key (barn_id, person_id) references person
);
create index set_change_horse on set_change (barn_id, horse_id, id desc);
