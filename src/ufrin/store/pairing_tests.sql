-- name: all
-- The shop's own tests, newest first; withdrawn ones on demand.
select r.id, r.pour, r.touches, r.between_kind, r.verdict, r.why, r.tried_on, coalesce(b.name, '') as rubber,
    r.withdrawn_at
from own_rules r left join rubbers b on b.id = r.rubber_id
where %(withdrawn)s or r.withdrawn_at is null
order by r.tried_on desc, r.id desc limit %(limit)s

-- name: count
-- How many there are.
select count(*) as rules from own_rules where withdrawn_at is null

-- name: add
-- A test; the same one again is taken once.
insert into own_rules (pour, touches, between_kind, rubber_id, verdict, why, tried_on)
values (%(pour)s, %(touches)s, %(between)s, (select id from rubbers where lower(name) = lower(%(rubber)s)),
    %(verdict)s, %(why)s, %(tried_on)s)
on conflict do nothing returning id

-- name: withdraw
-- No longer counted on, or counted on again.
update own_rules set withdrawn_at = case when %(withdrawn)s then coalesce(withdrawn_at, now()) end where id = %(id)s
    returning id

-- name: rubber
-- Whether a rubber of this name stands on the Shelf.
select 1 from rubbers where lower(name) = lower(%(rubber)s)
