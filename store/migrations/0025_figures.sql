-- Figures, drills and courses that a barn keeps, as the text that was typed.
create table figure (
    barn_id      uuid not null references barn,
    id           uuid not null,
    name         text not null check (length(name) between 1 and 60),
    body         text not null check (length(body) between 1 and 20000),
    archived_at  timestamptz,
    version      integer not null default 1,
    created_at   timestamptz not null default now(),
    primary key (barn_id, id)
);
