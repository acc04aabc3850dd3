-- What happens with the tack on a ride (cavesson_core::tack::TackEvent): other pieces, the share on the bridle rein, asks of the test for a
-- brace, steps of a first day. Ids and versions are the device's: the higher version stands, whichever comes first.
create table tack_event (
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
create index tack_event_ride on tack_event (barn_id, ride_id, at);

-- Every piece that a ride was ridden in, and from when on: what it began in has no moment.
create view worn as
    select barn_id, ride_id, gear_id, '-infinity'::timestamptz as at from ride_gear
    union all
    select e.barn_id, e.ride_id, piece::uuid, e.at from tack_event e, jsonb_array_elements_text(e.body -> 'gear') piece
    where e.body ->> 'kind' = 'worn' and not e.removed;
