-- Papers that are keyed a second time, beside the records that their first keying made. Until it is settled, the record holds
-- what was keyed first. A record that is removed keeps its line here, for when it is put back.
create table weft.second_keying (
  table_id bigint not null references weft.table_def (id) on delete cascade,
  record_id bigint not null,
  -- The door at which it is keyed again.
  door_id varchar(80) not null,
  -- waiting, differing or settled
  standing varchar(10) not null,
  first_by varchar(100) not null,
  first_at timestamp with time zone default current_timestamp not null,
  -- Who has the paper now, and until when nobody else gets it.
  taken_by varchar(100),
  taken_until timestamp with time zone,
  -- At once: by column, what was keyed where it differed, and whether it was keyed so twice.
  tries jsonb default '{}' not null,
  second_by varchar(100),
  second_at timestamp with time zone,
  -- By column, what was keyed second of those that are compared.
  second jsonb,
  -- By column, what came of it: same, first, second or other.
  outcome jsonb,
  settled_by varchar(100),
  settled_at timestamp with time zone,
  constraint second_keying_pkey primary key (table_id, record_id)
);
create index second_keying_waiting on weft.second_keying (door_id, standing, first_at, record_id);
create index second_keying_standing on weft.second_keying (table_id, standing, record_id);
create index second_keying_taken on weft.second_keying (taken_by, door_id);
-- [jooq ignore start]
-- What was done on some days: history is written in the order of time.
create index history_at on weft.history using brin (at);
-- [jooq ignore stop]
