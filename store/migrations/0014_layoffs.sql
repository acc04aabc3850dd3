-- Time off, and the day on which work begins again. The way back is worked out of these by days.
create table layoff (
    barn_id     uuid not null,
    id          uuid not null,
    horse_id    uuid not null,
    off_since   date not null,
    back_on     date not null check (back_on > off_since),
    why         text not null check (why in ('rest', 'injury', 'sickness')),
    vet_agrees  boolean not null,
    vet_said    text not null default '' check (length(vet_said) <= 500),
    ended_at    timestamptz,
    version     integer not null default 1,
    made_by     uuid not null,
    created_at  timestamptz not null default now(),
    primary key (barn_id, id),
    foreign key (barn_id, horse_id) references horse,
    foreign key (barn_id, made_by) references person
);
create index layoff_horse on layoff (barn_id, horse_id, off_since);
