-- Someone signs in with an account; in each barn the account is a person with a role of its own. Before this there was one barn to an
-- address, and the person was the account.
create table account (
    id                uuid primary key default gen_random_uuid(),
    email             text not null check (length(email) between 3 and 254),
    password_hash     text not null,
    -- The key of the one-time codes, where they are asked for at sign-in, and the last time step whose code was used.
    code_key          bytea,
    code_key_offered  bytea,
    code_step         bigint not null default 0,
    -- The barn that it was in last: the next sign-in leads there.
    last_barn_id      uuid references barn
);
create unique index account_email on account (lower(email));

alter table person add column account_id uuid references account;
insert into account (email, password_hash, code_key, code_key_offered, code_step, last_barn_id)
    select email, password_hash, code_key, code_key_offered, code_step, barn_id from person where password_hash is not null;
update person p set account_id = a.id from account a where p.password_hash is not null and lower(a.email) = lower(p.email);
create unique index person_account on person (account_id, barn_id) where account_id is not null;
alter table person drop column password_hash, drop column code_key, drop column code_key_offered, drop column code_step;

-- The same address may be known in several barns.
drop index person_email;
create unique index person_email on person (barn_id, lower(email));
