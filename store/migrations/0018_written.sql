-- Texts in shorthand that were stored: the same text sent again is acknowledged, another under its id is refused.
create table written (
    barn_id     uuid not null references barn,
    id          uuid not null,
    digest      bytea not null,
    made_by     uuid not null,
    created_at  timestamptz not null default now(),
    primary key (barn_id, id),
    foreign key (barn_id, made_by) references person
);
