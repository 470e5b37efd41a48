-- name: some
-- What was learnt of some rubbers.
select rubber_id, log_mean, log_sd, pours from cure_factors where rubber_id = any(%(rubber_ids)s)

-- name: keep
-- What was learnt, in the place of what was known before.
insert into cure_factors (rubber_id, log_mean, log_sd, pours)
values (%(rubber_id)s, %(log_mean)s, %(log_sd)s, %(pours)s)
on conflict (rubber_id) do update
    set log_mean = excluded.log_mean, log_sd = excluded.log_sd, pours = excluded.pours
