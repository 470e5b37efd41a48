-- name: hours
-- Working hours and days of the shop.
select hours, days, hour_cost::float8 as hour_cost, secret, version from shop_hours

-- name: save_hours
-- New working hours, days and what an hour of a pair of hands costs.
update shop_hours set hours = %(hours)s, days = %(days)s, hour_cost = %(hour_cost)s, version = version + 1

-- name: people
-- Everybody who works here.
select id, name, hours, days, secret from people order by id

-- name: add_person
-- Somebody new.
insert into people (name, hours, days) values (%(name)s, %(hours)s, %(days)s) returning id

-- name: change_person
-- A name, or hours and days of their own.
update people set name = %(name)s, hours = %(hours)s, days = %(days)s where id = %(id)s returning id

-- name: forget_person
-- Somebody who works here no longer.
delete from people where id = %(id)s returning id

-- name: days_off
-- Days off that are not over.
select id, person_id, first_day, last_day from days_off where last_day >= workshop_day() order by first_day, id

-- name: add_days_off
-- Days on which the shop, or one person, does not work.
insert into days_off (person_id, first_day, last_day) values (%(person_id)s, %(first_day)s, %(last_day)s)

-- name: forget_days_off
-- They are worked on after all.
delete from days_off where id = %(id)s returning id

-- name: equipment
-- What is shared out among steps, with the times that one of each is lent out.
select e.id, e.name, e.kind, e.number, e.price::float8 as price, coalesce((
    select json_agg(json_build_array(a.id, extract(epoch from a.from_at), extract(epoch from a.until_at)) order by a.from_at)
    from equipment_away a where a.equipment_id = e.id and a.until_at > now()
), '[]') as away
from equipment e order by e.kind, e.name

-- name: add_equipment
-- Something that is shared out.
insert into equipment (name, kind, number, price) values (%(name)s, %(kind)s, %(number)s, %(price)s) returning id

-- name: forget_equipment
-- It is not there any more.
delete from equipment where id = %(id)s returning id

-- name: lend
-- One of a kind of equipment is away for a time.
insert into equipment_away (equipment_id, from_at, until_at) values (%(equipment_id)s, %(from_at)s, %(until_at)s)

-- name: give_back
-- It is here after all.
delete from equipment_away where id = %(id)s returning id

-- name: other_work
-- Other work that is still to do.
select id, name, attended_min, person_id, equipment_id, extract(epoch from finish_by)::float8 as finish_by_s
from other_work where done_at is null order by id limit 100

-- name: add_other_work
-- Other work.
insert into other_work (name, attended_min, person_id, equipment_id, finish_by)
values (%(name)s, %(attended_min)s, %(person_id)s, %(equipment_id)s, to_timestamp(%(finish_by_s)s)) returning id

-- name: done_other_work
-- It is done.
update other_work set done_at = to_timestamp(%(at_s)s) where id = %(id)s and done_at is null returning id

-- name: other_work_done
-- Other work that was done since a time, the newest first.
select id, name, extract(epoch from done_at)::float8 as at_s from other_work
where done_at >= to_timestamp(%(since_s)s) order by done_at desc limit 40

-- name: undone_other_work
-- It is still to do after all.
update other_work set done_at = null where id = %(id)s and done_at is not null returning id

-- name: placed
-- Steps that were put at a time.
select step, extract(epoch from begins_at)::float8 as begins_s, person_id from placed_steps

-- name: place
-- A step is put at a time.
insert into placed_steps (step, begins_at, person_id) values (%(step)s, to_timestamp(%(begins_s)s), %(person_id)s)
on conflict (step) do update set begins_at = excluded.begins_at, person_id = excluded.person_id

-- name: free
-- A step goes where it fits again.
delete from placed_steps where step = any(%(steps)s)

-- name: jobs_at_work
-- Jobs that are planned: those with a wish first, then those begun last. A mould that was cast in is made.
select j.id from jobs j
where j.put_away_at is null and not j.is_mould_only and not j.is_off_schedule
    and not exists (
        select from shots s where s.job_id = j.id and s.taken_back_at is null and s.at > coalesce(
            (select max(p.started_at) from pours p where p.job_id = j.id and not p.is_cast), '-infinity'
        )
    )
