-- What was told of a pass can be corrected: like a rep, by whoever read its latest version.
alter table pattern_pass add column version integer not null default 1;
