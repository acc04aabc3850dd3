-- What was logged and could not land on its ride: kept whole until a trainer puts it on a ride or discards it. The ride it was meant for
-- need not be there.
create table unplaced (
    barn_id     uuid not null references barn,
    id          uuid not null,
    kind        text not null check (kind in ('rep', 'count')),
    ride_id     uuid not null,
    person_id   uuid not null,
    sent_by     uuid not null,
    body        jsonb not null check (length(body::text) <= 20000),
    why         text not null check (length(why) between 1 and 500),
    created_at  timestamptz not null default now(),
    -- The ride it was put on; none where it was discarded.
    placed_on   uuid,
    settled_by  uuid,
    settled_at  timestamptz,
    primary key (barn_id, id),
    foreign key (barn_id, person_id) references person,
    foreign key (barn_id, sent_by) references person,
    foreign key (barn_id, settled_by) references person
);
create index unplaced_open on unplaced (barn_id, created_at) where settled_at is null;
