-- What a file of rows is, and which of its sheets is brought in.
alter table weft.import add format varchar(10) default 'csv' not null;
alter table weft.import add sheet integer default 0 not null;
alter table weft.import add sheets jsonb default '[]' not null;
