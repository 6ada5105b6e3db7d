-- What other programs write to the tables in schema records gets its row number, version and history here, and is told of, as
-- what Weft writes itself does. Weft's own connections are known by the name "weft" that they give; their writes do not call any
-- of this. The functions of the triggers act for the owner of Weft's tables, on a path of their own that holds in all they call.
-- [jooq ignore start]

-- Who writes: the user of the database, and the program if it gives its name.
create function weft.who() returns varchar language sql stable as $$
  select left(session_user || coalesce(' (' || nullif(current_setting('application_name'), '') || ')', ''), 100)::varchar
$$;

-- What a record is called by which a column links to it: identity, row and words, as history keeps a link.
create function weft.link_json(link weft.column_def, id bigint) returns jsonb language plpgsql stable as $$
declare
  target text := (select t.name from weft.table_def t where t.id = link.link_to);
  words text := (
    select string_agg(
      case c.type
        when 'decimal' then format('trim_scale(%I)::text', c.name)
        when 'date' then format('to_char(%I, ''Dy FMDD Mon YYYY'')', c.name)
        else format('%I::text', c.name)
      end, ', ' order by shown.place)
    from jsonb_array_elements_text(link.link_shown) with ordinality as shown (id, place)
    join weft.column_def c on c.id = shown.id::bigint and c.link_to is null);
  found jsonb;
