-- What else stands in the week: farrier, vet, dentist, owner visits, shows, lay-ups.
create table appointment (
    barn_id      uuid not null references barn,
    id           uuid not null,
    kind         text not null check (kind in ('farrier', 'vet', 'dentist', 'owner', 'show', 'lay-up', 'other')),
    title        text not null check (length(title) between 1 and 120),
    day          date not null,
    days         smallint not null default 1 check (days between 1 and 400),
    from_minute  smallint not null check (from_minute >= 0),
    to_minute    smallint not null check (to_minute <= 1440),
    -- The value of an RRULE (RFC 5545) that holds from its day on, and days that it leaves out.
    rule         text check (length(rule) between 1 and 300),
    skipped      date[] not null default '{}',
    -- Steps that a show asks of its horses.
    wants        text[] not null default '{}',
    -- What it is called in the calendar that it came from.
    uid          text check (length(uid) between 1 and 300),
    version      integer not null default 1,
    made_by      uuid not null,
    created_at   timestamptz not null default now(),
    primary key (barn_id, id),
    foreign key (barn_id, made_by) references person,
    check (from_minute < to_minute)
);
create unique index appointment_uid on appointment (barn_id, uid) where uid is not null;
create index appointment_day on appointment (barn_id, day);

-- Whom and which horses it takes.
create table appointment_who (
    barn_id         uuid not null,
    appointment_id  uuid not null,
    person_id       uuid,
    horse_id        uuid,
    foreign key (barn_id, appointment_id) references appointment on delete cascade,
    foreign key (barn_id, person_id) references person,
    foreign key (barn_id, horse_id) references horse,
    check ((person_id is null) <> (horse_id is null))
);
create unique index appointment_who_once on appointment_who (barn_id, appointment_id, coalesce(person_id, horse_id));

-- Why a planned ride was not ridden.
alter table ride add column missed text check (missed in ('time', 'horse', 'rider', 'weather', 'place', 'other'));
alter table ride add check (missed is null or state = 'planned');
