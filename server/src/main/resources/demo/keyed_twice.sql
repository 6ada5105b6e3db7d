-- One count in twenty of two years was keyed again by the coordinator; the last ones wait, or are to be settled.
with counts as (
  select c._id, c.stage, c.count, c._entered_by as by, c._entered_at as at,
    row_number() over (order by c._entered_at desc, c._id desc) as recent
  from records.counts c
  where c._id % 20 = 7
),
keyed as (
  select *,
    case when recent <= 12 then 'waiting' when recent <= 18 then 'differing' else 'settled' end as standing,
    recent <= 18 or pg_temp.chance('t' || _id) < 0.03 as slipped
  from counts
)
insert into weft.second_keying
  (table_id, record_id, door_id, standing, first_by, first_at, second_by, second_at, second, outcome, settled_by, settled_at)
select t.id, k._id, 'counts-again', k.standing, k.by, k.at,
  case k.standing when 'settled' then 'bram' when 'differing' then 'odile' end,
  case when k.standing <> 'waiting' then least(now(), k.at + interval '1 day') end,
  case when k.standing <> 'waiting' then
    jsonb_build_object('stage', k.stage, 'count', case when k.slipped then k.count * 10 + 1 else k.count end) end,
  case when k.standing = 'settled' and not k.slipped then '{"stage": "same", "count": "same"}'::jsonb
    when k.standing = 'settled' and k._id % 3 = 0 then '{"stage": "same", "count": "second"}'
    when k.standing = 'settled' then '{"stage": "same", "count": "first"}'
    when k.standing = 'differing' then '{"stage": "same"}' end,
  case when k.standing = 'settled' then case when k.slipped then 'odile' else 'bram' end end,
  case when k.standing = 'settled' then least(now(), k.at + interval '2 days') end
from keyed k, weft.table_def t
where t.name = 'counts';
