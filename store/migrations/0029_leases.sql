-- Of several servers one computes ahead for a barn. A lease that its server did not give back ends by itself.
create table ahead_lease (
    barn_id  uuid primary key references barn on delete cascade,
    until    timestamptz not null
);
