-- Tables of other schemas can be adopted: a few columns and triggers are added to them, and a view of them in schema records is
-- what Weft reads and writes, in its own types. A view that is adopted is shown only.
alter table weft.table_def add column adopted varchar(200);
alter table weft.table_def add column is_view boolean not null default false;
alter table weft.column_def add column base jsonb;
alter table weft.column_def add column seen varchar(400);
alter table weft.column_def add column shown_only varchar(400);
alter table weft.column_def add column longest integer;

-- [jooq ignore start]

comment on column weft.table_def.adopted is 'Schema and name of the table when it was adopted; null for one of Weft''s own.';
comment on column weft.table_def.is_view is 'Whether it was a view that was adopted.';
comment on column weft.column_def.seen is 'How it comes of them, where an index can be made on that.';
comment on column weft.column_def.base is 'The columns of the adopted table that it stands for.';
comment on column weft.column_def.shown_only is 'Why nobody can type into it.';
comment on column weft.column_def.longest is 'How many characters its text may have.';

-- Where the records of a table are: in a table of Weft's own, or in the one that was adopted, whatever that is called by now.
-- Null when somebody dropped that.
create function weft.relation(of_table bigint) returns regclass language sql stable as $$
  select case when t.adopted is null then to_regclass(format('records.%I', t.name)) else
    (select d.refobjid::regclass
      from pg_depend d
      join pg_rewrite r on r.oid = d.objid and d.classid = 'pg_rewrite'::regclass
      where r.ev_class = to_regclass(format('records.%I', t.name))
        and d.refclassid = 'pg_class'::regclass and d.refobjid <> r.ev_class
      limit 1) end
  from weft.table_def t where t.id = of_table
$$;

-- How many records a view shows now, and the highest row of them: others see to it, and nobody counts them.
create function weft.shown(of_table bigint, out records bigint, out last_row bigint) language plpgsql stable as $$
begin
  execute format('select count(*), coalesce(max(_row), 0) from records.%I', (select t.name from weft.table_def t where t.id = of_table))
    into records, last_row;
end
$$;

-- Before something is written to a view that is shown only.
create function weft.refuse() returns trigger language plpgsql as $$
begin
  raise exception 'These records come of a view. It takes no entries.' using errcode = 'object_not_in_prerequisite_state';
end
$$;

-- Before another program empties an adopted table.
create function weft.adopted_emptied() returns trigger language plpgsql security definer set search_path = pg_catalog as $$
declare
  of_table bigint := tg_argv[0];
begin
  execute format(
    'insert into weft.history (table_id, record_id, row_no, version, action, by, before)'
    ' select $1, r._id, r._row, r._version + 1, ''deleted'', weft.who(), weft.seen_%s(r) from %s r',
    of_table, tg_relid::regclass) using of_table;
  execute format(
    'insert into weft.free_row (table_id, row_no) select $1, r._row from %s r', tg_relid::regclass) using of_table;
  perform pg_notify('weft', of_table || ' many');
  return null;
end
$$;

-- Has an adopted table watched as one of Weft's own is, by functions of its own, whose plans are kept. What is empty there stays as
-- it is written. Weft writes to it through the view, whose trigger is one deep; what is
-- written deeper, such as by a trigger of the table's own or by a foreign key that cascades, is another program's too.
create function weft.watch_adopted(of_table bigint, relation regclass) returns void language plpgsql as $watch$
declare
  others constant text := 'when (current_setting(''application_name'') <> ''weft'' or pg_trigger_depth() <> 1)';
