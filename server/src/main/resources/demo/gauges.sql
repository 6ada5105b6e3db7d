-- What the loggers of the river gauges would have made: a program of its own, which knows nothing of Weft.
do $do$ begin
if to_regnamespace('gauges') is not null then return; end if;
create schema gauges;
create type gauges.river as enum ('Quill Beck', 'Tessel', 'Marrow Burn');
create table gauges.gauge (
  code varchar(8) primary key check (code ~ '^[A-Z]{2}[0-9]{2}$'),
  name varchar(60) not null unique,
  river gauges.river not null,
  datum numeric(7,3) not null check (datum >= 0),
  installed_on date,
  working boolean not null default true,
  channels text[] not null default '{level}',
  last_heard timestamptz
);
create table gauges.reading (
  id bigint generated always as identity primary key,
  gauge varchar(8) not null references gauges.gauge on update cascade,
  read_on date not null,
  read_at time(0) not null,
  level numeric(6,3) not null check (level between 0 and 9.999),
  quality varchar(10) not null default 'raw' check (quality in ('raw', 'checked', 'doubtful')),
  millimetres integer generated always as ((level * 1000)::integer) stored,
  note varchar(120),
  unique (gauge, read_on, read_at)
);
create index on gauges.reading (read_on);
insert into gauges.gauge (code, name, river, datum, installed_on, working, channels, last_heard) values
  ('QB01', 'Quill Beck at the mill', 'Quill Beck', 48.210, '2019-04-02', true, '{level,temperature}', '2026-08-01 05:45+01'),
  ('TS01', 'Tessel at the old bridge', 'Tessel', 31.875, '2018-09-17', true, '{level}', '2026-08-01 05:45+01'),
  ('TS02', 'Tessel below the weir', 'Tessel', 29.040, '2021-03-08', false, '{level}', '2025-11-20 23:30+00'),
  ('MB01', 'Marrow Burn at the ford', 'Marrow Burn', 52.600, '2022-05-30', true, '{level,temperature}', '2026-08-01 05:45+01');
insert into gauges.reading (gauge, read_on, read_at, level, quality)
  select g.code, date '2026-07-01' + day, time '06:00' + quarter * interval '6 hours',
    round((0.4 + 0.3 * sin(day / 5.0 + ascii(g.code)) + 0.02 * quarter)::numeric, 3),
    case when day < 24 then 'checked' else 'raw' end
  from gauges.gauge g, generate_series(0, 30) day, generate_series(0, 2) quarter
  where g.working
  order by day, quarter, g.code;
end $do$;
