-- [jooq ignore start]
-- What nearly alike texts have in common: the first half or the second one, each with the length of the whole, or the words in their
-- order. They take long, so that an index is always better than a look at each record. The core knows the same as weft.core.alike.Words, and what those have that are near a text.

-- The words of a text without case and accents, blanks and signs.
create function weft.near_words(value text) returns text[] language sql immutable parallel safe as $$
  select array_remove(regexp_split_to_array(weft.fold(value), '[\u0001-\u002f:-@[-`{-\u00bf\u2000-\u206f\u3000]+'), '')
$$;

create function weft.near_all(value text) returns text language sql immutable parallel safe as $$
  select array_to_string(weft.near_words(value), '')
$$;

-- Of what is long only the two ends: an index holds no long texts.
create function weft.near_ends(value text) returns text language sql immutable parallel safe as $$
  select case when length(value) <= 120 then value else left(value, 60) || right(value, 60) end
$$;

-- In an order that does not depend on how the words stand.
create function weft.near_order(value text) returns text language sql immutable parallel safe cost 2000 as $$
  select weft.near_ends(string_agg(word, '' order by word collate "C")) from unnest(weft.near_words(value)) as words(word)
$$;

create function weft.near_head(value text) returns text language plpgsql immutable parallel safe cost 2000 as $$
declare
  whole text := weft.near_all(value);
begin
  return length(whole) || '<' || weft.near_ends(left(whole, length(whole) / 2));
end $$;

create function weft.near_tail(value text) returns text language plpgsql immutable parallel safe cost 2000 as $$
declare
  whole text := weft.near_all(value);
begin
  return length(whole) || '>' || weft.near_ends(right(whole, length(whole) - length(whole) / 2));
end $$;

-- How the words of a text sound, by double metaphone; nothing where the database has no fuzzystrmatch.
do $make$
declare
  place text;
begin
  begin
    create extension if not exists fuzzystrmatch;
  exception when others then
    raise notice 'fuzzystrmatch is not to be had: what only sounds alike is not found among stored records';
  end;
  select quote_ident(nspname) into place
    from pg_extension join pg_namespace n on n.oid = extnamespace where extname = 'fuzzystrmatch';
  execute 'create function weft.near_sound(value text) returns text language sql immutable parallel safe cost 2000 as $$ '
    || case when place is null then 'select null::text'
      else 'select weft.near_ends(string_agg(sound, '' '' order by sound collate "C")) from (select case when word ~ ''[0-9]'' then word else '
        || place || '.dmetaphone(word) end as sound from unnest(weft.near_words(value)) as words(word)) as sounds' end
    || ' $$';
end $make$;
-- [jooq ignore stop]
