-- Minutes by gait are columns: all of them are told, or none.
alter table ride add column stand_minutes smallint check (stand_minutes between 0 and 600);
alter table ride add column walk_minutes smallint check (walk_minutes between 0 and 600);
alter table ride add column jog_minutes smallint check (jog_minutes between 0 and 600);
alter table ride add column lope_minutes smallint check (lope_minutes between 0 and 600);
alter table ride add column run_minutes smallint check (run_minutes between 0 and 600);
update ride set
    stand_minutes = coalesce((minutes ->> 'stand')::smallint, 0),
    walk_minutes = coalesce((minutes ->> 'walk')::smallint, 0),
    jog_minutes = coalesce((minutes ->> 'jog')::smallint, 0),
    lope_minutes = coalesce((minutes ->> 'lope')::smallint, 0),
    run_minutes = coalesce((minutes ->> 'run')::smallint, 0)
where minutes is not null;
alter table ride drop column minutes;
alter table ride add check (num_nulls(stand_minutes, walk_minutes, jog_minutes, lope_minutes, run_minutes) in (0, 5));

-- A week's draft is a document that says in which form it is: one that a build cannot read is refused by name.
update week_plan set draft = jsonb_build_object('format', 1, 'rides', draft);
update week_plan set published = jsonb_build_object('format', 1, 'rides', published) where published is not null;

-- A place is where one rides; what comes first in a list has a position.
alter table ride_edit rename column place to position;
alter index ride_edit_ride rename to ride_edit_position;
alter table curriculum_change rename column place to position;
alter index curriculum_change_place rename to curriculum_change_position;

-- What a standing was computed with, and what the horse's record says of its barn.
alter table standing rename column made_with to computed_with;
alter table standing rename column shown to evidence;
