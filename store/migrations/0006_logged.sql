-- At which revision of its horse's log a ride was last changed: who has read the log before reads only the days changed since.
-- Rides from before this are as old as any log that was read.
alter table ride add column logged_at bigint not null default 0;

-- The steps that a ride's sets worked, as `rung@gait` in order: what looks over months would otherwise read every set of them.
alter table ride add column steps text[] not null default '{}';
update ride r set steps = s.steps
from (select barn_id, ride_id, array_agg(distinct rung || '@' || gait) as steps from ride_set group by barn_id, ride_id) s
where r.barn_id = s.barn_id and r.id = s.ride_id;
