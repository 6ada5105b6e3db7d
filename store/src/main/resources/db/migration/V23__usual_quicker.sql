-- What is usual is counted several times as fast: a value and its groups are found once for all groups, in fewer steps.
-- [jooq ignore start]
drop function weft.usual_places;
drop function weft.usual_part;

-- A value as it is counted; nothing for what is no amount, such as infinity, or none that anybody means. The core knows the same as
-- weft.core.usual.Grouping. Numbers are cut to four digits by writing them so, which takes a fraction of what logarithms do.
create or replace function weft.usual_key(value text, type text) returns text language plpgsql immutable parallel safe as $$
declare
  amount numeric;
begin
  if type in ('whole', 'decimal') then
    if value !~ '[0-9]' then return null; end if;
    amount := round(value::numeric, 40);
    return case when abs(amount) < 1e40 then trim_scale(to_char(amount, '9.999EEEE')::numeric) end;
  end if;
  if type in ('date', 'datetime', 'time') and value !~ '^[0-9]' then return null; end if;
  return case type
    when 'date' then (value::date - date '1970-01-01')::text
    when 'datetime' then (value::timestamp::date - date '1970-01-01')::text
    when 'time' then case when value < '24' then extract(hour from value::time) * 60 + extract(minute from value::time) end::integer::text
    else left(value, 100) end;
end
$$;

-- The groups that a record is of, the narrowest last; none when something that parts them is empty.
create function weft.usual_groups(of_row jsonb, names text[], parts text[]) returns text[] language plpgsql immutable parallel safe as $$
declare
  groups text[] := array['0'];
  keys text := '';
  value text;
begin
  for i in 1 .. cardinality(parts) loop
    value := of_row ->> names[i];
    keys := keys || chr(31) || case parts[i]
      when 'value' then left(value, 100)
      when 'month' then extract(month from value::timestamp)::integer::text
      when 'weekday' then extract(isodow from value::timestamp)::integer::text
      when 'hour' then substring(value from '([0-9]{2}):[0-9]{2}')::integer::text end;
    groups := groups || (i || keys);
  end loop;
  return case when keys is not null then groups end;
end
$$;

-- Where a record is counted: in each of its groups; nowhere when its value is none.
create function weft.usual_places(of_row jsonb, name text, type text, names text[], parts text[])
returns table (depth bigint, of_group text, value text) language sql immutable parallel safe as $$
  select g.depth, g.of_group, k.value
  from (select weft.usual_key(of_row ->> name, type) as value, weft.usual_groups(of_row, names, parts) as groups offset 0) k
  cross join unnest(k.groups) with ordinality as g (of_group, depth)
  where k.value is not null
$$;

-- After a write.
create or replace function weft.count_usual() returns trigger language plpgsql security definer set search_path = pg_catalog as $$
declare
  u record;
begin
  for u in select * from weft.usual_of(tg_argv[0]::bigint) loop
    if tg_op = 'INSERT' then
      insert into weft.usual_count (usual_id, of_group, value, times)
        select u.id, p.of_group, p.value, count(*)
        from (select to_jsonb(t) as new_row from new_rows t offset 0) r cross join weft.usual_places(r.new_row, u.name, u.type, u.names, u.parts) p
        group by p.of_group, p.value;
    elsif tg_op = 'DELETE' then
      insert into weft.usual_count (usual_id, of_group, value, times)
        select u.id, p.of_group, p.value, -count(*)
        from (select to_jsonb(t) as old_row from old_rows t offset 0) r cross join weft.usual_places(r.old_row, u.name, u.type, u.names, u.parts) p
        group by p.of_group, p.value;
    elsif tg_op = 'UPDATE' then
      insert into weft.usual_count (usual_id, of_group, value, times)
        select u.id, p.of_group, p.value, sum(r.times)
        from (select to_jsonb(o) as was, -1 as times from old_rows o union all select to_jsonb(n), 1 from new_rows n
          offset 0) r
        cross join weft.usual_places(r.was, u.name, u.type, u.names, u.parts) p
        group by p.of_group, p.value having sum(r.times) <> 0;
    else
      delete from weft.usual_count where usual_id = u.id;
    end if;
  end loop;
  return null;
end
$$;

-- What was counted by the functions before is counted anew by these.
update weft.usual set counted = false;
-- [jooq ignore stop]
