-- The last transaction that changed something in a barn, so that one look tells whether what was read of it before still holds. Reps are
-- not noted here: each counts up the revision of its horse, and riders of one barn would wait for each other.
create table barn_change (
    barn_id     uuid primary key,
    changed_by  xid8 not null
);

-- Noted at the end of the transaction, after everything else that it locks: so two who write never wait for each other in a ring.
create function note_barn_change() returns trigger language plpgsql as $$
declare
    changed uuid := case when tg_op = 'DELETE' then to_jsonb(old) ->> tg_argv[0] else to_jsonb(new) ->> tg_argv[0] end;
begin
    insert into barn_change as c values (changed, pg_current_xact_id())
    on conflict (barn_id) do update set changed_by = excluded.changed_by where c.changed_by <> excluded.changed_by;
    return null;
end $$;

do $$
declare
    part text;
begin
    create constraint trigger barn_change after insert or update on barn
        deferrable initially deferred for each row execute function note_barn_change('id');
    foreach part in array array[
        'alias', 'appointment', 'appointment_who', 'away', 'cattle_day', 'cattle_draw', 'cattle_event', 'claim', 'cow',
        'curriculum_change', 'dropped_ride', 'exercise_event', 'feed', 'figure', 'finding', 'gear', 'gear_measure', 'ground',
        'herd_rules', 'horse', 'incident', 'layoff', 'overrule', 'pattern_pass', 'pen', 'person', 'person_hours', 'place_hours',
        'ride', 'ride_check', 'ride_edit', 'ride_gear', 'ride_set', 'score_sheet', 'scored_run', 'set_change', 'set_up',
        'shared_ride', 'stride', 'tack_event', 'unplaced', 'weather', 'week_plan', 'written']
    loop
        execute format(
            'create constraint trigger barn_change after insert or update or delete on %I
             deferrable initially deferred for each row execute function note_barn_change(''barn_id'')', part);
    end loop;
end $$;
