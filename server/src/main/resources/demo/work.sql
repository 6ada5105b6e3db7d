-- Two years of keying, made up: what pages would have counted of samples and counts, day by day.
with people (person, haste, slips) as (values ('saffi', 0.95, 1.2), ('imre', 1.35, 1.6), ('bram', 1.0, 0.8), ('odile', 0.8, 0.5)),
-- Each entry of samples, as its record tells.
entries as (
  select h.at::date as day, extract(hour from h.at)::int as hour, p.person, p.haste, p.slips, h.record_id || p.person as seed
  from weft.history h
  join weft.table_def t on t.id = h.table_id and t.name = 'samples'
  join people p on p.person = h.by
  where h.action = 'saved'),
fields (field, usual, stop, ask, back) as (values
  ('site_code', 2.1, 0.008, 0, 0), ('taken_on', 1.6, 0.004, 0, 0), ('taken_at', 2.4, 0.017, 0, 0.01),
  ('taken_by', 1.2, 0, 0, 0), ('water_c', 2.2, 0.003, 0, 0.01), ('ph', 2.9, 0.004, 0.027, 0.02),
  ('oxygen_mg_l', 2.6, 0.002, 0.005, 0.01), ('turbidity_ntu', 3.3, 0.002, 0, 0.02), ('flow', 1.7, 0, 0, 0.13),
  ('weather', 1.9, 0, 0, 0), ('needs_follow_up', 0.9, 0, 0, 0), ('remark', 8.2, 0, 0, 0.01)),
-- What happened in each field of each: its seconds spread as a product of chances does.
happened as (
  select e.day, e.hour, e.person, e.seed, f.field,
    f.usual * e.haste * exp(0.55 * (pg_temp.chance('a' || e.seed || f.field) + pg_temp.chance('b' || e.seed || f.field)
      + pg_temp.chance('c' || e.seed || f.field) + pg_temp.chance('d' || e.seed || f.field) - 2) * 1.7) as seconds,
    pg_temp.chance('s' || e.seed || f.field) < f.stop * e.slips as stopped,
    pg_temp.chance('q' || e.seed || f.field) < f.ask * e.slips as asked,
    pg_temp.chance('z' || e.seed || f.field) < f.back as back
  from entries e cross join fields f
  where f.field <> 'remark' or pg_temp.chance('r' || e.seed) < 0.3),
whole as (
  select day, hour, person, seed, sum(seconds) + 3 as seconds, bool_or(stopped or asked) as hindered,
    count(*) filter (where stopped) as stops, count(*) filter (where asked) as asks, count(*) filter (where back) as back
  from happened group by day, hour, person, seed),
counted (day, person, about, what, class, times) as (
  select day, person, '', 'entry', hour, 1 from whole
  union all select day, person, '', 'seconds', ceil(ln(seconds / 0.1) / ln(1.1))::int, 1 from whole
  union all select day, person, '', 'time', 0, (seconds * 1000)::bigint from whole
  union all select day, person, '', 'hindered', 0, hindered::int from whole
  union all select day, person, '', 'stop', 0, stops from whole
  union all select day, person, '', 'ask', 0, asks from whole
  union all select day, person, '', 'back', 0, back from whole
  union all select day, person, '', 'keys', 0, 58 + floor(pg_temp.chance('k' || seed) * 24)::int from whole
  union all select day, person, '', 'least', 0, 52 + floor(pg_temp.chance('k' || seed) * 14)::int from whole
  union all select day, person, field, 'seconds', ceil(ln(seconds / 0.1) / ln(1.1))::int, 1 from happened
  union all select day, person, field, 'stop', 0, stopped::int from happened
  union all select day, person, field, 'ask', 0, asked::int from happened
  union all select day, person, field, 'back', 0, back::int from happened
  union all select day, person, field, 'retyped', 0, stopped::int from happened
  union all select day, person, field, 'despite', 0, (asked and pg_temp.chance('w' || seed) < 0.95)::int from happened
  union all select day, person, '#usual', 'ask', 0, asked::int from happened where field = 'ph'
  union all select day, person, '#usual', 'despite', 0, (asked and pg_temp.chance('w' || seed) < 0.95)::int
    from happened where field = 'ph'
  union all select day, person, '#full', 'ask', 0, asked::int from happened where field = 'oxygen_mg_l'
  union all select day, person, '#full', 'despite', 0, (asked and pg_temp.chance('v' || seed) < 0.4)::int
    from happened where field = 'oxygen_mg_l')
insert into weft.work (form_id, day, person, about, what, class, times)
select 'samples', day, person, about, what, greatest(0, class), sum(times) from counted
group by day, person, about, what, greatest(0, class) having sum(times) > 0;

-- Counts come with their samples, and those that were keyed again are beside their records.
insert into weft.work (form_id, day, person, about, what, class, times)
select 'counts', _entered_at::date, _entered_by, '', 'entry', extract(hour from _entered_at)::int, count(*)
from records.counts
group by 2, 3, 6;

with keyed as (
  select k.second_at::date as day, k.first_by, k.second_by, o.key as field, o.value <> 'same' as differed,
    extract(hour from k.second_at)::int as hour
  from weft.second_keying k cross join lateral jsonb_each_text(k.outcome) o
  where k.standing = 'settled' and k.second_at < now()),
counted (day, person, about, what, class, times) as (
  select day, second_by, '', 'again', hour, 1 from keyed where field = 'count'
  union all select day, first_by, field, 'compared', 0, 1 from keyed
  union all select day, first_by, field, 'differed', 0, 1 from keyed where differed
  union all select day, first_by, '', 'compared', 0, 1 from keyed
  union all select day, first_by, '', 'differed', 0, 1 from keyed where differed)
insert into weft.work (form_id, day, person, about, what, class, times)
select 'counts', day, person, about, what, class, sum(times) from counted group by day, person, about, what, class;

insert into weft.work_month (form_id, month, person, about, what, class, times)
select form_id, date_trunc('month', day), person, about, what, class, sum(times) from weft.work
group by 1, 2, 3, 4, 5, 6;
