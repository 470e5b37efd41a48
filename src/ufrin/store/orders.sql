-- name: add
-- An order that is cast.
insert into orders (job_id, name, pieces, start_on, due_on, moulds_at_once, cycle_min, hours_a_day, flawed_pct)
values (%(job_id)s, %(name)s, %(pieces)s, %(start_on)s, %(due_on)s, %(moulds_at_once)s, %(cycle_min)s,
    %(hours_a_day)s, %(flawed_pct)s) returning id

-- name: list
-- Orders with the good pieces that were cast for each since it began: those that are open first, the most urgent first.
select o.*, j.name as job_name, m.id as mould_id, (
    select count(*) from shots s join shot_pieces p on p.shot_id = s.id
    where s.job_id = o.job_id and s.taken_back_at is null and p.is_good and s.at >= o.start_on
        and s.at <= coalesce(o.closed_at, now())
) as good
from orders o join jobs j on j.id = o.job_id join moulds m on m.job_id = o.job_id
where (%(job_id)s::bigint is null or o.job_id = %(job_id)s) and (%(all)s or o.closed_at is null)
order by o.closed_at is not null, o.due_on nulls last, o.id desc limit 100

-- name: close
-- It is done, or called off.
update orders set closed_at = now() where id = %(id)s and closed_at is null returning id
