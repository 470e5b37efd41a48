-- name: attach
-- The safety data sheet of a thing, in place of the one it had.
with sheet as (
    insert into safety_sheets (rubber_id, additive_id, product_id, name, media)
    values (%(rubber_id)s, %(additive_id)s, %(product_id)s, %(name)s, %(media)s)
    on conflict (rubber_id, additive_id, product_id) do update set name = excluded.name, media = excluded.media,
        at = now()
    returning id
)
insert into safety_sheet_files (sheet_id, data) select id, %(data)s::bytea from sheet
on conflict (sheet_id) do update set data = excluded.data

-- name: names
-- Which things have one, without their contents.
select rubber_id, additive_id, product_id, name, at from safety_sheets

-- name: open
-- One of them.
select s.name, s.media, f.data from safety_sheets s join safety_sheet_files f on f.sheet_id = s.id
where rubber_id is not distinct from %(rubber_id)s and additive_id is not distinct from %(additive_id)s
    and product_id is not distinct from %(product_id)s

-- name: take_off
-- Gone.
delete from safety_sheets
where rubber_id is not distinct from %(rubber_id)s and additive_id is not distinct from %(additive_id)s
    and product_id is not distinct from %(product_id)s
