-- name: all
-- Everything of one kind on the Shelf: in use first, by name.
select * from {table} order by retired_at is not null, lower(name)

-- name: some
-- Those that a page of jobs needs.
select * from {table} where id = any(%(ids)s)

-- name: lock
-- One of them, held against other saves.
select * from {table} where id = %(id)s for update

-- name: add
-- A new one.
insert into {table} ({columns}) values ({values}) returning id

-- name: change
-- New figures.
update {table} set ({columns}) = row ({values}), version = version + 1 where id = %(id)s

-- name: retire
-- No longer offered, or offered again.
update {table} set retired_at = case when %(retired)s then coalesce(retired_at, now()) end, version = version + 1
    where id = %(id)s returning id

-- name: delete
-- Gone for good; the database refuses while a job uses it.
delete from {table} where id = %(id)s returning id

-- name: jobs_using
-- How many jobs use each.
select id, count(distinct job_id) as jobs from ({uses}) as uses group by id
