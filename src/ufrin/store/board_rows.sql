-- name: page
-- A page of the Board: jobs newest first, what is kept of each, whether that is still true, and how many there are.
with listed as materialized (
    select id, name, created_at, put_away_at, is_mould_only, count(*) over () as total from jobs
    where not is_mould_only and (put_away_at is not null) = %(put_away)s and (%(pattern)s = '%%' or name ilike %(pattern)s)
    order by created_at desc, id desc
    limit %(limit)s offset %(offset)s
)
select l.*, b.figures, b.worked_out_from = (select m.mark from job_marks m where m.job_id = l.id) as is_fresh
from listed l left join board_rows b on b.job_id = l.id
order by l.created_at desc, l.id desc

-- name: count
-- How many jobs there are for a search, where a page beyond the last was asked for.
select count(*) as jobs from jobs where not is_mould_only and (put_away_at is not null) = %(put_away)s
    and (%(pattern)s = '%%' or name ilike %(pattern)s)

-- name: newest
-- Jobs, newest first, older than one where it is given, those that were put away among them. A mould that was made
-- before is no job.
with listed as materialized (
    select id, name, created_at, put_away_at, is_mould_only from jobs
    where not is_mould_only and (%(pattern)s = '%%' or name ilike %(pattern)s) and (%(before)s::bigint is null or id < %(before)s)
    order by id desc limit %(limit)s
)
select l.*, b.figures, b.worked_out_from = (select m.mark from job_marks m where m.job_id = l.id) as is_fresh
from listed l left join board_rows b on b.job_id = l.id
order by l.id desc

-- name: of_rubber
-- Jobs on the Board that count on a rubber, newest first.
with listed as materialized (
    select j.id, j.name, j.created_at, j.put_away_at, j.is_mould_only from stations r join jobs j on j.id = r.job_id
    where r.rubber_id = %(rubber_id)s and r.job_id <> %(besides)s and j.put_away_at is null
    order by j.created_at desc, j.id desc limit 20
)
select l.*, b.figures, b.worked_out_from = (select m.mark from job_marks m where m.job_id = l.id) as is_fresh
from listed l left join board_rows b on b.job_id = l.id
order by l.created_at desc, l.id desc

-- name: mark
-- What the figures of a job are worked out from, as it is now.
select mark from job_marks where job_id = %(job_id)s

-- name: keep
-- What a list shows of a job, and from what it was worked out.
insert into board_rows (job_id, figures, worked_out_from) values (%(job_id)s, %(figures)s, %(mark)s)
on conflict (job_id) do update set figures = excluded.figures, worked_out_from = excluded.worked_out_from,
    asked_at = null

-- name: light
-- Which of some jobs have no large mesh, so that they are worked out in no time.
select j.id from unnest(%(ids)s::bigint[]) as j (id)
where not exists (
    select from stations s join meshes m on m.hash = s.mesh
    where s.job_id = j.id and (m.figures ->> 'triangles')::bigint > %(triangles)s
)

-- name: ask
-- Jobs whose figures a worker is to work out again, put onto the queue once a minute at most.
with asked as (
    insert into board_rows (job_id, figures, worked_out_from, asked_at)
    select id, '{}', '', now() from unnest(%(ids)s::bigint[]) as j (id)
    on conflict (job_id) do update set asked_at = now()
        where board_rows.asked_at is null or board_rows.asked_at < now() - interval '1 minute'
    returning job_id
)
select procrastinate_defer_jobs_v1(
    array[row('meshes', 'work_out_row', 1, null, null, jsonb_build_object('job_id', job_id), null)
        ::procrastinate_job_to_defer_v1]
)
from asked
