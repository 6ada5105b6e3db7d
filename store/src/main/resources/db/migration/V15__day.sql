-- When somebody last looked at what the day brought, and whether they want that by mail each morning.
create table weft.day_looked (
  person varchar(100) primary key,
  looked_at timestamp with time zone default current_timestamp not null,
  mail boolean default false not null,
  mailed date
);
