-- [jooq ignore start]
-- Three letters at a time are indexed, so that text is found by any part of it.
create extension if not exists pg_trgm;

-- Text without case and accents, as people compare it: the same as the core folds it. Plain ASCII takes the short way.
create function weft.fold(text) returns text language sql immutable parallel safe as $$
  select case when octet_length($1) = char_length($1) then lower($1 collate "C") collate "default"
    else lower(regexp_replace(normalize($1, NFD), '[\u0300-\u036f]+', '', 'g')) end
$$;

create index history_deleted on weft.history (table_id, id) where action = 'deleted';
-- [jooq ignore stop]

-- Finds that were given a name, kept with their form.
create table weft.kept_find (
  form_id varchar(80) not null references weft.form (id) on delete cascade,
  name varchar(80) not null,
  asked jsonb not null,
  by varchar(100) not null,
  at timestamp with time zone default current_timestamp not null,
  primary key (form_id, name)
);

-- Who has a table open at a Desk; a seat is one open page.
create table weft.seat (
  id varchar(40) primary key,
  table_id bigint not null references weft.table_def (id) on delete cascade,
  person varchar(100) not null,
  seen_at timestamp with time zone default current_timestamp not null
);
