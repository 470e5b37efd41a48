-- name: newest
-- The newest backups, those that failed as well.
select id, tried_at, file, bytes, row_count, took_s, refused from backups order by id desc limit %(limit)s

-- name: one
-- One backup.
select id, tried_at, file, bytes, row_count, took_s, refused from backups where id = %(id)s

-- name: standing
-- When the newest good backup was made, when the newest try was, what is wished, and whether there is anything to lose.
select (select max(tried_at) from backups where refused = '') as made_at,
    (select max(tried_at) from backups) as tried_at,
    (select refused from backups order by id desc limit 1) as refused,
    coalesce((select bytes from backups where refused = '' order by id desc limit 1), 0) as newest_bytes,
    w.backups_kept, w.backup_wish_days, w.demo is not null as is_demo,
    exists (select from jobs) or exists (select from rubbers) as is_filled, now() as now
from workshop w

-- name: keep
-- A backup that was made, or failed.
insert into backups (file, bytes, row_count, took_s, refused)
values (%(file)s, %(bytes)s, %(row_count)s, %(took_s)s, %(refused)s) returning id

-- name: spare
-- The good ones beyond those that are kept.
select id, file from backups where refused = '' order by id desc offset %(kept)s

-- name: forget
-- Backups whose files are gone, and tries that failed long ago.
delete from backups where id = any(%(ids)s) or (refused <> '' and tried_at < now() - interval '30 days')

-- name: wish
-- How many are kept, and how old the newest may get.
update workshop set backups_kept = %(kept)s, backup_wish_days = %(wish_days)s

-- name: ask
-- A worker is asked to make one, unless one is asked for already.
select procrastinate_defer_jobs_v1(
    array[row('backups', 'back_up', 0, 'back_up', null, '{}'::jsonb, null)::procrastinate_job_to_defer_v1]
)
where not exists (select from procrastinate_jobs where task_name = 'back_up' and status in ('todo', 'doing'))

-- name: state
-- What is watched from outside: how old the newest good backup is, what waits for a worker and what failed there, who is
-- signed in, what is joined, and how large the record book is.
select extract(epoch from now() - (select max(tried_at) from backups where refused = ''))::float8 as backup_age_s,
    coalesce((select bytes from backups where refused = '' order by id desc limit 1), 0) as newest_bytes,
    (select count(*) from procrastinate_jobs where status = 'todo') as waiting,
    (select count(*) from procrastinate_jobs where status = 'failed') as failed,
    (select count(*) from sessions where ends_at > now()) as sessions,
    (select count(*) from devices) as devices,
    exists (select from procrastinate_workers where last_heartbeat > now() - interval '10 seconds') as is_worked_on,
    pg_database_size(current_database()) as bytes