order by j.wanted_at nulls last, j.id desc limit %(limit)s

-- name: jobs_left_off
-- Jobs that somebody left off the plan.
select id, name from jobs where is_off_schedule and put_away_at is null order by id desc limit 100

-- name: leave_off
-- A job is left off the plan, or planned again.
update jobs set is_off_schedule = %(off)s where id = %(id)s returning id

-- name: plans
-- The plan that counts, and the one that waits to be looked at.
select kind, extract(epoch from made_at)::float8 as made_s, fingerprint, plan from schedule_plans

-- name: times_of_job
-- When the plan that counts has the steps of a job.
select substr(step ->> 'key', length(%(prefix)s) + 1) as key, (step ->> 'begins_s')::float8 as begins_s,
    (step ->> 'ends_s')::float8 as ends_s
from schedule_plans, jsonb_array_elements(plan -> 'steps') as step
where kind = 'taken' and starts_with(step ->> 'key', %(prefix)s)

-- name: keep_plan
-- A plan that counts from now on, or waits to be looked at.
insert into schedule_plans (kind, fingerprint, plan) values (%(kind)s, %(fingerprint)s, %(plan)s)
on conflict (kind) do update set fingerprint = excluded.fingerprint, plan = excluded.plan, made_at = now()

-- name: drop_proposed
-- What waited to be looked at is settled.
delete from schedule_plans where kind = 'proposed'

-- name: take_proposed
-- What waited to be looked at counts from now on.
insert into schedule_plans (kind, fingerprint, plan)
select 'taken', fingerprint, plan from schedule_plans where kind = 'proposed'
on conflict (kind) do update set fingerprint = excluded.fingerprint, plan = excluded.plan, made_at = now()

-- name: search
-- Where the search for the best plan stands.
select state, fingerprint, progress, refused, extract(epoch from asked_at)::float8 as asked_s from schedule_search

-- name: ask
-- A search is wanted; true where none waits for the same already.
update schedule_search set state = 'waiting', fingerprint = %(fingerprint)s, progress = null, refused = null,
    asked_at = now()
where state <> 'waiting' or fingerprint <> %(fingerprint)s or asked_at < now() - interval '2 minutes'
returning true as is_new

-- name: defer
-- Onto the queue of long work, in the same transaction as what asks for it.
select procrastinate_defer_jobs_v1(
    array[row('meshes', 'search_plan', 0, null, null, jsonb_build_object('fingerprint', %(fingerprint)s::text), null)
        ::procrastinate_job_to_defer_v1]
)

-- name: progress
-- How far the search is; nothing where another one is wanted by now.
update schedule_search set progress = coalesce(%(progress)s, progress)
where state = 'waiting' and fingerprint = %(fingerprint)s returning true as is_wanted

-- name: finish
-- The search is over, or refused with the reason.
update schedule_search set state = case when %(refused)s::text is null then 'done' else 'refused' end,
    refused = %(refused)s
where fingerprint = %(fingerprint)s

-- name: new_secrets
-- New addresses of the calendars; the old ones stop.
with shop as (
    update shop_hours set secret = replace(gen_random_uuid()::text || gen_random_uuid()::text, '-', '') returning 1
)
update people set secret = replace(gen_random_uuid()::text || gen_random_uuid()::text, '-', '')

-- name: by_secret
-- Whose calendar a secret opens: null for the whole shop, nothing for nobody's.
select null::text as name from shop_hours where secret = %(secret)s
union all
select name from people where secret = %(secret)s

-- name: pour_times
-- How long the newest pours took from their begin until they were poured, against what was planned.
select p.took_s / nullif(p.planned_s, 0) as times from (
    select extract(epoch from (
            select max(e.at) from pour_entries e where e.pour_id = q.id and e.kind = 'poured'
        ) - q.started_at)::float8 as took_s,
        60 * jsonb_array_length(q.plan -> 'batches') * (%(weigh_min)s + coalesce((q.plan ->> 'mix_min')::float8, 0)
            + coalesce((q.plan ->> 'degas_min')::float8, 0) + coalesce((q.plan ->> 'pour_min')::float8, 0)) as planned_s
    from pours q where q.finished_at is not null order by q.id desc limit 60
) p where p.took_s is not null and p.planned_s > 0
