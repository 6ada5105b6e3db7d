-- Names that a column had before: whatever still calls it so finds it.
alter table weft.column_def add former jsonb default '[]' not null;

-- A form that is archived keeps its versions, but is in no list of forms to be used.
alter table weft.form add archived boolean default false not null;
-- Which of the kept steps the working copy is.
alter table weft.form add step integer default 0 not null;
alter table weft.form_version add published_by varchar(100) default 'somebody' not null;

-- The states that a working copy went through, so that one can go back and forth between them.
create table weft.form_step (
  form_id varchar(80) not null references weft.form (id) on delete cascade,
  step integer not null,
  document json not null,
  by varchar(100) not null,
  at timestamp with time zone default current_timestamp not null,
  primary key (form_id, step)
);

-- A seat is at a Desk, or at the Bench of a form.
alter table weft.seat add bench varchar(80);

-- [jooq ignore start]
-- Constraints are named for the identity of their column, which stays when it moves.
do $$
declare c record;
begin
  for c in
    select t.name as table_name, k.conname, k.kind, d.table_id, d.id
    from weft.column_def d
    join weft.table_def t on t.id = d.table_id
    join lateral (
      select conname, split_part(conname, '_', 1) as kind
      from pg_constraint
      where conrelid = format('records.%I', t.name)::regclass
        and conname in (format('unique_%s_%s', t.id, d.place), format('range_%s_%s', t.id, d.place), format('choice_%s_%s', t.id, d.place))
    ) k on true
  loop
    execute format('alter table records.%I rename constraint %I to %I', c.table_name, c.conname, format('held_%s_%s_%s', c.kind, c.table_id, c.id));
  end loop;
end $$;
-- [jooq ignore stop]
