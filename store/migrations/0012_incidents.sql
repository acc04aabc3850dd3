-- Something that went wrong badly: who rode, what came before, and who may ride since. Nothing here is ever taken out.
create table incident (
    barn_id     uuid not null,
    id          uuid not null,
    horse_id    uuid not null,
    happened_on date not null,
    kind        text not null check (kind in ('bucked', 'bolted', 'reared', 'fell', 'kicked', 'hurt')),
    rider_id    uuid not null,
    before      text not null check (length(before) between 1 and 1000),
    hurt        text not null default '' check (length(hurt) <= 1000),
    may_ride    text not null check (may_ride in ('anyone', 'trainer', 'nobody')),
    made_by     uuid not null,
    created_at  timestamptz not null default now(),
    primary key (barn_id, id),
    foreign key (barn_id, horse_id) references horse,
    foreign key (barn_id, rider_id) references person,
    foreign key (barn_id, made_by) references person
);
create index incident_horse on incident (barn_id, horse_id, happened_on);
