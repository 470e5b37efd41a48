-- name: of_job
-- The newest shots of a mould with their pieces, or those before a given one.
select s.*, coalesce(
    (select jsonb_agg(to_jsonb(p) - 'shot_id' order by p.cavity) from shot_pieces p where p.shot_id = s.id), '[]'
) as pieces, coalesce(
    (select jsonb_agg(to_jsonb(m) - 'shot_id' order by m.number) from shot_parts m where m.shot_id = s.id), '[]'
) as parts, (select count(*) from shot_photos f where f.shot_id = s.id) as photos
from shots s where s.job_id = %(job_id)s and s.taken_back_at is null and (%(before)s::bigint is null or s.id < %(before)s)
order by s.id desc limit %(limit)s

-- name: past
-- What the newest shots of one kind tell of the amount: of all that was mixed, or of one part of it.
select coalesce(m.mixed_g, s.mixed_g) as mixed_g, coalesce(m.left_over_g, s.left_over_g) as left_g,
    coalesce(m.was_short, s.was_short) as was_short, coalesce(m.missing_g, s.missing_g) as missing_g,
    (select count(*) from shot_pieces p where p.shot_id = s.id) as cavities
from shots s left join shot_parts m on m.shot_id = s.id and m.part = %(part)s
where s.job_id = %(job_id)s and s.kind = %(kind)s and not s.was_partly_filled and s.taken_back_at is null
    and (%(part)s = '' or m.part is not null)
order by s.id desc limit %(limit)s

-- name: newest
-- When the newest shot of a mould was logged.
select extract(epoch from at)::float8 as at_s from shots
where job_id = %(job_id)s and taken_back_at is null order by id desc limit 1

-- name: counts
-- What each cavity of a mould has come to.
select cavity, shots, good from cavity_counts where job_id = %(job_id)s order by cavity

-- name: of_trial
-- The pieces of a trial.
select p.* from shots s join shot_pieces p on p.shot_id = s.id
where s.trial_id = %(trial_id)s and s.taken_back_at is null order by s.id, p.cavity

-- name: add
-- A shot; sent twice, it is kept once.
insert into shots (
    job_id, trial_id, pour_id, at, who, kind, resin, mixed_g, left_over_g, was_short, was_partly_filled, missing_g, release, air, attitude, mould_c, room_c,
    note, reason, token
) values (
    %(job_id)s, %(trial_id)s, %(pour_id)s, to_timestamp(%(at_s)s), %(who)s, %(kind)s, %(resin)s, %(mixed_g)s, %(left_g)s, %(was_short)s, %(was_partly_filled)s, %(missing_g)s,
    %(release)s, %(air)s, %(attitude)s, %(mould_c)s, %(room_c)s, %(note)s, %(reason)s, %(token)s
) on conflict on constraint shot_once do nothing returning id

-- name: add_piece
-- One of its pieces.
insert into shot_pieces (shot_id, cavity, is_good, flaws, final_g, way, grade)
values (%(shot_id)s, %(cavity)s, %(is_good)s, %(flaws)s, %(final_g)s, %(way)s, %(grade)s)

-- name: add_part
-- What was mixed of it by itself.
insert into shot_parts (shot_id, number, part, resin, mixed_g, left_over_g, was_short, missing_g) values (
    %(shot_id)s, %(number)s, %(part)s, %(resin)s, %(mixed_g)s, %(left_g)s, %(was_short)s, %(missing_g)s
)

-- name: take_back
-- A shot that was logged by mistake stays on record and counts no more.
update shots set taken_back_at = now() where id = %(id)s and job_id = %(job_id)s and taken_back_at is null returning id

-- name: retired
-- The cavities that are no longer filled, and why.
select cavity, why from retired_cavities where job_id = %(job_id)s
    and (%(by_s)s::double precision is null or at <= to_timestamp(%(by_s)s))

-- name: retire
-- A cavity is no longer filled.
insert into retired_cavities (job_id, cavity, why, cause) values (%(job_id)s, %(cavity)s, %(why)s, %(cause)s)
on conflict (job_id, cavity) do update set why = excluded.why, cause = excluded.cause

-- name: use_again
-- It is filled again.
delete from retired_cavities where job_id = %(job_id)s and cavity = %(cavity)s

-- name: trial
-- The trial that runs, or else the newest one.
select * from trials where job_id = %(job_id)s order by ended_at is not null, id desc limit 1

-- name: begin_trial
-- Two ways are tried side by side from now on.
insert into trials (job_id, about, by_shot, is_graded, what, first, second, seed, is_blind)
values (
    %(job_id)s, %(about)s, %(by_shot)s, %(is_graded)s, %(what)s, %(first)s, %(second)s, %(seed)s, %(is_blind)s
)

-- name: end_trial
-- No longer.
update trials set ended_at = now() where job_id = %(job_id)s and ended_at is null

-- name: keep_photo
-- A picture of its pieces.
insert into shot_photos (shot_id, data, width_px, height_px)
select s.id, %(data)s, %(width_px)s, %(height_px)s from shots s where s.id = %(shot_id)s and s.job_id = %(job_id)s
returning id

-- name: photos
-- The pictures of some shots.
select id, shot_id from shot_photos where shot_id = any(%(ids)s) order by id

-- name: photo
-- A picture, to be shown.
select f.data from shot_photos f join shots s on s.id = f.shot_id where f.id = %(id)s and s.job_id = %(job_id)s

-- name: moved_by
-- What a shot took out of which tin.
select lot_id, grams from lot_moves where shot_id = %(shot_id)s
