-- name: born
-- A mould is there: taken out of its box, cast in for the first time, or entered by hand.
insert into moulds (job_id, made_on)
select %(job_id)s, to_timestamp(%(at_s)s)::date where not exists (select from moulds where job_id = %(job_id)s)
on conflict on constraint mould_of_a_job do nothing

-- name: unborn
-- Its demoulding was tapped by mistake: it is gone again, unless it was used already.
delete from moulds m where m.job_id = %(job_id)s and m.version = 1
    and not exists (select from shots s where s.job_id = m.job_id)
    and not exists (select from moulds c where c.parent_id = m.id)
    and not exists (select from mould_signs n where n.mould_id = m.id)

-- name: look
-- One mould with its name, its shots, and what it came from.
select m.*, j.name, j.is_mould_only, coalesce(c.shots, 0) as cavity_shots, coalesce(c.made, '[]') as made,
    p.name as parent_name
from moulds m join jobs j on j.id = m.job_id
left join lateral (
    select sum(k.shots) as shots, jsonb_agg(jsonb_build_array(k.cavity, k.shots, k.good) order by k.cavity) as made
    from cavity_counts k where k.job_id = m.job_id
) c on true
left join moulds q on q.id = m.parent_id left join jobs p on p.id = q.job_id
where m.id = %(id)s

-- name: of_job
-- The mould of a job.
select id, only_family from moulds where job_id = %(job_id)s

-- name: retired
-- Why the whole mould of a job is no longer cast in, where it was retired by a time, or is now.
select cause from moulds where job_id = %(job_id)s and retired_at is not null
    and (%(by_s)s::double precision is null or retired_at <= to_timestamp(%(by_s)s))

-- name: page
-- A page of moulds, those in use first, the newest first; and how many there are.
with listed as materialized (
    select m.id, m.job_id, m.made_on, m.retired_at, m.expected_casts, m.shots_before, m.cause, j.name, j.is_mould_only,
        m.release_every, m.clean_every, m.rest_every,
        count(*) over () as total
    from moulds m join jobs j on j.id = m.job_id
    where (%(pattern)s = '%%' or j.name ilike %(pattern)s or m.place ilike %(pattern)s)
        and (%(ids)s::bigint[] is null or m.id = any(%(ids)s))
    order by m.retired_at is not null, m.made_on desc, m.id desc limit %(limit)s offset %(offset)s
)
select l.*, (
    select coalesce(array_agg(c.care), '{}')
    from (values ('release', l.release_every), ('clean', l.clean_every), ('rest', l.rest_every)) as c (care, every)
    left join mould_cares k on k.mould_id = l.id and k.care = c.care
    where c.every is not null and c.every <= (
        select count(*) from shots s where s.job_id = l.job_id and s.taken_back_at is null
            and s.at > coalesce(k.at, '-infinity')
    )
) as due, (
    select greatest(1, coalesce(max((t.inputs ->> 'mould_cavities')::numeric), max((t.inputs ->> 'count')::numeric), 1))::int
    from stations t where t.job_id = l.job_id and t.station in ('box', 'casts')
) as cavities, coalesce(c.made, '[]') as made, coalesce(r.gone, '{}') as gone, g.signs, s.last_at, s.shot_id,
    (select min(f.id) from shot_photos f where f.shot_id = s.shot_id) as photo
from listed l
left join lateral (
    select jsonb_agg(jsonb_build_array(k.cavity, k.shots, k.good) order by k.cavity) as made
    from cavity_counts k where k.job_id = l.job_id
) c on true
left join lateral (
    select jsonb_object_agg(d.cavity, d.cause) as gone from retired_cavities d where d.job_id = l.job_id
) r on true
left join lateral (select count(*) as signs from mould_signs n where n.mould_id = l.id) g on true
left join lateral (
    select t.at as last_at, t.id as shot_id from shots t where t.job_id = l.job_id and t.taken_back_at is null
    order by t.id desc limit 1
) s on true
order by l.retired_at is not null, l.made_on desc, l.id desc

-- name: most_worn
-- Moulds in use that are the most worn: those with a sign of it first, then by the share of the expected life.
select m.id from moulds m left join lateral (
    select max(k.shots) as shots from cavity_counts k where k.job_id = m.job_id
) c on true
where m.retired_at is null
order by exists (select from mould_signs n where n.mould_id = m.id) desc,
    (coalesce(c.shots, 0) + m.shots_before) / m.expected_casts desc, m.id desc
limit %(limit)s

-- name: lives
-- What every cavity of the shop has made, by the life to expect of it, and whether it is worn out.
select k.shots + m.shots_before as casts, m.expected_casts,
    (m.retired_at is not null and m.cause <> all(%(not_worn)s)) or (d.cause is not null and d.cause <> all(%(not_worn)s)) as failed
from moulds m join cavity_counts k on k.job_id = m.job_id
left join retired_cavities d on d.job_id = m.job_id and d.cavity = k.cavity
where k.shots + m.shots_before > 0 order by m.id, k.cavity  -- sums of many shares come out the same each time

