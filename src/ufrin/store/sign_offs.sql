-- name: sign
-- One more; signed twice, the first stands.
insert into sign_offs (job_id, about, says, reason, who) values (%(job_id)s, %(about)s, %(says)s, %(reason)s,
    %(who)s) on conflict do nothing

-- name: withdraw
-- Taken back; the line stays.
update sign_offs set withdrawn_at = now() where job_id = %(job_id)s and about = %(about)s and withdrawn_at is null
