-- name: all
-- The whole Shelf: in use first, by name.
select * from rubbers order by retired_at is not null, lower(name)

-- name: some
-- The rubbers of a page of jobs.
select * from rubbers where id = any(%(ids)s)

-- name: lock
-- One rubber, held against other saves.
select * from rubbers where id = %(id)s for update

-- name: retire
-- No longer offered, or offered again.
update rubbers set retired_at = case when %(retired)s then coalesce(retired_at, now()) end, version = version + 1 where id = %(id)s returning id

-- name: delete
-- Gone for good; the database refuses while a job uses it.
delete from rubbers where id = %(id)s returning id

-- name: jobs_using
-- How many jobs use each rubber.
select rubber_id, count(*) as jobs from stations where rubber_id is not null group by rubber_id
