-- name: newest
-- The newest revision of a job's sheet that was printed.
select revision, figures, printed_at from sheets where job_id = %(job_id)s order by revision desc limit 1

-- name: add
-- One more revision.
insert into sheets (job_id, revision, figures) values (%(job_id)s, %(revision)s, %(figures)s)

-- name: reprinted
-- The same revision printed again.
update sheets set printed_at = now() where job_id = %(job_id)s and revision = %(revision)s
