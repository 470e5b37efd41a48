-- name: share
-- A job's sheet for somebody without an account.
insert into shared_sheets (secret_hash, job_id, for_whom, made_by, ends_at)
values (%(secret_hash)s, %(job_id)s, %(for_whom)s, %(made_by)s, now() + make_interval(days => %(days)s))

-- name: of_job
-- Who may read a job's sheet without an account, and until when.
select id, for_whom, made_by, ends_at from shared_sheets where job_id = %(job_id)s and ends_at > now() order by id

-- name: job_of
-- The job whose sheet an address shows, until it ends; a clock that was set back to before it was shared shows none.
select job_id from shared_sheets
where secret_hash = %(secret_hash)s and ends_at > now() and made_at < now() + interval '5 minutes'

-- name: end
-- It may not be read any more.
delete from shared_sheets where id = %(id)s and job_id = %(job_id)s returning id
