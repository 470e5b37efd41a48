-- name: attach
-- The safety data sheet of a thing, in place of the one it had.
insert into safety_sheets (rubber_id, additive_id, product_id, name, media, data)
values (%(rubber_id)s, %(additive_id)s, %(product_id)s, %(name)s, %(media)s, %(data)s)
on conflict (rubber_id, additive_id, product_id) do update set name = excluded.name, media = excluded.media,
    data = excluded.data, at = now()

-- name: names
-- Which things have one, without their contents.
select rubber_id, additive_id, product_id, name, at from safety_sheets

-- name: open
-- One of them.
select name, media, data from safety_sheets
where rubber_id is not distinct from %(rubber_id)s and additive_id is not distinct from %(additive_id)s
    and product_id is not distinct from %(product_id)s

-- name: take_off
-- Gone.
delete from safety_sheets
where rubber_id is not distinct from %(rubber_id)s and additive_id is not distinct from %(additive_id)s
    and product_id is not distinct from %(product_id)s
