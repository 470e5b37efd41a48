-- name: of_job
-- The steps of a job's preparation that were ticked off.
select step, extract(epoch from at)::float8 as at_s from done_steps where job_id = %(job_id)s

-- name: tick
-- A step is done; ticked off again, it was done again.
insert into done_steps (job_id, step, at) values (%(job_id)s, %(step)s, to_timestamp(%(at_s)s))
on conflict (job_id, step) do update set at = excluded.at

-- name: untick
-- It was not.
delete from done_steps where job_id = %(job_id)s and step = %(step)s
