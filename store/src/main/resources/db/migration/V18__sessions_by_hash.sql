-- A session is kept by the hash of what its browser knows it by; those that are open already are by that itself, until they end.
alter table weft.session alter column session_id type varchar(64);

-- What a browser sends with each write of its session, to tell it from one that another site sends.
alter table weft.session add column token varchar(64);
