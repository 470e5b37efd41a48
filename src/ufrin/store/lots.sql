-- name: of
-- The lots of some rubbers and additives: the tin to use first comes first.
select *, use_by - current_date as days_left from lots
where rubber_id = any(%(rubbers)s) or additive_id = any(%(additives)s)
order by left_g = 0, use_by nulls last, opened_on nulls last, id

-- name: all
-- Every lot, with the name of what is in it.
select l.*, l.use_by - current_date as days_left, coalesce(r.name, a.name) as name
from lots l left join rubbers r on r.id = l.rubber_id left join additives a on a.id = l.additive_id
order by lower(coalesce(r.name, a.name)), l.part, l.left_g = 0, l.use_by nulls last, l.id
limit %(limit)s

-- name: some
-- Those that a pour was taken from.
select *, use_by - current_date as days_left from lots where id = any(%(ids)s)

-- name: lock
-- One lot, held against other saves.
select *, use_by - current_date as days_left from lots where id = %(id)s for update

-- name: add
-- A tin that came.
insert into lots (rubber_id, additive_id, code, part, got_g, left_g, use_by, opened_on, price)
values (%(rubber_id)s, %(additive_id)s, %(code)s, %(part)s, %(got_g)s, %(left_g)s, %(use_by)s, %(opened_on)s, %(price)s)
returning id

-- name: change
-- New words on a lot.
update lots set (code, part, got_g, left_g, use_by, opened_on, price) =
    (%(code)s, %(part)s, %(got_g)s, %(left_g)s, %(use_by)s, %(opened_on)s, %(price)s), version = version + 1
where id = %(id)s

-- name: take
-- Rubber taken out of a tin, or put back by a correction; a tin that was fuller than thought is simply empty.
update lots set left_g = greatest(0, left_g - %(grams)s), opened_on = coalesce(opened_on, current_date),
    version = version + 1
where id = %(id)s returning id

-- name: moved
-- What happened to a tin.
insert into lot_moves (lot_id, grams, pour_id, number, why) values (%(id)s, %(grams)s, %(pour_id)s, %(number)s, %(why)s)

-- name: moves
-- What last happened to some tins.
select lot_id, at, grams, pour_id, why from lot_moves where lot_id = any(%(ids)s) order by id desc limit %(limit)s

-- name: delete
-- A tin that never was; the database refuses once it was poured from.
delete from lots where id = %(id)s returning id
