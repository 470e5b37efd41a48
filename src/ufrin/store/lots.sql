-- name: of
-- The lots of some things: the tin to use first comes first.
select *, use_by - workshop_day() as days_left from lots
where rubber_id = any(%(rubbers)s) or additive_id = any(%(additives)s)
    or resin_id = any(%(resins)s) or addition_id = any(%(additions)s)
order by left_g = 0, use_by nulls last, opened_on nulls last, id

-- name: all
-- Every lot, with the name of what is in it.
select l.*, l.use_by - workshop_day() as days_left, coalesce(r.name, a.name, c.name, d.name) as name
from lots l left join rubbers r on r.id = l.rubber_id left join additives a on a.id = l.additive_id
    left join resins c on c.id = l.resin_id left join additions d on d.id = l.addition_id
order by lower(coalesce(r.name, a.name, c.name, d.name)), l.part, l.left_g = 0, l.use_by nulls last, l.id
limit %(limit)s

-- name: some
-- Those that a pour was taken from.
select *, use_by - workshop_day() as days_left from lots where id = any(%(ids)s)

-- name: lock
-- One lot, held against other saves.
select *, use_by - workshop_day() as days_left from lots where id = %(id)s for update

-- name: add
-- A tin that came.
insert into lots (rubber_id, additive_id, resin_id, addition_id, code, part, got_g, use_by, opened_on, price)
values (
    %(rubber_id)s, %(additive_id)s, %(resin_id)s, %(addition_id)s, %(code)s, %(part)s, %(got_g)s, %(use_by)s,
    %(opened_on)s, %(price)s
)
returning id

-- name: change
-- New words on a lot.
update lots set (code, part, got_g, use_by, opened_on, price) =
    (%(code)s, %(part)s, %(got_g)s, %(use_by)s, %(opened_on)s, %(price)s), version = version + 1
where id = %(id)s

-- name: moved
-- What happened to a tin; what is left in it follows. One that gave more than was thought to be in it is empty then,
-- and one that gets more back than it ever held is full.
insert into lot_moves (lot_id, grams, kind, why, pour_id, number, shot_id)
select %(id)s, off_g, 'found', case when off_g < 0 then 'held more than was thought' else 'held no more than came' end,
    null::bigint, null::integer, null::bigint
from (
    select least(left_g - %(grams)s::numeric(12, 3), 0) + greatest(left_g - %(grams)s::numeric(12, 3) - got_g, 0) as off_g
    from lots where id = %(id)s
) as tin
where off_g <> 0
union all
select %(id)s, %(grams)s::numeric(12, 3), %(kind)s, %(why)s, %(pour_id)s::bigint, %(number)s::integer,
    %(shot_id)s::bigint

-- name: moves
-- What last happened to some tins.
select lot_id, at, grams, pour_id, why from lot_moves where lot_id = any(%(ids)s) order by id desc limit %(limit)s

-- name: delete
-- A tin that never was; the database refuses once it was poured from.
delete from lots where id = %(id)s returning id
