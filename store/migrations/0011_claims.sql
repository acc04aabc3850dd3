-- What an earlier trainer or an owner says that a horse knows, and who said it: a claim until the horse shows it.
create table claim (
    barn_id     uuid not null,
    id          uuid not null,
    horse_id    uuid not null,
    step        text not null check (length(step) between 1 and 20),
    said_by     text not null check (length(said_by) between 1 and 80),
    said_on     date not null,
    made_by     uuid not null,
    created_at  timestamptz not null default now(),
    removed_at  timestamptz,
    primary key (barn_id, id),
    foreign key (barn_id, horse_id) references horse,
    foreign key (barn_id, made_by) references person
);
create index claim_horse on claim (barn_id, horse_id, created_at);
