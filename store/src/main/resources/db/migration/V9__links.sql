-- Where a link column leads: the table, the columns by whose values its records are called, in order, and what becomes of a
-- link when its record is removed.
alter table weft.column_def
  add column link_to bigint references weft.table_def (id),
  add column link_shown jsonb,
  add column link_removed varchar(10);
create index column_def_link_to on weft.column_def (link_to) where link_to is not null;
