-- name: start
-- A new job with its empty stations.
with job as (insert into jobs (name, is_mould_only) values (%(name)s, %(is_mould_only)s) returning id),
     empty as (insert into stations (job_id, station) select job.id, name from job,
         unnest(%(stations)s::text[]) as name)
select id from job

-- name: open
-- One job with the inputs and versions of its stations.
select j.id, j.name, j.created_at, j.put_away_at, j.advised_style, j.wanted_at, j.is_mould_only,
       json_object_agg(s.station, json_build_object('inputs', s.inputs, 'version', s.version, 'shape', s.shape)) as stations,
       exists (select from earlier_inputs e where e.job_id = j.id and e.station = %(station)s) as can_undo,
       exists (select from undone_inputs u where u.job_id = j.id and u.station = %(station)s) as can_redo
from jobs j join stations s on s.job_id = j.id
where j.id = %(job_id)s
group by j.id

-- name: some
-- Jobs whose masters share another's box.
select j.id, j.name, j.created_at, j.put_away_at, j.advised_style, j.wanted_at, j.is_mould_only,
       (select json_object_agg(s.station, json_build_object('inputs', s.inputs, 'version', s.version, 'shape', s.shape))
           from stations s where s.job_id = j.id) as stations,
       false as can_undo, false as can_redo
from jobs j where j.id = any(%(ids)s) order by j.id

-- name: names
-- Jobs whose masters could share a box: those on the Board with a size or a mesh, newest first.
select j.id, j.name from jobs j join stations s on s.job_id = j.id and s.station = 'master'
where j.id <> %(besides)s and j.put_away_at is null and s.inputs ?| array['mesh', 'length_mm', 'standin']
order by j.created_at desc, j.id desc limit 60

-- name: rename
-- Another name for a job.
update jobs set name = %(name)s where id = %(job_id)s returning id

-- name: note_advice
-- The kind of mould that is advised now; no version counts it, for nobody filled it in.
update jobs set advised_style = %(style)s where id = %(job_id)s

-- name: put_away
-- Off the Board, or back on it.
update jobs set put_away_at = case when %(away)s then now() end where id = %(job_id)s returning id

-- name: want
-- When a job is wished to be ready; null where there is no wish.
update jobs set wanted_at = %(wanted_at)s where id = %(job_id)s returning id

-- name: lock_station
-- A station's inputs, held against other saves until the transaction ends.
select inputs, version, shape from stations where job_id = %(job_id)s and station = %(station)s for update

-- name: save_station
-- The new inputs of a station.
update stations set inputs = %(inputs)s, version = version + 1 where job_id = %(job_id)s and station = %(station)s

-- name: keep_earlier
-- What a station held, on the stack for undo; edits within a few seconds of each other are one step.
insert into earlier_inputs (job_id, station, version, inputs)
select %(job_id)s, %(station)s, %(version)s, %(inputs)s
where not exists (
    select from earlier_inputs e
    where e.job_id = %(job_id)s and e.station = %(station)s
        and e.kept_at > clock_timestamp() - make_interval(secs => %(one_step_s)s)
)

-- name: take_earlier
-- The newest entry off the stack.
delete from earlier_inputs e
where (e.job_id, e.station, e.version) = (
    select job_id, station, version from earlier_inputs
    where job_id = %(job_id)s and station = %(station)s order by version desc limit 1
)
returning e.inputs, e.shape

-- name: keep_undone
-- What a station held before it was undone, on the stack for redo.
insert into undone_inputs (job_id, station, version, inputs)
values (%(job_id)s, %(station)s, %(version)s, %(inputs)s)

-- name: take_undone
-- The newest entry off that stack.
delete from undone_inputs u
where (u.job_id, u.station, u.version) = (
    select job_id, station, version from undone_inputs
    where job_id = %(job_id)s and station = %(station)s order by version desc limit 1
)
returning u.inputs, u.shape

-- name: forget_undone
-- Something else was changed: what was undone is not redone any more.
delete from undone_inputs where job_id = %(job_id)s and station = %(station)s

-- name: history
-- What a station held before each change that can be undone, the oldest first, and who made it.
select e.inputs, e.shape, e.kept_at, coalesce(c.doer, '') as doer
from earlier_inputs e
left join lateral (
    select doer from changes where thing = 'stations' and number = e.job_id || ' ' || e.station and at = e.kept_at limit 1
) c on true
where e.job_id = %(job_id)s and e.station = %(station)s order by e.version

-- name: forget_oldest
-- Only so many steps can be undone.
delete from earlier_inputs
where job_id = %(job_id)s and station = %(station)s and version <= (
    select version from earlier_inputs where job_id = %(job_id)s and station = %(station)s
        order by version desc offset %(keep)s limit 1
)
