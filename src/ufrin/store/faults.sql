-- name: add
-- What went wrong in a job, and what it turned out to be.
insert into faults (job_id, symptom, cause, note, pairs) values (%(job_id)s, %(symptom)s, %(cause)s, %(note)s,
    %(pairs)s)

-- name: of_job
-- Those of one job, newest first.
select f.id, f.job_id, j.name as job_name, f.symptom, f.cause, f.note, f.pairs, f.at from faults f join jobs j
    on j.id = f.job_id
where f.job_id = %(job_id)s order by f.id desc limit 50

-- name: of_pairs
-- Those of any job in which one of these pairings came up, newest first.
select f.id, f.job_id, j.name as job_name, f.symptom, f.cause, f.note, f.pairs, f.at from faults f join jobs j
    on j.id = f.job_id
where f.pairs && %(pairs)s order by f.id desc limit 50

-- name: delete
-- Noted by mistake.
delete from faults where id = %(id)s and job_id = %(job_id)s
