-- The form that an entry came through; nothing where it came through none.
alter table weft.history add column form_id varchar(80);

-- [jooq ignore start]
-- What is only shown sorts as numbers where it is numbers, and after them as text does: a double's bits, turned so that their
-- order as text is the order of the numbers.
create function weft.shown_key(shown text) returns text
language sql immutable parallel safe set search_path = pg_catalog as $$
  select case
    when shown !~ '^-?[0-9]{1,200}(\.[0-9]{1,200})?(e[-+]?[0-9]{1,2})?$' then '2' || weft.fold(shown)
    when shown::float8 < 0 then '0' || translate(encode(float8send(shown::float8), 'hex'), '0123456789abcdef', 'fedcba9876543210')
    else '1' || encode(float8send(abs(shown::float8)), 'hex')
  end
$$;
-- [jooq ignore stop]
