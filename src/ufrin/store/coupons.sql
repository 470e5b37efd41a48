-- name: of
-- The coupons of some rubbers, newest first; those withdrawn are kept but count no more.
select * from coupons where rubber_id = any(%(rubbers)s) order by id desc limit %(limit)s

-- name: log
-- A puck and what the gauge read.
insert into coupons (rubber_id, thinner_id, parts, scale, readings, thickness_mm, edge_mm, apart_mm)
values (%(rubber_id)s, %(thinner_id)s, %(parts)s, %(scale)s, %(readings)s, %(thickness_mm)s, %(edge_mm)s, %(apart_mm)s)

-- name: withdraw
-- A coupon that counts no more, or counts again.
update coupons set withdrawn_at = case when %(withdrawn)s then coalesce(withdrawn_at, now()) end
where id = %(id)s and rubber_id = %(rubber_id)s returning id
