-- Planned rides that were taken off their day. A rep logged on one without the network still has to land on it: the ride is put
-- back then, so what is needed to make it again is kept here.
create table dropped_ride (
    barn_id     uuid not null references barn,
    id          uuid not null,
    horse_id    uuid not null,
    rider_id    uuid not null,
    ridden_on   date not null,
    starts_at   time,
    place       text not null,
    entered     text not null,
    note        text not null,
    signs       text[] not null,
    work        text,
    version     integer not null,
    created_by  uuid not null,
    dropped_at  timestamptz not null default now(),
    primary key (barn_id, id),
    foreign key (barn_id, horse_id) references horse,
    foreign key (barn_id, rider_id) references person,
    foreign key (barn_id, created_by) references person
);
