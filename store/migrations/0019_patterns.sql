-- The pen of a place, drawn once: outline, gate, posts and bad ground, metres (cavesson_core::pattern::Pen).
create table pen (
    barn_id    uuid not null references barn,
    ground_id  uuid not null,
    body       jsonb not null,
    version    integer not null default 1,
    primary key (barn_id, ground_id),
    foreign key (barn_id, ground_id) references ground
);

-- Barrels set up in a pen (cavesson_core::pattern::SetUp), in the pen's axes.
create table set_up (
    barn_id      uuid not null references barn,
    id           uuid not null,
    ground_id    uuid not null,
    name         text not null check (length(name) between 1 and 60),
    body         jsonb not null,
    archived_at  timestamptz,
    version      integer not null default 1,
    created_at   timestamptz not null default now(),
    primary key (barn_id, id),
    foreign key (barn_id, ground_id) references ground
);
create index set_up_ground on set_up (barn_id, ground_id);

-- A pass over a set-up. What it was ridden over is kept with it, since set-ups change.
create table pattern_pass (
    barn_id      uuid not null references barn,
    id           uuid not null,
    horse_id     uuid not null,
    rider_id     uuid not null,
    ride_id      uuid,
    set_up_id    uuid not null,
    passed_on    date not null,
    gait         text not null check (gait in ('walk', 'jog', 'lope', 'run')),
    body         jsonb not null,
    set_up       jsonb not null,
    -- A recorded track laid over the set-up, where there is one.
    track        jsonb,
    removed_at   timestamptz,
    created_at   timestamptz not null default now(),
    primary key (barn_id, id),
    foreign key (barn_id, horse_id) references horse,
    foreign key (barn_id, rider_id) references person,
    foreign key (barn_id, set_up_id) references set_up
);
create index pattern_pass_horse on pattern_pass (barn_id, horse_id, passed_on);
