-- A ride in the two-rein: the share on the bridle rein as it moved (cavesson_core::tack::ShareMove), with who asked.
create table shared_ride (
    barn_id   uuid not null references barn,
    ride_id   uuid not null,
    seconds   integer not null check (seconds between 1 and 86400),
    begins    smallint not null check (begins between 0 and 100),
    moves     jsonb not null,
    version   integer not null default 1,
    primary key (barn_id, ride_id),
    foreign key (barn_id, ride_id) references ride on delete cascade
);
