-- Records that went as several were made one, with what they were called by: what each column held, by the column's identity, without
-- case and accents. Who types that still finds the one that stayed.
create table weft.made_one_gone (
  made_one_id bigint not null references weft.made_one (id) on delete cascade,
  gone_id bigint not null,
  record_id bigint not null,
  called jsonb not null,
  primary key (made_one_id, gone_id)
);
create index made_one_gone_record on weft.made_one_gone (gone_id);
-- [jooq ignore start]
create index made_one_gone_called on weft.made_one_gone using gin (called jsonb_path_ops);
-- [jooq ignore stop]
