-- name: add
-- What went wrong in a job, and what it turned out to be.
with fault as (
    insert into faults (job_id, symptom, cause, note) values (%(job_id)s, %(symptom)s, %(cause)s, %(note)s) returning id
)
insert into fault_pairs (fault_id, place, pour, touches, between_kind)
select fault.id, p.place, p.pour, p.touches, p.between_kind
from fault cross join unnest(%(pours)s::text[], %(touched)s::text[], %(betweens)s::text[]) with ordinality
    as p (pour, touches, between_kind, place)

-- name: of_job
-- Those of one job, newest first.
select f.id, f.job_id, j.name as job_name, f.symptom, f.cause, f.note, f.at,
    (select coalesce(json_agg(json_build_array(p.pour, p.touches, p.between_kind) order by p.place), '[]')
        from fault_pairs p where p.fault_id = f.id) as pairs
from faults f join jobs j on j.id = f.job_id
where f.job_id = %(job_id)s order by f.id desc limit 50

-- name: of_pairs
-- Those of any job in which one of these pairings came up, newest first.
select f.id, f.job_id, j.name as job_name, f.symptom, f.cause, f.note, f.at,
    (select coalesce(json_agg(json_build_array(p.pour, p.touches, p.between_kind) order by p.place), '[]')
        from fault_pairs p where p.fault_id = f.id) as pairs
from faults f join jobs j on j.id = f.job_id
where f.id in (
    select p.fault_id from fault_pairs p
    join unnest(%(pours)s::text[], %(touched)s::text[], %(betweens)s::text[]) as w (pour, touches, between_kind)
        on w.pour = p.pour and w.touches = p.touches and w.between_kind = p.between_kind
)
order by f.id desc limit 50

-- name: delete
-- Noted by mistake.
delete from faults where id = %(id)s and job_id = %(job_id)s