begin
  execute format($make$
    create function weft.before_saved_%1$s() returns trigger language plpgsql security definer
    set search_path = pg_catalog set enable_seqscan = off as $saved$
    declare
      state bigint[] := weft.given(%1$s);
    begin
      perform weft.fit(%1$s, weft.seen_%1$s(new));
      if new._row is not null then
        raise exception 'Row numbers are given by Weft. Leave _row out.' using errcode = 'generated_always';
      end if;
      if state[1] is null or exists (select from %2$s where _row = state[1]) then
        new._row := weft.give_row(%1$s, state);
      else
        new._row := state[1];
      end if;
      new._version := 1;
      new._entered_at := now();
      new._entered_by := weft.who();
      new._changed_at := null;
      new._changed_by := null;
      return new;
    end
    $saved$
    $make$, of_table, relation);
  execute format($make$
    create function weft.changed_%1$s() returns trigger language plpgsql security definer set search_path = pg_catalog as $changed$
    begin
      perform weft.fit(%1$s, weft.seen_%1$s(new));
      if new._id <> old._id or new._row <> old._row then
        raise exception 'The identity and the row of a record stay. Leave _id and _row as they are.'
          using errcode = 'generated_always';
      end if;
      new._version := old._version;
      new._entered_at := old._entered_at;
      new._entered_by := old._entered_by;
      new._changed_at := old._changed_at;
      new._changed_by := old._changed_by;
      -- Not every type can be compared; all can be written.
      if to_jsonb(new) is distinct from to_jsonb(old) then
        new._version := old._version + 1;
        new._changed_at := now();
        new._changed_by := weft.who();
      end if;
      return new;
    end
    $changed$
    $make$, of_table);
  execute format($make$
    create function weft.written_%1$s() returns trigger language plpgsql security definer set search_path = pg_catalog as $written$
    begin
      if tg_op = 'INSERT' then
        perform weft.count_row(%1$s, tg_relid::regclass, new._row);
        insert into weft.history (table_id, record_id, row_no, version, action, by, after)
          values (%1$s, new._id, new._row, new._version, 'saved', new._entered_by, weft.seen_%1$s(new));
        perform weft.tell(%1$s, 'saved', new._id, new._row);
      elsif tg_op = 'UPDATE' then
        if new._version = old._version then return null; end if;
        insert into weft.history (table_id, record_id, row_no, version, action, by, before, after)
          values (%1$s, new._id, new._row, new._version, 'changed', new._changed_by,
            weft.seen_%1$s(old), weft.seen_%1$s(new));
        perform weft.tell(%1$s, 'changed', new._id, new._row);
      else
        insert into weft.history (table_id, record_id, row_no, version, action, by, before)
          values (%1$s, old._id, old._row, old._version + 1, 'deleted', weft.who(), weft.seen_%1$s(old));
        insert into weft.free_row (table_id, row_no) values (%1$s, old._row);
        perform weft.tell(%1$s, 'deleted', old._id, old._row);
      end if;
      return null;
    end
    $written$
    $make$, of_table);
  execute format('create trigger zz_weft_saved before insert on %s for each row %s execute function weft.before_saved_%s()', relation, others, of_table);
  execute format('create trigger zz_weft_changed before update on %s for each row %s execute function weft.changed_%s()', relation, others, of_table);
  execute format('create trigger zz_weft_deleted before delete on %s for each row %s execute function weft.before_deleted(%s)', relation, others, of_table);
  execute format('create trigger zz_weft_emptied before truncate on %s for each statement execute function weft.adopted_emptied(%s)', relation, of_table);
  execute format('create constraint trigger zz_weft_written after insert or update or delete on %s deferrable initially deferred for each row %s execute function weft.written_%s()', relation, others, of_table);
end
$watch$;

-- Takes away all that was added to an adopted table, as far as it is still there.
create function weft.let_go(of_table bigint) returns void language plpgsql as $$
declare
  relation constant regclass := weft.relation(of_table);
  ours text;
begin
  execute format('drop view if exists records.%I', (select t.name from weft.table_def t where t.id = of_table));
  execute format('drop function if exists weft.write_%s()', of_table);
  if relation is null or (select t.is_view from weft.table_def t where t.id = of_table) then return; end if;
  for ours in select t.tgname from pg_trigger t where t.tgrelid = relation and t.tgname like 'zz\_weft\_%' loop
    execute format('drop trigger %I on %s', ours, relation);
  end loop;
  execute format('drop function if exists weft.links_%s()', of_table);
  foreach ours in array array['before_saved', 'changed', 'written'] loop
    execute format('drop function if exists weft.%s_%s()', ours, of_table);
  end loop;
  execute format('drop function if exists weft.seen_%s(%s)', of_table, relation);
  select string_agg(format('drop column %I', a.attname), ', ') into ours from pg_attribute a
    where a.attrelid = relation and a.attnum > 0 and not a.attisdropped
      and (a.attname in ('_id', '_row', '_version', '_entered_at', '_entered_by', '_changed_at', '_changed_by')
        or a.attname like '\_link\_%');
  execute format('alter table %s %s', relation, ours);
  -- Indexes on columns of its own.
  for ours in select i.indexrelid::regclass::text from pg_index i join pg_class c on c.oid = i.indexrelid
    where i.indrelid = relation and c.relname ~ ('^(values|parts|keys|alike)_' || of_table || '_') loop
    execute 'drop index ' || ours;
  end loop;
end
$$;
-- [jooq ignore stop]