begin
  execute format(
    'select jsonb_build_object(''id'', _id, ''row'', _row, ''shown'', %s) from records.%I where _id = $1',
    coalesce('coalesce(nullif(concat_ws('', '', ' || words || '), ''''), ''row '' || _row)', '''row '' || _row'), target)
    into found using id;
  return found;
end
$$;

-- The values of a record as history keeps them: decimals as strings, so that they stay exact, and links with their words.
create function weft.values_json(of_table bigint, written jsonb) returns jsonb language plpgsql stable as $$
declare
  own constant text[] := '{_id,_row,_version,_entered_at,_entered_by,_changed_at,_changed_by}';
  spelled jsonb;
begin
  select jsonb_object_agg(c.name, case c.type
    when 'decimal' then to_jsonb(written ->> c.name)
    else weft.link_json(c, (written ->> c.name)::bigint) end)
  into spelled
  from weft.column_def c
  where c.table_id = of_table and c.type in ('decimal', 'link') and written ->> c.name is not null;
  return (written - own) || coalesce(spelled, '{}');
end
$$;

-- The rows that a transaction gives are counted in a setting of it: the last one given, the next of the counter, the next as the
-- counter has it, the last free one given. They are written down once, at its end: a row of the counter that one transaction
-- writes a thousand times gets slow. A row that was given and not used after all, as when the record was there already, is
-- given to the next.

create function weft.given(of_table bigint) returns bigint[] language sql stable as $$
  select nullif(current_setting('weft.given_' || of_table, true), '')::bigint[]
$$;

create function weft.keep_given(of_table bigint, state bigint[]) returns void language sql as $$
  select set_config('weft.given_' || of_table, state::text, true)
$$;

-- The next free row, for a record that is about to be written.
create function weft.give_row(of_table bigint, state bigint[]) returns bigint language plpgsql as $$
declare
  free bigint;
begin
  if state is null then
    select array[null, c.next_row, c.next_row, 0] into state from weft.row_counter c where c.table_id = of_table for update;
  end if;
  if (select t.placement = 'first-free' from weft.table_def t where t.id = of_table) then
    select f.row_no into free from weft.free_row f
      where f.table_id = of_table and f.row_no > state[4] order by f.row_no limit 1 for update;
  end if;
  if free is null then
    state[1] := state[2];
    state[2] := state[2] + 1;
  else
    state[1] := free;
    state[4] := free;
  end if;
  perform weft.keep_given(of_table, state);
  return state[1];
end
$$;

-- After a record was written, at the end of the transaction: what its row came of has given it away.
create function weft.count_row(of_table bigint, relation regclass, row_no bigint) returns void language plpgsql as $$
declare
  state bigint[] := weft.given(of_table);
  used boolean;
begin
  if state[2] <> state[3] then
    execute format('select exists (select from %s where _row = $1)', relation) into used using state[1];
    if not used and state[1] = state[2] - 1 then
      state[2] := state[1];
      state[1] := null;
    end if;
    update weft.row_counter set next_row = state[2] where table_id = of_table and next_row < state[2];
    state[3] := state[2];
    perform weft.keep_given(of_table, state);
  end if;
  if state[4] > 0 then
    delete from weft.free_row f where f.table_id = of_table and f.row_no = count_row.row_no;
  end if;
end
$$;

-- Refuses what no column of Weft can hold, and says what is to be empty: a text of no characters, as in Weft. Whether there can be
-- anything of the kind is seen from the whole of the record first.
create function weft.fit(of_table bigint, written jsonb) returns jsonb language plpgsql stable as $$
declare
  whole constant text := written::text;
  misfit record;
begin
  if whole ~ '"(NaN|-?[Ii]nfinity|24:[^"]*|\d{5,}-[^"]*|[^"]* BC)"' then
    select c.name, c.type, written ->> c.name as value into misfit from weft.column_def c
    where c.table_id = of_table and case c.type
      when 'decimal' then written ->> c.name in ('NaN', 'Infinity', '-Infinity')
      when 'date' then written ->> c.name !~ '^\d{4}-[^B]*$'
      when 'datetime' then written ->> c.name !~ '^\d{4}-[^B]*$'
      when 'time' then written ->> c.name like '24:%'
      else false end
    limit 1;
    if found then
      raise exception 'The column % cannot hold %. It holds %.', misfit.name, misfit.value, case misfit.type
        when 'decimal' then 'numbers only'
        when 'time' then 'times from 00:00 to 23:59:59'
        else 'the years 0001 to 9999' end
        using errcode = 'check_violation';
    end if;
  end if;
  if strpos(whole, ': ""') = 0 then return null; end if;
  return (select jsonb_object_agg(each.key, null) from jsonb_each_text(written) each where each.value = '');
end
$$;

-- Before another program's record is changed.
create function weft.before_changed() returns trigger language plpgsql security definer set search_path = pg_catalog as $$
declare
  emptied jsonb := weft.fit(tg_argv[0]::bigint, to_jsonb(new));
begin
  if emptied is not null then new := jsonb_populate_record(new, emptied); end if;
  if new._id <> old._id or new._row <> old._row then
    raise exception 'The identity and the row of a record stay. Leave _id and _row as they are.'
      using errcode = 'generated_always';
  end if;
  new._version := old._version;
  new._entered_at := old._entered_at;
  new._entered_by := old._entered_by;
  new._changed_at := old._changed_at;
  new._changed_by := old._changed_by;
  if new is distinct from old then
    new._version := old._version + 1;
    new._changed_at := now();
    new._changed_by := weft.who();
  end if;
  return new;
end
$$;

-- Before another program deletes a record: the row that was given last was used, though nothing is in it any more.
create function weft.before_deleted() returns trigger language plpgsql security definer set search_path = pg_catalog as $$
declare
  of_table bigint := tg_argv[0];
  state bigint[] := weft.given(of_table);
begin
  if state[1] = old._row then
    state[1] := null;
    perform weft.keep_given(of_table, state);
  end if;
  return old;
end
$$;

-- How many changes one transaction tells of one by one; of more it says that there are many.
create function weft.tell(of_table bigint, kind text, id bigint, row_no bigint) returns void
language plpgsql as $$
declare
  told integer := coalesce(nullif(current_setting('weft.told', true), ''), '0')::integer;
begin
  if told < 100 then
    perform set_config('weft.told', (told + 1)::text, true);
    perform pg_notify('weft', of_table || ' ' || kind || ' ' || id || ' ' || row_no);
  else
    perform pg_notify('weft', of_table || ' many');
  end if;
end
$$;

-- After another program's record was written, at the end of the transaction: its row, its history, and everybody who listens.
create function weft.after_written() returns trigger language plpgsql security definer set search_path = pg_catalog as $$
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
    insert into weft.history (table_id, record_id, row_no, version, action, by, before)
      values (of_table, old._id, old._row, old._version + 1, 'deleted', weft.who(), weft.values_json(of_table, to_jsonb(old)));
    insert into weft.free_row (table_id, row_no) values (of_table, old._row);
    perform weft.tell(of_table, 'deleted', old._id, old._row);
  end if;
  return null;
end
$$;

-- Before another program empties the whole table.
create function weft.before_emptied() returns trigger language plpgsql security definer set search_path = pg_catalog as $$
declare
  of_table bigint := tg_argv[0];
begin
  execute format(
    'insert into weft.history (table_id, record_id, row_no, version, action, by, before)'
    ' select $1, r._id, r._row, r._version + 1, ''deleted'', weft.who(), weft.values_json($1, to_jsonb(r)) from %s r',
    tg_relid::regclass) using of_table;
  execute format(
    'insert into weft.free_row (table_id, row_no) select $1, r._row from %s r', tg_relid::regclass) using of_table;
  perform pg_notify('weft', of_table || ' many');
  return null;
end
$$;

-- Has all of that done for a table from now on. The triggers come last among those of their kind, whatever others there are.
-- Before a new record is written comes a function of the table's own, so that the plan is kept by which it finds out whether the
-- last row given was used: by the index, however small the table is when it is made.
create function weft.watch(of_table bigint, relation regclass) returns void language plpgsql as $watch$
declare
  others constant text := 'when (current_setting(''application_name'') <> ''weft'')';
begin
  execute format($make$
    create function weft.before_saved_%1$s() returns trigger language plpgsql security definer
    set search_path = pg_catalog set enable_seqscan = off as $saved$
    declare
      emptied jsonb := weft.fit(%1$s, to_jsonb(new));
      state bigint[] := weft.given(%1$s);
    begin
      if emptied is not null then new := jsonb_populate_record(new, emptied); end if;
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
  execute format('create trigger zz_weft_saved before insert on %s for each row %s execute function weft.before_saved_%s()', relation, others, of_table);
  execute format('create trigger zz_weft_changed before update on %s for each row %s execute function weft.before_changed(%s)', relation, others, of_table);
  execute format('create trigger zz_weft_deleted before delete on %s for each row %s execute function weft.before_deleted(%s)', relation, others, of_table);
  execute format('create trigger zz_weft_emptied before truncate on %s for each statement %s execute function weft.before_emptied(%s)', relation, others, of_table);
  execute format('create constraint trigger zz_weft_written after insert or update or delete on %s deferrable initially deferred for each row %s execute function weft.after_written(%s)', relation, others, of_table);
end
$watch$;

-- Ends that, as before the table is dropped.
create function weft.unwatch(of_table bigint, relation regclass) returns void language plpgsql as $$
declare
  kind text;
begin
  foreach kind in array array['saved', 'changed', 'deleted', 'emptied', 'written'] loop
    execute format('drop trigger zz_weft_%s on %s', kind, relation);
  end loop;
  execute format('drop function weft.before_saved_%s()', of_table);
end
$$;

do $$
declare t record;
begin
  for t in select id, name from weft.table_def loop
    perform weft.watch(t.id, format('records.%I', t.name)::regclass);
  end loop;
end $$;
-- [jooq ignore stop]
