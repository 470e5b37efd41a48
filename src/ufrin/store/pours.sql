-- name: start
-- A weighing begins: its plan as it is now.
insert into pours (job_id, rubber_id, who, plan, started_at) values (%(job_id)s, %(rubber_id)s, %(who)s, %(plan)s,
    to_timestamp(%(wall_s)s)) returning id

-- name: look
-- One pour with its job's name.
select p.*, j.name as job_name from pours p join jobs j on j.id = p.job_id where p.id = %(id)s

-- name: lock
-- The same, held against other entries until the transaction ends.
select p.*, j.name as job_name from pours p join jobs j on j.id = p.job_id where p.id = %(id)s for update of p

-- name: entries
-- The lines of some records, in their order.
select * from pour_entries where pour_id = any(%(ids)s) order by pour_id, number

-- name: has_token
-- Whether what is sent again is on record already.
select 1 as found from pour_entries where pour_id = %(pour_id)s and token = %(token)s

-- name: enter
-- A new line.
insert into pour_entries (pour_id, number, token, at, steady_s, machine, kind, ingredient, net_g, gross_g, scale,
    temp_c, of_number, lot_id, text, what, volume_ml)
values (%(pour_id)s, %(number)s, %(token)s, to_timestamp(%(wall_s)s), %(steady_s)s, %(machine)s, %(kind)s,
    %(ingredient)s, %(net_g)s, %(gross_g)s,
        %(scale)s, %(temp_c)s, %(of_number)s, %(lot_id)s, %(text)s, %(what)s, %(volume_ml)s)

-- name: settle
-- What a pour came to, for the allowance; finished once.
update pours set finished_at = coalesce(finished_at, to_timestamp(%(wall_s)s)), needed_g = %(needed_g)s,
    used_g = %(used_g)s
where id = %(id)s

-- name: of_job
-- The pours of a job's moulds, newest first.
select p.*, j.name as job_name from pours p join jobs j on j.id = p.job_id
where p.job_id = %(job_id)s and not p.is_cast
    order by p.id desc limit %(limit)s

-- name: open_cast
-- The shot of a mould that is being weighed.
select id from pours where job_id = %(job_id)s and is_cast and finished_at is null order by id desc limit 1

-- name: of_jobs
-- The newest pours of some jobs, and how far the record of each goes.
select p.id, p.job_id, p.started_at, p.finished_at, j.name as job_name,
    (select number || ' ' || token from pour_entries where pour_id = p.id order by number desc limit 1) as last,
    case when p.started_at > now() - interval '14 days' then (select max(id) from room_temps) end as last_room
from jobs j join (
    select id, job_id, started_at, finished_at, row_number() over (partition by job_id order by id desc) as place
    from pours where job_id = any(%(ids)s) and not is_cast
) as p on p.job_id = j.id
where place <= %(limit)s order by p.id desc

-- name: some
-- Some pours with their jobs' names.
select p.*, j.name as job_name from pours p join jobs j on j.id = p.job_id where p.id = any(%(ids)s)

-- name: running
-- Weighings that are not finished.
select p.*, j.name as job_name from pours p join jobs j on j.id = p.job_id where p.finished_at is null
    order by p.started_at desc limit %(limit)s

-- name: past
-- The newest pours to learn the allowance from.
select id, job_id, rubber_id, finished_at, needed_g, used_g from pours where needed_g > 0 and used_g > 0
    and finished_at is not null and not is_cast
order by finished_at desc limit %(limit)s

-- name: past_over_pct
-- How much more than needed the newest pours used: all that a page needs to recommend an allowance.
select coalesce(array_agg(100 * (used_g / needed_g - 1) order by finished_at desc), '{}') as over_pct from (
    select needed_g, used_g, finished_at from pours where needed_g > 0 and used_g > 0 and finished_at is not null
        and not is_cast
    order by finished_at desc limit %(limit)s
) as newest

-- name: room
-- What thermometers read from a while before some pours until they are cured; nothing cures for longer than two weeks.
select p.id as pour_id, r.at, r.steady_s, r.machine, r.temp_c, r.thermometer
from pours p join room_temps r on r.at between p.started_at - interval '6 hours' and p.started_at + interval '14 days'
where p.id = any(%(ids)s) order by p.id, r.at, r.id

-- name: curing
-- Finished pours of jobs on the Board whose mould was not taken out, or only lately, and how far each record goes; a
-- first half waits no longer once the second was begun, and a cast no longer once it is out of its mould.
select p.id, p.job_id, p.started_at, p.finished_at, j.name as job_name,
    (select number || ' ' || token from pour_entries where pour_id = p.id order by number desc limit 1) as last,
    case when p.started_at > now() - interval '14 days' then (select max(id) from room_temps) end as last_room
from (
    select id from pours where finished_at is not null and demoulded_at is null and is_followed
    union
    select id from pours where demoulded_at > now() - interval '10 days' and not is_cast
) as waiting join pours p on p.id = waiting.id join jobs j on j.id = p.job_id
where p.used_g > 0 and j.put_away_at is null
    and not (p.half = 'first' and exists (
        select from pours l where l.job_id = p.job_id and l.id > p.id and not l.is_cast
    ))
order by p.finished_at desc limit %(limit)s

-- name: teaching
-- The newest pours of a rubber with a witness cup or a demoulding on record.
select p.*, j.name as job_name from pours p join jobs j on j.id = p.job_id
where p.rubber_id = %(rubber_id)s
    and exists (select from pour_entries e where e.pour_id = p.id and e.kind in ('witness', 'demould'))
order by p.started_at desc limit %(limit)s

-- name: reopen
-- A pour that was finished goes on.
update pours set finished_at = null where id = %(id)s

-- name: demoulded
-- When the mould was taken out of its box, or that it was not.
update pours set demoulded_at = to_timestamp(%(wall_s)s) where id = %(id)s

-- name: keep_photo
-- The picture of a line.
insert into pour_photos (pour_id, number, data, width_px, height_px)
values (%(pour_id)s, %(number)s, %(data)s, %(width_px)s, %(height_px)s)

-- name: photo
-- A picture, to be shown.
select data from pour_photos where pour_id = %(pour_id)s and number = %(number)s
