-- What was counted in a set is logged, corrected and taken out as a rep is: with its faults, the moment by the device's clock, and a
-- version. Who changed it and what it was before stands in set_change.
alter table ride_set
    add column count_faults     text[] not null default '{}',
    add column counted_at       timestamptz,
    add column count_removed_at timestamptz,
    add column count_version    integer not null default 1;
