-- A row number is given once: whatever a statement does, a counter that would step back ends it.
-- [jooq ignore start]
create function weft.no_step_back() returns trigger language plpgsql as $$
begin
  raise exception 'The row counter of table % would step back from % to %.', old.table_id, old.next_row, new.next_row
    using errcode = 'check_violation', constraint = 'row_counter_forward';
end
$$;
create trigger row_counter_forward before update on weft.row_counter
  for each row when (new.next_row < old.next_row) execute function weft.no_step_back();
-- [jooq ignore stop]
