-- When a record was entered and by whom stays known while it is removed: rows of a file have no history of their entry.
alter table weft.history add column entered_at timestamp with time zone;
alter table weft.history add column entered_by varchar(100);
-- [jooq ignore start]
create or replace function weft.after_written() returns trigger
language plpgsql security definer set search_path = pg_catalog as $$
declare
  of_table bigint := tg_argv[0];
begin
  if tg_op = 'INSERT' then
    perform weft.count_row(of_table, tg_relid::regclass, new._row);
    insert into weft.history (table_id, record_id, row_no, version, action, by, after)
      values (of_table, new._id, new._row, new._version, 'saved', new._entered_by, weft.values_json(of_table, to_jsonb(new)));
    perform weft.tell(of_table, 'saved', new._id, new._row);
  elsif tg_op = 'UPDATE' then
    if new._version = old._version then return null; end if;
    insert into weft.history (table_id, record_id, row_no, version, action, by, before, after)
      values (of_table, new._id, new._row, new._version, 'changed', new._changed_by,
        weft.values_json(of_table, to_jsonb(old)), weft.values_json(of_table, to_jsonb(new)));
    perform weft.tell(of_table, 'changed', new._id, new._row);
  else
    insert into weft.history (table_id, record_id, row_no, version, action, by, before, entered_at, entered_by)
      values (of_table, old._id, old._row, old._version + 1, 'deleted', weft.who(),
        weft.values_json(of_table, to_jsonb(old)), old._entered_at, old._entered_by);
    insert into weft.free_row (table_id, row_no) values (of_table, old._row);
    perform weft.tell(of_table, 'deleted', old._id, old._row);
  end if;
  return null;
end
$$;

create or replace function weft.before_emptied() returns trigger
language plpgsql security definer set search_path = pg_catalog as $$
declare
  of_table bigint := tg_argv[0];
begin
  execute format(
    'insert into weft.history (table_id, record_id, row_no, version, action, by, before, entered_at, entered_by)'
    ' select $1, r._id, r._row, r._version + 1, ''deleted'', weft.who(), weft.values_json($1, to_jsonb(r)),'
    ' r._entered_at, r._entered_by from %s r',
    tg_relid::regclass) using of_table;
  execute format(
    'insert into weft.free_row (table_id, row_no) select $1, r._row from %s r', tg_relid::regclass) using of_table;
  perform pg_notify('weft', of_table || ' many');
  return null;
end
$$;
-- [jooq ignore stop]
