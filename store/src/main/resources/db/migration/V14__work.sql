-- How keying goes, added up by day, person and field. What was keyed is never in it.
create table weft.work (
  form_id varchar(80) not null references weft.form (id) on delete cascade,
  day date not null,
  person varchar(100) not null,
  -- A column, a rule after a #, or nothing for the entry as a whole.
  about varchar(200) not null,
  what varchar(10) not null,
  -- Of seconds in which of classes that widen, of entries in which hour; else 0.
  class smallint not null,
  times bigint not null,
  primary key (form_id, day, person, about, what, class)
);

-- [jooq ignore start]
create index history_changed on weft.history (table_id, at) where action = 'changed';
create index work_keyed on weft.work (form_id, day) include (class, what, times, person) where what in ('entry', 'again');
-- [jooq ignore stop]

-- The same by month, under its first day, so that years are as quickly told as days.
create table weft.work_month (
  form_id varchar(80) not null references weft.form (id) on delete cascade,
  month date not null,
  person varchar(100) not null,
  about varchar(200) not null,
  what varchar(10) not null,
  class smallint not null,
  times bigint not null,
  primary key (form_id, month, person, about, what, class)
);

-- For how many days that is kept of a form, where its builder says; 0 for not at all.
create table weft.work_kept (
  form_id varchar(80) primary key references weft.form (id) on delete cascade,
  days integer not null
);
