-- name: keep
-- A mesh by its content; one that is here already is left as it is.
with fresh as (
    insert into meshes (hash, name, bytes) values (%(hash)s, %(name)s, octet_length(%(data)s::bytea))
    on conflict (hash) do nothing returning hash
)
insert into mesh_files (mesh, data) select hash, %(data)s::bytea from fresh

-- name: ask
-- Work on a mesh is wanted: begun afresh where it was stopped or given up, left alone where it is waited for or done.
insert into mesh_work as w (mesh, what) values (%(mesh)s, %(what)s)
on conflict (mesh, what) do update set state = 'waiting', progress = 0, tries = 0, refused = null
    where w.state in ('refused', 'stopped')
returning mesh

-- name: facts
-- What is known of a mesh and where the work on it stands, without the heavy parts.
select hash, name, figures, bytes,
       exists (select from procrastinate_workers where last_heartbeat > now() - interval '10 seconds') as is_worked_on,
       (select json_object_agg(w.what, json_build_object('state', w.state, 'progress', w.progress, 'refused',
           w.refused)) from mesh_work w where w.mesh = hash) as work
from meshes where hash = %(mesh)s

-- name: data
-- The file itself.
select m.name, f.data from meshes m join mesh_files f on f.mesh = m.hash where m.hash = %(mesh)s

-- name: solid
-- The closed solid that everything is worked out from.
select solid as held from mesh_solids where mesh = %(mesh)s

-- name: drawn
-- The same, thinned out for drawing.
select drawn as held from mesh_solids where mesh = %(mesh)s

-- name: attitudes
-- The ways it could stand.
select attitudes from meshes where hash = %(mesh)s and attitudes is not null

-- name: directions
-- The ranking of its pull directions, so far.
select directions from meshes where hash = %(mesh)s and directions is not null

-- name: begin
-- A worker takes it up: one more try.
update mesh_work set tries = tries + 1, progress = 0.02 where mesh = %(mesh)s and what = %(what)s
    and state = 'waiting' returning tries

-- name: progress
-- How far it is; nothing when somebody stopped it.
update mesh_work set progress = coalesce(%(progress)s, progress) where mesh = %(mesh)s and what = %(what)s and state = 'waiting'
    returning mesh

-- name: keep_measured
-- What came out of measuring.
with measured as (update meshes set figures = %(figures)s where hash = %(mesh)s returning hash)
insert into mesh_solids (mesh, solid, drawn) select hash, %(solid)s::bytea, %(drawn)s::bytea from measured
on conflict (mesh) do update set solid = excluded.solid, drawn = excluded.drawn

-- name: keep_attitudes
-- What came out of comparing.
update meshes set attitudes = %(attitudes)s where hash = %(mesh)s

-- name: keep_directions
-- What came out of ranking, so far.
update meshes set directions = %(directions)s where hash = %(mesh)s

-- name: finish
-- Done, or refused with the reason.
update mesh_work set state = case when %(refused)s::text is null then 'done' else 'refused' end, progress = 1,
    refused = %(refused)s
where mesh = %(mesh)s and what = %(what)s

-- name: stop
-- Somebody no longer wants it.
update mesh_work set state = 'stopped' where mesh = %(mesh)s and what = %(what)s and state = 'waiting'

-- name: defer
-- Onto the queue of long work, in the same transaction as what asks for it.
select procrastinate_defer_jobs_v1(
    array[row('meshes', 'work_on_mesh', 0, null, null, jsonb_build_object('mesh', %(mesh)s::text, 'what',
        %(what)s::text), null)::procrastinate_job_to_defer_v1]
)

-- name: put_back
-- Work whose worker is being stopped, as if it had not been begun.
update mesh_work set tries = greatest(0, tries - 1), progress = 0 where mesh = %(mesh)s and what = %(what)s
    and state = 'waiting' returning mesh

-- name: bring_together
-- Work that is waited for and that the queue does not know goes back onto the queue.
select procrastinate_defer_jobs_v1(
    array[row('meshes', 'work_on_mesh', 0, null, null, jsonb_build_object('mesh', w.mesh, 'what', w.what), null)
        ::procrastinate_job_to_defer_v1]
)
from mesh_work w
where w.state = 'waiting' and not exists (
    select from procrastinate_jobs j
    where j.status in ('todo', 'doing') and j.args ->> 'mesh' = w.mesh and j.args ->> 'what' = w.what
)

-- name: are_workers_at_work
-- Whether any worker has shown itself lately.
select exists (select from procrastinate_workers where last_heartbeat > now() - interval '10 seconds') as are_at_work
