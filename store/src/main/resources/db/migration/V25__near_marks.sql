-- What nearly alike texts have in common, all of it found at once, so that one index holds it and a save pays for one. It stands for
-- weft.near_head, near_tail, near_order and near_sound, which servers of the version before go on using while they are beside this one.
-- [jooq ignore start]

-- How words sound, by double metaphone, whatever their order; nothing where the database has no fuzzystrmatch.
do $make$
declare
  place text := (select quote_ident(nspname) from pg_extension join pg_namespace n on n.oid = extnamespace where extname = 'fuzzystrmatch');
begin
  execute 'create function weft.near_sounding(words text[]) returns text language plpgsql immutable parallel safe as $$ begin '
    || case when place is null then 'return null;'
      else 'return (select ''~'' || weft.near_ends(string_agg(sound, '' '' order by sound collate "C")) from (select case when word ~ ''[0-9]'''
        || ' then word else ' || place || '.dmetaphone(word) end as sound from unnest(words) as words(word)) as sounds);' end
    || ' end $$';
end $make$;

-- The two halves of a text's letters, each with the length of the whole; its words in their order; and how they sound. The core knows
-- the same but for the sound as weft.core.alike.Words. It takes long, so that an index is always better than a look at each record;
-- and to have workers help with the few that are found takes longer than to look at them.
create function weft.near_marks(value text) returns text[] language plpgsql immutable strict parallel restricted cost 2000 as $$
declare
  words text[] := weft.near_words(value);
  whole text := array_to_string(words, '');
  letters integer := length(whole);
begin
  return array[
    letters || '<' || weft.near_ends(left(whole, letters / 2)),
    letters || '>' || weft.near_ends(right(whole, letters - letters / 2)),
    '=' || weft.near_ends((select string_agg(word, '' order by word collate "C") from unnest(words) as words(word))),
    weft.near_sounding(words)];
end $$;
-- [jooq ignore stop]
