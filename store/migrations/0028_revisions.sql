-- How often what is known of a horse was changed, and at which of these changes each ride was changed last. This is counted up with every
-- rep: in tables of their own PostgreSQL neither copies a wide row for it nor checks all of its rules again.
create table horse_revision (
    barn_id   uuid not null,
    horse_id  uuid not null,
    revision  bigint not null,
    primary key (barn_id, horse_id),
    foreign key (barn_id, horse_id) references horse (barn_id, id) on delete cascade
) with (fillfactor = 50);
insert into horse_revision select barn_id, id, log_revision from horse where log_revision > 0;
alter table horse drop column log_revision;

create table ride_revision (
    barn_id   uuid not null,
    ride_id   uuid not null,
    -- Of the ride, which keeps its horse.
    horse_id  uuid not null,
    revision  bigint not null,
    primary key (barn_id, ride_id),
    foreign key (barn_id, ride_id) references ride (barn_id, id) on delete cascade
);
insert into ride_revision select barn_id, id, horse_id, logged_at from ride where logged_at > 0;
create index ride_revision_changed on ride_revision (barn_id, horse_id, revision);
alter table ride drop column logged_at;

-- A horse's signs are read again with each rep, and few rides have any.
create index ride_with_signs on ride (barn_id, horse_id, ridden_on) where signs <> '{}';
