-- What else was keyed, and put right: counts with their samples, the rest day by day until yesterday, corrections some days after
-- the entries, and removals after those.
update records.counts c set _entered_at = s._entered_at + interval '10 minutes',
  _entered_by = case when pg_temp.chance('c' || s._id) < 0.37 then 'imre' else 'saffi' end
from records.samples s where s._id = c.sample;

create function pg_temp.spread(of_table text, day text) returns void language plpgsql as $$
begin
  execute format(
    'with days as (select _id, %2$s::date + (current_date - 1 - max(%2$s::date) over ()) as day from records.%1$I)'
    ' update records.%1$I t set _entered_at = coalesce(d.day, current_date - 730) + interval ''11 hours'''
    ' from days d where d._id = t._id', of_table, day);
end
$$;
select pg_temp.spread('incidents', 'seen_on');
select pg_temp.spread('site_notes', 'noted_on');
select pg_temp.spread('bookings', 'from_at');
select pg_temp.spread('habitat_survey', 'reach_surveyed_on');
select pg_temp.spread(name, 'null') from unnest('{sites,volunteers,kit,taxa}'::text[]) name;

with steps as (
  select h.id, h.record_id, s.at + (row_number() over (partition by h.record_id order by h.id))
      * (interval '3 hours' + pg_temp.chance('w' || h.record_id) * interval '10 days') as at
  from weft.history h
  join weft.table_def t on t.id = h.table_id and t.name = 'samples'
  join weft.history s on s.table_id = h.table_id and s.record_id = h.record_id and s.action = 'saved'
  where h.action <> 'saved')
update weft.history h set at = least(s.at, now()) from steps s where s.id = h.id;

-- The last of each of these were done in the last hours.
with steps as (
  select h.id, row_number() over (partition by h.action order by h.at desc) as recent
  from weft.history h
  join weft.table_def t on t.id = h.table_id and t.name = 'samples'
  where h.action = 'deleted' and not exists (select from weft.history r where r.table_id = t.id and r.record_id = h.record_id and r.action = 'restored')
    or h.action = 'changed' and exists (select from records.samples s where s._id = h.record_id and s._version = h.version))
update weft.history h set at = now() - s.recent * interval '170 minutes' from steps s where s.id = h.id and s.recent <= 3;

update records.samples s set _changed_at = h.at
from (select record_id, max(at) as at from weft.history where action = 'changed'
  and table_id = (select id from weft.table_def where name = 'samples') group by record_id) h
where h.record_id = s._id and s._changed_at is not null;

drop function pg_temp.spread;
