-- What a bit or a bosal measures, and how it hangs on its horse: metres and radians (cavesson_core::tack::Measures).
create table gear_measure (
    barn_id      uuid not null references barn,
    gear_id      uuid not null,
    body         jsonb not null,
    measured_on  date not null,
    version      integer not null default 1,
    primary key (barn_id, gear_id),
    foreign key (barn_id, gear_id) references gear
);
