-- name: newest
-- Who did what lately, the newest first, before a number where one is named, by one person where one is named.
select id, at, doer, thing, number, how from changes
where (%(before)s::bigint is null or id < %(before)s) and (%(doer)s = '' or doer = %(doer)s)
order by id desc limit %(limit)s

-- name: doers
-- Everybody who did something.
select distinct doer from changes order by doer

-- name: names_of_jobs
-- What some jobs are called.
select id, name from jobs where id = any(%(ids)s)

-- name: doers_of_pour
-- Who entered the lines of a pour's record.
select number, doer from pour_entries where pour_id = %(pour_id)s and doer <> ''