-- name: save
-- What was filled in on its card.
update moulds set made_on = %(made_on)s, detail = %(detail)s, is_released = %(is_released)s,
    shots_before = %(shots_before)s, release_every = %(release_every)s, clean_every = %(clean_every)s,
    rest_every = %(rest_every)s, place = %(place)s, only_family = %(only_family)s, parts = %(parts)s,
    half_amounts = %(half_amounts)s, parent_id = %(parent_id)s, finish = %(finish)s, master_cost = %(master_cost)s,
    mould_cost = %(mould_cost)s, work_cost = %(work_cost)s, buy_price = %(buy_price)s, version = version + 1
where id = %(id)s and version = %(version)s returning id

-- name: expect
-- The life to expect of its cavities, as it was worked out last.
update moulds set expected_casts = %(casts)s where id = %(id)s and expected_casts is distinct from %(casts)s

-- name: retire
-- It is no longer cast in, or is again.
update moulds set retired_at = case when %(cause)s = '' then null
    else coalesce(to_timestamp(%(at_s)s::double precision), now()) end, cause = %(cause)s, why = %(why)s,
    version = version + 1
where id = %(id)s

-- name: signs
-- What was seen of its wear, the newest first.
select id, at, cavity, sign, note, photo is not null as has_photo from mould_signs where mould_id = %(id)s order by id desc limit 50

-- name: add_sign
-- One more.
insert into mould_signs (mould_id, cavity, sign, note, photo)
values (%(id)s, %(cavity)s, %(sign)s, %(note)s, %(photo)s)

-- name: sign_photo
-- The picture of a sign, to be shown.
select photo from mould_signs where id = %(sign_id)s and mould_id = %(id)s and photo is not null

-- name: forget_sign
-- It was noted by mistake.
delete from mould_signs where id = %(sign_id)s and mould_id = %(id)s

-- name: care
-- It was cared for now.
insert into mould_cares (mould_id, care) values (%(id)s, %(care)s)
on conflict (mould_id, care) do update set at = now()

-- name: since
-- Shots since each care, or since it was made.
select c.care, (
    select count(*) from shots s where s.job_id = m.job_id and s.taken_back_at is null
        and s.at > coalesce(k.at, '-infinity')
) as shots
from moulds m cross join unnest(array['release', 'clean', 'rest']) as c (care)
left join mould_cares k on k.mould_id = m.id and k.care = c.care
where m.id = %(id)s

-- name: gone
-- Its retired cavities with their causes.
select cavity, cause, why from retired_cavities where job_id = %(job_id)s

-- name: usual_amounts
-- What a shot of each kind of cast takes, by its newest shots.
select kind, part, resin, count(*) as shots, avg(mixed_g) as mixed_g, avg(left_over_g) as left_g, max(at) as last_at,
    (array_agg(release order by id desc))[1] as release, (array_agg(air order by id desc))[1] as air,
    (array_agg(attitude order by id desc))[1] as attitude
from (
    select s.id, s.kind, s.at, s.release, s.air, s.attitude, coalesce(m.part, '') as part, coalesce(m.number, 1) as number,
        coalesce(m.resin, s.resin) as resin, coalesce(m.mixed_g, s.mixed_g) as mixed_g,
        coalesce(m.left_over_g, s.left_over_g) as left_over_g
    from (
        select * from shots where job_id = %(job_id)s and taken_back_at is null and not was_partly_filled
        order by id desc limit 200
    ) s left join shot_parts m on m.shot_id = s.id
    where not coalesce(m.was_short, s.was_short)
) as newest
group by kind, part, resin order by max(id) desc, min(number)

-- name: names
-- Moulds that a cast could have come from.
select m.id, j.name from moulds m join jobs j on j.id = m.job_id where m.id <> %(besides)s order by m.id desc limit 200

-- name: descends
-- Whether a mould comes from another, in any generation.
with recursive up as (
    select id, parent_id from moulds where id = %(id)s
    union select m.id, m.parent_id from moulds m join up on m.id = up.parent_id
)
select exists (select from up where id = %(from_id)s) as found

-- name: ancestors
-- The moulds that a mould comes from, its own first.
with recursive up as (
    select m.*, 0 as step from moulds m where m.id = %(id)s
    union all select m.*, up.step + 1 from moulds m join up on m.id = up.parent_id where up.step < 20
)
select up.id, up.finish, up.job_id, up.step, j.name, (
    select f.id from shot_photos f join shots s on s.id = f.shot_id
    where s.job_id = up.job_id and s.taken_back_at is null order by f.id desc limit 1
) as photo
from up join jobs j on j.id = up.job_id order by up.step desc

-- name: children
-- The moulds whose master was cast in this one.
select m.id, j.name, m.retired_at is not null as is_retired, (
    select count(*) from moulds c where c.parent_id = m.id
) as further
from moulds m join jobs j on j.id = m.job_id where m.parent_id = %(id)s order by m.id

-- name: lots
-- The rubber lots that went into it.
select distinct l.code from pour_entries e join pours p on p.id = e.pour_id join lots l on l.id = e.lot_id
where p.job_id = %(job_id)s and not p.is_cast and e.kind = 'weigh' order by l.code limit 12
