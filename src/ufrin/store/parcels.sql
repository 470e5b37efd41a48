-- name: columns
-- The columns of a table that are kept, not worked out.
select attname as name, atttypid = 'bytea'::regtype as is_bytes from pg_attribute
where attrelid = %(table)s::regclass and attnum > 0 and not attisdropped and attgenerated = '' order by attnum

-- name: other_jobs
-- The jobs that some jobs are boxed together with, and those of the moulds that theirs were made after.
select other_id as id from stations where job_id = any(%(ids)s) and other_id is not null
union select third_id from stations where job_id = any(%(ids)s) and third_id is not null
union select p.job_id from moulds m join moulds p on p.id = m.parent_id where m.job_id = any(%(ids)s)

-- name: all_jobs
-- Every job.
select id from jobs

-- name: meshes_of
-- The meshes of some jobs, those of earlier inputs as well.
select distinct m.hash as hash, m.name, f.data from meshes m join mesh_files f on f.mesh = m.hash
where m.hash in (
    select inputs ->> 'mesh' from stations where job_id = any(%(ids)s)
    union select inputs ->> 'mesh' from earlier_inputs where job_id = any(%(ids)s)
) order by m.hash

-- name: same_job
-- A job of the same name that was begun at the same moment.
select id from jobs where name = %(name)s and created_at = %(created_at)s::timestamptz order by id limit 1

-- name: take_back_shots
-- Shots that were taken back where they come from.
update shots set taken_back_at = %(at)s::timestamptz where id = %(id)s

-- name: all_differs
-- Every list may differ.
select nextval('runs_mark'), nextval('lists_mark')

-- name: keep
-- A parcel that was sent, until somebody says what to do with it; those that nobody came back for go.
with old as (delete from incoming_parcels where arrived_at < now() - interval '1 day')
insert into incoming_parcels (data, name) values (%(data)s, %(name)s) returning id

-- name: waiting
-- A parcel that waits.
select data, name from incoming_parcels where id = %(id)s

-- name: forget
-- It was brought in, or is not wanted.
delete from incoming_parcels where id = %(id)s
